import type { ItemKind } from '../item/kind.ts';
import { isWork } from '../item/kind.ts';
import { keyOf, type OccurrenceView, readyBy } from '../item/occurrence.ts';
import { formatDate, parseDate } from '../time/civil.ts';
import { usualMinutes } from '../view/load.ts';
import type { Loads } from '../view/settings.ts';
import { dueDay, today, type Viewer } from '../words/when.ts';
import type { Part, Pattern } from './evenings.ts';

/** One stretch of work as it stands in a schedule. */
export interface PlannedSitting {
  /** Tells it from the others of its run-up */
  key: string;
  /** A date, on the learner's wall clock */
  day: string;
  /** Minute of the day */
  from: number;
  minutes: number;
  state: 'planned' | 'done' | 'missed';
  /** Minutes it took, where that was told */
  took: number | null;
  /** Put there by hand: a later plan leaves it alone */
  pinned: boolean;
}

/** Place where it comes from how long work takes. */
export const SAID_BY = ['feed', 'brief', 'own', 'pages', 'pace', 'usual'] as const;
export type SaidBy = (typeof SAID_BY)[number];

/** Way in which a piece of work is worked on before it is due. */
export interface RunUp {
  /** All of it */
  minutes: number;
  saidBy: SaidBy;
  /** From when on, a date */
  firstDay: string;
  /** Most sittings on one day */
  perDay: number;
  /** A sitting on the last evening is wanted */
  polish: boolean;
  /** Of one sitting; null for what the learner likes */
  shortest: number | null;
  longest: number | null;
  parts: Part[];
  sittings: PlannedSitting[];
}

/** A run-up of one date of an item. */
export interface RunUpOf extends RunUp {
  itemId: string;
  recurrenceId: string;
}

/** Work from this many minutes on is offered a run-up whatever it is. */
const BIG = 60;
const BIG_KINDS: ReadonlySet<ItemKind> = new Set(['project', 'test', 'reading']);

/** Tells whether a run-up is offered for a piece of work: by what it is, or by how long it takes. */
export const isBig = (o: OccurrenceView, loads: Loads): boolean =>
  isWork(o.kind) && (BIG_KINDS.has(o.kind) || usualMinutes(o, loads) >= BIG);

/** Tells whether there is still something to do for it. */
export const isOpen = (o: OccurrenceView | undefined): o is OccurrenceView =>
  o !== undefined && !o.finished && o.status !== 'cancelled';

/** Tells whether a piece of work can have a run-up at all: it is open, and not due before tonight. */
export const isPlannable = (o: OccurrenceView, now: number, viewer: Viewer): boolean =>
  isWork(o.kind) && isOpen(o) && lastDayOf(o, viewer) >= today(now, viewer);

/**
 * The last day that sittings may lie on, as a day number: the evening before it is due, or the day somebody aims to be
 * finished on, whichever comes first; -Infinity where nothing has to be ready.
 */
export function lastDayOf(occurrence: OccurrenceView, viewer: Viewer): number {
  const by = readyBy(occurrence);
  if (!by) return -Infinity;
  const { aim } = occurrence;
  return Math.min(dueDay(by, viewer) - 1, aim ? dueDay(aim, viewer) : Infinity);
}

/** Gives what is still to be done of a run-up: all of it without what was done. */
export const minutesLeft = ({ minutes, sittings }: RunUp): number =>
  Math.max(0, minutes - sittings.reduce((sum, s) => sum + (s.state === 'done' ? s.minutes : 0), 0));

/** By day and time. */
export const inOrder = (sittings: readonly PlannedSitting[]): PlannedSitting[] =>
  [...sittings].sort((a, b) => a.day.localeCompare(b.day) || a.from - b.from);

/** Which of its run-up a sitting is, and what it is for. */
export interface SittingName {
  /** Counted from 1, of those that are planned or done */
  at: number;
  of: number;
  part: string;
}

