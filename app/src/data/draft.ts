import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { onForget } from './forget';
import { isRecord } from './kept';
import type { OwnAt } from './own-at';

/** What one is about to write down. Kept on the device, so that closing the page loses nothing. */
export interface Draft {
  /** Where it was begun from, as `2026-10-06`; empty where no day was meant */
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
  return { day, lastDay: day, ...(minute === null ? {} : { time: clockText(minute), until: '' }) };
}

/** A minute of the day as a time field has it: `16:05`. */
export const clockText = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;

interface DraftStore {
  draft: Draft | null;
  open: boolean;
  /** The calendar last used, by what it was for */
  lastUsed: Record<string, string>;
  begin(draft: Partial<Draft>): void;
  keep(fields: Record<string, unknown>): void;
  close(): void;
  /** It is written, or let go of */
  done(used?: { purpose: string; calendarId: string }): void;
}

export const useDraft = create<DraftStore>()(
  persist(
    (set) => ({
      draft: null,
      open: false,
      lastUsed: {},
      begin: (part) =>
        set(({ draft }) => {
          const fresh: Draft = {
            day: '',
            minute: null,
            calendarId: null,
            editing: null,
            fields: null,
            ...part,
          };
          // What was begun and not finished is taken up again, at the place that is meant now.
          const begun =
            draft?.fields && !draft.editing && !part.editing && !part.fields && draft.fields['title']
              ? draft.fields
              : null;
          return { open: true, draft: begun ? { ...fresh, fields: { ...begun, ...placed(fresh) } } : fresh };
        }),
      keep: (fields) => set(({ draft }) => ({ draft: draft && { ...draft, fields } })),
      close: () => set({ open: false }),
      done: (used) =>
        set((s) => ({
          open: false,
          draft: null,
          lastUsed: used ? { ...s.lastUsed, [used.purpose]: used.calendarId } : s.lastUsed,
        })),
    }),
    {
      name: 'zephyrfield-draft',
      version: 1,
      storage: createJSONStorage(() => localStorage),
      partialize: ({ draft, lastUsed }) => ({ draft, lastUsed }),
      merge: (kept, fresh) => {
        const { draft, lastUsed } = isRecord(kept) ? kept : {};
        const isDraft =
          isRecord(draft) &&
          typeof draft['day'] === 'string' &&
          (draft['fields'] === null || isRecord(draft['fields']));
        return {
          ...fresh,
          draft: isDraft ? (draft as unknown as Draft) : null,
          lastUsed: isRecord(lastUsed) ? (lastUsed as DraftStore['lastUsed']) : {},
        };
      },
    },
  ),
);

onForget(() => useDraft.setState(useDraft.getInitialState()));
