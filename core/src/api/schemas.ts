import { z } from 'zod';
import { ACCESSES, OTHERS_SEE, type Access as AccessType } from '../item/access.ts';
import type { ChangeView as ChangeViewType } from '../item/change.ts';
import type { OccurrenceView as OccurrenceViewType } from '../item/occurrence.ts';
import { claim } from './claims.ts';
import { LONGEST_SECTION, SPLIT_WAYS, type SplitRule as SplitRuleType } from '../gather/split.ts';
import { Brief, BriefFile, OwnItem } from './own.ts';
import { RemindRules, RemindSet } from './notify.ts';

import {
  CalendarKind,
  Colour,
  Flag,
  HandInWay,
  Passage,
  Settings,
  ItemKind,
  Term,
  When,
  ZoneName,
  line,
} from './values.ts';

export const SplitRule = z.object({
  by: z.enum(SPLIT_WAYS),
  at: z.string().max(100).optional(),
}) satisfies z.ZodType<SplitRuleType>;

export const Id = z.string().min(1).max(64);
export const Instant = z.iso.datetime();
/** Longest name, in characters. */
export const LONGEST_NAME = 120;

export const Name = line().min(1, 'Give it a name.').max(LONGEST_NAME, 'Keep the name under 120 characters.');

/** RFC 9457 problem details, with what to do and, for a form, which field. */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number(),
  detail: z.string().optional(),
  /** Remedy that the person has */
  remedy: z.string().optional(),
  fields: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
});
export type Problem = z.infer<typeof Problem>;

export const Access = z.enum(ACCESSES);
export type Access = AccessType;

/** People in the crew a calendar is for, where it is not for everybody. */
export const Audience = z.object({
  persons: z.array(Id).max(200),
  others: z.enum(OTHERS_SEE),
});

export const Learner = z.object({
  id: Id,
  name: z.string(),
  zone: z.string(),
  access: Access,
  /** True where it is the own schedule of who asks */
  isSelf: z.boolean(),
  /** The term entered by hand; null where it is taken from the school’s calendar */
  term: Term.nullable(),
  /** Reminders, where that is said for the whole schedule */
  reminders: RemindSet.nullable(),
});
export type Learner = z.infer<typeof Learner>;

/** Names what is to be made from where it is made: made again after its answer was lost, it is still one. */
const MakingKey = z.uuid().optional();

export const NewLearner = z.object({
  name: Name,
  zone: ZoneName,
  /** It is the schedule of who begins it */
  isSelf: z.boolean().optional(),
  key: MakingKey,
});

export const Person = z.object({ id: Id, name: z.string(), email: z.string() });

export const Session = z.object({
  person: Person.nullable(),
  /** Way in which this person likes to look at things */
  settings: Settings,
  learners: z.array(Learner),
  /** No account yet: the first page makes the first one */
  empty: z.boolean(),
  /** Anybody may make an account here, without an invitation */
  open: z.boolean(),
  demo: z.boolean(),
  now: Instant,
});
export type Session = z.infer<typeof Session>;

export const CalendarView = z.object({
  id: Id,
  learnerId: Id,
  name: z.string(),
  kind: CalendarKind,
  category: z.string(),
  colour: Colour,
  flag: Flag,
  /** Zone in which times without one are read */
  zone: z.string(),
  position: z.number(),
  /** Begun by hand: nothing was ever gathered into it */
  handMade: z.boolean(),
  /** Reminders of what is in it, where that is said for it */
  reminders: RemindSet.nullable(),
  /** True where its feed’s own alarms count in place of that */
  alarms: z.enum(['use', 'ignore']),
  /** People in the crew it is for; null for everybody */
  audience: Audience.nullable(),
  /** Person who made it; null where nobody knows any more */
  madeBy: Id.nullable(),
  /** It stands for the hours of all that is kept from who looks */
  busy: z.literal(true).optional(),
});
export type CalendarView = z.infer<typeof CalendarView>;

/** A category of one's own: music, training, errands. */
export const Category = z.string().trim().max(40, 'Keep the category under 40 characters.');

export const CalendarChange = z
  .object({
    name: Name,
    kind: CalendarKind,
    category: Category,
    colour: Colour,
    flag: Flag,
    zone: ZoneName,
    reminders: RemindSet.nullable(),
    alarms: z.enum(['use', 'ignore']),
  })
  .partial();
export type CalendarChange = z.infer<typeof CalendarChange>;

