import { z } from 'zod';
import { claim, lenientClaim, numberClaim } from './claims.ts';
import { Id, Instant } from './schemas.ts';

// Notes between the people around a learner.

/** Which of one's threads: those with something unread, starred ones, all, those one has written in, put away ones. */
export const NOTE_BOXES = ['unread', 'starred', 'all', 'sent', 'done'] as const;
export type NoteBox = (typeof NOTE_BOXES)[number];

/** The longest spoken note, in seconds; and the most files of one note. */
export const SPOKEN_SECONDS = 120;
export const NOTE_FILES = 8;
/** For so long a note can be changed without a word, or taken back, in milliseconds. */
export const CHANGEABLE_FOR = 10 * 60_000;

const Text = z.string().trim().max(8_000, 'Keep it under 8,000 characters.');
const Files = z.array(claim('noteFile')).max(NOTE_FILES, `At most ${NOTE_FILES} files.`).default([]);
const Key = z.uuid();
const saysSomething = ({ text, fileIds }: { text: string; fileIds: readonly unknown[] }) =>
  text !== '' || fileIds.length > 0;
const SAY = { path: ['text'], message: 'Write something first.' };

export const NewNote = z
  .object({
    /** Whose crews it is for: each gets it alone */
    learnerIds: z.array(claim('learner')).min(1, 'Choose whom it is for.').max(60),
    /** Of one learner: only these of the crew; null for all of it */
    members: z.array(claim('member')).min(1, 'Choose whom it is for.').max(60).nullable().default(null),
    /** What of one learner’s it is about */
    item: claim('item').optional(),
    recurrenceId: z.string().max(64).default(''),
    text: Text,
    fileIds: Files,
    key: Key,
  })
  .refine(saysSomething, SAY);
export const NoteAnswer = z.object({ text: Text, fileIds: Files, key: Key }).refine(saysSomething, SAY);

/** Another wording, or (null) taken back. */
export const NoteChange = z.object({ text: Text.min(1, 'Write something, or take it back.').nullable() });

/** State of a thread for one person: how far it is read, whether it is starred, whether it is put away. */
export const ThreadMark = z.object({
  readTo: z.number().int().nonnegative().optional(),
  starred: z.boolean().optional(),
  done: z.boolean().optional(),
});

export const NotesQuery = z.object({
  box: z.enum(NOTE_BOXES).default('all'),
  learner: lenientClaim('learner').optional(),
  /** A word in the name of the calendar that its item is in */
  course: z.string().trim().max(120).optional(),
  /** A word in the name of somebody who wrote in it */
  person: z.string().trim().max(120).optional(),
  text: z.string().trim().max(200).optional(),
  /** Only threads that were last written in before this moment: for the next page */
  before: Instant.optional(),
});

export const NoteFile = z.object({
  id: Id,
  name: z.string(),
  type: z.string(),
  size: z.number(),
  picture: z.boolean(),
  /** For a spoken note: its length */
  seconds: z.number().nullable(),
});
export type NoteFile = z.infer<typeof NoteFile>;

/** A thread in a list. */
export const ThreadHead = z.object({
  id: Id,
  learnerId: Id,
  learner: z.string(),
  item: z.object({ id: Id, recurrenceId: z.string(), title: z.string(), calendar: z.string() }).nullable(),
  /** People whom it is for, but for who asks: the whole crew, or these of it */
  forAll: z.boolean(),
  others: z.array(z.string()),
  /** Note that was written last */
  last: z.object({
    by: z.string(),
    isOwn: z.boolean(),
    words: z.string(),
    at: Instant,
    /** Of one's own note: the same in each thread that it was sent to at once */
    sentAs: z.string().nullable(),
  }),
  unread: z.number(),
  starred: z.boolean(),
  done: z.boolean(),
});
export type ThreadHead = z.infer<typeof ThreadHead>;

export const NoteView = z.object({
  id: z.number(),
  by: z.string(),
  isOwn: z.boolean(),
  /** As a brief’s parts are written: lists, bold, links */
  text: z.string(),
  at: Instant,
  corrected: Instant.nullable(),
  takenBack: z.boolean(),
  byMail: z.boolean(),
  files: z.array(NoteFile),
  unread: z.boolean(),
});
export type NoteView = z.infer<typeof NoteView>;

export const ThreadView = z.object({ head: ThreadHead, notes: z.array(NoteView) });
export type ThreadView = z.infer<typeof ThreadView>;

export const ThreadsView = z.object({
  threads: z.array(ThreadHead),
  /** Cursor to ask for the next page with; null where there is none */
  next: Instant.nullable(),
  unread: z.number(),
});
export type ThreadsView = z.infer<typeof ThreadsView>;

/** Somebody a note can be for. */
export const NotePerson = z.object({ memberId: Id, name: z.string(), isSelf: z.boolean() });
export type NotePerson = z.infer<typeof NotePerson>;

export const ofThread = z.object({ id: claim('thread') });
export const ofNote = z.object({ id: numberClaim('note', 'text') });
export const SpokenQuery = z.object({
  name: z.string().trim().min(1).max(255),
  seconds: z.coerce.number().int().min(1).max(SPOKEN_SECONDS).optional(),
});
