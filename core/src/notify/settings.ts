import { DAY, MINUTE, weekday } from '../time/civil.ts';
import type { Zone } from '../time/zone.ts';

/** Kinds of notices. */
export const NOTICE_KINDS = [
  'dueSoon',
  'newWork',
  'moved',
  'calledOff',
  'pastDue',
  'handedIn',
  'fromCrew',
  'sheet',
] as const;
export type NoticeKind = (typeof NOTICE_KINDS)[number];
export const NOTICE_KIND_WORDS: Record<NoticeKind, string> = {
  dueSoon: 'Reminders',
  newWork: 'New work',
  moved: 'Dates that move',
  calledOff: 'What is called off',
  pastDue: 'Past due',
  handedIn: 'What was handed in',
  fromCrew: 'Notes and offers',
  sheet: 'Day and week sheets',
};

/** By what way. */
export const CHANNELS = ['app', 'browser', 'mail'] as const;
export type Channel = (typeof CHANNELS)[number];
export const CHANNEL_WORDS: Record<Channel, string> = {
  app: 'in the app',
  browser: 'in this browser',
  mail: 'by mail',
};

export type ChannelsByKind = Record<NoticeKind, Channel[]>;

/** Minutes of the day between which nothing is sent; it may go over midnight. */
export interface Quiet {
  from: number;
  to: number;
}

export const SHEET_EDITIONS = ['morning', 'evening', 'week'] as const;
export type SheetEdition = (typeof SHEET_EDITIONS)[number];

/** Notices that one person wants. */
export interface NoticeSettings {
  all: ChannelsByKind;
  /** For learners of whom they want to be told otherwise, by id */
  learners: Record<string, ChannelsByKind>;
  quiet: Quiet | null;
  /** At which minute of the day each sheet comes; the week's on Sundays. Null: not at all. */
  sheets: Record<SheetEdition, number | null>;
  muted: { items: string[]; calendars: string[] };
}

export const DEFAULT_NOTICE_SETTINGS: NoticeSettings = {
  all: {
    dueSoon: ['app', 'browser'],
    newWork: ['app'],
    moved: ['app', 'browser'],
    calledOff: ['app', 'browser'],
    pastDue: ['app'],
    handedIn: ['app'],
    fromCrew: ['app', 'browser', 'mail'],
    sheet: ['app'],
  },
  learners: {},
  quiet: { from: 22 * 60, to: 7 * 60 },
  sheets: { morning: null, evening: 17 * 60, week: 17 * 60 },
  muted: { items: [], calendars: [] },
};

export const channelsFor = (
  { all, learners }: NoticeSettings,
  learnerId: string,
  kind: NoticeKind,
): readonly Channel[] => (learners[learnerId] ?? all)[kind];

/**
 * Leaves out what somebody wants to be told of one schedule.
 * @param gone ids of its items and calendars, which are muted no more
 */
export const withoutLearner = (
  { learners, muted, ...rest }: NoticeSettings,
  learnerId: string,
  gone: ReadonlySet<string>,
): NoticeSettings => ({
  ...rest,
  learners: Object.fromEntries(Object.entries(learners).filter(([id]) => id !== learnerId)),
  muted: {
    items: muted.items.filter((id) => !gone.has(id)),
    calendars: muted.calendars.filter((id) => !gone.has(id)),
  },
});

/** The same without any mail. */
export function withoutMail(noticeSettings: NoticeSettings): NoticeSettings {
  const strip = (matrix: ChannelsByKind): ChannelsByKind =>
    Object.fromEntries(
      Object.entries(matrix).map(([kind, channels]) => [kind, channels.filter((w) => w !== 'mail')]),
    ) as unknown as ChannelsByKind;
  return {
    ...noticeSettings,
    all: strip(noticeSettings.all),
    learners: Object.fromEntries(
      Object.entries(noticeSettings.learners).map(([id, matrix]) => [id, strip(matrix)]),
    ),
  };
}

/**
 * The moment quiet hours that hold at `at` are over; `at` itself where none hold. On the wall clock of
 * `viewer`, across clock changes.
 */
export function afterQuiet(at: number, quiet: Quiet | null, viewer: Zone): number {
  if (!quiet || quiet.from === quiet.to) return at;
  const local = at + viewer.offsetAt(at);
  const day = Math.floor(local / DAY);
  const minute = Math.floor((local - day * DAY) / MINUTE);
  const over = quiet.from > quiet.to;
  const isQuiet = over
    ? minute >= quiet.from || minute < quiet.to
    : minute >= quiet.from && minute < quiet.to;
  if (!isQuiet) return at;
  const end = viewer.toInstant((over && minute >= quiet.from ? day + 1 : day) * DAY + quiet.to * MINUTE);
  return Math.max(at, end);
}

export interface SheetMoment {
  at: number;
  edition: SheetEdition;
  /** Day number it is for */
  day: number;
}

/**
 * The sheets that come due after `from` and up to `to` (instants), in order. On Sundays the week's takes the
 * evening's in, so that only that one comes.
 */
export function sheetsBetween(
  sheets: NoticeSettings['sheets'],
  from: number,
  to: number,
  viewer: Zone,
): SheetMoment[] {
  const first = Math.floor((from + viewer.offsetAt(from)) / DAY);
  const last = Math.floor((to + viewer.offsetAt(to)) / DAY);
  const found: SheetMoment[] = [];
  for (let day = first; day <= last; day++) {
    for (const edition of SHEET_EDITIONS) {
      const minute = sheets[edition];
      const isSunday = weekday(day) === 7;
      if (minute === null || (edition === 'week' && !isSunday)) continue;
      if (edition === 'evening' && isSunday && sheets.week !== null) continue;
      const at = viewer.toInstant(day * DAY + minute * MINUTE);
      if (at > from && at <= to) found.push({ at, edition, day });
    }
  }
  return found.sort((a, b) => a.at - b.at);
}

/**
 * When to be told again: in an hour, this evening, tomorrow morning. Instants; this evening only while it is
 * not evening yet.
 */
export function snoozeTimes(
  now: number,
  viewer: Zone,
): { hour: number; evening: number | null; tomorrow: number } {
  const day = Math.floor((now + viewer.offsetAt(now)) / DAY);
  const at = (d: number, minute: number) => viewer.toInstant(d * DAY + minute * MINUTE);
  const evening = at(day, 18 * 60);
  return {
    hour: now + 60 * MINUTE,
    evening: evening > now + 30 * MINUTE ? evening : null,
    tomorrow: at(day + 1, 8 * 60),
  };
}
