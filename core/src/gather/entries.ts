import type { FeedItem } from '../ical/feed-item.ts';
import type { Reading } from '../ical/reading.ts';
import { dueOf } from '../item/dates.ts';
import { hash } from '../item/hash.ts';
import type { CalendarSort, HandInWay, Sort } from '../item/sort.ts';
import { zoneFinder, type OwnZones } from '../ical/zones.ts';
import { expandSeries } from '../recurrence/series.ts';
import { DAY } from '../time/civil.ts';
import { instantIn, type When } from '../time/when.ts';
import { UTC, type Zone } from '../time/zone.ts';
import { courseOf } from './course.ts';
import { OCCURRENCE_LIMIT, seriesOf } from './occurrences.ts';
import { handInOf, sortOf } from './sort.ts';

/** One UID of a feed: what it says, whole. Kept as one thing, since a person's own layer belongs to it as a whole. */
export interface EntryContent {
  master: FeedItem | null;
  overrides: FeedItem[];
}

export interface Entry {
  uid: string;
  /** The same text means the same content; blind to DTSTAMP, order and line numbers */
  fingerprint: string;
  sort: Sort;
  handIn: HandInWay;
  course: string | null;
  title: string;
  content: EntryContent;
}

/** One occurrence as it is stored and drawn. */
export interface EntryOccurrence {
  key: string;
  title: string;
  place: string;
  status: FeedItem['status'];
  sort: Sort;
  handIn: HandInWay;
  start: When;
  end: When | null;
  due: When | null;
  /** Span for range reads, in UTC milliseconds; all-day and floating ones as if the viewer were in UTC */
  from: number;
  to: number;
}

/** Groups a reading by UID and works out what each entry is. */
export function entriesOf(reading: Pick<Reading, 'items'>, calendar: CalendarSort): Entry[] {
  return seriesOf(reading.items).map((content) => {
    const face = (content.master ?? content.overrides[0])!;
    const sort = sortOf(face, calendar);
    return { uid: face.uid, fingerprint: fingerprintOf(content), sort, handIn: handInOf(face, sort), course: courseOf(face), title: face.title, content };
  });
}

function fingerprintOf({ master, overrides }: EntryContent): string {
  const text = (item: FeedItem) => JSON.stringify({ ...item, line: 0, sequence: 0, categories: [...item.categories].sort() });
  return hash([master ? text(master) : '', ...overrides.map(text).sort()].join('\n'));
}

export interface ExpandEntryOptions {
  from: number;
  to: number;
  /** The calendar's zone: where the hours of floating times are checked against clock changes */
  zone: Zone;
  zones: OwnZones;
  calendar: CalendarSort;
  /** The most occurrences; OCCURRENCE_LIMIT without it */
  limit?: number;
}

/** An entry's occurrences inside a horizon (instants, milliseconds). */
export function expandEntry(entry: Entry, { from, to, zone, zones, calendar, limit = OCCURRENCE_LIMIT }: ExpandEntryOptions): EntryOccurrence[] {
  const { master, overrides } = entry.content;
  const find = zoneFinder(zones, zone);
  return expandSeries(master, overrides, { from, to, viewer: zone, zones: find, limit, warn: () => {} }).map((o) => {
    const isFace = o.item === (master ?? overrides[0]);
    const sort = isFace ? entry.sort : sortOf(o.item, calendar);
    const due = dueOf(o, sort, o.item.title);
    const start = instantIn(o.start, UTC);
    const ends = [o.end, due].filter((w) => w !== null).map((w) => instantIn(w, UTC) + (w.kind === 'date' && w === due ? DAY : 0));
    return {
      key: o.key,
      title: o.item.title,
      place: o.item.place,
      status: o.item.status,
      sort,
      handIn: isFace ? entry.handIn : handInOf(o.item, sort),
      start: o.start,
      end: o.end,
      due,
      from: start,
      to: Math.max(start + (o.start.kind === 'date' && !o.end ? DAY : 0), ...ends),
    };
  });
}
