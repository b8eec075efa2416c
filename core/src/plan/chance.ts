/**
 * Numbers that look like chance and are the same on every machine: whole ones from 0 to below `limit`.
 * @param seed any whole number but 0
 */
export function chance(seed: number): (limit: number) => number {
  let state = seed | 0;
  return (limit) => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) % limit;
  };
}
