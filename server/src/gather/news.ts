import { standsAt, type Differences } from '@zephyrfield/core/gather/differences';
import { recurrenceIdOf, type When } from '@zephyrfield/core/time/when';
import type { GatherStore } from './store.ts';

/** Gives what is said of each UID, in the order it is said. */
export function byUid<T extends { uid: string }>(list: readonly T[]): Map<string, (T & { order: number })[]> {
  const groups = new Map<string, (T & { order: number })[]>();
  list.forEach((each, order) => {
    const group = groups.get(each.uid);
    if (group) group.push({ ...each, order });
    else groups.set(each.uid, [{ ...each, order }]);
  });
  return groups;
}
/** Gives what is said of some UIDs, in the order it is said. */
export const saidOf = <T extends { order: number }>(
  groups: ReadonlyMap<string, T[]>,
  uids: Iterable<string>,
): T[] => [...uids].flatMap((uid) => groups.get(uid) ?? []).sort((a, b) => a.order - b.order);

export interface News {
  uid: string;
  recurrenceId: string | null;
  kind: 'added' | 'moved' | 'reworded' | 'calledOff' | 'removed';
  title: string;
  from?: When;
  to?: When;
  formerTitle?: string;
}

/** Gives what a reading has to tell. */
export function newsOf(d: Differences): News[] {
  const of = <K extends News['kind']>(
    kind: K,
    e: { uid: string; recurrenceId: string | null; title: string },
  ) => ({
    kind,
    uid: e.uid,
    recurrenceId: e.recurrenceId,
    title: e.title,
  });
  return [
    ...d.added.map((e) => ({ ...of('added', e), to: e.start })),
    ...d.moved.map((e) => ({ ...of('moved', e), from: e.from, to: e.to })),
    ...d.reworded.map((e) => ({ ...of('reworded', e), ...(e.from === e.to ? {} : { formerTitle: e.from }) })),
    ...d.calledOff.map((e) => ({ ...of('calledOff', e), from: e.start })),
    ...d.removed.map((e) => ({ ...of('removed', e), from: e.start })),
  ];
}

/** Writes what there is to tell of some entries. */
export function storeNews(
  store: GatherStore,
  learnerId: string,
  news: ReadonlyMap<string, (News & { order: number })[]>,
  ids: ReadonlyMap<string, string>,
  now: number,
): void {
  for (const each of saidOf(news, ids.keys())) {
    const { uid, recurrenceId, kind, title, from = null, to = null, formerTitle = null } = each;
    const head = store.duplicates.head(ids.get(uid)!);
    if (!head || (head.sameAs !== null && isToldBy(store, head.sameAs, kind, to))) continue;
    store.addChange({
      learnerId,
      calendarId: head.calendarId,
      itemId: head.id,
      recurrenceId: recurrenceId ?? '',
      kind,
      title,
      from,
      to,
      formerTitle,
      at: now,
    });
  }
}

/**
 * Whether news of an item that is shown as part of another one is no news there: the other one stands
 * already, or still, where this one now says. A date that only this one has moved is told.
 */
function isToldBy(store: GatherStore, primary: string, kind: string, to: When | null): boolean {
  const standing = store.occurrencesOf(primary).filter((o) => o.status !== 'cancelled');
  if (kind === 'moved' && to) return standing.some((o) => recurrenceIdOf(standsAt(o)) === recurrenceIdOf(to));
  return kind === 'calledOff' ? standing.length === 0 : true;
}
