import type { QuickReading } from '@zephyrfield/core/item/quick-add';
import type { Named } from '@zephyrfield/core/item/quick/calendar';
import { timesOf, type OwnItem } from '@zephyrfield/core/item/own';
import type { OccurrenceView } from '@zephyrfield/core/item/occurrence';
import { onDaysOff } from '@zephyrfield/core/recurrence/pattern';
import { DAY } from '@zephyrfield/core/time/civil';
import { whenShift } from '@zephyrfield/core/time/shift';
import { instantIn, type When } from '@zephyrfield/core/time/when';
import { UTC, ianaZone, type Zone } from '@zephyrfield/core/time/zone';
import { agendaEntry } from '@zephyrfield/core/view/entry';
import { clockOf } from '@zephyrfield/core/time/minute';
import type { Draft } from '@/data/draft';
import type { OwnAt } from '@/data/own-at';
import { EMPTY, PURPOSE_KINDS, fieldsOf, purposeOf, repeatFields, whenFields, type Fields } from './form';

type Calendars = readonly Named[];

/** Gives what the form begins from: a draft that was left, an item to be changed, or a day to add something to. */
export function beginFields(
  draft: Draft,
  calendars: Calendars,
  lastUsed: Readonly<Record<string, string>>,
  zone: Zone,
): Fields {
  // A draft may be of a calendar that is gone.
  const known = (id: string) => (calendars.some((c) => c.id === id) ? id : '');
  const { editing, fields } = draft;
  if (fields)
    return {
      ...EMPTY,
      ...(fields as Partial<Fields>),
      calendarId: known(String(fields['calendarId'] ?? '')),
    };
  if (editing) return fieldsAt(editing, zone);
  const purpose = draft.minute === null ? 'do' : 'be';
  return {
    ...EMPTY,
    purpose,
    kind: PURPOSE_KINDS[purpose][0]!,
    day: draft.day,
    lastDay: draft.day,
    time: draft.minute === null ? '' : clockOf(draft.minute),
    calendarId: known(draft.calendarId ?? lastUsed[purpose] ?? ''),
  };
}

/** An own item as fields, at the date it was opened at. */
export function fieldsAt({ item, of, calendarId }: OwnAt, zone: Zone): Fields {
  const change = of && item.changes.find((c) => instantIn(c.of, zone) === instantIn(of, zone));
  const { title, place, details } = { ...item, ...change };
  const at = of ? { ...item, ...shiftTo(item, change?.when ?? of), title, place, details } : item;
  return fieldsOf(at, calendarId, zone);
}

/** A repeated item's first date put at another of its dates, as long as it is. */
function shiftTo(item: OwnItem, when: When) {
  return { when, end: item.when && item.end ? whenShift(item.end, item.when, when) : null };
}

/**
 * The fields that one line fills in.
 * @param day the day it is added to, where it says none
 * @param calendarOf the calendar for a purpose, where it says none
 */
export function fieldsOfReading(
  read: QuickReading,
  { zone, day, calendarOf }: { zone: Zone; day: string; calendarOf(purpose: Fields['purpose']): string },
): Partial<Fields> {
  const purpose = purposeOf(read);
  const when = read.when
    ? whenFields(read.when, read.end, zone)
    : day
      ? { day, lastDay: day, time: '', until: '' }
      : whenFields(null, null, zone);
  return {
    title: read.title,
    purpose,
    kind: read.kind,
    handIn: read.handIn === 'unknown' ? 'paper' : read.handIn,
    minutes: purpose === 'do' && read.minutes ? String(read.minutes) : '',
    ...when,
    ...repeatFields(read.repeat),
    calendarId: read.calendarId ?? calendarOf(purpose),
  };
}

/** So far ahead, and so many dates, are looked at for days off. */
const AHEAD = 740 * DAY;
const MOST_DATES = 400;

/** A repeated item without its dates in breaks and on days off. */
export function withoutDaysOff(
  item: OwnItem,
  occurrences: readonly OccurrenceView[],
  now: number,
  zone: Zone,
): OwnItem {
  if (!item.repeat || !item.when) return item;
  const from = instantIn(item.when, zone) - DAY;
  const zones = (name: string) => ianaZone(name) ?? UTC;
  const times = timesOf(item, { from, to: from + AHEAD, zone, zones, limit: MOST_DATES });
  const off = occurrences
    .filter((o) => o.kind === 'dayOff' && o.status !== 'cancelled')
    .map((o) => agendaEntry(o, now, zone))
    .map(({ day, lastDay }) => ({ from: day, to: lastDay }));
  return { ...item, repeat: { ...item.repeat, except: onDaysOff(times, off, zone) } };
}
