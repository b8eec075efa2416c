import { keyOf } from '@zephyrfield/core/item/occurrence';
import type { PlannedSitting } from '@zephyrfield/core/plan/run-up';
import { plannedRunUps, writeRunUps } from './plan';

/**
 * Changes a sitting: where it lies, how long it is, or whether it stays there, with the way back.
 * @param id as `sittingId` names it
 */
export async function changeSitting(
  learnerId: string,
  id: string,
  change: Partial<PlannedSitting>,
  words: string,
): Promise<boolean> {
  const runUp = plannedRunUps(learnerId).find((r) => id.startsWith(`${keyOf(r)} `));
  if (!runUp) return false;
  const { itemId, recurrenceId } = runUp;
  const key = id.slice(keyOf(runUp).length + 1);
  const sittings = runUp.sittings.map((s) => (s.key === key ? { ...s, ...change } : s));
  return writeRunUps(learnerId, [{ itemId, recurrenceId, runUp: { ...runUp, sittings } }], words);
}

/** Puts a sitting somewhere by hand: there it stays, whatever is planned later. */
export const moveSitting = (
  learnerId: string,
  id: string,
  to: Partial<Pick<PlannedSitting, 'day' | 'from' | 'minutes'>>,
  words: string,
): Promise<boolean> => changeSitting(learnerId, id, { ...to, pinned: true }, words);
