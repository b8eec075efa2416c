import type { Brief } from '@zephyrfield/core/api/own';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { NO_BRIEF } from './briefs';
import { onForget } from './forget';
import { isRecord } from './kept';

/** A brief that is written and not saved yet. */
interface BriefDraft {
  brief: Brief;
  /** The brief that stood there when it was begun: where it is something else by now, somebody else has written meanwhile */
  begun: { shared: Brief | null; ofDate: Brief | null };
}

interface BriefDrafts {
  /** By the date of an item whose brief it is (`keyOf`) */
  of: Readonly<Record<string, BriefDraft>>;
  /** Keeps what is written; null lets go of it */
  write(key: string, draft: BriefDraft | null): void;
}

/** Keeps what is written in a brief and not saved yet, on the device: it outlives its form. */
export const useBriefDrafts = create<BriefDrafts>()(
  persist(
    (set) => ({
      of: {},
      write: (key, draft) =>
        set(({ of: { [key]: _, ...others } }) => ({
          of: draft ? { ...others, [key]: draft } : others,
        })),
    }),
    {
      name: 'zephyrfield-brief-draft',
      version: 1,
      storage: createJSONStorage(() => localStorage),
      partialize: ({ of }) => ({ of }),
      merge: (kept, fresh) => ({ ...fresh, of: keptOf(isRecord(kept) ? kept['of'] : null) }),
    },
  ),
);
onForget(() => useBriefDrafts.setState(useBriefDrafts.getInitialState()));

/** Takes of what a device kept what is a draft. */
function keptOf(kept: unknown): BriefDrafts['of'] {
  return Object.fromEntries(
    Object.entries(isRecord(kept) ? kept : {}).flatMap(([key, draft]): [string, BriefDraft][] => {
      if (!isRecord(draft) || !isRecord(draft['brief']) || !isRecord(draft['begun'])) return [];
      const { shared, ofDate } = draft['begun'];
      const begun = { shared: briefIn(shared), ofDate: briefIn(ofDate) };
      return [[key, { brief: briefIn(draft['brief'])!, begun }]];
    }),
  );
}

const briefIn = (kept: unknown): Brief | null =>
  isRecord(kept)
    ? (Object.fromEntries(
        Object.keys(NO_BRIEF).map((part) => [part, typeof kept[part] === 'string' ? kept[part] : '']),
      ) as unknown as Brief)
    : null;
