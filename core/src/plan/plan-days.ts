import { keyOf, type OccurrenceView } from '../item/occurrence.ts';
import { isWork } from '../item/kind.ts';
import { DAY, HOUR, MINUTE, parseDate, weekday } from '../time/civil.ts';
import { dayIn, floatingOf, localIn } from '../time/when.ts';
import { loadByDay, loadShares, type LoadOptions } from '../view/load.ts';
import { dueDay } from '../words/when.ts';
import type { Schedule } from './ask.ts';
import {
  inOrder,
  isOpen,
  lastDayOf,
  minutesLeft,
  sittingDays,
  sittingNames,
  type PlannedSitting,
  type RunUpOf,
  type SittingName,
} from './run-up.ts';

/** A sitting with what it is of. */
export interface SittingEntry {
  key: string;
  sitting: PlannedSitting;
  occurrence: OccurrenceView;
  /** Null of one that was missed */
  name: SittingName | null;
}

/** Names a sitting among all: its work's key and its own. */
export const sittingId = ({ key, sitting }: Pick<SittingEntry, 'key' | 'sitting'>): string =>
  `${key} ${sitting.key}`;

/** From then on a weekday is one's own. */
const AFTERNOON = 15 * HOUR;

/** A sitting as something that stands at its hours, for the views of a calendar. */
export function sittingOccurrence(entry: SittingEntry): OccurrenceView {
  const { sitting, occurrence, name } = entry;
  const local = (minute: number) => floatingOf(parseDate(sitting.day) * DAY + minute * MINUTE);
  const what = name ? (name.part ? name.part : `${name.at} of ${name.of}`) : '';
  return {
    ...occurrence,
    recurrenceId: `${occurrence.recurrenceId} sitting ${sitting.key}`,
    title: [occurrence.title, what].filter(Boolean).join(': '),
    place: '',
    kind: 'meeting',
    handIn: 'nothing',
    start: local(sitting.from),
    end: local(sitting.from + sitting.minutes),
    due: null,
    aim: null,
    // It is moved and drawn out like what is made by hand.
    own: sitting.state === 'planned',
    finished: false,
    endless: false,
    sitting: sittingId(entry),
  };
}

/** One day of a plan. */
export interface PlanDay {
  day: number;
  /** Minutes of work, sittings and short work together */
  minutes: number;
  sittings: SittingEntry[];
  /** What one has to be at, by time */
  places: OccurrenceView[];
  /** Work that is due */
  due: OccurrenceView[];
}

type Given = Pick<Schedule, 'viewer' | 'occurrences' | 'runUps'> & Pick<LoadOptions, 'loads' | 'shelfFrom'>;

/** All sittings of run-ups whose work is known, in order. */
export function sittingEntries({
  occurrences,
  runUps,
}: Pick<Given, 'occurrences' | 'runUps'>): SittingEntry[] {
  const byKey = new Map(occurrences.map((o) => [keyOf(o), o]));
  const entries = runUps.flatMap((r) => {
    const occurrence = byKey.get(keyOf(r));
    if (!occurrence) return [];
    const names = sittingNames(r);
    // What is still planned of work that is finished stands no more.
    const standing = r.sittings.filter((s) => s.state !== 'planned' || isOpen(occurrence));
    return standing.map((sitting) => ({
      key: keyOf(r),
      sitting,
      occurrence,
      name: names.get(sitting.key) ?? null,
    }));
  });
  const order = new Map(inOrder(entries.map((e) => e.sitting)).map((s, n) => [s, n]));
  return entries.sort((a, b) => order.get(a.sitting)! - order.get(b.sitting)!);
}

/** The days of a plan, from one day number on, with what stands on each. */
export function planDays(given: Given, first: number, count: number): PlanDay[] {
  const { viewer, occurrences } = given;
  const load = loadOf(given);
  const days = Array.from({ length: count }, (_, n): PlanDay => ({
    day: first + n,
    minutes: Math.round(load.get(first + n) ?? 0),
    sittings: [],
    places: [],
    due: [],
  }));
  for (const entry of sittingEntries(given)) days[parseDate(entry.sitting.day) - first]?.sittings.push(entry);
  for (const o of occurrences) {
    if (o.status === 'cancelled' || o.undated) continue;
    if (o.due && isWork(o.kind)) {
      if (!o.finished) days[dueDay(o.due, viewer) - first]?.due.push(o);
    } else if (o.kind !== 'reminder' && o.start.kind !== 'date') {
      const day = dayIn(o.start, viewer);
      // What is over before an evening begins has no part in it.
      if (weekday(day) > 5 || localIn(o.start, viewer) - day * DAY >= AFTERNOON)
        days[day - first]?.places.push(o);
    }
  }
  for (const { places } of days) places.sort((a, b) => localIn(a.start, viewer) - localIn(b.start, viewer));
  return days;
}

/** Minutes of work by day, with sittings in place of due dates; of open work. */
const loadOf = ({ occurrences, runUps, ...options }: Given): Map<number, number> =>
  loadByDay(
    loadShares(
      occurrences.filter((o) => !o.finished),
      { ...options, sittings: sittingDays(runUps) },
    ),
  );

/** Minutes by day as they are, and as they would be; work that is not planned yet is left to its last evening. */
export function beforeAndAfter(
  before: Given,
  after: readonly RunUpOf[],
  first: number,
  count: number,
): { day: number; before: number; after: number }[] {
  const planned = new Map(before.runUps.map((r) => [keyOf(r), r]));
  const byKey = new Map(before.occurrences.map((o) => [keyOf(o), o]));
  const then = new Map(after.map((r) => [keyOf(r), r]));
  const leftTo = new Map(sittingDays(before.runUps));
  for (const [key, r] of then) {
    const occurrence = byKey.get(key);
    const old = planned.get(key);
    if (!occurrence || (old && sittingDays([old]).size)) continue;
    leftTo.set(key, [{ day: lastDayOf(occurrence, before.viewer), minutes: minutesLeft(r) }]);
  }
  const open = before.occurrences.filter((o) => !o.finished);
  const was = loadByDay(loadShares(open, { ...before, sittings: leftTo }));
  const runUps = [...before.runUps.filter((r) => !then.has(keyOf(r))), ...after];
  const will = loadOf({ ...before, runUps });
  return Array.from({ length: count }, (_, n) => ({
    day: first + n,
    before: Math.round(was.get(first + n) ?? 0),
    after: Math.round(will.get(first + n) ?? 0),
  }));
}
