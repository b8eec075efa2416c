import type { OccurrenceView, OwnWrite, OwnWritten } from '@zephyrfield/core/api/schemas';
import { changeOne, splitAt, type OwnItem } from '@zephyrfield/core/item/own';
import { whenShift } from '@zephyrfield/core/time/shift';
import { recurrenceIdOf, type When } from '@zephyrfield/core/time/when';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { between, nearDays } from '@zephyrfield/core/view/near';
import type { Query } from '@tanstack/react-query';
import { Refusal, call } from './client';
import { useUndo } from './undo';
import { ownAt, type OwnAt } from './own-at';
import { serverNow } from './now';
import { newKey } from './key';
import { isUnreached, keepForLater, listWithKept, waitsFor } from './outbox';
import { askAnewOnTheWay, keys, queryClient, refresh, refreshLearner } from './queries';
import { writing } from './writing';

/**
 * Writes items of a person's own making, all or none, with the way back. What cannot be sent is kept on this device;
 * nothing is given of it yet.
 * @throws Refusal
 */
export const writeOwn = (learnerId: string, writes: OwnWrite[], words: string): Promise<OwnWritten[]> =>
  writing(write(learnerId, writes, words));

/** So many are written by one request. */
const AT_ONCE = 50;

/**
 * Writes as many items as there are, with one way back for all of them. Where some cannot be written, what was written
 * before them is put back.
 * @throws Refusal
 */
export const writeManyOwn = (learnerId: string, given: OwnWrite[], words: string): Promise<void> =>
  writing(writeMany(learnerId, given, words));

async function writeMany(learnerId: string, given: OwnWrite[], words: string): Promise<void> {
  const written: OwnWritten[] = [];
  try {
    for (let at = 0; at < given.length; at += AT_ONCE)
      written.push(...(await send(learnerId, given.slice(at, at + AT_ONCE))));
  } catch (error) {
    const rest = given.slice(written.length);
    if (isUnreached(error) && keepRest(learnerId, rest, words)) return;
    await putBackMany(learnerId, written);
    throw error;
  }
  useUndo.getState().did({ words, undo: () => writing(putBackMany(learnerId, written)) });
}

/** Keeps what of many could not be sent any more, in parts that the server takes. */
function keepRest(learnerId: string, rest: readonly OwnWrite[], words: string): boolean {
  for (let at = 0; at < rest.length; at += AT_ONCE) {
    const writes = rest.slice(at, at + AT_ONCE).map(keyed);
    if (!keepForLater({ kind: 'own', learnerId, writes, words })) return false;
  }
  return true;
}

/** Sent again after its answer was lost, a new one is still one. */
const keyed = (write: OwnWrite): OwnWrite =>
  write.id === null ? { ...write, key: write.key ?? newKey() } : write;

async function putBackMany(learnerId: string, written: OwnWritten[]): Promise<void> {
  for (let end = written.length; end > 0; end -= AT_ONCE)
    await putBack(learnerId, written.slice(Math.max(0, end - AT_ONCE), end));
}

async function write(learnerId: string, given: OwnWrite[], words: string): Promise<OwnWritten[]> {
  const writes = given.map(keyed);
  const keep = (isBehind: boolean) => keepForLater({ kind: 'own', learnerId, writes, words }, isBehind);
  if (writes.some((w) => w.id !== null && waitsFor(w.id, ['own'])) && keep(true)) {
    showKept(learnerId);
    return [];
  }
  let written: OwnWritten[];
  try {
    written = await send(learnerId, writes);
  } catch (error) {
    if (!isUnreached(error) || !keep(false)) throw error;
    showKept(learnerId);
    return [];
  }
  useUndo.getState().did({ words, undo: () => writing(putBack(learnerId, written)) });
  return written;
}

/** Shows what was changed and is not saved yet. */
function showKept(learnerId: string): void {
  const put = (list: OccurrenceView[] | undefined) => list && listWithKept(list);
  queryClient.setQueriesData<OccurrenceView[]>({ queryKey: keys.occurrences(learnerId) }, put);
  queryClient.setQueryData<OccurrenceView[]>(keys.undated(learnerId), put);
}

