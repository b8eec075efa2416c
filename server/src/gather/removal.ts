import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { ProblemError, notFound } from '../http/problem.ts';
import { calendarIdsOf } from './sections.ts';
import type { GatherStore } from './store.ts';
import { settleSame } from './duplicates.ts';

interface RemovalDeps {
  store: GatherStore;
  calendars: CalendarStore;
  clock: Clock;
  changed(learnerId: string): void;
  /** Called where a calendar of another schedule is followed no more */
  left(calendarId: string, learnerId: string): void;
}

/** Taking a source away, and what stays of it. */
export function removalService({ store, calendars, clock, changed, left }: RemovalDeps) {
  /**
   * Stops following a source. Its entries go; what was ticked off or noted stays as a record under its flag,
   * and goes on where another calendar has the same thing.
   */
  function remove(id: string): void {
    const row = store.byId(id);
    if (!row || row.removedAt !== null) throw notFound('source');
    store.transaction(() => {
      const zone = ianaZone(calendars.byId(row.calendarId)!.zone) ?? UTC;
      const duplicates = store.duplicates.partsOf(id);
      for (const { id: duplicate, sameAs } of duplicates) {
        store.duplicates.handOver(sameAs, duplicate);
        store.duplicates.setSame(duplicate, null);
      }
      store.keepRecords(id, clock.now());
      settleSame(
        store.duplicates,
        row.learnerId,
        duplicates.map((t) => t.id),
        zone,
      );
      if (row.publishedFrom !== null) left(row.publishedFrom, row.learnerId);
      const all = calendarIdsOf(row);
      const kept = all.filter((c) => !calendars.isEmpty(c));
      if (kept.length)
        store.change(id, {
          calendarId: kept[0]!,
          addressSealed: '',
          nextCheckAt: null,
          removedAt: clock.now(),
          sections: {},
          rules: { ...row.rules, split: null },
        });
      // The last calendar takes its source along.
      for (const calendar of all) if (!kept.includes(calendar)) calendars.remove(calendar);
    });
    changed(row.learnerId);
  }

  /** Takes away the files whose reading in was broken off: they still wait to be read in. Asked before anything else. */
  function removeUnfinished(): void {
    for (const id of store.unfinishedFiles()) remove(id);
  }

  /** Forgets a calendar that is followed no more, with the records kept of it. */
  function forget(calendarId: string): void {
    const calendar = calendars.byId(calendarId);
    if (!calendar) throw notFound('calendar');
    if (store.ofCalendar(calendarId))
      throw new ProblemError(409, 'still-gathered', 'This calendar is still gathered.', {
        remedy: 'Stop following it first, on the Gather page.',
      });
    const own = calendars.ownItems(calendarId);
    if (own)
      throw new ProblemError(
        409,
        'own-items',
        `There ${own === 1 ? 'is one item' : `are ${own} items`} of your own in this calendar.`,
        {
          remedy: 'Put them into another calendar, or take them away, and try again.',
        },
      );
    store.transaction(() => {
      store.passOn(calendarId);
      calendars.remove(calendarId);
    });
    changed(calendar.learnerId);
  }

  return { remove, removeUnfinished, forget };
}
export type RemovalService = ReturnType<typeof removalService>;
