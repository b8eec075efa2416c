import type { CutOff } from '../ical/cut.ts';
import type { FeedItem } from '../ical/feed-item.ts';
import { instantIn, localIn, recurrenceIdOf, type When } from '../time/when.ts';
import { UTC, type Zone } from '../time/zone.ts';

/** One occurrence as it stood in a reading. */
export interface Standing {
  recurrenceId: string;
  title: string;
  status: FeedItem['status'];
  start: When;
  end: When | null;
  due: When | null;
}

/** One entry as it stood in a reading. */
export interface Snapshot {
  uid: string;
  title: string;
  /** Digest of everything a person would read: title, description, place, address */
  wording: string;
  /** Place where it leads, to know a thing again under another identifier */
  url: string | null;
  occurrences: Standing[];
}

interface Told {
  uid: string;
  /** Which occurrence, by its key; null for an entry that does not repeat, or for a whole series */
  recurrenceId: string | null;
  title: string;
}
export type Added = Told & { start: When };
export type Moved = Told & { from: When; to: When; occurrences?: number };
export type Reworded = Told & { from: string; to: string };

/** Differences of a reading from the one before. Lists are in the order of the readings. */
export interface Differences {
  added: Added[];
  moved: Moved[];
  reworded: Reworded[];
  calledOff: Added[];
  removed: Added[];
  /** Past ones that a feed showing only a moving window of time no longer has: kept, and not told */
  rolledOff: Added[];
  /** The same thing under another identifier */
  reissued: { from: string; to: string }[];
  /** Occurrences of a series that was moved as a whole: own layers go from the old name to the new one */
  movedIds: { uid: string; from: string; to: string }[];
}

export interface DifferOptions {
  /** Moment when the later reading was made, in milliseconds */
  asOf: number;
  viewer: Zone;
  /** Only occurrences inside both readings' horizons can be compared (instants, milliseconds) */
  from: number;
  to: number;
  /**
   * A person has said that the feed is right although it has nothing left under the identifiers it had: what has
   * the same title, in the same order, is the same thing, whatever its date
   */
  isRenewed?: boolean;
}

/** Finds where an occurrence stands for a person: its due date, else its start. */
export const standsAt = (o: Pick<Standing, 'start' | 'due'>): When => o.due ?? o.start;

const isLive = (o: Standing) => o.status !== 'cancelled';
const changeOf = (uid: string, o: Standing): Added => ({
  uid,
  recurrenceId: o.recurrenceId || null,
  title: o.title,
  start: standsAt(o),
});
const isOver = (o: Standing, { asOf, viewer }: DifferOptions) =>
  Math.max(instantIn(standsAt(o), viewer), o.end ? instantIn(o.end, viewer) : -Infinity) < asOf;

/**
 * A reading that broke off, with what was there before in place of what lies behind the cut: nothing of that is
 * gone, the entry in which it broke off says what it said, and so does a series, of which single dates may stand
 * further down.
 */
export function withRest(
  before: readonly Snapshot[],
  after: readonly Snapshot[],
  cutOff: CutOff | null,
): Snapshot[] {
  if (!cutOff) return [...after];
  const known = new Map(before.map((e) => [e.uid, e]));
  const isSure = ({ uid }: Snapshot) =>
    !known.has(uid) || (uid !== cutOff.unfinished && known.get(uid)!.occurrences.length < 2);
  const sure = after.filter(isSure);
  const there = new Set(sure.map((e) => e.uid));
  return [...sure, ...before.filter((e) => !there.has(e.uid))];
}

