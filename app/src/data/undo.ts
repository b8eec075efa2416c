import type { OccurrenceView, Problem } from '@zephyrfield/core/api/schemas';
import { create } from 'zustand';
import { problemOf } from './client';
import { onForget } from './forget';
import { allWritten, writing } from './writing';

/** Something a person did to their data, with the way back. */
interface UndoStep {
  words: string;
  undo(): Promise<void>;
  /** Finished work of which it would be good to know how it was handed in */
  asks?: OccurrenceView | undefined;
}

interface UndoState {
  /** The latest last */
  done: UndoStep[];
  /** What the bar tells: the latest step, or what went wrong */
  message: { step: UndoStep } | { problem: Problem } | { words: string } | null;
  did(step: UndoStep): void;
  failed(error: unknown): void;
  say(words: string): void;
  dismiss(): void;
  /** Makes one step of all that `work` does, so that one step takes it all back */
  bundle(words: string, work: () => Promise<unknown>): Promise<void>;
  undo(): Promise<void>;
}

const MOST = 50;

/** What was done in this visit, so that it can be undone, the latest first. */
export const useUndo = create<UndoState>()((set, get) => ({
  done: [],
  message: null,
  did: (step) => set((s) => ({ done: [...s.done, step].slice(-MOST), message: { step } })),
  failed: (error) => set({ message: { problem: problemOf(error) } }),
  say: (words) => set({ message: { words } }),
  dismiss: () => set({ message: null }),
  bundle: (words, work) =>
    writing(
      (async () => {
        const before = new Set(get().done);
        await work();
        const parts = get().done.filter((d) => !before.has(d));
        if (!parts.length) return;
        const step: UndoStep = {
          words,
          async undo() {
            for (const part of [...parts].reverse()) await part.undo();
          },
        };
        set((s) => ({
          done: [...s.done.filter((d) => before.has(d)), step],
          message: s.message && 'problem' in s.message ? s.message : { step },
        }));
      })(),
    ),
  async undo() {
    // What was done last may be on its way still, and is a step only once it is written.
    await allWritten();
    const step = get().done.at(-1);
    if (!step) return set({ message: { words: 'There is nothing to undo.' } });
    set((s) => ({ done: s.done.slice(0, -1), message: { words: `Undone: ${step.words}` } }));
    try {
      await step.undo();
    } catch (error) {
      get().failed(error);
    }
  },
}));

onForget(() => useUndo.setState(useUndo.getInitialState()));
