import { isPersonal } from '@zephyrfield/core/item/layer';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { Refusal, call } from './client';
import { onKept, useOutbox } from './outbox';
import { letGo, refuse, versionsFollow } from './outbox-settle';
import { FAULT, OUTBOX, isForNow, type Kept, type Refused } from './outbox-kept';
import { useSeeAs } from './see-as';

/** Time until it is tried again while something waits, in milliseconds. */
const AGAIN = 15_000;
/** Number of times a change is tried that others were faster with, or that the server fails over. */
const TRIES = 3;
const CHANGED = 409;

/** The server does not take a change, and says why. */
class NotTaken extends Error {
  constructor(readonly refused: Refused) {
    super(refused.title);
  }
}

// What a later version has kept is left to it.
const next = () => useOutbox.getState().waiting.find((k) => !k.refused && Object.hasOwn(SEND, k.kind));

/** Does something while no other window of this browser does it. */
const alone = (work: () => Promise<void>): Promise<void> =>
  // Only by https, or on this machine: elsewhere two windows may send the same, which is one to the server.
  globalThis.navigator?.locks ? navigator.locks.request(OUTBOX, work) : work();

let sending: Promise<void> = Promise.resolve();
let timer: ReturnType<typeof setTimeout> | undefined;

/**
 * Sends what waits, in order, as far as there is a way to the server. What it does not take stays, with why, and lets
 * the next one pass.
 * @param sent called for each learner something was sent of, or refused
 */
export function sendKept(sent: (learnerId: string) => void): Promise<void> {
  // With somebody else’s eyes nothing is taken: it would be refused.
  if (useSeeAs.getState().as || !next()) return Promise.resolve();
  // What is asked for while another turn goes is tried after it: there may be a way by then.
  const turn = () => alone(() => sendAll(sent));
  return (sending = sending.then(turn, turn));
}

async function sendAll(sent: (learnerId: string) => void): Promise<void> {
  for (let kept = next(); kept; kept = next()) {
    try {
      await SEND[kept.kind](kept as never);
      letGo(kept.key);
    } catch (error) {
      const faults = countFault(kept.key, error);
      if (faults > 0 && faults < TRIES) return;
      if (error instanceof Refusal && !isForNow(error.problem)) refuse(kept.key, error.problem);
      else if (error instanceof NotTaken) refuse(kept.key, error.refused);
      else if (!(error instanceof Refusal)) refuse(kept.key, { title: 'This cannot be read any more.' });
      // A server that starts, has no room, or does not know any more who this is, takes it later.
      else return;
    }
    sent(kept.learnerId);
  }
}

/** Counts of the server's failures over each change: one that it always fails over must not keep the others from it. */
const faults = new Map<string, number>();
function countFault(key: string, error: unknown): number {
  if (!(error instanceof Refusal) || error.problem.status !== FAULT) return 0;
  const count = (faults.get(key) ?? 0) + 1;
  faults.set(key, count);
  return count;
}

type Of<K extends Kept['kind']> = Extract<Kept, { kind: K }>;

const SEND: { [K in Kept['kind']]: (kept: Of<K>) => Promise<unknown> } = {
  layer: sendLayer,
  own: async ({ learnerId, writes }) => {
    const { written } = await call('writeOwn', { params: { learnerId }, body: { writes } });
    const from = new Map(writes.map((w) => [w.id, w.version]));
    versionsFollow(written.map(({ id, version }) => ({ name: id, from: from.get(id) ?? 0, to: version })));
  },
  async sitting({ learnerId, itemId, recurrenceId, sitting, told }) {
    const { runUps } = await call('plan', { params: { learnerId } });
    const version = runUps.find((r) => keyOf(r) === keyOf({ itemId, recurrenceId }))?.version ?? 0;
    const body = { recurrenceId, sitting, ...told, version };
    const written = await call('tellSitting', { params: { id: itemId }, body });
    versionsFollow([{ name: keyOf(written), from: version, to: written.version }]);
  },
  async runUps({ learnerId, writes }) {
    const { runUps } = await call('writeRunUps', { params: { learnerId }, body: { writes } });
    const from = new Map(writes.map((w) => [keyOf(w), w.version]));
    versionsFollow(runUps.map((r) => ({ name: keyOf(r), from: from.get(keyOf(r)) ?? 0, to: r.version })));
  },
  note: ({ body }) => call('writeNote', { body }),
  answer: ({ thread, body }) => call('answerNote', { params: { id: thread }, body }),
  async booking({ slotId, learnerId, word }) {
    const { taken, nearest } = await call('takeSlot', {
      params: { id: slotId },
      body: { learner: learnerId, word },
    });
    if (taken) return;
    throw new NotTaken({
      title: 'This time is no longer free.',
      remedy: nearest.length ? 'Choose another one under Open times.' : 'No other time is left.',
    });
  },
};

/** Writes what was changed of an item, and only that: whatever others have changed meanwhile stays. */
async function sendLayer({ itemId, recurrenceId, change, over }: Of<'layer'>): Promise<void> {
  const isOwn = isPersonal(change);
  for (let left = TRIES; ; left--) {
    const { occurrence, note } = await call('item', { params: { id: itemId }, query: { recurrenceId } });
    if (change.note !== undefined && over !== undefined && note !== over && note !== change.note)
      throw new NotTaken({
        title: 'This note was changed on another device meanwhile.',
        remedy: 'Choose which one to keep.',
        theirs: note,
      });
    const version = isOwn ? occurrence.personVersion : occurrence.version;
    try {
      await call(isOwn ? 'changePersonLayer' : 'changeLayer', {
        params: { id: itemId },
        body: { ...change, recurrenceId, version },
      });
      return;
    } catch (error) {
      if (!(error instanceof Refusal) || error.problem.status !== CHANGED || left === 1) throw error;
    }
  }
}

let whenSent: (learnerId: string) => void = () => {};
const tryNow = () => void sendKept(whenSent).then(watch, watch);
onKept({ now: tryNow, later: watch });

/** Sends what waits whenever there may be a way: now, once the device is back on the network, and now and then. */
export function followOutbox(sent: (learnerId: string) => void): () => void {
  whenSent = sent;
  globalThis.addEventListener?.('online', tryNow);
  tryNow();
  return () => {
    globalThis.removeEventListener?.('online', tryNow);
    clearTimeout(timer);
  };
}

function watch(): void {
  clearTimeout(timer);
  if (next()) timer = setTimeout(tryNow, AGAIN);
}
