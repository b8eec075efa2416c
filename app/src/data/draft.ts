import { clockOf } from '@zephyrfield/core/time/minute';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { onForget } from './forget';
import { isRecord } from './kept';
import type { OwnAt } from './own-at';

/** What one is about to write down. Kept on the device, so that closing the page loses nothing. */
export interface Draft {
  /** Place where it was begun from, as `2026-10-06`; empty where no day was meant */
  day: string;
  /** Minute of that day; null where none was meant */
  minute: number | null;
  calendarId: string | null;
  /** The item that is changed; null for a new one */
  editing: OwnAt | null;
  /** The fields as they were last typed */
  fields: Record<string, unknown> | null;
}

/** The fields of a place that was pressed. */
function placed({ day, minute }: Draft): Record<string, unknown> {
  if (!day) return {};
  return { day, lastDay: day, ...(minute === null ? {} : { time: clockOf(minute), until: '' }) };
}

/** What is kept for one learner: a draft begun for one of them is never put into another’s calendar. */
export interface Written {
  draft: Draft | null;
  /** The calendar last used, by what it was for */
  lastUsed: Record<string, string>;
}

const NOTHING: Written = { draft: null, lastUsed: {} };

interface DraftStore {
  /** By learner */
  of: Readonly<Record<string, Written>>;
  /** The learner that something is being written down for, by id; null while the form is closed */
  openFor: string | null;
  begin(learnerId: string, draft: Partial<Draft>): void;
  keep(learnerId: string, fields: Record<string, unknown>): void;
  close(): void;
  /** It is written, or let go of */
  done(learnerId: string, used?: { purpose: string; calendarId: string }): void;
}

/** Gives what is kept for a learner. */
export const writtenFor =
  (learnerId: string) =>
  ({ of }: Pick<DraftStore, 'of'>): Written =>
    of[learnerId] ?? NOTHING;

/** Gives what is begun for a learner; what was begun before and not finished is taken up again, where it is meant now. */
function taken(before: Draft | null, part: Partial<Draft>): Draft {
  const fresh: Draft = { day: '', minute: null, calendarId: null, editing: null, fields: null, ...part };
  const begun =
    before?.fields && !before.editing && !part.editing && !part.fields && before.fields['title']
      ? before.fields
      : null;
  return begun ? { ...fresh, fields: { ...begun, ...placed(fresh) } } : fresh;
}

export const useDraft = create<DraftStore>()(
  persist(
    (set) => {
      const change = (learnerId: string, how: (was: Written) => Partial<Written>, openFor?: string | null) =>
        set((s) => {
          const was = writtenFor(learnerId)(s);
          return {
            of: { ...s.of, [learnerId]: { ...was, ...how(was) } },
            ...(openFor === undefined ? {} : { openFor }),
          };
        });
      return {
        of: {},
        openFor: null,
        begin: (learnerId, part) =>
          change(learnerId, ({ draft }) => ({ draft: taken(draft, part) }), learnerId),
        keep: (learnerId, fields) =>
          change(learnerId, ({ draft }) => ({ draft: draft && { ...draft, fields } })),
        close: () => set({ openFor: null }),
        done: (learnerId, used) =>
          change(
            learnerId,
            ({ lastUsed }) => ({
              draft: null,
              lastUsed: used ? { ...lastUsed, [used.purpose]: used.calendarId } : lastUsed,
            }),
            null,
          ),
      };
    },
    {
      name: 'zephyrfield-draft',
      version: 2,
      storage: createJSONStorage(() => localStorage),
      partialize: ({ of }) => ({ of }),
      merge: (kept, fresh) => ({ ...fresh, of: keptOf(isRecord(kept) ? kept['of'] : null) }),
    },
  ),
);

/** Gives what a device kept, as far as it is what it should be. */
function keptOf(kept: unknown): Record<string, Written> {
  if (!isRecord(kept)) return {};
  return Object.fromEntries(
    Object.entries(kept).map(([learnerId, written]) => {
      const { draft, lastUsed } = isRecord(written) ? written : {};
      const isDraft =
        isRecord(draft) &&
        typeof draft['day'] === 'string' &&
        (draft['fields'] === null || isRecord(draft['fields']));
      return [
        learnerId,
        {
          draft: isDraft ? (draft as unknown as Draft) : null,
          lastUsed: isRecord(lastUsed) ? (lastUsed as Written['lastUsed']) : {},
        },
      ];
    }),
  );
}

onForget(() => useDraft.setState(useDraft.getInitialState()));
