// Fields of days, hours and zones, as one bundle: their library would otherwise be shared by several, and so be loaded at the
// beginning.
export { DayPicker, HourPicker, MomentPicker } from '@/ui/pickers';
export { ZonePicker } from '@/ui/zone-picker';
