import type { HandInWay } from './kind.ts';
import type { OccurrenceView } from './occurrence.ts';

/** Parts of an own layer that follow rules of its own when it changes. Instants in milliseconds. */
export interface LayerState {
  finishedAt: number | null;
  /** Way in which it was handed in, where that was told */
  handedIn: HandInWay | null;
  /** A person has said that it is not done: its date has passed, or its course says that it is */
  stillToDo: boolean;
  /** Its course says that it is done */
  doneInCourse?: boolean;
  /** Minutes it took so far, and since when its clock runs */
  spent?: number;
  timerSince?: number | null;
}

/** Tells whether a piece of work is finished: ticked off, or done in its course unless that has been contradicted. */
export const isFinished = ({
  finishedAt,
  stillToDo,
  doneInCourse = false,
}: {
  finishedAt: number | null;
  stillToDo: boolean | null;
  doneInCourse?: boolean;
}): boolean => finishedAt !== null || (doneInCourse && !stillToDo);

/** A change of an own layer: what is not named stays as it is. */
export type LayerEdit<L extends LayerState> = {
  finished?: boolean | undefined;
  handedIn?: { way: HandInWay; note?: string | undefined; at?: string | undefined } | null | undefined;
  stillToDo?: boolean | undefined;
  timer?: boolean | undefined;
} & {
  [K in keyof Omit<L, 'finishedAt' | 'handedIn' | 'stillToDo' | 'timerSince' | 'doneInCourse'>]?:
    L[K] | undefined;
};

/**
 * An own layer after a change. What is finished is no longer still to do; what is open again was not handed
 * in, and is still to do where its course says that it is done; a clock that is stopped, by itself or by
 * finishing, adds the minutes it ran to the time spent.
 * @param now instant in milliseconds
 */
export function editLayer<L extends LayerState>(layer: L, edit: LayerEdit<L>, now: number): L {
  const { finished, handedIn, stillToDo, timer, ...rest } = edit;
  const next: L = { ...layer };
  if (finished !== undefined) {
    next.finishedAt = finished ? (layer.finishedAt ?? now) : null;
    if (finished) next.stillToDo = false;
    else {
      next.handedIn = null;
      if (layer.doneInCourse) next.stillToDo = true;
    }
  }
  if (stillToDo !== undefined) next.stillToDo = stillToDo;
  if (handedIn !== undefined) next.handedIn = handedIn && handedIn.way;
  const isStopped = timer === false || (finished === true && layer.timerSince != null);
  if (isStopped) {
    const ran = layer.timerSince == null ? 0 : Math.max(0, Math.round((now - layer.timerSince) / 60_000));
    next.spent = (layer.spent ?? 0) + ran;
    next.timerSince = null;
  } else if (timer) next.timerSince = layer.timerSince ?? now;
  for (const [name, value] of Object.entries(rest))
    if (value !== undefined) Object.assign(next, { [name]: value });
  return next;
}

/**
 * What of a change is kept for good: that it was finished, opened again, handed in, or said to be still to
 * do.
 */
export interface LayerRecord {
  kind: 'finished' | 'reopened' | 'handedIn' | 'stillToDo';
  way?: HandInWay;
  note?: string;
  /** Moment when it was done, in milliseconds, which may be before it was told */
  at: number;
}

/** The record that a change leaves, the weightiest where it says several things; null for most. */
export function recordOf<L extends LayerState>(
  layer: L,
  edit: LayerEdit<L>,
  now: number,
): LayerRecord | null {
  if (edit.stillToDo && !layer.stillToDo) return { kind: 'stillToDo', at: now };
  if (edit.handedIn) {
    const { way, note = '', at } = edit.handedIn;
    return { kind: 'handedIn', way, note, at: at ? Date.parse(at) : now };
  }
  if (edit.finished === undefined || edit.finished === isFinished(layer)) return null;
  return { kind: edit.finished ? 'finished' : 'reopened', at: now };
}

/**
 * What each person has for themselves on an item, whatever they may do in the schedule: whether it is hidden,
 * its colour, a private note. All else is the learner's, and everybody in the crew sees the same.
 */
export const PERSONAL = ['hidden', 'colour', 'note'] as const;
export type PersonalField = (typeof PERSONAL)[number];

/** Tells whether a change is of what the person has for themselves; it names either such parts or shared ones. */
export const isPersonal = (edit: object): boolean => PERSONAL.some((name) => name in edit);

/** Parts of its layer that an occurrence shows; the rest of a layer's parts are seen on the item's page alone. */
const SHOWN = [
  'finished',
  'handedIn',
  'stillToDo',
  'aim',
  'estimate',
  'hidden',
  'colour',
  'position',
] as const;
export type ShownEdit = Pick<
  LayerEdit<LayerState & Pick<OccurrenceView, (typeof SHOWN)[number]>>,
  (typeof SHOWN)[number]
>;

/**
 * An occurrence after a change of its layer, as the server will have it but for the version.
 * @param now instant in milliseconds
 */
export function editOccurrence(occurrence: OccurrenceView, edit: ShownEdit, now: number): OccurrenceView {
  const shown = Object.fromEntries(SHOWN.map((name) => [name, edit[name]])) as ShownEdit;
  const before = occurrence.finishedAt === null ? null : Date.parse(occurrence.finishedAt);
  const { finishedAt, ...next } = editLayer({ ...occurrence, finishedAt: before }, shown, now);
  return {
    ...next,
    finished: isFinished({ ...next, finishedAt }),
    finishedAt: finishedAt === null ? null : new Date(finishedAt).toISOString(),
  };
}
