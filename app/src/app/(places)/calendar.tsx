export { CalendarPlace as default } from '@/features/calendar/calendar-place';
