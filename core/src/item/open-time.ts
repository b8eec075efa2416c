import { UNTOUCHED, type OccurrenceView } from './occurrence.ts';
import { instantOf } from '../time/when.ts';
import { firstName } from '../words/text.ts';

/** Entry for times that are offered, in a view of a schedule. */
const BEGINS = 'open-time ';
export const OPEN_TIMES = 'open times';

/** The slot that an item stands for; null where it stands for none. */
export const slotOfItem = (itemId: string): string | null =>
  itemId.startsWith(BEGINS) ? itemId.slice(BEGINS.length) : null;

/** A time that can be taken, as an outline at its hours: only to know, until somebody takes it. */
export const openTimeView = ({
  id,
  start,
  end,
  title,
  by,
  place,
}: {
  id: string;
  start: string;
  end: string;
  title: string;
  by: string;
  place: string;
}): OccurrenceView => ({
  ...UNTOUCHED,
  itemId: `${BEGINS}${id}`,
  recurrenceId: '',
  calendarId: OPEN_TIMES,
  alsoIn: [],
  title: `Free: ${title} with ${firstName(by)}`,
  place,
  kind: 'reminder',
  handIn: 'nothing',
  status: 'confirmed',
  start: instantOf(Date.parse(start)),
  end: instantOf(Date.parse(end)),
  due: null,
});
