import type { ItemView, OccurrenceView, OwnWrite } from '@zephyrfield/core/api/schemas';
import { editOccurrence, isPersonal } from '@zephyrfield/core/item/layer';
import { create } from 'zustand';
import { Refusal, call } from './client';
import { onForget } from './forget';
import { isRecord } from './kept';
import { newKey } from './key';
import type { LayerEdit } from './layer-edit';
import { serverNow } from './now';
import { useSeeAs } from './see-as';
import { useUndo } from './undo';

/** A change that could not be sent: it is kept on this device, in the order things were done. */
export type Kept = { key: string; learnerId: string; words: string } & (
  | { kind: 'layer'; itemId: string; recurrenceId: string; change: LayerEdit }
  | { kind: 'own'; writes: OwnWrite[] }
);

const NAME = 'zephyrfield-outbox';
/** So often it is tried again while something waits, in milliseconds. */
const AGAIN = 15_000;

function read(): Kept[] {
  if (typeof localStorage === 'undefined') return [];
  try {
    const value: unknown = JSON.parse(localStorage.getItem(NAME) ?? '[]');
    return Array.isArray(value) ? value.filter(isKept) : [];
  } catch {
    return [];
  }
}
const isKept = (value: unknown): value is Kept =>
  isRecord(value) &&
  typeof value['key'] === 'string' &&
  typeof value['learnerId'] === 'string' &&
  typeof value['words'] === 'string' &&
  (value['kind'] === 'own'
    ? Array.isArray(value['writes'])
    : value['kind'] === 'layer' && isRecord(value['change']));

interface Outbox {
  waiting: readonly Kept[];
}
export const useOutbox = create<Outbox>()(() => ({ waiting: read() }));
onForget(() => useOutbox.setState({ waiting: [] }), NAME);

/** Changes what waits as it is now: other windows of this browser keep theirs in the same place. */
function keep(change: (waiting: readonly Kept[]) => readonly Kept[]): void {
  const waiting = change(read());
  localStorage.setItem(NAME, JSON.stringify(waiting));
  useOutbox.setState({ waiting });
}
globalThis.addEventListener?.('storage', ({ key }) => {
  if (key === NAME) useOutbox.setState({ waiting: read() });
});

/** Whether something failed since there is no way to the server: then it is kept. */
export const isUnreached = (error: unknown): boolean =>
  error instanceof Refusal && error.problem.status === 0;

/**
 * Keeps a change until it can be sent.
 * @returns whether it is kept: a device may have no room left, or keep nothing at all
 */
export function keepForLater(change: DistributiveOmit<Kept, 'key'>): boolean {
  try {
    keep((waiting) => [...waiting, { ...change, key: newKey() } as Kept]);
  } catch {
    return false;
  }
  watch();
  return true;
}
type DistributiveOmit<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;

/** What has not been sent yet of an occurrence. */
const keptOf = ({ itemId, recurrenceId }: OccurrenceView): LayerEdit[] =>
  useOutbox
    .getState()
    .waiting.flatMap((k) =>
      k.kind === 'layer' && k.itemId === itemId && k.recurrenceId === recurrenceId ? [k.change] : [],
    );

/** What is shown of an occurrence: what the server said, with what has not been sent yet. */
export const withKept = (said: OccurrenceView): OccurrenceView =>
  keptOf(said).reduce((shown, change) => editOccurrence(shown, change, serverNow()), said);

/** Everything known of an item, with what has not been sent yet. */
export const itemWithKept = (said: ItemView): ItemView => ({
  ...said,
  occurrence: withKept(said.occurrence),
  note: keptOf(said.occurrence).findLast((change) => change.note !== undefined)?.note ?? said.note,
});

let sending: Promise<void> | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;

/**
 * Sends what waits, in order, as far as there is a way to the server. What is refused is told, and lets the next one
 * pass.
 * @param sent called for each learner something was sent of
 */
export function sendKept(sent: (learnerId: string) => void): Promise<void> {
  // With somebody else’s eyes nothing is taken: it would be refused, and lost.
  if (useSeeAs.getState().as) return Promise.resolve();
  sending ??= (async () => {
    for (let [next] = useOutbox.getState().waiting; next; [next] = useOutbox.getState().waiting) {
      try {
        await send(next);
      } catch (error) {
        // A server that starts, or has no room, takes it later.
        if (!(error instanceof Refusal) || error.problem.status === 0 || error.problem.status >= 500) break;
        useUndo.getState().failed(error);
      }
      const { key, learnerId } = next;
      keep((waiting) => waiting.filter((k) => k.key !== key));
      sent(learnerId);
    }
  })().finally(() => {
    sending = null;
  });
  return sending;
}

async function send(kept: Kept): Promise<void> {
  if (kept.kind === 'own') {
    await call('writeOwn', { params: { learnerId: kept.learnerId }, body: { writes: kept.writes } });
    return;
  }
  const { itemId, recurrenceId, change } = kept;
  // Only what was changed here is written: whatever others have changed meanwhile stays.
  const { occurrence } = await call('item', { params: { id: itemId }, query: { recurrenceId } });
  const isOwn = isPersonal(change);
  await call(isOwn ? 'changePersonLayer' : 'changeLayer', {
    params: { id: itemId },
    body: { ...change, recurrenceId, version: isOwn ? occurrence.personVersion : occurrence.version },
  });
}

let whenSent: (learnerId: string) => void = () => {};

/** Sends what waits whenever there may be a way: now, once the device is back on the network, and now and then. */
export function followOutbox(sent: (learnerId: string) => void): () => void {
  whenSent = sent;
  const tryIt = () => void sendKept(sent).then(watch);
  globalThis.addEventListener?.('online', tryIt);
  tryIt();
  return () => {
    globalThis.removeEventListener?.('online', tryIt);
    clearTimeout(timer);
  };
}

function watch(): void {
  clearTimeout(timer);
  if (useOutbox.getState().waiting.length)
    timer = setTimeout(() => void sendKept(whenSent).then(watch), AGAIN);
}
