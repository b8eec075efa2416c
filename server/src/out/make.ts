import { calendarText } from '@zephyrfield/core/out/calendar';
import { datesGoingOut, type OutSchedule } from '@zephyrfield/core/out/going-out';
import { DEFAULT_SHARE, type ShareRules } from '@zephyrfield/core/out/share';
import { itemsTable, recordsTable, type TableOf } from '@zephyrfield/core/out/table';
import type { OccurrenceView } from '@zephyrfield/core/item/occurrence';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';
import { instantIn } from '@zephyrfield/core/time/when';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { spanDayWords, dueWords, viewerOf } from '@zephyrfield/core/words/when';
import { readDatabase } from '../db/open.ts';
import { sharedPage, type PageAsked } from './pages.ts';
import { recordsGoingOut, scheduleGoingOut, type Span } from './material.ts';

/** Something that goes out, to be made of what the database holds at one moment. */
export type GoingOut = { file: string; now: number; span: Span } & (
  | { as: 'calendar'; name: string; rules: ShareRules; salt: string; apart: boolean }
  | { as: 'look'; rules: ShareRules }
  | ({ as: 'page'; rules: ShareRules; salt: string } & PageAsked)
  | { as: 'table'; of: TableOf; calendars: string[] | null; columns: string[] | undefined }
);

/** How many of what comes next are shown to whoever looks at what others see. */
const NEXT = 12;

/** Makes it, as text; runs in a worker thread. */
export function makeGoingOut(job: GoingOut): string {
  return readDatabase(job.file, (db) => {
    const schedule = scheduleGoingOut(db, job.span, job.now);
    switch (job.as) {
      case 'calendar':
        return calendarText({ ...job, schedule: { ...schedule, name: job.name } });
      case 'look':
        return JSON.stringify(lookOf(schedule, job.rules, job.now));
      case 'page':
        return sharedPage(datesGoingOut(schedule, job.rules, job.salt), schedule, job);
      case 'table': {
        const isIn = ({ calendarId }: { calendarId: string }) =>
          job.calendars === null || job.calendars.includes(calendarId);
        const names = new Map(schedule.calendars.map(({ id, name }) => [id, name]));
        const context = { viewer: viewerIn(schedule), names };
        return job.of === 'records'
          ? recordsTable(recordsGoingOut(db, job.span).filter(isIn), context, job.columns)
          : itemsTable(inOrder(schedule.dates.filter(isIn), schedule), context, job.columns);
      }
    }
  });
}

const viewerIn = ({ zone }: OutSchedule) => viewerOf(ianaZone(zone) ?? UTC, DEFAULT_SETTINGS);

function inOrder(dates: readonly OccurrenceView[], schedule: OutSchedule): OccurrenceView[] {
  const viewer = viewerIn(schedule);
  const at = new Map(dates.map((o) => [o, instantIn(o.due ?? o.start, viewer)]));
  return [...dates].sort((a, b) => at.get(a)! - at.get(b)!);
}

function lookOf(schedule: OutSchedule, rules: ShareRules, now: number) {
  const viewer = viewerIn(schedule);
  const all = inOrder(datesGoingOut(schedule, rules, ''), schedule);
  const next = all.filter((o) => instantIn(o.end ?? o.due ?? o.start, viewer) >= now).slice(0, NEXT);
  return {
    count: all.length,
    next: next.map((o) => ({
      title: o.title,
      when: o.due ? dueWords(o.due, viewer) : spanDayWords(o.start, o.end, viewer),
      place: o.place,
    })),
  };
}

/** What a file holds: all that whoever asks sees of some calendars, work as to-dos. */
export const fileRules = (calendars: string[] | null): ShareRules => ({
  ...DEFAULT_SHARE,
  calendars,
  workAs: 'todo',
  reminders: true,
});
