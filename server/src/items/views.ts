import type { Rules } from '@zephyrfield/core/gather/rules';
import { allLinks } from '@zephyrfield/core/ical/links';
import type { FeedItem } from '@zephyrfield/core/ical/feed-item';
import type { ItemView, OccurrenceView } from '@zephyrfield/core/api/schemas';
import { dueOf } from '@zephyrfield/core/item/dates';
import { isWork } from '@zephyrfield/core/item/kind';
import { isFinished } from '@zephyrfield/core/item/layer';
import { ownOf } from '@zephyrfield/core/item/own';
import { richText } from '@zephyrfield/core/item/rich-text';
import { DAY } from '@zephyrfield/core/time/civil';
import type { When } from '@zephyrfield/core/time/when';
import { busyView } from '@zephyrfield/core/item/busy';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { keyedId } from '../db/ids.ts';
import type { ItemRow } from '../gather/store.ts';
import { type ItemStore, type ItemWhole } from './store.ts';
import { NO_LAYER, type LayerFields, type OccurrenceRow } from './rows.ts';

const NONE: ReadonlyMap<string, string[]> = new Map();
const iso = (ms: number | null | undefined) => (ms == null ? null : new Date(ms).toISOString());

/** An occurrence with its own layer, as every view is given it. */
export function occurrenceView(
  { occurrence, ...layer }: OccurrenceRow,
  alsoIn: ReadonlyMap<string, string[]> = NONE,
): OccurrenceView {
  const { learnerId: _learner, fromMs: _from, toMs: _to, duplicate: _duplicate, ...shown } = occurrence;
  return {
    ...shown,
    alsoIn: alsoIn.get(shown.itemId) ?? [],
    undated: false,
    ...layerView(layer),
    finished: isFinished({ ...shown, ...layer }),
  };
}

function layerView({
  finishedAt,
  handedIn,
  stillToDo,
  aim,
  estimate,
  hidden,
  colour,
  position,
  version,
  personVersion,
}: LayerFields) {
  return {
    handedIn,
    aim,
    estimate,
    colour,
    position,
    finishedAt: iso(finishedAt),
    stillToDo: stillToDo ?? false,
    hidden: hidden ?? false,
    version: version ?? 0,
    personVersion: personVersion ?? 0,
  };
}

/** Tells whether open work has no date at all: what merely lies beyond the stored horizon has one. */
export function isUndated({ kind, content: { master, overrides } }: ItemRow): boolean {
  if (!isWork(kind) || overrides.length || !master) return false;
  return !master.start && !master.due && !master.completed && master.percent !== 100;
}

/** An item on one date that no row says: as part of no series, beyond the horizon. */
function onDate(
  item: ItemRow,
  at: Pick<OccurrenceView, 'start' | 'end' | 'due' | 'place' | 'status' | 'own'>,
): OccurrenceRow['occurrence'] {
  const { id: itemId, learnerId, calendarId, title, kind, handIn } = item;
  const what = { itemId, learnerId, calendarId, title, kind, handIn };
  const none = { fromMs: 0, toMs: 0, duplicate: false, doneInCourse: false, endless: false, closes: null };
  return { ...what, recurrenceId: '', ...at, ...none };
}

/** Work without a date, as if it stood on the day it was made. */
export function undatedView({ item, ...layer }: { item: ItemRow } & LayerFields): OccurrenceView {
  const start: When = { kind: 'date', date: new Date(item.createdAt).toISOString().slice(0, 10) };
  const own = item.uid === `${item.id}@zephyrfield`;
  const at = {
    start,
    end: null,
    due: null,
    place: item.content.master?.place ?? '',
    status: 'confirmed' as const,
    own,
  };
  return { ...occurrenceView({ occurrence: onDate(item, at), ...layer }), undated: true };
}

/** One piece of work without a date, as a person sees it. */
export function undatedOne(store: ItemStore, item: ItemRow, personId: string): OccurrenceView {
  const persons = store.personLayer(item.id, '', personId);
  return undatedView({
    item,
    ...NO_LAYER,
    ...store.layer(item.id, ''),
    ...(persons && { hidden: persons.hidden, colour: persons.colour, personVersion: persons.version }),
  });
}

