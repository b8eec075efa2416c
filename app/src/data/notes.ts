import { paths } from '@zephyrfield/core/api/paths';
import type {
  NoteBox,
  NoteFile,
  NotePerson,
  ThreadHead,
  ThreadView,
  ThreadsView,
} from '@zephyrfield/core/api/notes';
import { useQueries, useQuery } from '@tanstack/react-query';
import { call, sendFile } from './client';
import { newKey } from './key';
import { isUnreached, keepForLater } from './outbox';
import { queryClient, refresh } from './queries';
import { useUndo } from './undo';

const NOTES = ['notes'] as const;
/** After notes were written, here or elsewhere. */
const refreshNotes = () => Promise.all([refresh(NOTES, queryClient), refresh(['table'], queryClient)]);

/** What is asked of one’s notes; empty words ask nothing. */
export interface NotesAsked {
  box: NoteBox;
  learner: string;
  course: string;
  person: string;
  text: string;
}

/**
 * One’s threads, the latest first, as many pages as are asked for.
 * @param pages what each page but the first begins before: what the page above it said comes next
 */
export function useThreads({ box, ...asked }: NotesAsked, pages: readonly string[]) {
  const given = Object.fromEntries(Object.entries(asked).filter(([, value]) => value.trim()));
  return useQueries({
    queries: ['', ...pages].map((before) => ({
      queryKey: [...NOTES, box, given, before],
      queryFn: (): Promise<ThreadsView> =>
        call('noteThreads', { query: { box, ...given, ...(before && { before }) } }),
      // What is typed narrows what is shown already.
      placeholderData: (was: ThreadsView | undefined) => was,
    })),
    combine: (results) => ({
      pages: results.flatMap((r) => r.data ?? []),
      error: results.find((r) => r.error)?.error ?? null,
      isPending: results.some((r) => r.isPending),
    }),
  });
}

export const useThread = (id: string) =>
  useQuery<ThreadView>({
    queryKey: [...NOTES, 'thread', id],
    queryFn: () => call('noteThread', { params: { id } }),
  });

/** One’s threads about an item. */
export const useItemThreads = (id: string) =>
  useQuery<ThreadHead[]>({
    queryKey: [...NOTES, 'item', id],
    queryFn: () => call('itemThreads', { params: { id } }),
  });

/** Tells who a note about a learner, or one of their items, can be for. */
export const useNotePeople = (learnerId: string, item: string) =>
  useQuery<NotePerson[]>({
    queryKey: [...NOTES, 'people', learnerId, item],
    queryFn: () => call('notePeople', { params: { learnerId }, query: item ? { item } : {} }),
    enabled: learnerId !== '',
  });

/** What goes into a note. */
export interface NoteInput {
  text: string;
  files: readonly NoteFile[];
}
const bodyOf = ({ text, files }: NoteInput) => ({ text, fileIds: files.map((f) => f.id) });

/** Begins threads; gives the first one’s id, or null where the note waits to be sent. @throws Refusal */
export async function writeNote(
  to: {
    learnerIds: readonly string[];
    members: readonly string[] | null;
    item: string;
    recurrenceId: string;
  },
  input: NoteInput,
  key: string,
): Promise<string | null> {
  const { item, learnerIds, members, recurrenceId } = to;
  const body = {
    learnerIds: [...learnerIds],
    members: members && [...members],
    ...(item && { item, recurrenceId }),
    ...bodyOf(input),
    key,
  };
  const [learnerId = ''] = learnerIds;
  const deed = { kind: 'note', learnerId, body, words: wordsOf(input) } as const;
  return sentOrKept(deed, async () => (await call('writeNote', { body })).threads[0]!);
}

/** @throws Refusal */
export async function answerNote(id: string, input: NoteInput, key = newKey()): Promise<void> {
  const body = { ...bodyOf(input), key };
  const learnerId = queryClient.getQueryData<ThreadView>([...NOTES, 'thread', id])?.head.learnerId ?? '';
  await sentOrKept({ kind: 'answer', thread: id, learnerId, body, words: wordsOf(input) }, async () => {
    queryClient.setQueryData([...NOTES, 'thread', id], await call('answerNote', { params: { id }, body }));
  });
}

const wordsOf = ({ text }: NoteInput) => `a note, “${text.length > 40 ? `${text.slice(0, 40)}…` : text}”`;

/** Sends a note; where there is no way, keeps it on this device and gives null. @throws Refusal */
async function sentOrKept<T>(
  deed: Parameters<typeof keepForLater>[0],
  send: () => Promise<T>,
): Promise<T | null> {
  try {
    const sent = await send();
    await refreshNotes();
    return sent;
  } catch (error) {
    if (!isUnreached(error) || !keepForLater(deed)) throw error;
    return null;
  }
}

/** Words a note otherwise, or (null) takes it back. @throws Refusal */
export async function changeNote(threadId: string, id: number, text: string | null): Promise<void> {
  const view = await call('changeNote', { params: { id: String(id) }, body: { text } });
  queryClient.setQueryData([...NOTES, 'thread', threadId], view);
  await refreshNotes();
}

/** Says what one keeps of a thread: how far it is read, whether it is starred or put away. */
export async function markThread(
  id: string,
  body: { readTo?: number; starred?: boolean; done?: boolean },
): Promise<void> {
  await call('markThread', { params: { id }, body });
  await refreshNotes();
}

/** Puts a thread away, or takes it out again, with the way back. */
export async function putAway(id: string, done: boolean): Promise<void> {
  try {
    await markThread(id, { done });
    useUndo
      .getState()
      .did({ words: done ? 'Put away' : 'Taken out again', undo: () => markThread(id, { done: !done }) });
  } catch (error) {
    useUndo.getState().failed(error);
  }
}

/** Sends a file or a spoken note in, to go along with the next note. @throws Refusal */
export const sendNoteFile = (
  file: Blob,
  name: string,
  seconds: number | null,
  onSent: (share: number) => void,
): Promise<NoteFile> =>
  sendFile(
    'sendNoteFile',
    { params: {}, query: { name, ...(seconds === null ? {} : { seconds: String(seconds) }) }, file },
    onSent,
  );

/** Where a file’s bytes are had. */
export const noteFileAddress = (id: string): string =>
  paths.noteFileBytes.path.replace(':id', encodeURIComponent(id));
