import { entriesOf, expandEntry } from '../src/gather/entries';
import { NO_RULES } from '../src/gather/rules';
import { UNTOUCHED, type OccurrenceView } from '../src/item/occurrence';
import { calendarText } from '../src/out/calendar';
import type { Writing } from '../src/out/writing';
import type { OutCalendar, OutSchedule } from '../src/out/going-out';
import { DEFAULT_SHARE, type ShareRules } from '../src/out/share';
import { DUBLIN, read } from './feeds';

export const MADE = Date.parse('2026-09-01T08:00:00Z');
export const NOW = Date.parse('2026-10-06T15:10:00Z');
/** The one calendar it goes out of. */
export const BOAT: OutCalendar = {
  id: 'boat',
  name: 'Boatbuilding',
  kind: 'course',
  colour: 'rust',
  flag: { shape: 'pennon', pattern: 'bar', letters: 'BO' },
  reminders: null,
  alarms: 'ignore',
};
export const SPAN = { from: Date.parse('2026-08-01T00:00:00Z'), to: Date.parse('2027-08-01T00:00:00Z') };

/** A schedule that has gathered one feed, as the server hands it out. */
export function scheduleOf(feed: string): OutSchedule {
  const reading = read(feed);
  const entries = entriesOf(reading, { calendar: 'course' });
  return {
    learnerId: 'juno',
    name: 'Juno’s schedule',
    zone: 'Europe/Dublin',
    reminders: null,
    calendars: [BOAT],
    items: entries.map(({ uid, kind, handIn, title, content }) => ({
      id: uid,
      calendarId: 'boat',
      kind,
      handIn,
      title,
      content,
      rules: NO_RULES,
      zones: reading.zones,
      ofDeadlines: false,
      createdAt: MADE,
      updatedAt: MADE + 5_000,
      goneAt: null,
    })),
    dates: entries.flatMap((entry) =>
      expandEntry(entry, { ...SPAN, zone: DUBLIN, zones: reading.zones, as: { calendar: 'course' } }).map(
        ({ from: _from, to: _to, ...date }): OccurrenceView => ({
          ...UNTOUCHED,
          ...date,
          finished: date.doneInCourse,
          itemId: entry.uid,
          calendarId: 'boat',
          alsoIn: [],
        }),
      ),
    ),
    dateReminders: {},
    runUps: [],
  };
}

/** What goes out of a schedule by a link. */
export const sent = (
  schedule: OutSchedule,
  rules: Partial<ShareRules> = {},
  more: Partial<Writing> = {},
): string =>
  calendarText({ schedule, rules: { ...DEFAULT_SHARE, ...rules }, salt: 'salt', now: NOW, ...more });
