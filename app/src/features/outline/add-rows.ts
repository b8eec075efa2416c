import type { OutlineView } from '@zephyrfield/core/api/outlines';
import { suggestFlag } from '@zephyrfield/core/item/flag';
import type { CalendarView, Learner, OwnWrite } from '@zephyrfield/core/api/schemas';
import { ownItemOf, type Standing } from '@zephyrfield/core/outline/add';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { capital, plural } from '@zephyrfield/core/words/text';
import { call } from '@/data/client';
import { keepOutline } from '@/data/outlines';
import { removalsFor, writeManyOwn, writesFor } from '@/data/own';
import { ownAt } from '@/data/own-at';
import { keys, refresh } from '@/data/queries';
import type { RequestOf, Routes } from '@zephyrfield/core/api/routes';
import type { For } from './for-fields';
import type { Row } from './rows';

type KeptRow = RequestOf<Routes['keepOutline']>['body']['rows'][number];

/** Gives what a press adds, changes and takes away. */
export const wordsOf = (rows: readonly Row[]): string => {
  const of = (state: Row['state']) => rows.filter((r) => r.ticked && r.state === state).length;
  const parts = [
    of('new') ? `add ${of('new')}` : '',
    of('moved') ? `move ${of('moved')}` : '',
    of('gone') ? `take ${of('gone')} away` : '',
  ].filter(Boolean);
  return capital(parts.join(', ') || 'add nothing');
};

/**
 * Adds all that is ticked, in one step that can be taken back, and keeps the outline with its calendar. Gives the
 * calendar.
 * @throws Refusal
 */
export async function addRows(
  { learner, calendars }: { learner: Learner; calendars: readonly CalendarView[] },
  view: OutlineView,
  rows: readonly Row[],
  { calendarId: chosen, name, zone: zoneName }: For,
  { key, replaces }: { key: string; replaces: string | null },
): Promise<string> {
  const calendarId =
    chosen ||
    (
      await call('addCalendar', {
        params: { learnerId: learner.id },
        body: { name: name.trim(), kind: 'course', zone: zoneName, key, ...suggestFlag(name, calendars) },
      })
    ).id;
  if (!chosen) await refresh(keys.calendars(learner.id));
  const zone = ianaZone(calendars.find((c) => c.id === calendarId)?.zone ?? zoneName) ?? UTC;
  // Each is written under its row’s own key: pressed again after an answer was lost, it is still one.
  const made = rows.filter((r) => r.ticked && r.state === 'new');
  const writes: OwnWrite[] = made.map((row) => ({
    ...{ id: null, key: row.id, calendarId, version: 0 },
    item: ownItemOf(row, zone),
  }));
  for (const row of rows.filter((r) => r.ticked && r.itemId && (r.state === 'moved' || r.state === 'gone')))
    writes.push(...(await changeOf(row, zone)));
  if (writes.length) await writeManyOwn(learner.id, writes, doneWords(rows));
  await keepOutline(learner.id, view.id, {
    calendarId,
    rows: rows.flatMap(keptOf),
    ...(replaces && { replaces }),
  });
  return calendarId;
}

/**
 * What is kept of a row: the item that it is, and what the outline says of it, so that a newer one is compared with what
 * this one said. What is not said any more and stays is compared with what was said of it last.
 */
function keptOf(row: Row): KeptRow[] {
  const { state, itemId, ticked, was, told, at } = row;
  if (state === 'gone') return ticked || !was ? [] : [{ item: was.itemId, ...saidOf(was), at: NOWHERE }];
  if (state === 'new') return ticked && told ? [{ key: row.id, ...saidOf(told), at }] : [];
  return itemId && told
    ? [{ item: itemId, ...saidOf(state === 'moved' && !ticked && was ? was : told), at }]
    : [];
}

const saidOf = ({ title, date, minute, last = null }: Omit<Standing, 'itemId'>) => ({
  title,
  date,
  minute,
  last,
});
const NOWHERE = { block: 0, row: 0, cell: 0, from: 0, to: 0 };

const doneWords = (rows: readonly Row[]) =>
  `${plural(rows.filter((r) => r.ticked && r.state !== 'known').length, 'row')} of the outline`;

/** Gives what is to be written so that an item stands as a newer outline has it, or is gone. */
async function changeOf(row: Row, zone: typeof UTC): Promise<OwnWrite[]> {
  const at = ownAt(await call('item', { params: { id: row.itemId! }, query: { recurrenceId: '' } }));
  if (!at) return [];
  if (row.state === 'gone') return removalsFor({ ...at, of: null }, 'all');
  const { when, end, repeat } = ownItemOf({ ...row, kind: at.item.kind }, zone);
  // Only its time is the outline's; what one has written on it stays.
  return writesFor({ ...at, of: null }, { ...at.item, when, end, repeat }, at.calendarId, 'all');
}