const Asked = z.object({ itemId: Id, title: z.string(), calendarId: Id, when: When.nullable() });

/** Questions to a person about what was gathered. */
export const Questions = z.object({
  /** Two that may be the same thing */
  maybeSame: z.array(z.object({ a: Asked, b: Asked })),
  /** Entry that left its feed with something added to it, and the entries of that feed it may be now */
  unmatched: z.array(
    Asked.omit({ when: true }).extend({ offered: z.array(Asked.omit({ calendarId: true })) }),
  ),
  /** Entries that may be due or not, one for all that are like it: their number, and what they are taken for */
  doubtful: z.array(Asked.extend({ kind: ItemKind, count: z.number() })),
});
export type Questions = z.infer<typeof Questions>;

export const Trouble = z.object({
  code: z.string(),
  message: z.string(),
  remedy: z.string(),
  since: Instant,
});
export type Trouble = z.infer<typeof Trouble>;

export const WarningView = z.object({ line: z.number().nullable(), message: z.string() });

export const SourceView = z.object({
  id: Id,
  /** Its calendars: one, or as many as it is split into */
  calendarIds: z.array(Id),
  kind: z.enum(['followedLink', 'oneTimeFile', 'published']),
  /** The link with its secret parts masked, the file's name, or who publishes it */
  address: z.string(),
  split: SplitRule.nullable(),
  sections: z.array(z.object({ section: z.string().nullable(), calendarId: Id, count: z.number() })),
  /** Sections that have turned up since it was split and were given calendars of their own */
  newSections: z.array(z.string()),
  entries: z.number(),
  /** Number of things that are ticked off or noted in it: what stays when it goes */
  records: z.number(),
  lastChecked: Instant.nullable(),
  lastGood: Instant.nullable(),
  trouble: Trouble.nullable(),
  /** The last reading had lost most entries at once; it is not applied until that is confirmed */
  heldBack: z.object({ since: Instant, missing: z.number(), of: z.number() }).nullable(),
  /** Moment when it is checked next by itself; null while paused */
  nextCheck: Instant.nullable(),
  warnings: z.array(WarningView),
});
export type SourceView = z.infer<typeof SourceView>;

export const Address = z
  .string()
  .trim()
  .min(1, 'Paste the calendar’s link.')
  .max(4000, 'That link is too long.');

/** Another link for what is followed already. */
export const AddressChange = z.object({ address: Address });

export const PreviewRequest = z.object({ address: Address, zone: ZoneName });

const Section = z.object({ section: z.string().nullable(), count: z.number() });
export const SplitProposal = z.object({ rule: SplitRule, sections: z.array(Section) });

/** A split as a person wants it: what each part is called. Sections of one name share a calendar. */
export const SplitRequest = z.object({
  rule: SplitRule,
  sections: z
    .array(
      z.object({
        section: z.string().max(LONGEST_SECTION).nullable(),
        name: Name,
        colour: Colour.optional(),
        flag: Flag.optional(),
      }),
    )
    .min(1)
    .max(40),
});
export type SplitRequest = z.infer<typeof SplitRequest>;

export const Preview = z.object({
  /** Name that the feed gives itself */
  name: z.string().nullable(),
  entries: z.number(),
  work: z.number(),
  first: z.string().nullable(),
  last: z.string().nullable(),
  /** The zone the feed says it is in; null where it says none */
  zone: z.string().nullable(),
  courses: z.array(z.object({ name: z.string(), count: z.number() })),
  warnings: z.array(WarningView),
  /** The next few things in it, to recognise it by */
  sample: z.array(z.object({ title: z.string(), start: When, kind: ItemKind })),
  suggestion: z.object({ colour: Colour, flag: Flag }),
  /** Name of the calendar that follows this link already */
  alreadyFollowed: z.string().nullable(),
  /** It is read without encryption: on its way, others can read it */
  isPlain: z.boolean(),
  /** Ways to make several calendars of it, the most telling first */
  splits: z.array(SplitProposal),
  /** For a file: under which name it waits to be read in, and which file read before it is a newer copy of */
  file: z
    .object({
      id: Id,
      name: z.string(),
      copyOf: z.object({ sourceId: Id, calendar: z.string(), readOn: Instant }).nullable(),
    })
    .nullable(),
});
export type Preview = z.infer<typeof Preview>;

