import type { Block } from './cut.ts';
import { addDigests } from './digest.ts';
import type { Pieces } from './pieces.ts';

/** Knowledge of an earlier reading of the same feed. */
export interface Known {
  context: string;
  /** Digest of all its entries together */
  total: number;
  /** Entries by UID, asked for where the total differs; what is not among them is read */
  entries(): KnownEntries;
}

/** Knowledge of entries, by their place in lists of the same order. */
export interface KnownEntries {
  indexOf(uid: string): number | undefined;
  /** Of their blocks (`cut`), blind to the order of properties and folding */
  digests: Float64Array;
  /** Of what is written (`pieces`); NaN where that is not known */
  written: Float64Array;
}

/** Tells whether a block is something that stands in a calendar's schedule. */
export const isEntry = ({ name }: Block) => name === 'VEVENT' || name === 'VTODO';

/** The UIDs under which all is written as it was, and which pieces are of them. */
export function settledOf(known: KnownEntries, pieces: Pieces): { uids: Set<string>; is: Uint8Array } {
  const sums = new Float64Array(known.written.length);
  const all = pieces.uids();
  const places = Int32Array.from(all, (uid) => (uid === null ? -1 : (known.indexOf(uid) ?? -1)));
  places.forEach((place, i) => {
    if (place >= 0) sums[place] = addDigests(sums[place]!, pieces.digests[i]!);
  });
  const is = Uint8Array.from(places, (place) => Number(place >= 0 && sums[place] === known.written[place]));
  const uids = new Set<string>();
  is.forEach((yes, i) => yes && uids.add(all[i]!));
  return { uids, is };
}

/**
 * Digests of what is written under each UID of some pieces.
 * @param blocks what they are when cut, in the same order: a UID that is seen in one way and not in the other is left out
 */
export function writtenIn(
  pieces: Pieces,
  isIn: (index: number) => boolean,
  blocks: readonly Block[],
): Map<string, number> {
  const sums = new Map<string, number>();
  const odd = new Set<string | null>([null]);
  let at = 0;
  pieces.uids().forEach((uid, i) => {
    if (!isIn(i)) return;
    const stated = blocks[at++]!.uid;
    if (stated !== uid) odd.add(uid).add(stated);
    if (uid !== null) sums.set(uid, addDigests(sums.get(uid) ?? 0, pieces.digests[i]!));
  });
  for (const uid of odd) sums.delete(uid!);
  return sums;
}

/**
 * UIDs of which all blocks say what they said.
 * @param same those under which all is written as it was; the others are told `rewritten`
 */
export function unchangedSince(
  known: KnownEntries,
  blocks: readonly Block[],
  same: ReadonlySet<string>,
  rewritten: (uid: string) => void,
): Set<string> {
  const unchanged = new Set(same);
  for (const [uid, { digest }] of byUid(blocks)) {
    const place = known.indexOf(uid);
    if (place === undefined || known.digests[place] !== digest) continue;
    unchanged.add(uid);
    rewritten(uid);
  }
  return unchanged;
}

/** Entries' blocks by the UID they state, with one digest for all of a UID's. */
function byUid(blocks: readonly Block[]): Map<string, { digest: number }> {
  const groups = new Map<string, { digest: number }>();
  for (const block of blocks) {
    const { uid, digest } = block;
    if (uid === null || !isEntry(block)) continue;
    const group = groups.get(uid);
    if (group) group.digest = addDigests(group.digest, digest);
    else groups.set(uid, { digest });
  }
  return groups;
}
