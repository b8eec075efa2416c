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
}

/** Packs blocks that overlap side by side; those that hang together share the width evenly. */
export function pack<T extends Block>(blocks: readonly T[]): Packed<T>[] {
  const result: Packed<T>[] = [];
  let cluster: Packed<T>[] = [];
  let ends: number[] = [];
  let until = -Infinity;
  const close = () => {
    for (const each of cluster) each.columns = ends.length;
    result.push(...cluster);
    cluster = [];
    ends = [];
  };
  for (const block of [...blocks].sort((a, b) => a.from - b.from || b.to - a.to)) {
    if (block.from >= until) close();
    let column = ends.findIndex((end) => end <= block.from);
    if (column < 0) column = ends.length;
    ends[column] = block.to;
    until = Math.max(cluster.length ? until : -Infinity, block.to);
    cluster.push({ block, column, columns: 0 });
  }
  close();
  return result;
}
