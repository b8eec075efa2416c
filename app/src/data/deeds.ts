import type { OccurrenceView, Problem } from '@zephyrfield/core/api/schemas';
import { create } from 'zustand';
import { problemOf } from './client';

/** Something a person did to their data, with the way back. */
export interface Deed {
  words: string;
  undo(): Promise<void>;
  /** Finished work of which it would be good to know how it was handed in */
  asks?: OccurrenceView | undefined;
}

interface Deeds {
  /** The latest last */
  done: Deed[];
  /** What the bar tells: the latest deed, or what went wrong */
  told: { deed: Deed } | { problem: Problem } | { words: string } | null;
  did(deed: Deed): void;
  failed(error: unknown): void;
  say(words: string): void;
  dismiss(): void;
  undo(): Promise<void>;
}

const MOST = 50;

/** What was done in this visit, so that it can be undone, the latest first. */
export const useDeeds = create<Deeds>()((set, get) => ({
  done: [],
  told: null,
  did: (deed) => set((s) => ({ done: [...s.done, deed].slice(-MOST), told: { deed } })),
  failed: (error) => set({ told: { problem: problemOf(error) } }),
  say: (words) => set({ told: { words } }),
  dismiss: () => set({ told: null }),
  async undo() {
    const deed = get().done.at(-1);
    if (!deed) return set({ told: { words: 'There is nothing to undo.' } });
    set((s) => ({ done: s.done.slice(0, -1), told: { words: `Undone: ${deed.words}` } }));
    try {
      await deed.undo();
    } catch (error) {
      get().failed(error);
    }
  },
}));
