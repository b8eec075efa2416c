import { seenBy } from '../gather/rules.ts';
import type { FeedItem } from '../ical/feed-item.ts';
import type { Property, Written } from '../ical/property.ts';
import { instantProperty, textOf, timeProperties, wordProperties } from '../ical/write.ts';
import { ZoneBlocks } from '../ical/zone-blocks.ts';
import { zoneFinder } from '../ical/zones.ts';
import { CSS_COLOURS } from '../item/flag.ts';
import { isWork } from '../item/kind.ts';
import type { OccurrenceView } from '../item/occurrence.ts';
import { hash } from '../lib/hash.ts';
import { instantIn, recurrenceIdOf } from '../time/when.ts';
import { UTC, ianaZone } from '../time/zone.ts';
import { DEFAULT_SETTINGS } from '../view/settings.ts';
import { viewerOf } from '../words/when.ts';
import { alarmsOf } from './alarms.ts';
import { asTodo, isDeadline } from './as-todo.ts';
import {
  CALLED_OFF_STAYS,
  datesGoingOut,
  faceOf,
  goesOut,
  sittingsGoingOut,
  uidOf,
  type OutItem,
} from './going-out.ts';
import { aimEntry, busyEntry, dayEntry, sittingEntry } from './single-entries.ts';
import { beginBeforeDue } from './todo-series.ts';
import { colourOf, stamps, withName, type Out, type Writing } from './writing.ts';

/** Number of times a program is asked to look again (RFC 7986 5.7, and its older twin). */
const LOOK_AGAIN = 'PT1H';

/**
 * What goes out by a link as an iCalendar object (RFC 5545), the same text as long as nothing of it changes. Repeats go
 * out as they came in, each with its VTIMEZONE. Work goes out as it is asked for: as a to-do, on its day, at its hour.
 */
export function calendarText(writing: Writing): string {
  const { schedule, rules } = writing;
  const zones = new ZoneBlocks();
  const viewer = viewerOf(ianaZone(schedule.zone) ?? UTC, DEFAULT_SETTINGS);
  const out: Out = {
    ...writing,
    zones,
    viewer,
    datesOf: byItem(schedule.dates),
    calendars: new Map(schedule.calendars.map((each) => [each.id, each])),
    items: new Map(schedule.items.map((item) => [item.id, item])),
  };
  const entries =
    rules.detail === 'busy'
      ? datesGoingOut(schedule, rules, writing.salt).map((o) => busyEntry(o, out))
      : [
          ...schedule.items.filter((item) => goesOut(item, rules)).flatMap((item) => entriesOf(item, out)),
          ...(rules.aims
            ? schedule.dates.filter((o) => goesOut(o, rules)).flatMap((o) => aimEntry(o, out))
            : []),
          ...(rules.sittings ? sittingsGoingOut(schedule, rules).map((o) => sittingEntry(o, out)) : []),
        ];
  const shown = schedule.calendars.filter(({ id }) => rules.calendars?.includes(id) ?? true);
  const only = shown.length === 1 ? shown[0] : undefined;
  const head: Property[] = [
    ['version', {}, 'text', '2.0'],
    ['prodid', {}, 'text', '-//Zephyrfield//Zephyrfield//EN'],
    ['calscale', {}, 'text', 'GREGORIAN'],
    ['name', {}, 'text', schedule.name],
    ['x-wr-calname', {}, 'unknown', escaped(schedule.name)],
    ['x-wr-timezone', {}, 'unknown', schedule.zone],
    // One calendar has its colour; of several, each entry has its own.
    ...(only ? [['color', {}, 'unknown', CSS_COLOURS[only.colour]] as Property] : []),
    ['refresh-interval', {}, 'duration', LOOK_AGAIN],
    ['x-published-ttl', {}, 'unknown', LOOK_AGAIN],
  ];
  return textOf(['vcalendar', head, [...zones.blocks(), ...entries]]);
}

/** A text as a property that the library does not know holds it (RFC 5545 3.3.11). */
const escaped = (text: string) => text.replace(/[\\;,]/g, (sign) => `\\${sign}`).replace(/\r?\n/g, '\\n');

function byItem(dates: readonly OccurrenceView[]): Map<string, OccurrenceView[]> {
  const found = new Map<string, OccurrenceView[]>();
  for (const date of dates) {
    const list = found.get(date.itemId);
    if (list) list.push(date);
    else found.set(date.itemId, [date]);
  }
  return found;
}

function entriesOf(item: OutItem, out: Out): Written[] {
  const { now, rules } = out;
  if (item.goneAt !== null && now - item.goneAt > CALLED_OFF_STAYS) return [];
  const face = item.content.master ?? item.content.overrides[0];
  if (!face) return [];
  const dates = out.datesOf.get(item.id) ?? [];
  const isSingle = rules.workAs !== 'todo' && isWork(item.kind) && isDeadline(face, item);
  if (isSingle && item.goneAt === null)
    return dates.flatMap((date) => (rules.finished || !date.finished ? dayEntry(date, item, out) : []));
  return wholeEntry(item, dates, out);
}

