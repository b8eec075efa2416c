import type { AgendaEntry } from './entry.ts';

/**
 * Work without what repeats for ever, but for the next open date of each: a to-do of every day is one thing to
 * do, and not four hundred. What is past due stays; a date that has gone by without a word is over.
 * @param entries open work, in any order
 */
export function nextOfEndless<E extends AgendaEntry>(entries: readonly E[]): E[] {
  const next = new Map<string, E>();
  const isAhead = (e: E) => e.urgency === 'soon' || e.urgency === 'coming';
  for (const e of entries) {
    const { endless, itemId } = e.occurrence;
    if (endless && isAhead(e) && e.day < (next.get(itemId)?.day ?? Infinity)) next.set(itemId, e);
  }
  return entries.filter((e) => {
    const { endless, itemId } = e.occurrence;
    return !endless || e.urgency === 'finished' || e.urgency === 'pastDue' || next.get(itemId) === e;
  });
}
