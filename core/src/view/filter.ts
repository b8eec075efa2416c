import { HAND_IN_WAYS, ITEM_KINDS, isWork, type HandInWay, type ItemKind } from '../item/kind.ts';
import { HOUR } from '../time/civil.ts';
import type { Urgency } from '../item/urgency.ts';
import type { AgendaEntry } from './entry.ts';

export const STATES = [
  'pastDue',
  'soon',
  'coming',
  'finished',
  'unsettled',
  'closed',
] as const satisfies Urgency[];

/** Conditions of a search; an empty list lets everything through. */
export interface Filters {
  kinds: readonly ItemKind[];
  states: readonly Urgency[];
  ways: readonly HandInWay[];
  text: string;
}

export const NO_FILTERS: Filters = { kinds: [], states: [], ways: [], text: '' };

export const isFiltering = ({ kinds, states, ways, text }: Filters): boolean =>
  kinds.length + states.length + ways.length > 0 || text.trim() !== '';

/**
 * Whether an entry passes, its text left aside. States and ways are asked of work alone: a lesson has
 * neither.
 */
export function passes({ occurrence, urgency }: AgendaEntry, { kinds, states, ways }: Filters): boolean {
  if (kinds.length && !kinds.includes(occurrence.kind)) return false;
  if (states.length && (urgency === null || !states.includes(urgency))) return false;
  return !ways.length || (isWork(occurrence.kind) && ways.includes(occurrence.handIn));
}

/** Filters as they stand in an address: short, readable, without what is not set. */
export function filtersToQuery({ kinds, states, ways, text }: Filters): Record<string, string> {
  const query: Record<string, string> = {};
  if (kinds.length) query['what'] = kinds.join('.');
  if (states.length) query['state'] = states.join('.');
  if (ways.length) query['way'] = ways.join('.');
  if (text.trim()) query['text'] = text.trim();
  return query;
}

/** Reads what `filtersToQuery` wrote; what is not known is left out. */
export function filtersFromQuery(query: {
  what?: string | undefined;
  state?: string | undefined;
  way?: string | undefined;
  text?: string | undefined;
}): Filters {
  const known = <T extends string>(all: readonly T[], text: string | undefined) =>
    all.filter((each) => text?.split('.').includes(each));
  return {
    kinds: known(ITEM_KINDS, query.what),
    states: known(STATES, query.state),
    ways: known(HAND_IN_WAYS, query.way),
    text: query.text ?? '',
  };
}

/** Time ahead at which a meeting's join link comes first. */
export const JOIN_AHEAD = HOUR;