async function putBack(learnerId: string, written: OwnWritten[]): Promise<void> {
  await send(
    learnerId,
    [...written].reverse().map(({ id, version, before }) => ({ id, version, ...before })),
  );
}

/**
 * Writes them, and puts what came of them in place of what is shown: whoever goes on at that moment finds it
 * there.
 */
async function send(learnerId: string, writes: OwnWrite[]): Promise<OwnWritten[]> {
  const { first, last } = nearDays(serverNow());
  const near = [...keys.occurrences(learnerId), first, last];
  const { written, occurrences } = await call('writeOwn', {
    params: { learnerId },
    body: { writes, shown: between(first, last) },
  });
  const ids = new Set(written.map((w) => w.id));
  const put = (isUndated: boolean) => (list: OccurrenceView[] | undefined) =>
    list && [
      ...list.filter((o) => !ids.has(o.itemId)),
      ...occurrences.filter((o) => o.undated === isUndated),
    ];
  queryClient.setQueryData<OccurrenceView[]>(near, put(false));
  queryClient.setQueryData<OccurrenceView[]>(keys.undated(learnerId), put(true));
  const isFar = ({ queryKey }: Query) => queryKey[2] === 'occurrences' && queryKey.join() !== near.join();
  await askAnewOnTheWay(['learner', learnerId]);
  await queryClient.invalidateQueries({ queryKey: ['learner', learnerId], predicate: isFar });
  await Promise.all([refresh(['learner', learnerId, 'texts']), refresh(['item'])]);
  return written;
}

/** Which dates of a repeated item a change is meant for. */
export type Scope = 'one' | 'later' | 'all';

const zoneOf = (when: When | null) => (when?.kind === 'instant' ? (ianaZone(when.zone) ?? UTC) : UTC);
const zones = (name: string) => ianaZone(name) ?? UTC;

/**
 * What is to be written so that an own item is changed, for one date, for it and all later ones, or for all.
 * @param next the whole item as it is to be; its `when` and `end` are those of the date it was opened at
 */
export function writesFor(
  { id, version, item, of, calendarId: was }: OwnAt,
  next: OwnItem,
  calendarId: string,
  scope: Scope,
): OwnWrite[] {
  if (!of || !item.repeat || !item.when) return [{ id, calendarId, item: next, version }];
  if (scope === 'one') {
    const { title, place, details, when, end } = next;
    const change = { title, place, details, ...(when ? { when } : {}), end };
    return [{ id, calendarId: was, item: changeOne(item, of, change), version }];
  }
  const { before, after } = splitAt(item, of, zoneOf(item.when), zones);
  if (scope === 'later' && before) {
    const kept = next.repeat && {
      ...next.repeat,
      rule: next.repeat.rule === item.repeat.rule ? after.repeat!.rule : next.repeat.rule,
      except: after.repeat!.except,
    };
    return [
      { id, calendarId: was, item: before, version },
      {
        id: null,
        calendarId,
        item: { ...next, repeat: kept, changes: sameDates(after, next) ? after.changes : [] },
        version: 0,
        from: id,
      },
    ];
  }
  // All of them: what was moved at the date it was opened at moves the whole as far.
  const when = next.when && whenShift(item.when, of, next.when);
  const end = next.end && next.when && when && whenShift(next.end, next.when, when);
  const all = { ...next, when, end };
  return [{ id, calendarId, item: { ...all, changes: sameDates(item, all) ? item.changes : [] }, version }];
}

/** Single dates keep their changes while the dates themselves stay what they are. */
const sameDates = (a: OwnItem, b: OwnItem) =>
  JSON.stringify([a.when, a.repeat?.rule]) === JSON.stringify([b.when, b.repeat?.rule]);

/** Gives what is to be written so that it is gone: on one date, from there on, or altogether. */
export function removalsFor({ id, version, item, of, calendarId }: OwnAt, scope: Scope): OwnWrite[] {
  if (of && item.repeat && scope === 'one')
    return [{ id, calendarId, item: changeOne(item, of, { calledOff: true }), version }];
  const before =
    of && item.repeat && scope === 'later' ? splitAt(item, of, zoneOf(item.when), zones).before : null;
  return [{ id, calendarId, item: before, version }];
}

