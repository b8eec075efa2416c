import { HAND_IN_WAYS, SORTS, isWork, type HandInWay, type Sort } from '../item/sort.ts';
import { HOUR } from '../time/civil.ts';
import type { Urgency } from '../item/urgency.ts';
import type { AgendaEntry } from './agenda.ts';

export const STATES = ['pastDue', 'soon', 'coming', 'finished', 'unsettled'] as const satisfies Urgency[];

/** What is looked for; an empty list lets everything through. */
export interface Filters {
  sorts: readonly Sort[];
  states: readonly Urgency[];
  ways: readonly HandInWay[];
  text: string;
}

export const NO_FILTERS: Filters = { sorts: [], states: [], ways: [], text: '' };

export const isFiltering = ({ sorts, states, ways, text }: Filters): boolean => sorts.length + states.length + ways.length > 0 || text.trim() !== '';

/** Whether an entry passes, its text left aside. States and ways are asked of work alone: a lesson has neither. */
export function passes({ occurrence, urgency }: AgendaEntry, { sorts, states, ways }: Filters): boolean {
  if (sorts.length && !sorts.includes(occurrence.sort)) return false;
  if (states.length && (urgency === null || !states.includes(urgency))) return false;
  return !ways.length || (isWork(occurrence.sort) && ways.includes(occurrence.handIn));
}

/** Filters as they stand in an address: short, readable, without what is not set. */
export function filtersToQuery({ sorts, states, ways, text }: Filters): Record<string, string> {
  const query: Record<string, string> = {};
  if (sorts.length) query['what'] = sorts.join('.');
  if (states.length) query['state'] = states.join('.');
  if (ways.length) query['way'] = ways.join('.');
  if (text.trim()) query['text'] = text.trim();
  return query;
}

/** Reads what `filtersToQuery` wrote; what is not known is left out. */
export function filtersFromQuery(query: { what?: string | undefined; state?: string | undefined; way?: string | undefined; text?: string | undefined }): Filters {
  const known = <T extends string>(all: readonly T[], text: string | undefined) => all.filter((each) => text?.split('.').includes(each));
  return { sorts: known(SORTS, query.what), states: known(STATES, query.state), ways: known(HAND_IN_WAYS, query.way), text: query.text ?? '' };
}

/** How far ahead a meeting's join link comes first. */
export const JOIN_AHEAD = HOUR;
