import type { NoteFile } from '@zephyrfield/core/api/notes';
import type { FileFolder } from '../files/folder.ts';
import { isPicture, type FileKind } from '../files/kind.ts';
import type { Clock } from '../clock.ts';
import { orderedId } from '../db/ids.ts';
import { ProblemError, notFound, tooMany } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import type { NoteFileRow, NoteStore } from './store.ts';

export interface NoteFileDeps {
  store: NoteStore;
  folder: FileFolder;
  clock: Clock;
  kindOf(personId: string, bytes: Uint8Array, name: string): Promise<FileKind>;
}

/** Time what was sent in waits for its note, in milliseconds. */
const WAITS = 86_400_000;

export const fileView = ({ id, name, type, size, seconds }: NoteFileRow): NoteFile => ({
  ...{ id, name, type, size, seconds },
  picture: isPicture(type),
});

/** Files and spoken notes: sent in ahead of the note that they go along with. */
export function noteFiles({ store, folder, clock, kindOf }: NoteFileDeps) {
  return {
    /** Takes a file or a spoken note in, to go along with the next note. */
    async take(
      personId: string,
      { name, seconds }: { name: string; seconds?: number | undefined },
      bytes: Uint8Array,
    ): Promise<NoteFile> {
      if (bytes.length > MOST.fileBytes)
        throw new ProblemError(413, 'too-large', `${name} is larger than 10 MB.`, {
          remedy: 'Make it smaller, or link to where it lies.',
        });
      const kind = await kindOf(personId, bytes, name);
      if (!kind.ok || (seconds !== undefined && !kind.type.startsWith('audio/')))
        throw new ProblemError(
          415,
          'file-kind',
          bytes.length ? `${name} is of a kind that cannot go along.` : `${name} is empty.`,
          { remedy: 'Pictures, PDF, text, office documents and sound can; anything else by a link.' },
        );
      const row = await folder.put(bytes, (digest) =>
        store.transaction(() => {
          if (store.openFiles(personId) >= MOST.waitingNoteFiles)
            throw tooMany('Too many files wait for their note.', 'Send the note, or leave some out.');
          if (store.bytesOf(personId) + bytes.length > MOST.personBytes)
            throw new ProblemError(422, 'full', 'There is no more room for files.', {
              remedy: 'Take back notes with large files, or link to where they lie.',
            });
          const file: NoteFileRow = {
            id: orderedId(clock.now()),
            noteId: null,
            personId,
            name,
            type: kind.type,
            size: bytes.length,
            digest,
            seconds: seconds ?? null,
            createdAt: clock.now(),
          };
          store.addFile(file);
          return file;
        }),
      );
      return fileView(row);
    },

    /** Finds a file of a note, with where its bytes lie. @throws ProblemError where they are lost */
    async file(id: string): Promise<NoteFileRow & { path: string }> {
      const row = store.file(id);
      if (!row) throw notFound('file');
      return { ...row, path: await folder.sound(row.digest, clock.now()) };
    },

    /** Files of a note: sent in by whoever writes it, and not gone along with another one. */
    requireOwn(fileIds: readonly string[], personId: string): void {
      for (const id of fileIds) {
        const file = store.file(id);
        if (file?.personId !== personId || file.noteId !== null) throw notFound('file');
      }
    },

    /** The same files once more, for a note to somebody else. */
    copies(fileIds: readonly string[]): string[] {
      return fileIds.map((from) => {
        const { id: _id, ...row } = store.file(from)!;
        const id = orderedId(clock.now());
        store.addFile({ ...row, id, noteId: null });
        return id;
      });
    },

    tidy: (): void => void store.forgetWaiting(clock.now() - WAITS),
  };
}
