import { keyOf } from '@zephyrfield/core/item/occurrence';
import type { ItemView, OccurrenceView } from '@zephyrfield/core/api/schemas';
import { editOccurrence, isPersonal } from '@zephyrfield/core/item/layer';
import { call } from './client';
import type { LayerEdit } from './layer-edit';
import { serverNow } from './now';
import { isUnreached, keepForLater, waitsFor } from './outbox';
import { useUndo } from './undo';
import { writing } from './writing';
import { askAnewOnTheWay, keys, learnerOf, queryClient, refresh } from './queries';

export type { LayerEdit };

const same = (a: { itemId: string; recurrenceId: string }, b: { itemId: string; recurrenceId: string }) =>
  a.itemId === b.itemId && a.recurrenceId === b.recurrenceId;

/** Puts an occurrence in place of itself wherever it is shown. */
function show(learnerId: string, next: OccurrenceView): void {
  const put = (list: OccurrenceView[] | undefined) => list?.map((o) => (same(o, next) ? next : o));
  queryClient.setQueriesData<OccurrenceView[]>({ queryKey: keys.occurrences(learnerId) }, put);
  queryClient.setQueryData<OccurrenceView[]>(keys.undated(learnerId), put);
  queryClient.setQueryData<ItemView>(
    keys.item(next.itemId, next.recurrenceId),
    (item) => item && { ...item, occurrence: next },
  );
}

/** An occurrence as it is known now, which may be later than what a component holds. */
function latest(learnerId: string, given: OccurrenceView): OccurrenceView {
  const lists = [
    ...queryClient
      .getQueriesData<OccurrenceView[]>({ queryKey: keys.occurrences(learnerId) })
      .map(([, list]) => list),
    queryClient.getQueryData<OccurrenceView[]>(keys.undated(learnerId)),
  ];
  const found = lists.flatMap((list) => list?.filter((o) => same(o, given)) ?? []);
  return found.reduce(
    (a, b) => (b.version + b.personVersion > a.version + a.personVersion ? b : a),
    queryClient.getQueryData<ItemView>(keys.item(given.itemId, given.recurrenceId))?.occurrence ??
      found[0] ??
      given,
  );
}

/**
 * The versions our last change of each occurrence made: what is shown may be older, where a refresh began
 * before that change.
 */
const written = new Map<string, Pick<OccurrenceView, 'version' | 'personVersion'>>();

/** Changes of one occurrence go one after the other, each on the version the last one made. */
const queues = new Map<string, Promise<unknown>>();
function inTurn<T>(id: string, work: () => Promise<T>): Promise<T> {
  const turn = (queues.get(id) ?? Promise.resolve()).then(work, work);
  queues.set(id, turn);
  return turn;
}

/** Gives what takes a change back. */
function inverse(before: OccurrenceView, change: LayerEdit): LayerEdit {
  const back: LayerEdit = {};
  for (const name of ['finished', 'stillToDo', 'aim', 'estimate', 'hidden', 'colour', 'position'] as const)
    if (change[name] !== undefined) Object.assign(back, { [name]: before[name] });
  if (change.handedIn !== undefined) back.handedIn = before.handedIn && { way: before.handedIn };
  return back;
}

/** Says that work is still to do, though its date has passed or it has closed. */
export const keepOpen = (learnerId: string, occurrence: OccurrenceView) =>
  changeLayer(learnerId, occurrence, { stillToDo: true }, { words: `${occurrence.title}: still to do` });

export interface LayerOptions {
  /** What it was, for who may want to undo it; without it, it is no step of its own */
  words?: string | undefined;
  /** What takes it back, where an occurrence does not tell */
  back?: LayerEdit | undefined;
  asks?: boolean;
}

/**
 * Changes what has been added to an occurrence, by the crew or for oneself: shown at once, taken back with a
 * word where the server refuses.
 * @returns the occurrence as it then is; null where it was refused
 */
export const changeLayer = (
  learnerId: string,
  given: OccurrenceView,
  change: LayerEdit,
  options: LayerOptions = {},
): Promise<OccurrenceView | null> => writing(write(learnerOf(learnerId, given), given, change, options));