/** Gives what `after` says otherwise than `before`. Entries that are the same in both may be left out of both. */
export function differ(
  before: readonly Snapshot[],
  after: readonly Snapshot[],
  options: DifferOptions,
): Differences {
  const result: Differences = {
    added: [],
    moved: [],
    reworded: [],
    calledOff: [],
    removed: [],
    rolledOff: [],
    reissued: [],
    movedIds: [],
  };
  const old = new Map(before.map((s) => [s.uid, s]));
  const fresh = new Set<Snapshot>();
  for (const entry of after) {
    const was = old.get(entry.uid);
    if (was) differEntry(was, entry, options, result);
    else fresh.add(entry);
    old.delete(entry.uid);
  }
  const lost = new Set(old.values());
  for (const [was, is] of sameAgain([...lost], [...fresh], options)) {
    result.reissued.push({ from: was.uid, to: is.uid });
    differEntry(was, is, options, result);
    lost.delete(was);
    fresh.delete(is);
  }
  for (const entry of fresh) result.added.push(...firstOf(entry, options));
  for (const entry of lost) {
    const live = inHorizon(entry.occurrences, options).filter(isLive);
    if (!live.length) continue;
    const whole = (o: Standing) => ({ ...changeOf(entry.uid, o), recurrenceId: null });
    if (live.every((o) => isOver(o, options))) result.rolledOff.push(whole(live[0]!));
    else result.removed.push(whole(live.find((o) => !isOver(o, options))!));
  }
  return result;
}

const inHorizon = (list: readonly Standing[], { from, to, viewer }: DifferOptions) =>
  list.filter((o) => instantIn(o.start, viewer) < to && instantIn(o.start, viewer) >= from);

/** A new entry is told once, however often it repeats: by its first date that is still to come. */
function firstOf(entry: Snapshot, options: DifferOptions): Added[] {
  const live = inHorizon(entry.occurrences, options).filter(isLive);
  const first = live.find((o) => !isOver(o, options)) ?? live[0];
  return first
    ? [{ ...changeOf(entry.uid, first), recurrenceId: live.length > 1 ? null : first.recurrenceId || null }]
    : [];
}

/**
 * Pairs entries lost with new ones that are the same thing: same title at the same date, else same title and
 * address; in a feed that is renewed as a whole, else same title in the same order.
 */
function sameAgain(
  lost: readonly Snapshot[],
  fresh: readonly Snapshot[],
  { viewer, isRenewed = false }: DifferOptions,
): [Snapshot, Snapshot][] {
  const name = (title: string) => title.normalize('NFKC').toLowerCase().replace(/\s+/g, ' ').trim();
  const byDate = (s: Snapshot) =>
    s.occurrences[0]
      ? `${name(s.title)}\n${instantIn(standsAt(s.occurrences[0]), viewer)}\n${s.occurrences.length}`
      : null;
  const byUrl = (s: Snapshot) => (s.url ? `${name(s.title)}\n${s.url}` : null);
  const pairs: [Snapshot, Snapshot][] = [];
  const paired = new Set<Snapshot>();
  const byTitle = (s: Snapshot) => (s.occurrences.length ? name(s.title) : null);
  const first = (s: Snapshot) => (s.occurrences[0] ? instantIn(standsAt(s.occurrences[0]), viewer) : 0);
  const inOrder = (list: readonly Snapshot[]) => [...list].sort((a, b) => first(a) - first(b));
  for (const key of isRenewed ? [byDate, byUrl, byTitle] : [byDate, byUrl]) {
    const waiting = new Map<string, Snapshot[]>();
    // The earliest stands last: taking from the end of a list costs the same however long it is.
    for (const s of inOrder(lost).reverse()) {
      const k = paired.has(s) ? null : key(s);
      if (!k) continue;
      const same = waiting.get(k);
      if (same) same.push(s);
      else waiting.set(k, [s]);
    }
    for (const s of inOrder(fresh)) {
      const k = paired.has(s) ? null : key(s);
      const was = k ? waiting.get(k)?.pop() : undefined;
      if (!was) continue;
      paired.add(was).add(s);
      pairs.push([was, s]);
    }
  }
  return pairs;
}