export const NewCalendar = z.object({
  zone: ZoneName,
  name: Name,
  kind: CalendarKind,
  category: Category.default(''),
  colour: Colour,
  flag: Flag,
  split: SplitRequest.nullable().default(null),
});
export type NewCalendar = z.infer<typeof NewCalendar>;
export const FollowRequest = NewCalendar.extend({ address: Address });
export type FollowRequest = z.infer<typeof FollowRequest>;
/** Reads a file that waits in as a calendar, or into the source it is a newer copy of. */
export const TakeFile = NewCalendar;
export const TakeFileInto = z.object({ fileId: claim('waitingFile'), confirm: z.boolean().default(false) });
export const FileQuery = z.object({ name: z.string().trim().min(1).max(255), zone: ZoneName });

export const Followed = z.object({ calendar: CalendarView, source: SourceView });

export const ReadingRequest = z.object({
  /** The person says that what is missing is really gone */
  confirm: z.boolean().default(false),
});

export const ChangeView = z.object({
  id: z.number(),
  kind: z.enum(['added', 'moved', 'reworded', 'calledOff', 'removed']),
  itemId: Id,
  recurrenceId: z.string(),
  calendarId: Id,
  title: z.string(),
  from: When.nullable(),
  to: When.nullable(),
  formerTitle: z.string().nullable(),
  at: Instant,
  seen: z.boolean(),
}) satisfies z.ZodType<ChangeViewType>;
export type ChangeView = ChangeViewType;

export const ReadingResult = z.object({
  source: SourceView,
  unchanged: z.boolean(),
  added: z.number(),
  changed: z.number(),
  gone: z.number(),
});
export type ReadingResult = z.infer<typeof ReadingResult>;

export const OccurrenceView = z.object({
  itemId: Id,
  /** Which occurrence of a repeated item; empty for what does not repeat */
  recurrenceId: z.string(),
  calendarId: Id,
  /** Other calendars that have the same thing */
  alsoIn: z.array(Id),
  title: z.string(),
  place: z.string(),
  kind: ItemKind,
  handIn: HandInWay,
  status: z.enum(['confirmed', 'tentative', 'cancelled']),
  start: When,
  end: When.nullable(),
  due: When.nullable(),
  /** After this nothing is taken any more; null where nobody has said that it closes */
  closes: When.nullable(),
  /** It has no date; `start` is the day it was made */
  undated: z.boolean(),
  /** Made by hand, so that it can be changed and moved */
  own: z.boolean(),
  finished: z.boolean(),
  finishedAt: Instant.nullable(),
  /** Way in which it was handed in, where that was told */
  handedIn: HandInWay.nullable(),
  /** A person has said that it is not done: its date has passed, or its course says that it is */
  stillToDo: z.boolean(),
  /** Its course says that it is done */
  doneInCourse: z.boolean(),
  /** One of a series that goes on for ever */
  endless: z.boolean(),
  /** By when the person means to be finished */
  aim: When.nullable(),
  /** Time the person thinks it takes, in minutes */
  estimate: z.number().nullable(),
  /** Hidden, by itself, by the person who looks and for them alone */
  hidden: z.boolean(),
  /** The colour it has for the person who looks */
  colour: Colour.nullable(),
  /** Where a person has put it in its bucket of the to-do list */
  position: z.number().nullable(),
  /** Of the layer the crew shares; 0 where there is none yet */
  version: z.number(),
  /** Of what the person who looks has for themselves on it; 0 where there is nothing */
  personVersion: z.number(),
  /** Hours of a calendar that is kept from who looks: nothing else is said of it */
  busy: z.literal(true).optional(),
}) satisfies z.ZodType<OccurrenceViewType>;
export type OccurrenceView = OccurrenceViewType;

/** One deed: finished, taken back, or told how it was handed in. */
export const RecordView = z.object({
  at: Instant,
  kind: z.enum(['finished', 'reopened', 'handedIn', 'stillToDo']),
  way: HandInWay.nullable(),
  note: z.string(),
  by: z.string(),
});
export type RecordView = z.infer<typeof RecordView>;

/** The clock that runs for a learner: on what, since when, and how many minutes it took before. */
export const TimerView = z.object({
  itemId: Id,
  recurrenceId: z.string(),
  title: z.string(),
  since: Instant,
  spent: z.number(),
});
export type TimerView = z.infer<typeof TimerView>;

