import type { EntryContent } from '../ical/content.ts';
import type { FeedItem } from '../ical/feed-item.ts';
import { addDigests } from '../ical/digest.ts';
import type { Reading } from '../ical/reading.ts';
import { dueOf } from '../item/dates.ts';
import { edgeIn } from '../item/edge.ts';
import type { CalendarKind, HandInWay, ItemKind } from '../item/kind.ts';
import { zoneFinder, type OwnZones } from '../ical/zones.ts';
import type { Budget } from '../recurrence/expand.ts';
import { isEndless } from '../recurrence/repeatable.ts';
import { expandSeries } from '../recurrence/series.ts';
import { DAY } from '../time/civil.ts';
import { instantIn, type When, type ZoneFinder } from '../time/when.ts';
import { UTC, type Zone } from '../time/zone.ts';
import { courseOf } from './course.ts';
import { OCCURRENCE_LIMIT, seriesOf } from './occurrences.ts';
import { NO_RULES, correctionOf, seenBy, type Rules } from './rules.ts';
import { kindOf, takenFor } from '../item/classify.ts';
import { handInOf } from '../item/taken/hand-in.ts';

/** What a feed says under one UID, and what that is. */
export interface Entry {
  uid: string;
  /** Digest of its blocks: the same one means the same content; blind to DTSTAMP, folding and order */
  fingerprint: number;
  /** Part that its source's split says it belongs to; null where that says nothing */
  section: string | null;
  kind: ItemKind;
  handIn: HandInWay;
  /** It may as well be due, or not be: a person is asked, once for all alike */
  doubt: boolean;
  course: string | null;
  title: string;
  content: EntryContent;
}

/** One occurrence as it is stored and drawn. */
export interface EntryOccurrence {
  recurrenceId: string;
  title: string;
  place: string;
  status: FeedItem['status'];
  kind: ItemKind;
  handIn: HandInWay;
  start: When;
  end: When | null;
  due: When | null;
  /** After this nothing is taken any more; null where nobody has said that it closes */
  closes: When | null;
  /** Its course says that it is done (RFC 5545 3.8.2.1, 3.8.1.8, 3.8.1.11) */
  doneInCourse: boolean;
  /** One of a series that goes on for ever */
  endless: boolean;
  /** Span for range reads, in UTC milliseconds; all-day and floating ones as if the viewer were in UTC */
  from: number;
  to: number;
}

/** Way in which a source's entries are to be understood. */
export interface Understanding {
  /** What the calendar is of, and what those of single parts are of where that is otherwise */
  calendar: CalendarKind;
  sections?: Readonly<Record<string, CalendarKind>>;
  rules?: Rules;
  /** Its feed is one of deadlines, by what its entries look like together (`manner`) */
  ofDeadlines?: boolean;
}

const calendarFor = (section: string | null, { calendar, sections }: Understanding): CalendarKind =>
  sections?.[section ?? ''] ?? calendar;

/** Groups a reading by UID and works out what each entry is. */
export function entriesOf(reading: Pick<Reading, 'items'>, as: Understanding): Entry[] {
  const rules = as.rules ?? NO_RULES;
  return seriesOf(reading.items).map((content) => {
    const face = (content.master ?? content.overrides[0])!;
    const { section, title } = seenBy(face, rules);
    const corrected = correctionOf(face.uid, title, section, rules);
    const taken = takenFor(face, calendarFor(section, as), as.ofDeadlines);
    const kind = corrected.kind ?? taken.kind;
    return {
      uid: face.uid,
      fingerprint: fingerprintOf(content),
      section,
      kind,
      handIn: corrected.handIn ?? handInOf(face, kind),
      doubt: !corrected.kind && taken.doubt,
      course: section ?? courseOf(face),
      title,
      content,
    };
  });
}

function fingerprintOf({ master, overrides }: EntryContent): number {
  return overrides.reduce((sum, o) => addDigests(sum, o.digest), master?.digest ?? 0);
}

export interface ExpandEntryOptions {
  from: number;
  to: number;
  /** The calendar's zone: where the hours of floating times are checked against clock changes */
  zone: Zone;
  /** The feed's own zones, or a finder over them that is kept from entry to entry */
  zones: OwnZones | ZoneFinder;
  as: Understanding;
  /** The most occurrences; OCCURRENCE_LIMIT without it */
  limit?: number;
  /** Work that is left for its repeats */
  budget?: Budget;
}

/** Finds when work closes: at the last edge of its window, or when it is due where its title says that it closes then. */
function closesOf({ title, windowOf }: FeedItem, due: When): When | null {
  const last = windowOf?.at(-1);
  const edge = edgeIn((last ?? { title }).title.trim());
  if (!edge || edge.isDue || edge.isOpening) return null;
  return last ? (last.due ?? last.start) : due;
}

/** An entry's occurrences inside a horizon (instants, milliseconds). */
export function expandEntry(
  entry: Entry,
  { from, to, zone, zones, as, limit = OCCURRENCE_LIMIT, budget }: ExpandEntryOptions,
): EntryOccurrence[] {
  const { master, overrides } = entry.content;
  const endless = isEndless(master?.repeat ?? null);
  const find = typeof zones === 'function' ? zones : zoneFinder(zones, zone);
  return expandSeries(master, overrides, {
    from,
    to,
    viewer: zone,
    zones: find,
    limit,
    budget,
    warn: () => {},
  }).map((o) => {
    const isFace = o.item === (master ?? overrides[0]);
    const rules = as.rules ?? NO_RULES;
    const title = isFace ? entry.title : seenBy(o.item, rules).title;
    const corrected = isFace ? entry : correctionOf(entry.uid, title, entry.section, rules);
    const kind = corrected.kind ?? kindOf(o.item, calendarFor(entry.section, as), as.ofDeadlines);
    const due = dueOf(o, kind, o.item.title, as.ofDeadlines);
    const start = instantIn(o.start, UTC);
    const ends = [o.end, due]
      .filter((w) => w !== null)
      .map((w) => instantIn(w, UTC) + (w.kind === 'date' && w === due ? DAY : 0));
    return {
      recurrenceId: o.recurrenceId,
      title,
      place: o.item.place,
      status: o.item.status,
      kind,
      handIn: corrected.handIn ?? handInOf(o.item, kind),
      start: o.start,
      end: o.end,
      due,
      closes: due && closesOf(o.item, due),
      doneInCourse: o.item.completed !== null || o.item.percent === 100,
      endless,
      from: start,
      to: Math.max(start + (o.start.kind === 'date' && !o.end ? DAY : 0), ...ends),
    };
  });
}
