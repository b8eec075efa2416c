// What things are carried about in, as one bundle: the library for that would otherwise be shared by two of
// them, and so be loaded at the beginning.
export { PlanPlace } from '@/features/plan/plan-place';
export { CalendarPlace } from '@/features/calendar/calendar-place';
export { Sortable } from '@/ui/sortable';
