/**
 * Whether entries are those of a feed that stands: the half of them or more, by their UIDs.
 * @param standing the UIDs that stand
 */
export function isSameFeed(standing: readonly string[], read: ReadonlySet<string>): boolean {
  const shared = standing.filter((uid) => read.has(uid)).length;
  return shared * 2 >= Math.max(1, Math.min(standing.length, read.size));
}