export const ItemView = z.object({
  occurrence: OccurrenceView,
  description: z.array(Passage),
  links: z.array(
    z.object({ href: z.string(), label: z.string().nullable(), role: z.enum(['page', 'meeting', 'file']) }),
  ),
  categories: z.array(z.string()),
  /** Place where it comes from, and when that was last read */
  origin: z.object({
    calendar: z.string(),
    kind: z.enum(['followedLink', 'oneTimeFile', 'published', 'handMade']),
    address: z.string().nullable(),
    lastGood: Instant.nullable(),
    uid: z.string(),
    course: z.string().nullable(),
  }),
  /** Way in which it repeats, in the feed's own rules */
  repeats: z.boolean(),
  percent: z.number().nullable(),
  /** No longer in its feed */
  gone: z.boolean(),
  /** The same thing in other calendars, and what a person said is not */
  duplicates: z.array(
    z.object({
      itemId: Id,
      title: z.string(),
      calendarId: Id,
      calendar: z.string(),
      when: When.nullable(),
      notDuplicate: z.boolean(),
    }),
  ),
  /**
   * How many entries of its source are of its kind, this one counted; and what their titles have in common
   */
  alike: z.object({ count: z.number(), words: z.string() }),
  /** It may as well be due, or not be: the person is asked */
  doubt: z.boolean(),
  /** The opening and closing it was joined from, or was told apart into; null for most */
  window: z.object({ joined: z.boolean(), opens: z.string(), closes: z.string() }).nullable(),
  /** For an item that others follow: how many schedules do, and in how many somebody has opened it */
  looked: z.object({ of: z.number(), opened: z.number() }).nullable(),
  /** For what is made by hand: all of it, as it may be changed; its version counts its changes */
  own: z.object({ item: OwnItem, version: z.number() }).nullable(),
  /** The rest of the own layer */
  note: z.string(),
  /** Minutes spent on it so far, and since when its clock runs; null where it does not */
  spent: z.number(),
  timerSince: Instant.nullable(),
  /**
   * Its own rules for reminders, if it has any; how many alarms its feed gave it; and when the person asking
   * is told
   */
  reminders: z.object({
    own: RemindRules.nullable(),
    rules: RemindRules,
    alarms: z.number(),
    moments: z.array(z.object({ at: Instant, of: z.enum(['start', 'due', 'aim', 'pastDue']) })),
  }),
  /** Records of what was told about finishing and handing in, latest first */
  records: z.array(RecordView),
  /** Photos of how it was handed in, the first one first */
  photos: z.array(BriefFile),
  brief: z.object({ shared: Brief.nullable(), ofDate: Brief.nullable(), files: z.array(BriefFile) }),
  /** Changes that its feed has made about it, latest first */
  history: z.array(ChangeView),
});
export type ItemView = z.infer<typeof ItemView>;

export const SourceChange = z.object({
  paused: z.boolean().optional(),
  /** The person has seen which parts are new */
  sectionsSeen: z.literal(true).optional(),
});
export type SourceChange = z.infer<typeof SourceChange>;

/** Corrects what an item is or how it is handed in, for it or for all of its kind in its source; null: as its feed says. */
export const ItemCorrection = z
  .object({
    kind: ItemKind.nullable().optional(),
    handIn: HandInWay.optional(),
    all: z.boolean().default(false),
  })
  .refine((c) => c.kind !== undefined || c.handIn, 'Say what it is or how it is handed in.');

/** A calendar of one's own making, for what no link carries. */
export const NewOwnCalendar = z.object({
  name: Name,
  kind: CalendarKind,
  category: Category.default(''),
  colour: Colour,
  flag: Flag,
  zone: ZoneName,
  key: MakingKey,
});

/** An own item to be written, or (null) taken away; at a version, so that nobody's change is lost. */
export const OwnWrite = z.object({
  /** Null for a new one */
  id: claim('item').nullable(),
  /** Names a new one from where it was made, so that the same one sent twice is one */
  key: z.uuid().optional(),
  calendarId: claim('calendar'),
  item: OwnItem.nullable(),
  version: z.number().int().nonnegative(),
  /** The item it was parted from: ticks and notes on its dates come along */
  from: claim('item').optional(),
});
export type OwnWrite = z.input<typeof OwnWrite>;

/** Items that were written: each as it is now named, with what stood there before, so that it can be put back. */
export const OwnWritten = z.object({
  id: Id,
  version: z.number(),
  before: z.object({ calendarId: Id, item: OwnItem.nullable() }),
});
export type OwnWritten = z.infer<typeof OwnWritten>;
