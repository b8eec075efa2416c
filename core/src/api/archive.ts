import { z } from 'zod';
import { ITEM_KINDS } from '../item/kind.ts';
import { RemindRules, RemindSet } from './notify.ts';
import { Brief, OwnItem } from './own.ts';
import { PlanSettings, RunUp } from './plan.ts';
import { Audience, Category, Instant, Name, SplitRule } from './schemas.ts';
import { CalendarKind, Colour, Flag, HandInWay, Term, When, ZoneName } from './values.ts';

// A schedule as one archive: everything that its keeper sees, in the words of the contract. Things name each other by
// names that are the archive's own.

const Ref = z.string().min(1).max(64);
const RecurrenceId = z.string().max(64);
/** An item: of a source by its UID, or made by hand. */
export const ItemRef = z.union([
  z.object({ source: Ref, uid: z.string().min(1).max(2_000) }),
  z.object({ own: Ref }),
]);
export type ItemRef = z.infer<typeof ItemRef>;

/** Layers, notes or records of one schedule: more than anybody makes in ten years of school. */
const MOST_OF_ITEMS = 20_000;

const ofDate = { of: ItemRef, recurrenceId: RecurrenceId };
const Minutes = z.number().int().min(0).max(1_000_000);

const Rules = z.object({
  split: SplitRule.nullable(),
  corrections: z
    .array(
      z.object({
        of: z.union([
          z.object({ uid: z.string().max(2_000) }),
          z.object({ like: z.string().max(400), section: z.string().max(400).nullable() }),
        ]),
        kind: z.enum(ITEM_KINDS).optional(),
        handIn: HandInWay.optional(),
      }),
    )
    .max(500),
  unjoined: z.array(z.string().max(2_000)).max(2_000),
});

/** The file in which all of it but feeds and files stands. */
export const SCHEDULE_FILE = 'schedule.json';
export const FEEDS = 'feeds';
export const FILES = 'files';

export const ScheduleArchive = z.object({
  learner: z.object({ name: Name, zone: ZoneName, term: Term.nullable(), reminders: RemindSet.nullable() }),
  calendars: z
    .array(
      z.object({
        ref: Ref,
        name: Name,
        kind: CalendarKind,
        category: Category,
        colour: Colour,
        flag: Flag,
        zone: ZoneName,
        reminders: RemindSet.nullable(),
        alarms: z.enum(['use', 'ignore']),
        /** People whom it was for; people are named as the installation names them that it was made in */
        audience: Audience.nullable(),
      }),
    )
    .max(100),
  sources: z
    .array(
      z.object({
        ref: Ref,
        kind: z.enum(['followedLink', 'oneTimeFile']),
        calendar: Ref,
        /** Its entries stand in `feeds/` under this name */
        feed: z.string().regex(/^\d{1,3}\.ics$/),
        /** The link as it may be shown, or the file's name */
        masked: z.string().max(400),
        /** The link, sealed: it opens in the installation that it was sealed in, and nowhere else */
        sealed: z.string().max(12_000),
        rules: Rules,
        sections: z
          .record(z.string().max(400), Ref)
          .refine((all) => Object.keys(all).length <= 1_000, 'At most 1,000 sections.'),
        paused: z.boolean(),
      }),
    )
    .max(60),
  own: z.array(z.object({ ref: Ref, calendar: Ref, item: OwnItem })).max(5_000),
  layers: z
    .array(
      z.object({
        ...ofDate,
        finishedAt: Instant.nullable(),
        handedIn: HandInWay.nullable(),
        stillToDo: z.boolean(),
        aim: When.nullable(),
        estimate: Minutes.nullable(),
        spent: Minutes,
        position: z.number().nullable(),
        reminders: RemindRules.nullable(),
      }),
    )
    .max(MOST_OF_ITEMS),
  /** What whoever made the archive has for themselves */
  notes: z
    .array(
      z.object({ ...ofDate, note: z.string().max(20_000), hidden: z.boolean(), colour: Colour.nullable() }),
    )
    .max(MOST_OF_ITEMS),
  records: z
    .array(
      z.object({
        ...ofDate,
        kind: z.enum(['finished', 'reopened', 'handedIn', 'stillToDo']),
        way: HandInWay.nullable(),
        note: z.string().max(4_000),
        by: z.string().max(200).nullable(),
        at: Instant,
      }),
    )
    .max(MOST_OF_ITEMS),
  briefs: z.array(z.object({ ...ofDate, brief: Brief })).max(20_000),
  files: z
    .array(
      z.object({
        ...ofDate,
        name: z.string().min(1).max(255),
        /** SHA-256 of its bytes, and its name in `files/` */
        digest: z.string().regex(/^[0-9a-f]{64}$/),
        as: z.enum(['brief', 'record']),
      }),
    )
    .max(20_000),
  plan: PlanSettings.nullable(),
  runUps: z.array(z.object({ ...ofDate, runUp: RunUp })).max(5_000),
});
export type ScheduleArchive = z.infer<typeof ScheduleArchive>;

/** Content of an archive that was sent, and what of the schedule is otherwise now. */
export const ArchiveLook = z.object({
  name: z.string(),
  made: Instant,
  calendars: z.array(z.string()),
  sources: z.number(),
  /** Those made by hand */
  items: z.number(),
  finished: z.number(),
  briefs: z.number(),
  files: z.number(),
  runUps: z.number(),
  /** Links whose addresses cannot be opened here: they have to be entered again */
  sealedLinks: z.array(z.string()),
  /** Beside the schedule it was sent for: only there, only here */
  compared: z.object({ onlyInArchive: z.number(), onlyNow: z.number(), titles: z.array(z.string()) }),
});
export type ArchiveLook = z.infer<typeof ArchiveLook>;
