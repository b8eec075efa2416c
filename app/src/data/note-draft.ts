import type { NoteFile } from '@zephyrfield/core/api/notes';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { onForget } from './forget';
import { isRecord } from './kept';

/** A note that is written and not sent yet. */
interface NoteDraft {
  text: string;
  /** Files that were sent ahead of it */
  files: readonly NoteFile[];
}

const NOTHING: NoteDraft = { text: '', files: [] };

interface NoteDrafts {
  /** By what is answered, or what a new note is about */
  of: Readonly<Record<string, NoteDraft>>;
  /** Changes what is written; what is empty is let go of. */
  write(key: string, how: (was: NoteDraft) => NoteDraft): void;
}

/**
 * What is written in a note outlives its sheet. The text is kept on the device; files are kept while the page is open,
 * as the server does not keep for long what was sent to it and is never used.
 */
export const useNoteDrafts = create<NoteDrafts>()(
  persist(
    (set) => ({
      of: {},
      write: (key, how) =>
        set(({ of: { [key]: was = NOTHING, ...others } }) => {
          const now = how(was);
          return { of: now.text || now.files.length ? { ...others, [key]: now } : others };
        }),
    }),
    {
      name: 'zephyrfield-note-draft',
      version: 1,
      storage: createJSONStorage(() => localStorage),
      partialize: ({ of }) => ({
        of: Object.fromEntries(Object.entries(of).map(([key, { text }]) => [key, text])),
      }),
      merge: (kept, fresh) => ({ ...fresh, of: keptOf(isRecord(kept) ? kept['of'] : null) }),
    },
  ),
);

/** Gives what a device kept, as far as it is what it should be. */
function keptOf(kept: unknown): NoteDrafts['of'] {
  return Object.fromEntries(
    Object.entries(isRecord(kept) ? kept : {}).flatMap(([key, text]) =>
      typeof text === 'string' && text ? [[key, { text, files: [] }]] : [],
    ),
  );
}

/** Gives what is written under a key, and how it is changed. */
export function useNoteDraft(key: string) {
  const { text, files } = useNoteDrafts((s) => s.of[key] ?? NOTHING);
  const write = useNoteDrafts((s) => s.write);
  return {
    text,
    files,
    setText: (to: string) => write(key, (was) => ({ ...was, text: to })),
    setFiles: (how: (was: readonly NoteFile[]) => readonly NoteFile[]) =>
      write(key, (was) => ({ ...was, files: how(was.files) })),
    done: () => write(key, () => NOTHING),
  };
}

onForget(() => useNoteDrafts.setState(useNoteDrafts.getInitialState()));
