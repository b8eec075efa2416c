import { create } from 'zustand';
import { createJSONStorage, persist, type StateStorage } from 'zustand/middleware';
import { onForget } from './forget';
import { isRecord } from './kept';

/** What one has made of an outline and not added yet: what it is for, and the rows that were changed. */
interface OutlineDraft {
  value: object;
  rows: readonly object[];
}

/** Of so many outlines that wait it is kept; the server lets go of them after a day. */
const MOST = 5;

interface OutlineDrafts {
  /** By the outline's id, the oldest first */
  of: Readonly<Record<string, OutlineDraft>>;
  /** The device has no room for it: it is kept while the page is open, and whoever is here is told */
  isFull: boolean;
  keep(id: string, draft: OutlineDraft): void;
  drop(id: string): void;
}

/** The device's storage, which may be full. */
const ROOM: StateStorage = {
  getItem: (name) => localStorage.getItem(name),
  removeItem: (name) => localStorage.removeItem(name),
  setItem: (name, value) => tell(hasRoom(name, value)),
};

function hasRoom(name: string, value: string): boolean {
  try {
    localStorage.setItem(name, value);
    return true;
  } catch {
    // A part of it would be taken for all of it.
    localStorage.removeItem(name);
    return false;
  }
}

/** Each change is written down in turn: only another answer than before is one. */
function tell(has: boolean): void {
  if (useOutlineDrafts.getState().isFull === has) useOutlineDrafts.setState({ isFull: !has });
}

/** What is changed in an outline outlives its page: it is kept on the device until it is added. */
export const useOutlineDrafts = create<OutlineDrafts>()(
  persist(
    (set) => ({
      of: {},
      isFull: false,
      keep: (id, draft) =>
        set(({ of: { [id]: _, ...others } }) => ({
          of: Object.fromEntries([...Object.entries(others).slice(1 - MOST), [id, draft]]),
        })),
      drop: (id) => set(({ of: { [id]: _, ...others } }) => ({ of: others })),
    }),
    {
      name: 'zephyrfield-outline-draft',
      version: 1,
      storage: createJSONStorage(() => ROOM),
      partialize: ({ of }) => ({ of }),
      merge: (kept, fresh) => ({ ...fresh, of: keptOf(isRecord(kept) ? kept['of'] : null) }),
    },
  ),
);

/** Gives what a device kept, as far as it is what it should be; whoever reads a row of it looks at what it needs. */
function keptOf(kept: unknown): OutlineDrafts['of'] {
  return Object.fromEntries(
    Object.entries(isRecord(kept) ? kept : {}).flatMap(([id, draft]) =>
      isRecord(draft) && isRecord(draft['value']) && Array.isArray(draft['rows'])
        ? [[id, { value: draft['value'], rows: draft['rows'].filter(isRecord) }]]
        : [],
    ),
  );
}

onForget(() => useOutlineDrafts.setState(useOutlineDrafts.getInitialState()));
