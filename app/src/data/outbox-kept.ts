// What waits on a device to be saved: its shape, and where it lies. Read before anything else, so without a checker.
import type { RequestOf, Routes } from '@zephyrfield/core/api/routes';
import type { OwnWrite, Problem } from '@zephyrfield/core/api/schemas';
import type { PlannedSitting, RunUp } from '@zephyrfield/core/plan/run-up';
import { owner } from './forget';
import { isRecord } from './kept';
import type { LayerEdit } from './layer-edit';

/** One date of an item. */
interface OneDate {
  itemId: string;
  recurrenceId: string;
}

/** A change that is to be saved, by what it is made of. */
export type Deed =
  /** `over` is the note that was there when another one was typed */
  | ({ kind: 'layer'; change: LayerEdit; over?: string | undefined } & OneDate)
  | { kind: 'own'; writes: OwnWrite[] }
  | ({ kind: 'sitting'; sitting: string; told: Pick<PlannedSitting, 'state' | 'took'> } & OneDate)
  | { kind: 'runUps'; writes: (OneDate & { runUp: RunUp | null; version: number })[] }
  | { kind: 'note'; body: RequestOf<Routes['writeNote']>['body'] }
  | { kind: 'answer'; thread: string; body: RequestOf<Routes['answerNote']>['body'] }
  | { kind: 'booking'; slotId: string; word: string };

/** Reason why the server does not take a change, and what stands there instead where that is known. */
export interface Refused {
  title: string;
  remedy?: string | undefined;
  /** A note as somebody else, or oneself elsewhere, has written it meanwhile */
  theirs?: string | undefined;
}

/** A change that waits, in the order things were done. */
export type Kept = Deed & {
  key: string;
  /** Id of whoever did it */
  of: string;
  learnerId: string;
  /** It as a person would name it */
  words: string;
  /** Absent while it can still be saved */
  refused?: Refused | undefined;
};

export const OUTBOX = 'zephyrfield-outbox';

const isKept = (value: unknown): value is Omit<Kept, 'of'> & { of?: unknown } =>
  isRecord(value) &&
  ['key', 'learnerId', 'words', 'kind'].every((name) => typeof value[name] === 'string') &&
  ((Array.isArray(value['writes']) && value['writes'].every(isRecord)) ||
    isRecord(value['change'] ?? value['told'] ?? value['body']) ||
    typeof value['slotId'] === 'string');

/** Reads what waits, of whoever it is; what an older version has kept belongs to who was here. */
export function readKept(): Kept[] {
  if (typeof localStorage === 'undefined') return [];
  try {
    const value: unknown = JSON.parse(localStorage.getItem(OUTBOX) ?? '[]');
    if (!Array.isArray(value)) return [];
    return value.filter(isKept).map((k) => ({ ...k, of: typeof k.of === 'string' ? k.of : owner() }) as Kept);
  } catch {
    return [];
  }
}

/** @throws where the device has no room left, or keeps nothing at all */
export const writeKept = (waiting: readonly Kept[]): void =>
  localStorage.setItem(OUTBOX, JSON.stringify(waiting));

/** Status of a fault of the server’s own, which the same asking may meet for ever. */
export const FAULT = 500;

/** Status of a disk without room: who is there is told, and what waits goes on waiting. */
const FULL = 507;

/** Tells whether something went wrong only for now: no way to the server, a session that ended, too much at once. */
export const isForNow = ({ status }: Pick<Problem, 'status'>): boolean =>
  status === 0 || status === 401 || status === 408 || status === 429 || status > FAULT;

/** Tells whether what was done just now is better kept than told as failed: its person can do nothing about it. */
export const isKeptFirst = ({ status }: Pick<Problem, 'status'>): boolean =>
  status !== FULL && isForNow({ status });
