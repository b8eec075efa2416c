import { owner } from './forget';
import { changeKept, nameOf, sendNow, type Write } from './outbox';
import type { Kept, Refused } from './outbox-kept';

// What becomes of what waits: it was saved, was refused, is tried again or let go. Loaded once something waits.

/** Lets a change go: it was saved, or is taken back. */
export const letGo = (key: string): void => changeKept((waiting) => waiting.filter((k) => k.key !== key));

/** Lets all go that waits of who is here. */
export const letAllGo = (): void => changeKept((waiting) => waiting.filter((k) => k.of !== owner()));

/** Takes note that the server does not take a change: it stays, and is told. */
export const refuse = (key: string, refused: Refused): void =>
  changeKept((waiting) => waiting.map((k) => (k.key === key ? { ...k, refused } : k)));

/** Has a change that was refused be sent once more; a note then goes over the one that was found. */
export function tryAgain(key: string): void {
  changeKept((waiting) =>
    waiting.map((k) => {
      if (k.key !== key) return k;
      const { refused, ...again } = k;
      return again.kind === 'layer' && refused?.theirs !== undefined
        ? { ...again, over: refused.theirs }
        : (again as Kept);
    }),
  );
  sendNow();
}

/**
 * Takes the versions over that a save of ours has made, for what waits behind it. What was made on another version
 * stays as it is: somebody else has written in between.
 */
export function versionsFollow(saved: readonly { name: string; from: number; to: number }[]): void {
  const of = new Map(saved.map((each) => [each.name, each]));
  const follow = <W extends Write>(w: W): W => {
    const its = of.get(nameOf(w) ?? '');
    return its && w.version === its.from ? { ...w, version: its.to } : w;
  };
  changeKept((waiting) =>
    waiting.map((k) =>
      k.kind === 'own'
        ? { ...k, writes: k.writes.map(follow) }
        : k.kind === 'runUps'
          ? { ...k, writes: k.writes.map(follow) }
          : k,
    ),
  );
}

/** Gives the word that goes with a time that was asked for and is not sent yet; null for none. */
export const askedFor = (waiting: readonly Kept[], slotId: string): string | null =>
  waiting.find((k) => k.kind === 'booking' && k.slotId === slotId && !k.refused)?.words ?? null;
