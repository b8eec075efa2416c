import { startTransition, useEffect, useState } from 'react';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { onForget } from './forget';
import { isRecord, isTexts } from './kept';
import { SCREEN, leaveLook, lookIn } from './look';

/** Way in which the calendar was last looked at; what an address does not say is as it was. */
export interface Look {
  view: 'month' | 'week' | 'day' | 'agenda';
  /** Way in which the agenda is grouped, and which way it looks */
  group: 'day' | 'course' | 'kind';
  span: 'upcoming' | 'past' | 'all';
  /** Filters as they stand in the address */
  filters: Record<string, string>;
  /** The day looked at, and the day on which that was: tomorrow begins at tomorrow */
  day: number | null;
  seenOn: number;
}

/** What this device remembers of how things are looked at. */
export interface Screen {
  learnerId: string | null;
  /** All learners together are looked at, where that can be */
  everybody: boolean;
  look: Look;
  /** Ids of hidden calendars, of all learners */
  hidden: string[];
  /** What was hidden before "just this one", to go back to */
  beforeJustOne: string[] | null;
  chooseLearner(id: string): void;
  chooseEverybody(): void;
  remember(look: Partial<Look>): void;
  /** Hides what stands for one in the line of flags, or shows it */
  toggle(ids: readonly string[]): void;
  /** Leaves of `all` just what stands for one in sight; asked again for the same, brings back what was there before */
  justOne(ids: readonly string[], all: readonly string[]): void;
  showAll(all: readonly string[]): void;
}

/** What each part of a kept look may be. */
const FITS: Record<keyof Look, (value: unknown) => boolean> = {
  view: (v) => ['month', 'week', 'day', 'agenda'].includes(v as string),
  group: (v) => ['day', 'course', 'kind'].includes(v as string),
  span: (v) => ['upcoming', 'past', 'all'].includes(v as string),
  filters: (v) => isRecord(v) && isTexts(Object.values(v)),
  day: (v) => v === null || Number.isSafeInteger(v),
  seenOn: Number.isSafeInteger,
};
const fitting = (look: unknown): Partial<Look> =>
  Object.fromEntries(
    Object.entries(isRecord(look) ? look : {}).filter(([name, value]) => FITS[name as keyof Look]?.(value)),
  );

/** True where all of what stands for one flag is hidden. */
export const areHidden = (ids: readonly string[], hidden: readonly string[]): boolean =>
  ids.every((id) => hidden.includes(id));

export const useScreen = create<Screen>()(
  persist(
    (set) => ({
      learnerId: null,
      everybody: false,
      hidden: [],
      beforeJustOne: null,
      look: { view: 'agenda', group: 'day', span: 'upcoming', filters: {}, day: null, seenOn: 0 },
      chooseLearner: (learnerId) => set({ learnerId, everybody: false }),
      chooseEverybody: () => set({ everybody: true }),
      remember: (look) => set((s) => ({ look: { ...s.look, ...look } })),
      toggle: (ids) =>
        set(({ hidden }) => {
          const rest = hidden.filter((h) => !ids.includes(h));
          return { hidden: areHidden(ids, hidden) ? rest : [...rest, ...ids], beforeJustOne: null };
        }),
      justOne: (ids, all) =>
        set(({ hidden, beforeJustOne }) => {
          const others = all.filter((a) => !ids.includes(a));
          const isJustThis = !areHidden(ids, hidden) && others.every((o) => hidden.includes(o));
          if (isJustThis)
            return { hidden: beforeJustOne ?? hidden.filter((h) => !all.includes(h)), beforeJustOne: null };
          return {
            hidden: [...hidden.filter((h) => !all.includes(h)), ...others],
            beforeJustOne: beforeJustOne ?? hidden,
          };
        }),
      showAll: (all) =>
        set(({ hidden }) => ({ hidden: hidden.filter((h) => !all.includes(h)), beforeJustOne: null })),
    }),
    {
      name: SCREEN,
      version: 1,
      storage: createJSONStorage(() => localStorage),
      partialize: ({ learnerId, everybody, look, hidden, beforeJustOne }) => ({
        learnerId,
        everybody,
        look,
        hidden,
        beforeJustOne,
      }),
      merge: (kept, fresh) => {
        const { look, beforeJustOne } = isRecord(kept) ? kept : {};
        return {
          ...fresh,
          ...lookIn(kept),
          look: { ...fresh.look, ...fitting(look) },
          beforeJustOne: isTexts(beforeJustOne) ? beforeJustOne : null,
        };
      },
    },
  ),
);

onForget(() => useScreen.setState(useScreen.getInitialState()));

// The next visit's first view is drawn by it, and a visit begins before the page before it is told that it
// ends.
useScreen.subscribe(leaveLook);

/**
 * Ids of hidden calendars, for what is drawn by them. A press on a flag shows on the flag in the very next
 * frame; what is drawn by it is begun once that frame is painted, and holds nothing up.
 */
export function useHiddenSoon(): readonly string[] {
  const [hidden, setHidden] = useState(() => useScreen.getState().hidden);
  useEffect(() => {
    let frame = 0;
    const follow = () => startTransition(() => setHidden(useScreen.getState().hidden));
    const onceSeen = () => {
      cancelAnimationFrame(frame);
      frame = requestAnimationFrame(() => (frame = requestAnimationFrame(follow)));
    };
    follow();
    const leave = useScreen.subscribe(({ hidden }, before) => hidden !== before.hidden && onceSeen());
    return () => {
      cancelAnimationFrame(frame);
      leave();
    };
  }, []);
  return hidden;
}