/** An item as it came in: its repeats, and the dates that differ. */
function wholeEntry(item: OutItem, dates: readonly OccurrenceView[], out: Out): Written[] {
  const { rules } = out;
  const { master, overrides } = item.content;
  const one = dates.length === 1 && !master?.repeat ? dates[0] : undefined;
  if (one?.finished && !rules.finished) return [];
  // A to-do without a date has no place where there are none.
  if (master && !master.start && !master.due && rules.workAs !== 'todo') return [];
  const shown = new Map(dates.map((date) => [date.recurrenceId, date]));
  if (out.apart && (master?.repeat || overrides.length))
    return dates.flatMap((date) => (rules.finished || !date.finished ? [oneEntry(date, item, out)] : []));
  const faces = overrides.map((o) => form(o, item, out));
  const whole = master && form(master, item, out);
  const move = whole && beginBeforeDue(whole, zoneFinder(item.zones, out.viewer));
  const write = (face: FeedItem, date: OccurrenceView | undefined) =>
    component(move ? move(face) : face, item, date, out);
  const named = new Set(overrides.flatMap((o) => (o.recurrenceId ? [recurrenceIdOf(o.recurrenceId)] : [])));
  // Of a repeated piece of work, what is finished on one date is said on that date.
  const settled =
    whole?.repeat && whole.component === 'VTODO'
      ? dates.filter(
          (d) => d.finished && !named.has(d.recurrenceId) && recurrenceIdOf(d.start) === d.recurrenceId,
        )
      : [];
  const left = rules.finished ? [] : settled;
  const cut: FeedItem | null =
    whole?.repeat && left.length
      ? {
          ...whole,
          repeat: {
            ...whole.repeat,
            exceptDates: [...whole.repeat.exceptDates, ...left.map((date) => date.start)],
          },
        }
      : whole;
  return [
    ...(cut ? [write(cut, one)] : []),
    ...faces.map((face) => write(face, shown.get(recurrenceIdOf(face.recurrenceId!)))),
    ...(rules.finished && whole
      ? settled.map((date) =>
          write(
            {
              ...whole,
              repeat: null,
              recurrenceId: date.start,
              start: date.start,
              due: date.due,
              andFuture: false,
            },
            date,
          ),
        )
      : []),
  ];
}

/** One date of a series by itself. */
function oneEntry(date: OccurrenceView, item: OutItem, out: Out): Written {
  const { start, end, due } = date;
  const times = { repeat: null, recurrenceId: null, andFuture: false, length: null, start, end, due };
  const face = form({ ...faceOf(date, item), ...times }, { ...item, title: date.title }, out);
  return component(face, { ...item, id: `${item.id}-${hash(date.recurrenceId)}` }, date, out);
}

/** A component as it is to go out: what may be seen of it, and work as a to-do where that is asked for. */
function form(face: FeedItem, item: OutItem, { rules, calendars }: Out): FeedItem {
  const title =
    face === (item.content.master ?? item.content.overrides[0]) ? item.title : seenBy(face, item.rules).title;
  const seen: FeedItem =
    rules.detail === 'everything'
      ? { ...face, title, categories: withName(face.categories, calendars.get(item.calendarId)?.name) }
      : {
          ...face,
          title,
          description: '',
          html: null,
          place: '',
          links: [],
          categories: [],
          extra: [],
          alarms: [],
        };
  return isWork(item.kind) && rules.workAs === 'todo' ? asTodo(seen, item) : seen;
}

function component(face: FeedItem, item: OutItem, date: OccurrenceView | undefined, out: Out): Written {
  const zones = out.zones.within(item.zones);
  const uid = uidOf(item.id);
  const time = timeProperties(face, zones);
  const state = stateOf(face, item, date);
  // What is said otherwise here; whether it takes time is nothing for a to-do (RFC 5545 3.8.2.7).
  const taken = new Set([
    'color',
    ...state.map(([name]) => name),
    ...(face.component === 'VTODO' ? ['transp'] : []),
  ]);
  const words = wordProperties(face).filter(([name]) => !taken.has(name));
  return [
    face.component.toLowerCase(),
    [
      ...stamps(uid, item),
      ...time,
      ['summary', {}, 'text', face.title],
      ...words,
      ...state,
      ...colourOf(item, out),
    ],
    out.rules.reminders ? alarmsOf(face, item, date, out, zones) : [],
  ];
}

/** Tells whether it stands, is done, or is called off (RFC 5545 3.8.1.11). */
function stateOf(
  face: FeedItem,
  { goneAt, updatedAt }: OutItem,
  date: OccurrenceView | undefined,
): Property[] {
  const status = (value: string): Property => ['status', {}, 'text', value];
  if (goneAt !== null || face.status === 'cancelled') return [status('CANCELLED')];
  if (face.component === 'VEVENT') return [status(face.status.toUpperCase())];
  const isDone = date?.finished ?? (face.completed !== null || face.percent === 100);
  if (!isDone)
    return [
      status(face.percent ? 'IN-PROCESS' : 'NEEDS-ACTION'),
      ...(face.percent ? [['percent-complete', {}, 'integer', face.percent] as Property] : []),
    ];
  const at = date?.finishedAt
    ? Date.parse(date.finishedAt)
    : face.completed
      ? instantIn(face.completed, UTC)
      : updatedAt;
  return [status('COMPLETED'), ['percent-complete', {}, 'integer', 100], instantProperty('completed', at)];
}
