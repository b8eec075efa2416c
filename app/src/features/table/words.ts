import type { LearnerRow } from '@zephyrfield/core/api/table';

/** By what rows are put in order. */
export const ORDERS = [
  ['help', 'who needs help first'],
  ['name', 'by name'],
  ['group', 'by group'],
] as const;
export type Order = (typeof ORDERS)[number][0];

/** Which rows are shown. */
export const STATES = [
  ['all', 'everybody'],
  ['pastDue', 'with something past due'],
  ['notOpened', 'with work not opened'],
  ['behind', 'whose plan no longer holds'],
  ['unsettled', 'with something to settle'],
  ['unread', 'with an unread note'],
] as const;
export type State = (typeof STATES)[number][0];

export const isShown = (row: LearnerRow, state: State): boolean => state === 'all' || row[state] > 0;

/** What a row says of numbers, aloud and on a phone. */
export const COUNTS = [
  ['pastDue', 'past due'],
  ['unsettled', 'to settle'],
  ['notOpened', 'not opened'],
  ['behind', 'plan behind'],
  ['unread', 'notes'],
] as const satisfies readonly (readonly [keyof LearnerRow, string])[];

/** Rows in their order, under what they have in common. */
export interface Section {
  title: string;
  rows: LearnerRow[];
}

/** `Studio week` as `Studio`: where it stands says that it is a week. */
export const shortName = (name: string): string => name.replace(/ week$/i, '');