/** Tells whether a write was refused because what it was made on is no longer what stands there. */
export const isChangedMeanwhile = (error: unknown): boolean =>
  error instanceof Refusal && error.problem.type === CHANGED_MEANWHILE;

const CHANGED_MEANWHILE = 'urn:zephyrfield:changed-meanwhile';

/**
 * An own item as somebody else has written it meanwhile, at the date it was opened at.
 * @returns `isGone` where they have taken that date, or all of it, away
 * @throws Refusal
 */
export async function asItStands({ id, of }: OwnAt): Promise<{ at: OwnAt; isGone: boolean }> {
  const recurrenceId = of ? recurrenceIdOf(of) : '';
  const view = await call('item', { params: { id }, query: { recurrenceId } });
  const at = ownAt(view)!;
  const isGone = view.gone || view.occurrence.recurrenceId !== recurrenceId;
  return { at: isGone ? { ...at, of } : at, isGone };
}

/**
 * An own occurrence as it stands now.
 * @throws Refusal where somebody has taken it away since it was shown: to move it must not bring it back, nor
 *   move another of its dates
 */
async function standing({ itemId, recurrenceId }: OccurrenceView): Promise<OwnAt> {
  const view = await call('item', { params: { id: itemId }, query: { recurrenceId } });
  const at = ownAt(view);
  if (at && !view.gone && view.occurrence.recurrenceId === recurrenceId) return at;
  throw new Refusal({
    type: CHANGED_MEANWHILE,
    title: 'Somebody else deleted this a moment ago.',
    status: 409,
    remedy: 'You now see it as it is.',
  });
}

/** Moves an own occurrence to another time; of what repeats, this date alone. Shown at once. */
export const moveOwn = (
  learnerId: string,
  occurrence: OccurrenceView,
  when: When,
  words: string,
  length?: When | null,
): Promise<void> => writing(move(learnerId, occurrence, when, words, length));

async function move(
  learnerId: string,
  occurrence: OccurrenceView,
  when: When,
  words: string,
  length?: When | null,
): Promise<void> {
  const shift = (o: OccurrenceView): OccurrenceView =>
    o.due
      ? { ...o, due: when, start: whenShift(o.start, o.due, when) }
      : { ...o, start: when, end: length !== undefined ? length : o.end && whenShift(o.end, o.start, when) };
  const isIt = (o: OccurrenceView) =>
    o.itemId === occurrence.itemId && o.recurrenceId === occurrence.recurrenceId;
  queryClient.setQueriesData<OccurrenceView[]>({ queryKey: keys.occurrences(learnerId) }, (list) =>
    list?.map((o) => (isIt(o) ? shift(o) : o)),
  );
  try {
    const at = await standing(occurrence);
    const from = occurrence.due ?? occurrence.start;
    const end = length !== undefined ? length : occurrence.end && whenShift(occurrence.end, from, when);
    const face = {
      ...at.item,
      title: occurrence.title,
      place: occurrence.place,
      when,
      end: at.item.end || length ? end : null,
    };
    await write(learnerId, writesFor(at, face, at.calendarId, 'one'), words);
  } catch (error) {
    useUndo.getState().failed(error);
    await refreshLearner(queryClient, learnerId);
  }
}

/**
 * Puts own items into another calendar, each with all its dates; what a feed brought stays where it is.
 * @returns how many stayed
 */
export async function changeCalendarOf(
  learnerId: string,
  occurrences: readonly OccurrenceView[],
  calendarId: string,
  words: string,
): Promise<number> {
  const ids = [...new Set(occurrences.filter((o) => o.own).map((o) => o.itemId))];
  const views = await Promise.all(
    ids.map((id) => call('item', { params: { id }, query: { recurrenceId: '' } })),
  );
  const writes = views.flatMap(({ own, gone, occurrence }) =>
    own && !gone && occurrence.calendarId !== calendarId
      ? [{ id: occurrence.itemId, calendarId, item: own.item, version: own.version }]
      : [],
  );
  if (writes.length) await writeOwn(learnerId, writes, words);
  return occurrences.filter((o) => !o.own).length;
}
