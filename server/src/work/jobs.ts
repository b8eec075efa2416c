import { kindOf, type FileKind } from '../briefs/kind.ts';
import {
  readBytes,
  rederive,
  type Derived,
  type ReadJob,
  type ReadResult,
  type RederiveJob,
} from '../gather/read-bytes.ts';
import { packSchedule, type PackJob } from '../backup/pack.ts';
import { unpackSchedule, type UnpackJob, type Unpacked } from '../backup/unpack.ts';
import { makeGoingOut, type GoingOut } from '../out/make.ts';
import { isSound } from '../db/sound.ts';
import { drawTodayIn, type DrawJob, type Drawing } from '../http/draw.ts';
import { readMail, type MailJob, type ReadMail } from '../notes/read-mail.ts';
import { readOutlineFile, type OutlineJob, type OutlineRead } from '../outline/job.ts';
import { publishedEntries, type Published, type PublishedJob } from '../publish/entries.ts';
import { betweenAsJson, type BetweenJob } from '../items/between.ts';
import { datesOf, type OwnDates, type OwnDatesJob } from '../items/own-dates.ts';

/**
 * Work that is done beside the server's own thread, by name: what it takes, how long it may go on, and by how many MB the
 * process may grow meanwhile. What is `big` has a thread of its own, so that nothing small waits behind it.
 */
export const JOBS = {
  /** A feed's bytes as entries */
  read: { run: readBytes, seconds: 20 },
  /** Stored entries worked out anew under other rules */
  rederive: { run: rederive, seconds: 20 },
  /** The dates of items made by hand */
  ownDates: { run: datesOf, seconds: 10 },
  /** A mail that answers a note */
  mail: { run: readMail, seconds: 10 },
  /** A calendar that others follow */
  published: { run: publishedEntries, seconds: 10 },
  /** A course outline. What its readers unpack lies beside the thread's own memory. */
  outline: { run: readOutlineFile, seconds: 10, growsMb: 400 },
  /** What a file is by its content */
  fileKind: {
    run: ({ bytes, name }: { bytes: Uint8Array; name: string }) => kindOf(bytes, name),
    seconds: 5,
  },
  /** Whether a database is sound, page by page */
  isSound: { run: isSound, seconds: 600, big: true },
  /** A reply for a span of time that holds very much */
  between: { run: betweenAsJson, seconds: 20 },
  /** What goes out by a link or as a file */
  goOut: { run: makeGoingOut, seconds: 10 },
  /** A schedule as an archive, and what is in one */
  pack: { run: packSchedule, seconds: 120, big: true },
  unpack: { run: unpackSchedule, seconds: 120, big: true },
  /** Today as a page has it */
  draw: { run: drawTodayIn, seconds: 5 },
} as const;

interface Work {
  read: [ReadJob, ReadResult];
  rederive: [RederiveJob, Derived];
  ownDates: [OwnDatesJob, OwnDates[]];
  mail: [MailJob, ReadMail];
  published: [PublishedJob, Published];
  isSound: [{ file: string }, boolean];
  between: [BetweenJob, string];
  goOut: [GoingOut, string];
  pack: [PackJob, string];
  unpack: [UnpackJob, Unpacked | { why: string }];
  draw: [DrawJob, Drawing];
  outline: [OutlineJob, OutlineRead];
  fileKind: [{ bytes: Uint8Array; name: string }, FileKind];
}
export type JobName = keyof typeof JOBS;
export type JobOf<N extends JobName> = Work[N][0];
export type ResultOf<N extends JobName> = Work[N][1];
