import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { isRecord } from './kept';

interface SingleKeys {
  /** Single keys do something on this device */
  areOn: boolean;
  turn(areOn: boolean): void;
}

/** Choice whether single keys do something: who dictates, or strikes keys by accident, turns them off (WCAG 2.2, 2.1.4). */
export const useSingleKeys = create<SingleKeys>()(
  persist((set) => ({ areOn: true, turn: (areOn) => set({ areOn }) }), {
    name: 'zephyrfield-single-keys',
    version: 1,
    storage: createJSONStorage(() => localStorage),
    partialize: ({ areOn }) => ({ areOn }),
    merge: (kept, fresh) => ({ ...fresh, areOn: !(isRecord(kept) && kept['areOn'] === false) }),
  }),
);

/** Tells whether a key that was pressed is a single one that is turned off: a letter, a digit or a sign, alone or with Shift. */
export const isOffKey = ({ key, ctrlKey, metaKey, altKey }: KeyboardEvent): boolean =>
  !useSingleKeys.getState().areOn && key.length === 1 && !ctrlKey && !metaKey && !altKey;
