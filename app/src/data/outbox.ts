import type { PlanView } from '@zephyrfield/core/api/plan';
import type { ItemView, OccurrenceView } from '@zephyrfield/core/api/schemas';
import { editOccurrence } from '@zephyrfield/core/item/layer';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import type { OwnItem } from '@zephyrfield/core/item/own';
import { whenShift } from '@zephyrfield/core/time/shift';
import { create } from 'zustand';
import { Refusal } from './client';
import { onForget, owner } from './forget';
import { newKey } from './key';
import type { LayerEdit } from './layer-edit';
import { serverNow } from './now';
import { OUTBOX, isKeptFirst, readKept, writeKept, type Deed, type Kept } from './outbox-kept';

// What was done and is not saved yet. It waits on this device, each person's for themselves, until it was saved, or
// was taken back; what the server does not take stays too, with why. What is done later to the same thing goes through
// here as well: it never overtakes, and what it makes pointless gives way.

/** Sends what waits: at once, or a while later. */
let send = { now: (): void => {}, later: (): void => {} };

interface Outbox {
  /** Of who is here; nobody sees, or sends, what somebody else has left */
  waiting: readonly Kept[];
}
const own = (all: readonly Kept[]) => all.filter((k) => k.of === owner());
export const useOutbox = create<Outbox>()(() => ({ waiting: own(readKept()) }));
// What an older version has kept is marked as whose it is before somebody else can be here.
if (owner() && readKept().length)
  try {
    writeKept(readKept());
  } catch {
    // A device without room keeps what it has.
  }
/** Shows what lies there now, of who is here now. */
const look = () => useOutbox.setState({ waiting: own(readKept()) });
onForget(() => {
  look();
  send.now();
}, OUTBOX);
globalThis.addEventListener?.('storage', ({ key }) => {
  if (key === OUTBOX) look();
});

/** Changes what waits as it is now: other windows of this browser keep theirs in the same place. */
export function changeKept(how: (waiting: readonly Kept[]) => readonly Kept[]): void {
  writeKept(how(readKept()));
  look();
}

/** Has something be called whenever there is more to send. */
export const onKept = (sends: typeof send): void => void (send = sends);

/** Sends what waits, if there is a way. */
export const sendNow = (): void => send.now();

/** Tells whether something failed only for now, so that it is kept: a page need not lose what was done in it. */
export const isUnreached = (error: unknown): boolean =>
  error instanceof Refusal && isKeptFirst(error.problem);

type Keepable = Deed & { learnerId: string; words: string };

/**
 * Keeps a change until it is saved.
 * @param isBehind there is a way to the server, but something has to go before it
 * @returns whether it is kept: a device may have no room left, or keep nothing at all
 */
export function keepForLater(given: Keepable, isBehind = false): boolean {
  try {
    changeKept((waiting) => added(waiting, { ...given, key: newKey(), of: owner() }));
  } catch {
    return false;
  }
  if (isBehind) send.now();
  else send.later();
  return true;
}

/** A write that waits: of an own item or of a run-up. */
export type Write = Extract<Deed, { writes: unknown }>['writes'][number];
/** Names what a write is of; null for what is new. */
export const nameOf = (w: Write): string | null => ('runUp' in w ? keyOf(w) : w.id);

/** Adds a change behind the others; what it makes pointless among those of the same thing gives way. */
function added(waiting: readonly Kept[], next: Kept): Kept[] {
  let last = next;
  const before = waiting.flatMap((k): Kept[] => {
    if (k.of !== next.of) return [k];
    if (k.kind === 'layer' && last.kind === 'layer' && keyOf(k) === keyOf(last)) {
      const { change: next } = last;
      // Another note is meant for what stood there before the first of them.
      if (k.change.note !== undefined && next.note !== undefined) last = { ...last, over: k.over };
      const left = Object.entries(k.change).filter(([name]) => next[name as keyof LayerEdit] === undefined);
      return left.length ? [{ ...k, change: Object.fromEntries(left) }] : [];
    }
    if ('writes' in k && 'writes' in last && k.kind === last.kind) {
      const [only] = k.writes as Write[];
      const id = k.writes.length === 1 ? nameOf(only!) : null;
      const isAgain = id !== null && (last.writes as Write[]).some((w) => nameOf(w) === id);
      if (!isAgain) return [k];
      // It is meant for the version that the first of them was made on.
      const writes = (last.writes as Write[]).map((w) =>
        nameOf(w) === id ? { ...w, version: only!.version } : w,
      );
      last = { ...last, writes } as Kept;
      return [];
    }
    const isSame =
      k.kind === 'sitting' &&
      last.kind === 'sitting' &&
      keyOf(k) === keyOf(last) &&
      k.sitting === last.sitting;
    return isSame ? [] : [k];
  });
  return [...before, last];
}

