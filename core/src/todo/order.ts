/**
 * Which places are to be written down so that a list stands in another order: what was at `from` comes to
 * stand at `to`. What has a place comes before what has none, which keeps the order it has; so everything up
 * to the last that has one, or was moved, needs its place, and what already has the right one is left alone.
 */
export function placesAfter<T extends { position: number | null }>(
  list: readonly T[],
  from: number,
  to: number,
): { item: T; position: number }[] {
  const order = [...list];
  const [moved] = order.splice(from, 1);
  if (!moved) return [];
  order.splice(to, 0, moved);
  const last = Math.max(
    to,
    order.findLastIndex((item) => item.position !== null),
  );
  return order
    .slice(0, last + 1)
    .flatMap((item, position) => (item.position === position ? [] : [{ item, position }]));
}
