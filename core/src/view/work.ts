import type { OccurrenceView } from '../item/occurrence.ts';
import { agendaEntry, entryOrder, stillCounts, type AgendaEntry } from './entry.ts';
import { nextOfEndless } from './endless.ts';
import { today, type Viewer } from '../words/when.ts';

/** Question about work to settle, wherever it stands. */
export const SETTLE_WORDS = 'Did this happen?';

/** Heading of work that closed without being handed in, wherever it stands. */
export const CLOSED_WORDS = 'Closed, not handed in';
/** Days after which what has closed stands in no short list any more. */
export const CLOSED_STAYS = 7;

/** All work of a schedule by how it stands; each piece stands in one of the lists. */
export interface Work {
  /** Open, its due date has passed, and it could be seen if it had been handed in; the oldest first */
  pastDue: AgendaEntry[];
  /** Its date has passed, and only a person can say whether it happened; the oldest first */
  toSettle: AgendaEntry[];
  /** Not handed in, and it cannot be any more; the latest first */
  closed: AgendaEntry[];
  /** Open, and due before the night is over */
  tonight: AgendaEntry[];
  /** Open, and due on a later day; the soonest first */
  ahead: AgendaEntry[];
  finished: AgendaEntry[];
}

/**
 * Sorts work by how it stands: whoever shows or counts what is past due, to settle, due by tonight or ahead asks this.
 * Leaves out work that is called off or has no date.
 * @param now an instant in milliseconds
 */
export function workOf(
  occurrences: readonly OccurrenceView[],
  { now, viewer }: { now: number; viewer: Viewer },
): Work {
  const work: Work = { pastDue: [], toSettle: [], closed: [], tonight: [], ahead: [], finished: [] };
  const day = today(now, viewer);
  const compare = entryOrder(viewer);
  const entries = occurrences
    .filter((o) => o.status !== 'cancelled' && !o.undated)
    .map((o) => agendaEntry(o, now, viewer))
    .filter((e) => e.urgency !== null && stillCounts(e, day))
    .sort((a, b) => a.day - b.day || compare(a, b));
  for (const entry of nextOfEndless(entries)) work[standingOf(entry, day)].push(entry);
  work.closed.reverse();
  return work;
}

function standingOf({ urgency, day: due }: AgendaEntry, day: number): keyof Work {
  if (urgency === 'finished' || urgency === 'pastDue' || urgency === 'closed') return urgency;
  if (urgency === 'unsettled') return 'toSettle';
  return due <= day ? 'tonight' : 'ahead';
}