/** An item without any date in the horizon, as it stood when its feed last had it. */
export function lastKnown(item: ItemRow): OccurrenceRow | null {
  const face = item.content.master ?? item.content.overrides[0];
  const start = face && (face.start ?? face.due);
  if (!start) return null;
  const { place, status, end } = face;
  const due = dueOf({ start, end, due: face.due }, item.kind, item.title);
  return { occurrence: onDate(item, { start, end, due, place, status, own: false }), ...NO_LAYER };
}

/** The edges an item was joined from, or is shown as instead. */
function windowOf({ item, rules }: { item: ItemRow; rules: Rules }): ItemView['window'] {
  const edges = item.content.master?.windowOf;
  if (edges) return { joined: true, opens: edges[0].title, closes: edges[1].title };
  return rules.unjoined.includes(item.uid) ? { joined: false, opens: '', closes: item.title } : null;
}

/** A learner's occurrences between two instants (milliseconds), as a person sees them. */
export function occurrencesBetween(
  store: ItemStore,
  learnerId: string,
  personId: string,
  from: number,
  to: number,
): OccurrenceView[] {
  // A day more on both sides: all-day and floating ones are stored as if in UTC, and the person may be
  // anywhere.
  const alsoIn = store.alsoIn(learnerId, personId);
  const span = [from - DAY, to + DAY] as const;
  return [
    ...store.between(learnerId, personId, ...span).map((row) => occurrenceView(row, alsoIn)),
    ...store
      .busyBetween(learnerId, personId, ...span)
      .map((o) => busyView(keyedId(personId, keyOf(o)), learnerId, o)),
  ];
}

/** An item's occurrences between two instants (milliseconds); the one of work without a date. */
export function occurrencesOf(
  store: ItemStore,
  itemId: string,
  personId: string,
  from: number,
  to: number,
): OccurrenceView[] {
  const item = store.item(itemId)?.item;
  if (!item || item.goneAt !== null) return [];
  const rows = store.ofItem(itemId, personId, from - DAY, to + DAY);
  return rows.length || !isUndated(item)
    ? rows.map((row) => occurrenceView(row))
    : [undatedOne(store, item, personId)];
}

/** What other rooms know of an item. */
type Elsewhere = Pick<ItemView, 'reminders' | 'brief' | 'photos' | 'alike' | 'history' | 'looked'>;

/**
 * Everything known of an item, or of one of its dates.
 * @param personId who looks at it
 * @param row the date that is looked at; null for work without one
 * @param face the entry that says it, of the whole series or of that date alone
 */
export function itemView(
  store: ItemStore,
  found: ItemWhole,
  personId: string,
  row: OccurrenceRow | null,
  face: FeedItem,
  elsewhere: Elsewhere,
): ItemView {
  const { item } = found;
  const recurrenceId = row?.occurrence.recurrenceId ?? '';
  const layer = store.layer(item.id, recurrenceId);
  const isOwn = found.kind === 'handMade';
  return {
    occurrence: row
      ? occurrenceView(row, store.alsoIn(item.learnerId, personId))
      : undatedOne(store, item, personId),
    doubt: item.doubt,
    own: isOwn ? { item: ownOf(item.content, item), version: item.version } : null,
    note: store.personLayer(item.id, recurrenceId, personId)?.note ?? '',
    spent: layer?.spent ?? 0,
    timerSince: iso(layer?.timerSince),
    records: store
      .recordsOf(item.id, recurrenceId)
      .map(({ at, by, ...rest }) => ({ ...rest, at: new Date(at).toISOString(), by: by ?? '' })),
    description: richText(face.description, face.html),
    links: allLinks(face),
    categories: face.categories,
    origin: {
      calendar: found.calendarName,
      kind: found.kind,
      address: isOwn ? null : found.address,
      lastGood: iso(found.lastGoodAt),
      uid: item.uid,
      course: item.course,
    },
    repeats: Boolean(item.content.master?.repeat),
    percent: face.percent,
    gone: item.goneAt !== null,
    duplicates: store
      .duplicatesOf(item.id, personId)
      .map(({ id, learnerId: _whose, when, notDuplicate, ...where }) => ({
        ...where,
        itemId: id,
        notDuplicate: notDuplicate === 1,
        when: when === null ? null : (JSON.parse(when) as When),
      })),
    window: windowOf(found),
    ...elsewhere,
  };
}
