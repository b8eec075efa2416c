import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

/** What this device remembers of how things are looked at. */
export interface Screen {
  learnerId: string | null;
  /** Ids of hidden calendars, of all learners */
  hidden: string[];
  /** What was hidden before "just this one", to go back to */
  beforeJustOne: string[] | null;
  chooseLearner(id: string): void;
  toggle(calendarId: string): void;
  /** Leaves just one of `all` in sight; asked again for the same, brings back what was there before */
  justOne(calendarId: string, all: readonly string[]): void;
  showAll(all: readonly string[]): void;
}

export const useScreen = create<Screen>()(
  persist(
    (set) => ({
      learnerId: null,
      hidden: [],
      beforeJustOne: null,
      chooseLearner: (learnerId) => set({ learnerId }),
      toggle: (id) => set(({ hidden }) => ({ hidden: hidden.includes(id) ? hidden.filter((h) => h !== id) : [...hidden, id], beforeJustOne: null })),
      justOne: (id, all) =>
        set(({ hidden, beforeJustOne }) => {
          const others = all.filter((a) => a !== id);
          const isJustThis = !hidden.includes(id) && others.every((o) => hidden.includes(o));
          if (isJustThis) return { hidden: beforeJustOne ?? hidden.filter((h) => !all.includes(h)), beforeJustOne: null };
          return { hidden: [...hidden.filter((h) => !all.includes(h)), ...others], beforeJustOne: beforeJustOne ?? hidden };
        }),
      showAll: (all) => set(({ hidden }) => ({ hidden: hidden.filter((h) => !all.includes(h)), beforeJustOne: null })),
    }),
    {
      name: 'zephyrfield-screen',
      version: 1,
      storage: createJSONStorage(() => localStorage),
      partialize: ({ learnerId, hidden, beforeJustOne }) => ({ learnerId, hidden, beforeJustOne }),
    },
  ),
);
