import { z } from 'zod';
import { claimedRecord, lenientClaim } from './claims.ts';
import {
  SHEET_EDITIONS,
  NOTICE_KINDS,
  CHANNELS,
  type ChannelsByKind as ChannelsByKindType,
  type NoticeSettings as NoticeSettingsType,
} from '../notify/settings.ts';
import type { DaySheet as DaySheetType } from '../notify/day-sheet.ts';
import { REMIND_KINDS, type RemindRule as RuleType } from '../notify/rules.ts';
import { parseLocal } from '../time/civil.ts';

/** Sorts of news, by what can be done about them. */
export const NEWS_SORTS = ['reminder', 'change', 'note', 'offer', 'other'] as const;

const Minute = z.number().int().min(0).max(1439);
const MOST_DAYS = 60;

/** The check of a reminder rule. */
export const RemindRule = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('ahead'),
    minutes: z
      .number()
      .int()
      .min(0, 'A reminder comes before, not after.')
      .max(MOST_DAYS * 1440, 'At most 60 days ahead.'),
  }),
  z.object({
    kind: z.literal('day'),
    days: z
      .number()
      .int()
      .min(0, 'A reminder comes before, not after.')
      .max(MOST_DAYS, 'At most 60 days ahead.'),
    minute: Minute,
  }),
  z.object({
    kind: z.literal('moment'),
    local: z
      .string()
      .refine((text) => !text.endsWith('Z') && !Number.isNaN(parseLocal(text)), 'There is no such time.'),
  }),
]) satisfies z.ZodType<RuleType>;
export type RemindRule = RuleType;

export const RemindRules = z.array(RemindRule).max(8, 'Eight reminders are the most.');
/** Settings for some kinds of items; the others are left to what holds otherwise. */
export const RemindSet = z.partialRecord(
  z.enum(REMIND_KINDS),
  RemindRules.refine(
    (rules): boolean => rules.every((r) => r.kind !== 'moment'),
    'A moment is for one item alone.',
  ),
);

const Channels = z.array(z.enum(CHANNELS)).max(3);
export const ChannelsByKind = z.record(
  z.enum(NOTICE_KINDS),
  Channels,
) satisfies z.ZodType<ChannelsByKindType>;

const Quiet = z.object({ from: Minute, to: Minute }).refine((q) => q.from !== q.to, {
  path: ['to'],
  message: 'Quiet hours that never end would hold everything back: choose another end.',
});
const Sheets = z.record(z.enum(SHEET_EDITIONS), Minute.nullable());
const ids = (most: number) => z.array(z.string().max(64)).max(most);

/** Notices that one person wants. */
export const NoticeSettings = z.object({
  all: ChannelsByKind,
  learners: z.record(z.string().max(64), ChannelsByKind),
  quiet: Quiet.nullable(),
  sheets: Sheets,
  muted: z.object({ items: ids(500), calendars: ids(200) }),
}) satisfies z.ZodType<NoticeSettingsType>;
export type NoticeSettings = NoticeSettingsType;

/** The same as it comes in. What it names may be gone by now: that is left out. */
export const NoticeSettingsChange = NoticeSettings.extend({
  learners: claimedRecord('learner', ChannelsByKind, 100),
  muted: z.object({
    items: z.array(lenientClaim('item')).max(500),
    calendars: z.array(lenientClaim('calendar')).max(200),
  }),
});

const Instant = z.iso.datetime();

/** Something a person was told. */
export const NoticeView = z.object({
  id: z.number(),
  learnerId: z.string(),
  kind: z.enum(NOTICE_KINDS),
  itemId: z.string().nullable(),
  recurrenceId: z.string(),
  calendarId: z.string().nullable(),
  title: z.string(),
  line: z.string(),
  sort: z.enum(NEWS_SORTS),
  /** For an offered calendar: the offer that can be taken or refused */
  offerId: z.string().nullable(),
  /** The path it leads to, where that is not its item’s or its sheet’s */
  leads: z.string().nullable(),
  at: Instant,
  seen: z.boolean(),
  /** Its item is finished by now */
  finished: z.boolean(),
  /** Its item is work, which can be finished */
  isWork: z.boolean(),
  /** Moment when it comes again, where a person has put it off */
  snoozedUntil: Instant.nullable(),
  /** For a sheet: which, and of what day */
  sheet: z.object({ edition: z.enum(SHEET_EDITIONS), day: z.string() }).nullable(),
});
export type NoticeView = z.infer<typeof NoticeView>;

/** Way in which a person is told, and what stands in the way. */
export const NoticeSettingsView = z.object({
  noticeSettings: NoticeSettings,
  mail: z.object({
    /** A mail server is set up here */
    ready: z.boolean(),
    address: z.string(),
    /** The person has shown that the address is theirs; before that, nothing is sent to it */
    confirmed: z.boolean(),
    waiting: z.number(),
    /** Obstacle that keeps mail from going out, since when, and what to do */
    trouble: z.object({ title: z.string(), remedy: z.string(), since: Instant }).nullable(),
  }),
});
export type NoticeSettingsView = z.infer<typeof NoticeSettingsView>;

const Line = z.object({
  when: z.string(),
  title: z.string(),
  more: z.string(),
  calendarId: z.string(),
  itemId: z.string(),
  recurrenceId: z.string(),
});
export const DaySheet = z.object({
  edition: z.enum(SHEET_EDITIONS),
  day: z.string(),
  title: z.string(),
  nothing: z.string(),
  lead: z.string(),
  sections: z.array(z.object({ heading: z.string(), lines: z.array(Line), more: z.number() })),
  hidden: z.number(),
}) satisfies z.ZodType<DaySheetType>;

/** The sheet of a day for one learner, as it is read and as it is copied. */
export const LearnerSheet = z.object({
  learnerId: z.string(),
  name: z.string(),
  sheet: DaySheet,
  text: z.string(),
});
export type LearnerSheet = z.infer<typeof LearnerSheet>;
