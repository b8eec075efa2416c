import type { OccurrenceView, Problem } from '@zephyrfield/core/api/schemas';
import { create } from 'zustand';
import { problemOf } from './client';
import { onForget } from './forget';

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
  /** Makes one deed of all that `work` does, so that one step takes it all back */
  bundle(words: string, work: () => Promise<unknown>): Promise<void>;
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
  async bundle(words, work) {
    const before = new Set(get().done);
    await work();
    const parts = get().done.filter((d) => !before.has(d));
    if (!parts.length) return;
    const deed: Deed = {
      words,
      async undo() {
        for (const part of [...parts].reverse()) await part.undo();
      },
    };
    set((s) => ({ done: [...s.done.filter((d) => before.has(d)), deed], told: s.told && 'problem' in s.told ? s.told : { deed } }));
  },
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

onForget(() => useDeeds.setState(useDeeds.getInitialState()));