function differEntry(was: Snapshot, is: Snapshot, options: DifferOptions, result: Differences): void {
  const before = new Map(inHorizon(was.occurrences, options).map((o) => [o.recurrenceId, o]));
  const after = new Map(inHorizon(is.occurrences, options).map((o) => [o.recurrenceId, o]));
  // A one-off that becomes a series, or the other way round, is compared by its first date.
  if (before.size === 1 && after.size === 1 && [...before.keys()][0] !== [...after.keys()][0])
    return differOne(is.uid, [...before.values()][0]!, [...after.values()][0]!, result);
  const gone = [...before.values()].filter((o) => !after.has(o.recurrenceId));
  const come = [...after.values()].filter((o) => !before.has(o.recurrenceId));
  const shift = wholeShift(gone, come, before.size, options.viewer);
  if (shift) {
    result.moved.push({
      uid: is.uid,
      recurrenceId: null,
      title: is.title,
      from: standsAt(shift[0]![0]),
      to: standsAt(shift[0]![1]),
      occurrences: shift.length,
    });
    for (const [a, b] of shift)
      result.movedIds.push({ uid: is.uid, from: a.recurrenceId, to: b.recurrenceId });
  } else {
    for (const o of come.filter(isLive)) result.added.push(changeOf(is.uid, o));
    for (const o of gone.filter(isLive))
      (isOver(o, options) ? result.rolledOff : result.removed).push(changeOf(is.uid, o));
  }
  const kept = [...after.values()].filter((o) => before.has(o.recurrenceId));
  for (const o of kept) differOne(is.uid, before.get(o.recurrenceId)!, o, result);
  retitle(was, is, kept.length ? kept.map((o) => [before.get(o.recurrenceId)!, o]) : (shift ?? []), result);
}

/** Date and status of one occurrence. */
function differOne(uid: string, was: Standing, is: Standing, result: Differences): void {
  if (isLive(was) && !isLive(is)) result.calledOff.push(changeOf(uid, is));
  else if (!isLive(was) && isLive(is)) result.added.push(changeOf(uid, is));
  else if (isLive(is) && recurrenceIdOf(standsAt(was)) !== recurrenceIdOf(standsAt(is))) {
    result.moved.push({
      uid,
      recurrenceId: is.recurrenceId || null,
      title: is.title,
      from: standsAt(was),
      to: standsAt(is),
    });
  }
}

/**
 * Wording: told once for a whole series where all of it changes alike, else for each occurrence that does.
 */
function retitle(
  was: Snapshot,
  is: Snapshot,
  pairs: readonly (readonly [Standing, Standing])[],
  result: Differences,
): void {
  const changed = pairs.filter(([a, b]) => isLive(b) && a.title !== b.title);
  const whole = was.title !== is.title;
  if (whole)
    result.reworded.push({ uid: is.uid, recurrenceId: null, title: is.title, from: was.title, to: is.title });
  for (const [a, b] of changed) {
    if (whole && a.title === was.title && b.title === is.title) continue;
    result.reworded.push({
      uid: is.uid,
      recurrenceId: b.recurrenceId || null,
      title: b.title,
      from: a.title,
      to: b.title,
    });
  }
  if (!whole && !changed.length && was.wording !== is.wording)
    result.reworded.push({ uid: is.uid, recurrenceId: null, title: is.title, from: was.title, to: is.title });
}

/**
 * Whether most of a series was moved by one distance: then it is one move, and each occurrence knows its new
 * place.
 */
function wholeShift(
  gone: readonly Standing[],
  come: readonly Standing[],
  size: number,
  viewer: Zone,
): [Standing, Standing][] | null {
  if (gone.length < 2 || gone.length !== come.length || gone.length * 2 < size) return null;
  const local = (o: Standing) => localIn(o.start, o.start.kind === 'instant' ? viewer : UTC);
  const a = [...gone].sort((x, y) => local(x) - local(y));
  const b = [...come].sort((x, y) => local(x) - local(y));
  const delta = local(b[0]!) - local(a[0]!);
  return a.every((o, i) => local(b[i]!) - local(o) === delta) ? a.map((o, i) => [o, b[i]!]) : null;
}

/** Entries that still had something to come before a reading: what a sudden loss is measured against. */
export const upcoming = (before: readonly Snapshot[], options: DifferOptions): number =>
  before.filter((s) => inHorizon(s.occurrences, options).some((o) => isLive(o) && !isOver(o, options)))
    .length;

/**
 * Whether a reading is to be held back: it came back empty, or most of what was still to come is missing. A
 * mistake of the other server must not look like "everything was removed".
 */
export function isSuspicious(differences: Differences, stillToCome: number): boolean {
  const lost = new Set(differences.removed.filter((r) => r.recurrenceId === null).map((r) => r.uid)).size;
  return stillToCome >= 2 && lost === stillToCome ? true : stillToCome >= 4 && lost * 2 > stillToCome;
}
