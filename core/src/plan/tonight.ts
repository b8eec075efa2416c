import { keyOf } from '../item/occurrence.ts';
import type { AgendaEntry } from '../view/entry.ts';
import { usualMinutes } from '../view/load.ts';
import type { Loads } from '../view/settings.ts';
import type { SittingEntry } from './plan-days.ts';

/** All there is to do tonight, each piece of work once. */
export interface Tonight {
  /** Work that is due tonight and open, by its deadline, each with what is planned for it tonight */
  work: { entry: AgendaEntry; sittings: SittingEntry[] }[];
  /** Sittings of other work, by their hours */
  sittings: SittingEntry[];
  /** Due tonight, and finished */
  finished: AgendaEntry[];
  /** Minutes that are left: planned ones, else those that the person thinks or that are usual */
  minutes: number;
}

/**
 * Puts together what there is to do tonight.
 * @param due work due by tonight, open and finished
 * @param sittings tonight’s, in any state
 */
export function tonightOf(
  due: readonly AgendaEntry[],
  sittings: readonly SittingEntry[],
  loads: Loads,
): Tonight {
  const open = due.filter((e) => e.urgency !== 'finished');
  const keys = new Set(open.map((e) => keyOf(e.occurrence)));
  const byHour = [...sittings].sort((a, b) => a.sitting.from - b.sitting.from);
  const work = open.map((entry) => ({
    entry,
    sittings: byHour.filter((s) => keyOf(s.occurrence) === keyOf(entry.occurrence)),
  }));
  const others = byHour.filter((s) => !keys.has(keyOf(s.occurrence)));
  const planned = (list: readonly SittingEntry[]) =>
    list.reduce((sum, { sitting }) => sum + (sitting.state === 'planned' ? sitting.minutes : 0), 0);
  const minutes = work.reduce(
    (sum, { entry, sittings: own }) =>
      sum + (own.length ? planned(own) : usualMinutes(entry.occurrence, loads)),
    planned(others),
  );
  return { work, sittings: others, finished: due.filter((e) => e.urgency === 'finished'), minutes };
}
