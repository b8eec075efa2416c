import { calendarText } from '@zephyrfield/core/out/calendar';
import { datesGoingOut, sittingsGoingOut, type OutSchedule } from '@zephyrfield/core/out/going-out';
import { DEFAULT_SHARE, type ShareRules } from '@zephyrfield/core/out/share';
import type { TableOf } from '@zephyrfield/core/out/columns';
import { itemsTable, recordsTable } from '@zephyrfield/core/out/table';
import { paperOf } from '@zephyrfield/core/out/paper';
import type { PaperAsked } from '@zephyrfield/core/out/paper-size';
import type { PaperBrief } from '@zephyrfield/core/api/server-render-pages';
import { keyOf, type OccurrenceView } from '@zephyrfield/core/item/occurrence';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';
import { instantIn } from '@zephyrfield/core/time/when';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { spanDayWords, dueWords, viewerOf } from '@zephyrfield/core/words/when';
import { readDatabase, type Db } from '../db/open.ts';
import { itemStore } from '../items/store.ts';
import { occurrencesBetween } from '../items/views.ts';
import { sightsIn } from '../people/sights.ts';
import { papersPage, sharedPage, type PageAsked } from './pages.ts';
import { briefsOf, recordsGoingOut, scheduleGoingOut, type Span } from './material.ts';

/** Something that goes out, to be made of what the database holds at one moment. */
export type GoingOut = { file: string; now: number; span: Span } & (
  | { as: 'calendar'; name: string; rules: ShareRules; salt: string; apart: boolean }
  | { as: 'look'; rules: ShareRules }
  | ({ as: 'page'; rules: ShareRules; salt: string } & PageAsked)
  | { as: 'paper'; web: string; asked: PaperAsked; briefs: boolean; learners: string[] }
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
      case 'paper':
        return papersPage(job.web, {
          asked: job.asked,
          papers: job.learners.map((learnerId) => paperFor(db, { ...job.span, learnerId }, job)),
        });
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

/** One learner’s week or month, as whoever prints it sees it. */
function paperFor(db: Db, span: Span, { now, asked, briefs }: Extract<GoingOut, { as: 'paper' }>) {
  const schedule = scheduleGoingOut(db, span, now);
  const viewer = viewerIn(schedule);
  const items = itemStore(db, sightsIn(db));
  const seen = occurrencesBetween(items, span.learnerId, span.personId, span.from, span.to).filter(
    (o) => !o.hidden,
  );
  const sittings = sittingsGoingOut({ ...schedule, dates: seen }, DEFAULT_SHARE);
  const paper = paperOf(schedule.name, [...seen, ...sittings], asked, {
    now,
    viewer,
    firstDay: DEFAULT_SETTINGS.firstDay,
    calendars: schedule.calendars,
  });
  return { ...paper, briefs: briefs ? briefsFor(db, span.learnerId, seen, paper.keys) : [] };
}

/** The briefs of what is printed, each once, in order. */
function briefsFor(db: Db, learnerId: string, dates: readonly OccurrenceView[], keys: readonly string[]) {
  const all = briefsOf(db, learnerId);
  const byKey = new Map(dates.map((o) => [keyOf(o), o]));
  const found = new Map<string, PaperBrief>();
  for (const key of keys) {
    const o = byKey.get(key);
    const of = o && [key, keyOf({ itemId: o.itemId, recurrenceId: '' })].find((each) => all.has(each));
    if (o && of && !found.has(of)) found.set(of, { title: o.title, brief: all.get(of)! });
  }
  return [...found.values()];
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

/** Gives what a file holds: all that whoever asks sees of some calendars, work as to-dos. */
export const fileRules = (calendars: string[] | null): ShareRules => ({
  ...DEFAULT_SHARE,
  calendars,
  workAs: 'todo',
  reminders: true,
});