/** The names of a run-up's sittings, by their keys; what was missed has none. */
export function sittingNames({
  parts,
  sittings,
}: Pick<RunUp, 'parts' | 'sittings'>): Map<string, SittingName> {
  const counted = inOrder(sittings).filter((s) => s.state !== 'missed');
  const whole = counted.reduce((sum, s) => sum + s.minutes, 0);
  const shares = parts.reduce((sum, p) => sum + p.share, 0);
  let done = 0;
  return new Map(
    counted.map((s, n) => {
      const from = (done / whole) * shares;
      done += s.minutes;
      const part = partsWithin(parts, from, (done / whole) * shares);
      return [s.key, { at: n + 1, of: counted.length, part: inWords(part) }];
    }),
  );
}

/** `draft`, `draft and revise`, `draft, revise and polish` */
const inWords = (names: readonly string[]): string =>
  [names.slice(0, -1).join(', '), names.at(-1)].filter(Boolean).join(' and ');

/** The parts of which at least half lies in a sitting, and those that are at least half of it. */
function partsWithin(parts: readonly Part[], from: number, to: number): string[] {
  let start = 0;
  return parts.flatMap(({ name, share }) => {
    const within = Math.min(to, start + share) - Math.max(from, start);
    start += share;
    // A little less than half is half: shares are not always whole.
    return within >= Math.min(share, to - from) / 2 - 1e-9 ? [name] : [];
  });
}

/** The ways to split work that everybody has. */
export const PATTERNS = {
  paper: {
    name: 'Paper',
    parts: [
      { name: 'gather', share: 15 },
      { name: 'outline', share: 15 },
      { name: 'draft', share: 40 },
      { name: 'revise', share: 20 },
      { name: 'polish', share: 10 },
    ],
  },
  test: {
    name: 'Test',
    parts: [
      { name: 'by topic', share: 50 },
      { name: 'from memory', share: 30 },
      { name: 'mixed', share: 20 },
    ],
  },
  reading: { name: 'Reading', parts: [{ name: 'read', share: 100 }] },
  project: {
    name: 'Project',
    parts: [
      { name: 'plan', share: 15 },
      { name: 'make', share: 60 },
      { name: 'test', share: 15 },
      { name: 'finish', share: 10 },
    ],
  },
  plain: { name: 'Plain', parts: [] },
} satisfies Record<string, Pattern>;

/** What is written, by what it is called. */
const WRITTEN = /\b(?:essay|paper|report|article|review|composition)\b/i;

/** The pattern that a piece of work suggests, by what it is and is called. */
export function patternFor({ kind, title }: Pick<OccurrenceView, 'kind' | 'title'>): Pattern {
  if (kind === 'test' || kind === 'reading') return PATTERNS[kind];
  if (WRITTEN.test(title)) return PATTERNS.paper;
  return kind === 'project' ? PATTERNS.project : kind === 'assignment' ? PATTERNS.paper : PATTERNS.plain;
}

/** A run-up as it begins: nothing of it is planned yet. */
export function newRunUp(o: OccurrenceView, minutes: number, saidBy: SaidBy, firstDay: number): RunUpOf {
  return {
    itemId: o.itemId,
    recurrenceId: o.recurrenceId,
    minutes,
    saidBy,
    firstDay: formatDate(firstDay),
    perDay: 1,
    polish: o.kind === 'assignment' || o.kind === 'test' || o.kind === 'project',
    shortest: null,
    longest: null,
    parts: [...patternFor(o).parts],
    sittings: [],
  };
}

/** Tells whether a sitting that is still planned has gone by. */
export const hasGoneBy = (s: PlannedSitting, day: number, minute: number): boolean =>
  s.state === 'planned' &&
  (parseDate(s.day) < day || (parseDate(s.day) === day && s.from + s.minutes <= minute));

/** On which days the work of run-ups is done, by their keys: what the load counts in place of due dates. */
export const sittingDays = (runUps: readonly RunUpOf[]): Map<string, { day: number; minutes: number }[]> =>
  new Map(
    runUps
      .filter((r) => r.sittings.some((s) => s.state !== 'missed'))
      .map((r) => [
        keyOf(r),
        r.sittings
          .filter((s) => s.state !== 'missed')
          .map((s) => ({ day: parseDate(s.day), minutes: s.minutes })),
      ]),
  );
