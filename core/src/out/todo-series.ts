import type { FeedItem } from '../ical/feed-item.ts';
import { DAY, HOUR, MINUTE, parseDate } from '../time/civil.ts';
import { whenShift } from '../time/shift.ts';
import {
  floatingOf,
  instantIn,
  instantOf,
  ownLocal,
  recurrenceIdOf,
  type When,
  type ZoneFinder,
} from '../time/when.ts';
import { UTC } from '../time/zone.ts';

/** A rule whose hours are counted by itself: its beginning cannot be moved. */
const BY_HOUR = /;BY(?:HOUR|MINUTE|SECOND)=|^(?:RRULE:)?FREQ=(?:HOURLY|MINUTELY|SECONDLY)/i;

/**
 * Moves the beginning of a repeated to-do before the moment it is due, as RFC 5545 3.8.2.3 asks for, and with it all
 * that is counted from the beginning: dates left out, dates added, the end of its rules, and what its overrides name.
 * Work at a moment begins an hour before, but on the same day; work of a day begins with the day and ends with it.
 * @returns moves the to-do and each of its overrides; null where its beginning stays
 */
export function beginBeforeDue(master: FeedItem, zones: ZoneFinder): ((face: FeedItem) => FeedItem) | null {
  const { start, repeat } = master;
  if (master.component !== 'VTODO' || !repeat || !start || !isDueAtStart(master)) return null;
  if ([...repeat.rules, ...repeat.exceptRules].some((rule) => BY_HOUR.test(rule))) return null;
  const to = earlier(start, zones);
  if (!to) return null;
  const moved = (when: When): When => (when.kind === start.kind ? whenShift(when, start, to) : when);
  const rule = (text: string) => untilMoved(text, start, to);
  return (face) => ({
    ...face,
    start: face.start && startOf(face, zones),
    due: face.due?.kind === 'date' && start.kind === 'date' ? endOfDay(face.due.date) : face.due,
    recurrenceId: face.recurrenceId && moved(face.recurrenceId),
    repeat: face.repeat && {
      ...face.repeat,
      rules: face.repeat.rules.map(rule),
      exceptRules: face.repeat.exceptRules.map(rule),
      dates: face.repeat.dates.map((each) => ({ ...each, start: moved(each.start) })),
      exceptDates: face.repeat.exceptDates.map(moved),
    },
  });
}

const isDueAtStart = ({ start, due }: FeedItem) =>
  start !== null && due !== null && start.kind === due.kind && recurrenceIdOf(start) === recurrenceIdOf(due);

const startOf = (face: FeedItem, zones: ZoneFinder) =>
  (isDueAtStart(face) || face.due?.kind === 'date' ? earlier(face.start!, zones) : null) ?? face.start;

const endOfDay = (date: string) => floatingOf((parseDate(date) + 1) * DAY - MINUTE);

/** A moment before, on the same day; null where the day has just begun. */
function earlier(start: When, zones: ZoneFinder): When | null {
  if (start.kind === 'date') return floatingOf(parseDate(start.date) * DAY);
  const local = ownLocal(start, zones);
  const by = Math.min(HOUR, local - Math.floor(local / DAY) * DAY);
  if (!by) return null;
  return start.kind === 'floating'
    ? floatingOf(local - by)
    : instantOf(Date.parse(start.at) - by, start.zone);
}

const UNTIL = /UNTIL=(\d{4})(\d\d)(\d\d)(?:T(\d\d)(\d\d)(\d\d)(Z?))?/i;

/** Moves the end of a rule along, in the form of its beginning (RFC 5545 3.3.10). */
function untilMoved(rule: string, from: When, to: When): string {
  return rule.replace(UNTIL, (whole, year, month, day, hour, minute, second, utc = '') => {
    if (from.kind === 'date') return hour === undefined ? `${whole}T235959` : whole;
    if (hour === undefined) return whole;
    const at = Date.UTC(+year, +month - 1, +day, +hour, +minute, +second);
    const by = instantIn(to, UTC) - instantIn(from, UTC);
    return `UNTIL=${new Date(at + by).toISOString().replace(/[-:]|\.\d+Z$/g, '')}${utc}`;
  });
}
