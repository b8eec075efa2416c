/** Something that lasts from one whole number to another, both included. */
export interface Span {
  from: number;
  to: number;
}

/**
 * Lays spans in lanes so that no two in one lane touch: each in the lowest that is free, the earlier and
 * longer first. A span has one lane for as long as it lasts, so it stays put from one week to the next.
 */
export function lanes<T extends Span>(spans: readonly T[]): Map<T, number> {
  const free: number[] = [];
  const placed = new Map<T, number>();
  for (const span of [...spans].sort((a, b) => a.from - b.from || b.to - a.to)) {
    let lane = free.findIndex((until) => until < span.from);
    if (lane < 0) lane = free.length;
    free[lane] = span.to;
    placed.set(span, lane);
  }
  return placed;
}

/** A block of time on one day, in minutes from its midnight; `to` excluded. */
export interface Block {
  from: number;
  to: number;
}

export interface Packed<T> {
  block: T;
  /** Which of `columns` side by side it stands in */
  column: number;
  columns: number;
  /** Which of the day's clusters it belongs to: blocks that hang together by overlapping */
  cluster: number;
}

/** Packs blocks that overlap side by side; those that hang together share the width evenly. */
export function pack<T extends Block>(blocks: readonly T[]): Packed<T>[] {
  const result: Packed<T>[] = [];
  let cluster: Packed<T>[] = [];
  let ends: number[] = [];
  let [until, clusters] = [-Infinity, 0];
  const close = () => {
    for (const each of cluster) each.columns = ends.length;
    for (const each of cluster) result.push(each);
    if (cluster.length) clusters++;
    cluster = [];
    ends = [];
  };
  for (const block of [...blocks].sort((a, b) => a.from - b.from || b.to - a.to)) {
    if (block.from >= until) close();
    let column = ends.findIndex((end) => end <= block.from);
    if (column < 0) column = ends.length;
    ends[column] = block.to;
    until = Math.max(cluster.length ? until : -Infinity, block.to);
    cluster.push({ block, column, columns: 0, cluster: clusters });
  }
  close();
  return result;
}

/** Blocks of a cluster that have no room beside the others: how many, and from when to when. */
export interface Crowded extends Block {
  cluster: number;
  count: number;
}

/**
 * Takes the blocks that would stand in columns beyond `most` out of their clusters and counts them instead, so
 * that what is left stays wide enough to be read.
 * @param most columns side by side, at least 1
 */
export function fitColumns<T extends Block>(
  packed: readonly Packed<T>[],
  most: number,
): { shown: Packed<T>[]; crowded: Crowded[] } {
  const crowded = new Map<number, Crowded>();
  const shown: Packed<T>[] = [];
  for (const each of packed) {
    const { block, column, cluster } = each;
    if (column < most) {
      shown.push(each.columns > most ? { ...each, columns: most } : each);
      continue;
    }
    const { from, to, count } = crowded.get(cluster) ?? { ...block, count: 0 };
    crowded.set(cluster, {
      cluster,
      count: count + 1,
      from: Math.min(from, block.from),
      to: Math.max(to, block.to),
    });
  }
  return { shown, crowded: [...crowded.values()] };
}