async function write(
  learnerId: string,
  given: OccurrenceView,
  change: LayerEdit,
  { words, back, asks = false }: LayerOptions,
): Promise<OccurrenceView | null> {
  const before = latest(learnerId, given);
  const id = keyOf(given);
  const [name, counter] = isPersonal(change)
    ? (['changePersonLayer', 'personVersion'] as const)
    : (['changeLayer', 'version'] as const);
  const undoable = (saved: OccurrenceView) => {
    if (!words) return;
    const undo = () => changeLayer(learnerId, saved, { ...inverse(before, change), ...back }).then(() => {});
    useUndo.getState().did({ words, undo, ...(asks ? { asks: saved } : {}) });
  };
  const keep = (isBehind = false): OccurrenceView | null => {
    if (change.timer !== undefined) return null;
    if (!keepChange(learnerId, given, change, words, { over: back?.note, isBehind })) return null;
    const saved = latest(learnerId, given);
    undoable(saved);
    return saved;
  };
  const version = () => Math.max(latest(learnerId, given)[counter], written.get(id)?.[counter] ?? 0);
  show(learnerId, editOccurrence(before, change, serverNow()));
  // What waits goes first, and what is done now goes behind it.
  const waits = waitsFor(given.itemId, ['layer']) ? keep(true) : null;
  if (waits) return waits;
  try {
    const saved = await inTurn(id, async () => {
      const reply = await call(name, {
        params: { id: given.itemId },
        body: { ...change, recurrenceId: given.recurrenceId, version: version() },
      });
      written.set(id, reply);
      show(learnerId, reply);
      return reply;
    });
    void askAnewOnTheWay(['learner', learnerId]);
    void refresh(keys.item(given.itemId, given.recurrenceId));
    if (change.timer !== undefined || change.finished) void refresh(keys.timer(learnerId));
    undoable(saved);
    return saved;
  } catch (error) {
    const kept = isUnreached(error) ? keep() : null;
    if (kept) return kept;
    show(learnerId, before);
    // Whatever is the matter, what the server says from now on counts.
    written.delete(id);
    useUndo.getState().failed(error);
    void refresh(['learner', learnerId]);
    void refresh(['item', given.itemId]);
    return null;
  }
}

/** Keeps a change until it can be sent; says whether it is kept. */
const keepChange = (
  learnerId: string,
  { itemId, recurrenceId, title }: OccurrenceView,
  change: LayerEdit,
  words: string | null | undefined,
  { over, isBehind = false }: { over?: string | undefined; isBehind?: boolean } = {},
): boolean =>
  keepForLater(
    { kind: 'layer', learnerId, itemId, recurrenceId, change, over, words: words ?? title },
    isBehind,
  );

/** How many go in one asking. */
const AT_ONCE = 500;

/** Finishes many at once, or opens them again: one step, which is taken back in one step. */
export const finishAll = (
  learnerId: string,
  occurrences: readonly OccurrenceView[],
  finished: boolean,
  words: string | null,
): Promise<void> => {
  const byLearner = new Map<string, OccurrenceView[]>();
  for (const o of occurrences) {
    const id = learnerOf(learnerId, o);
    byLearner.set(id, [...(byLearner.get(id) ?? []), o]);
  }
  return writing(
    Promise.all([...byLearner].map(([id, those]) => writeAll(id, those, finished, words))).then(() => {}),
  );
};

async function writeAll(
  learnerId: string,
  occurrences: readonly OccurrenceView[],
  finished: boolean,
  words: string | null,
): Promise<void> {
  const all = occurrences.map((o) => latest(learnerId, o)).filter((o) => o.finished !== finished);
  const saved: OccurrenceView[] = [];
  try {
    for (let i = 0; i < all.length; i += AT_ONCE) {
      const items = all
        .slice(i, i + AT_ONCE)
        .map(({ itemId, recurrenceId, version }) => ({ itemId, recurrenceId, version }));
      saved.push(...(await call('finishAll', { params: { learnerId }, body: { items, finished } })));
    }
  } catch (error) {
    const kept = (o: OccurrenceView) => isUnreached(error) && keepChange(learnerId, o, { finished }, null);
    let at = saved.length;
    for (; at < all.length && kept(all[at]!); at++)
      show(learnerId, editOccurrence(all[at]!, { finished }, serverNow()));
    if (at < all.length) useUndo.getState().failed(error);
  }
  for (const o of saved) {
    written.set(keyOf(o), o);
    show(learnerId, o);
  }
  void refresh(['learner', learnerId]);
  if (words && saved.length)
    useUndo.getState().did({ words, undo: () => finishAll(learnerId, saved, !finished, null) });
}

/** Tells whether it is worth knowing how something was handed in. */
const isHandedIn = ({ handIn }: OccurrenceView): boolean => handIn !== 'nothing';

/** Ticks off, or takes it back. */
export const finish = (
  learnerId: string,
  occurrence: OccurrenceView,
  finished: boolean,
): Promise<OccurrenceView | null> =>
  changeLayer(
    learnerId,
    occurrence,
    { finished },
    {
      words: `${occurrence.title}: ${finished ? 'finished' : 'not finished after all'}`,
      asks: finished && isHandedIn(occurrence),
    },
  );
