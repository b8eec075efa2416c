import { z } from 'zod';
import { claim } from '../claims.ts';
import * as notes from '../notes.ts';
import { paths } from '../paths.ts';
import { done, never, ofItem, ofLearner, route } from '../route.ts';
import * as s from '../schemas.ts';

/** Notes between the people around a learner. */
export const noteRoutes = {
  noteThreads: route({
    ...paths.noteThreads,
    access: 'look',
    summary: 'The caller’s notes by thread, the latest first, fifty at a time',
    query: notes.NotesQuery,
    reply: notes.ThreadsView,
  }),
  noteThread: route({
    ...paths.noteThread,
    access: 'look',
    summary: 'One thread with its notes, in order',
    params: notes.ofThread,
    reply: notes.ThreadView,
  }),
  itemThreads: route({
    ...paths.itemThreads,
    access: 'look',
    summary: 'The caller’s threads about one item',
    params: ofItem,
    reply: z.array(notes.ThreadHead),
  }),
  notePeople: route({
    ...paths.notePeople,
    access: 'look',
    summary: 'Who a note about a learner, or about one of their items, can be for',
    params: ofLearner,
    query: z.object({ item: claim('item').optional() }),
    reply: z.array(notes.NotePerson),
  }),
  writeNote: route({
    ...paths.writeNote,
    access: 'look',
    several: true,
    summary: 'Begin a thread with the crew of each of these learners, or with some of one',
    body: notes.NewNote,
    reply: z.object({ threads: z.array(s.Id) }),
  }),
  answerNote: route({
    ...paths.answerNote,
    access: 'look',
    summary: 'Write in a thread',
    params: notes.ofThread,
    body: notes.NoteAnswer,
    reply: notes.ThreadView,
  }),
  changeNote: route({
    ...paths.changeNote,
    access: 'look',
    summary: 'Word a note of one’s own otherwise, or take it back while that is possible',
    params: notes.ofNote,
    body: notes.NoteChange,
    reply: notes.ThreadView,
  }),
  markThread: route({
    ...paths.markThread,
    access: 'look',
    summary: 'Say how far a thread is read, star it, put it away',
    params: notes.ofThread,
    body: notes.ThreadMark,
    reply: done,
  }),
  sendNoteFile: route({
    ...paths.sendNoteFile,
    summary: 'Send a file or a spoken note in, to go along with the next note',
    query: notes.SpokenQuery,
    body: z.instanceof(Uint8Array),
    reply: notes.NoteFile,
    raw: true,
  }),
  noteFileBytes: route({
    ...paths.noteFileBytes,
    access: 'look',
    summary: 'The bytes of a file of a note',
    params: z.object({ id: claim('noteFile') }),
    reply: never,
    stream: true,
  }),
};