/** Tells whether something waits that a change of an item, or of one of its dates, has to go behind. */
export const waitsFor = (itemId: string, kinds: readonly Deed['kind'][]): boolean =>
  useOutbox
    .getState()
    .waiting.some(
      (k) =>
        kinds.includes(k.kind) &&
        ('writes' in k
          ? (k.writes as Write[]).some((w) => ('runUp' in w ? w.itemId : w.id) === itemId)
          : 'itemId' in k && k.itemId === itemId),
    );

// What is shown is what the server said, with what it does not know of yet; what it has refused is not.
const sendable = (): Kept[] => useOutbox.getState().waiting.filter((k) => !k.refused);

const keptOf = (of: { itemId: string; recurrenceId: string }): LayerEdit[] =>
  sendable().flatMap((k) => (k.kind === 'layer' && keyOf(k) === keyOf(of) ? [k.change] : []));

/** An occurrence as the server said it, with what has not been sent yet. */
export const withKept = (said: OccurrenceView): OccurrenceView =>
  keptOf(said).reduce((shown, edit) => editOccurrence(shown, edit, serverNow()), said);

/** Gives a list of the server's with what was changed and is not saved yet. */
export function listWithKept(said: OccurrenceView[]): OccurrenceView[] {
  const all = sendable();
  if (!all.length) return said;
  const marked = new Set(all.flatMap((k) => (k.kind === 'layer' ? [k.itemId] : [])));
  const written = new Map(
    all.flatMap((k) =>
      k.kind === 'own' ? k.writes.flatMap((w) => (w.id ? [[w.id, w.item] as const] : [])) : [],
    ),
  );
  return said.flatMap((o) => {
    const item = written.get(o.itemId);
    if (item === null) return [];
    const changed = item ? asWritten(o, item) : o;
    return [marked.has(o.itemId) ? withKept(changed) : changed];
  });
}

/** An own item as it was changed; the dates of what repeats stay where they are until the server has said them. */
function asWritten(
  o: OccurrenceView,
  { title, place, kind, handIn, when, end, repeat }: OwnItem,
): OccurrenceView {
  if (repeat || !when) return repeat ? o : { ...o, title, place, kind, handIn };
  const times = o.due ? { due: when, start: whenShift(o.start, o.due, when) } : { start: when, end };
  return { ...o, title, place, kind, handIn, ...times };
}

/** Everything known of an item, with what has not been sent yet. */
export const itemWithKept = (said: ItemView): ItemView => ({
  ...said,
  occurrence: withKept(said.occurrence),
  note: keptOf(said.occurrence).findLast((edit) => edit.note !== undefined)?.note ?? said.note,
});

/** A plan as the server said it, with the sittings that were told of and are not sent yet. */
export const planWithKept = (said: PlanView): PlanView => {
  const told = sendable().flatMap((k) => (k.kind === 'sitting' ? [k] : []));
  const planned = new Map(
    sendable().flatMap((k) => (k.kind === 'runUps' ? k.writes.map((w) => [keyOf(w), w] as const) : [])),
  );
  if (!told.length && !planned.size) return said;
  const known = new Set(said.runUps.map(keyOf));
  const made = [...planned.values()].filter((w) => !known.has(keyOf(w)));
  const runUps = [...said.runUps.map((r) => ({ ...r, ...planned.get(keyOf(r)) })), ...made]
    .filter((r) => r.runUp !== null)
    .map((r) => ({
      ...r,
      runUp: {
        ...r.runUp!,
        sittings: r.runUp!.sittings.map((s) =>
          told
            .filter((k) => keyOf(k) === keyOf(r) && k.sitting === s.key)
            .reduce((now, k) => ({ ...now, ...k.told }), s),
        ),
      },
    }));
  return { ...said, runUps: runUps as PlanView['runUps'] };
};
