import { recurrenceIdOf } from '../time/when.ts';
import type { FeedItem } from './feed-item.ts';

/** So many different entries under one UID may be a writer's mistake; more of them, and it is no identifier. */
const MOST_OF_A_UID = 100;

/** A UID as it is kept, of what an entry states; null for none. */
export const plainUid = (stated: string): string | null => stated.trim().slice(0, 1000) || null;

/**
 * One item per UID and recurrence-id. Of two versions the higher SEQUENCE counts; different entries under one UID (a
 * writer's mistake) are all kept, since dropping one could be dropping a deadline. Of a UID that stands on more
 * entries than any mistake explains, the first is kept and the others are counted.
 */
export function settleIdentifiers(
  items: FeedItem[],
  unsettled: Set<string>,
  warn: (line: number, message: string) => void,
): FeedItem[] {
  const byKey = new Map<string, FeedItem>();
  /** The entries that share a key with one before, by their UID */
  const shared = new Map<string, { first: FeedItem; said: Set<string>; others: FeedItem[] }>();
  for (const item of items) {
    const key = identity(item);
    const other = byKey.get(key);
    if (!other) {
      byKey.set(key, item);
      continue;
    }
    // Its blocks' digest stands for two entries, so it cannot say that one of them has not changed.
    unsettled.add(item.uid);
    if (item.recurrenceId || other.sequence !== item.sequence) {
      if (item.sequence >= other.sequence) byKey.set(key, item);
      continue;
    }
    let group = shared.get(item.uid);
    if (!group) shared.set(item.uid, (group = { first: other, said: new Set([essence(other)]), others: [] }));
    const says = essence(item);
    if (group.said.has(says)) continue;
    group.said.add(says);
    group.others.push(item);
  }
  const taken = new Set([...byKey.values()].map((item) => item.uid));
  for (const [uid, { first, others }] of shared) {
    if (others.length >= MOST_OF_A_UID) {
      warn(
        first.line,
        `the identifier ${uid.slice(0, 60)} is used for ${others.length + 1} different entries; only the first is kept`,
      );
      continue;
    }
    let n = 2;
    for (const item of others) {
      warn(item.line, `the identifier ${uid.slice(0, 60)} is used for two different entries; both are kept`);
      while (taken.has(`${uid}#${n}`)) n++;
      const duplicate = { ...item, uid: `${uid}#${n}` };
      taken.add(duplicate.uid);
      unsettled.add(duplicate.uid);
      byKey.set(identity(duplicate), duplicate);
    }
  }
  return [...byKey.values()];
}

/** One moment is one date of a series, whatever zone names it. */
const identity = (item: FeedItem) =>
  `${item.uid}\n${item.recurrenceId ? recurrenceIdOf(item.recurrenceId) : ''}`;
const essence = (item: FeedItem): string => JSON.stringify({ ...item, line: 0, sequence: 0, digest: 0 });
