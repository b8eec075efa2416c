import { UNTOUCHED, type OccurrenceView } from '../src/item/occurrence';

/** Work handed in online that has only a date, Tuesday 6 October 2026. */
export const PLAIN: OccurrenceView = {
  itemId: 'i',
  recurrenceId: '',
  calendarId: 'c',
  alsoIn: [],
  title: 'T',
  place: '',
  kind: 'assignment',
  handIn: 'online',
  status: 'confirmed',
  start: { kind: 'date', date: '2026-10-06' },
  end: null,
  due: null,
  ...UNTOUCHED,
};

/** A moment, in UTC, and a day, as an occurrence states them. */
export const at = (iso: string) => ({ kind: 'instant', at: iso, zone: 'UTC' }) as const;
export const date = (text: string) => ({ kind: 'date', date: text }) as const;

/** Work that is due then. */
export const dueAt = (due: OccurrenceView['start'], more: Partial<OccurrenceView> = {}): OccurrenceView => ({
  ...PLAIN,
  start: due,
  due,
  ...more,
});
