import { contentText } from '@zephyrfield/core/ical/content';
import { expandEntry, type Entry, type EntryOccurrence } from '@zephyrfield/core/gather/entries';
import { contentOf, type OwnItem } from '@zephyrfield/core/item/own';
import type { Budget } from '@zephyrfield/core/recurrence/expand';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';

/** Items made by hand, to be worked out. */
export interface OwnDatesJob {
  items: { own: OwnItem; uid: string; zone: string }[];
  /** Horizon, instants in milliseconds */
  from: number;
  to: number;
  /** True where each has a budget of its own, or all share one: what one request asks for is one */
  apart: boolean;
}

/**
 * What an item is stored as: its content as text, and its dates; null for dates that are too much to work
 * out.
 */
export interface OwnDates {
  content: string;
  dates: EntryOccurrence[] | null;
}

/**
 * Steps that the repeats of one request may take: fifty that are counted week by week over twenty-five years.
 * The dearest take a second in all.
 */
const STEPS = 200_000;
const STEPS_EACH = 50_000;

/** What is worked out at once: one item or a few, whose repeats take next to nothing. */
const QUICK = { items: 5, steps: 1_500 };

/** Works out the dates of items made by hand, in a bounded number of steps. */
export function datesOf(job: OwnDatesJob): OwnDates[] {
  const shared = { steps: STEPS };
  return job.items.map((item) => workOut(item, job, job.apart ? { steps: STEPS_EACH } : shared));
}

/**
 * The same for what takes a few milliseconds, as nearly all that people write does; null for what may take
 * longer.
 */
export function quickDatesOf(job: OwnDatesJob): OwnDates[] | null {
  if (job.items.length > QUICK.items) return null;
  const budget = { steps: QUICK.steps };
  const found = job.items.map((item) => (budget.steps < 0 ? null : workOut(item, job, budget)));
  return found.every((each) => each !== null && each.dates !== null) ? (found as OwnDates[]) : null;
}

function workOut(
  { own, uid, zone }: OwnDatesJob['items'][number],
  { from, to }: Pick<OwnDatesJob, 'from' | 'to'>,
  budget: Budget,
): OwnDates {
  const content = contentOf(own, uid);
  const entry: Entry = {
    uid,
    fingerprint: 0,
    section: null,
    kind: own.kind,
    handIn: own.handIn,
    doubt: false,
    course: null,
    title: own.title,
    content,
  };
  // What it is was said by a person, for each of its dates.
  const as = {
    calendar: 'own' as const,
    rules: { split: null, unjoined: [], corrections: [{ of: { uid }, kind: own.kind, handIn: own.handIn }] },
  };
  const dates = expandEntry(entry, { from, to, zone: ianaZone(zone) ?? UTC, zones: {}, as, budget });
  return { content: contentText(content), dates: budget.steps < 0 ? null : dates };
}
