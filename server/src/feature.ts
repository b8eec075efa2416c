import type { Express } from 'express';
import { CLAIM_KINDS, type ClaimKind } from '@zephyrfield/core/api/claims';
import type { Owners } from './http/admit.ts';
import type { Mount } from './http/mount.ts';

interface Address {
  path: string;
}

/** A part of the server, with all that it answers, owns and does by itself. */
export interface Feature {
  /** Puts its routes of the API */
  mount?(mount: Mount): void;
  /** Puts its pages outside of the API */
  pages?(app: Express): void;
  /** Finds whose its things are, by the kinds of their ids */
  owners?: Partial<Owners>;
  /** Routes that fetch for others or take files in: what could be turned against somebody */
  costly?: readonly Address[];
  /** Routes by which secrets could be tried out */
  guessable?: readonly Address[];
  /** Puts right what a stop has cut off, before anybody asks for anything */
  prepare?(): unknown;
  hourly?: readonly (() => unknown)[];
  /** Work of each day by what the log calls it, one after the other */
  daily?: readonly (readonly [what: string, work: () => unknown])[];
  /** Begins what goes on beside answering */
  start?(): void;
  stop?(): Promise<void>;
  /** Writes what is only in memory, when nobody asks any more */
  close?(): unknown;
}

/**
 * Puts together who finds whose things are.
 * @throws an error where nobody does for a kind of id, or two do
 */
export function ownersOf(features: readonly Feature[]): Owners {
  const owners: Partial<Owners> = {};
  for (const [kind, find] of features.flatMap((f) => Object.entries(f.owners ?? {}))) {
    if (kind in owners) throw new Error(`two features own ${kind}`);
    owners[kind as ClaimKind] = find;
  }
  const missing = Object.keys(CLAIM_KINDS).filter((kind) => !(kind in owners));
  if (missing.length) throw new Error(`nobody owns ${missing.join(', ')}`);
  return owners as Owners;
}
