import { DAY, MINUTE, weekday } from '../time/civil.ts';
import type { Zone } from '../time/zone.ts';

/** What there is to be told of. */
export const NEWS = ['dueSoon', 'newWork', 'moved', 'calledOff', 'pastDue', 'handedIn', 'brief'] as const;
export type News = (typeof NEWS)[number];
export const NEWS_WORDS: Record<News, string> = {
  dueSoon: 'Reminders', newWork: 'New work', moved: 'Dates that move', calledOff: 'What is called off', pastDue: 'Past due', handedIn: 'What was handed in', brief: 'Day and week sheets',
}; // prettier-ignore

/** By what way. */
export const WAYS = ['app', 'browser', 'mail'] as const;
export type Way = (typeof WAYS)[number];
export const WAY_WORDS: Record<Way, string> = { app: 'in the app', browser: 'by this browser', mail: 'by mail' };

export type Matrix = Record<News, Way[]>;

/** Minutes of the day between which nothing is sent; it may go over midnight. */
export interface Quiet {
  from: number;
  to: number;
}

export const BRIEF_PARTS = ['morning', 'evening', 'week'] as const;
export type BriefPart = (typeof BRIEF_PARTS)[number];

/** What one person wants to be told. */
export interface Telling {
  all: Matrix;
  /** For learners of whom they want to be told otherwise, by id */
  learners: Record<string, Matrix>;
  quiet: Quiet | null;
  /** At which minute of the day each brief comes; the week's on Sundays. Null: not at all. */
  briefs: Record<BriefPart, number | null>;
  muted: { items: string[]; calendars: string[] };
}

export const DEFAULT_TELLING: Telling = {
  all: { dueSoon: ['app', 'browser'], newWork: ['app'], moved: ['app', 'browser'], calledOff: ['app', 'browser'], pastDue: ['app'], handedIn: ['app'], brief: ['app'] },
  learners: {},
  quiet: { from: 22 * 60, to: 7 * 60 },
  briefs: { morning: null, evening: 17 * 60, week: 17 * 60 },
  muted: { items: [], calendars: [] },
};

export const waysFor = ({ all, learners }: Telling, learnerId: string, news: News): readonly Way[] => (learners[learnerId] ?? all)[news];

/** The same without any mail. */
export function withoutMail(telling: Telling): Telling {
  const strip = (matrix: Matrix): Matrix => Object.fromEntries(Object.entries(matrix).map(([news, ways]) => [news, ways.filter((w) => w !== 'mail')])) as unknown as Matrix;
  return { ...telling, all: strip(telling.all), learners: Object.fromEntries(Object.entries(telling.learners).map(([id, matrix]) => [id, strip(matrix)])) };
}

/** The moment quiet hours that hold at `at` are over; `at` itself where none hold. On the wall clock of `viewer`, across clock changes. */
export function afterQuiet(at: number, quiet: Quiet | null, viewer: Zone): number {
  if (!quiet || quiet.from === quiet.to) return at;
  const local = at + viewer.offsetAt(at);
  const day = Math.floor(local / DAY);
  const minute = Math.floor((local - day * DAY) / MINUTE);
  const over = quiet.from > quiet.to;
  const isQuiet = over ? minute >= quiet.from || minute < quiet.to : minute >= quiet.from && minute < quiet.to;
  if (!isQuiet) return at;
  const end = viewer.toInstant((over && minute >= quiet.from ? day + 1 : day) * DAY + quiet.to * MINUTE);
  return Math.max(at, end);
}

export interface BriefMoment {
  at: number;
  part: BriefPart;
  /** Day number it is for */
  day: number;
}

/** The briefs that come due after `from` and up to `to` (instants), in order. */
export function briefsBetween(briefs: Telling['briefs'], from: number, to: number, viewer: Zone): BriefMoment[] {
  const first = Math.floor((from + viewer.offsetAt(from)) / DAY);
  const last = Math.floor((to + viewer.offsetAt(to)) / DAY);
  const found: BriefMoment[] = [];
  for (let day = first; day <= last; day++) {
    for (const part of BRIEF_PARTS) {
      const minute = briefs[part];
      if (minute === null || (part === 'week' && weekday(day) !== 7)) continue;
      const at = viewer.toInstant(day * DAY + minute * MINUTE);
      if (at > from && at <= to) found.push({ at, part, day });
    }
  }
  return found.sort((a, b) => a.at - b.at);
}

/** When to be told again: in an hour, this evening, tomorrow morning. Instants; this evening only while it is not evening yet. */
export function snoozeTimes(now: number, viewer: Zone): { hour: number; evening: number | null; tomorrow: number } {
  const day = Math.floor((now + viewer.offsetAt(now)) / DAY);
  const at = (d: number, minute: number) => viewer.toInstant(d * DAY + minute * MINUTE);
  const evening = at(day, 18 * 60);
  return { hour: now + 60 * MINUTE, evening: evening > now + 30 * MINUTE ? evening : null, tomorrow: at(day + 1, 8 * 60) };
}
