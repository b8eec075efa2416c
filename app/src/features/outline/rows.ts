import type { OutlineRow, OutlineView } from '@zephyrfield/core/api/outlines';
import { compareRows, type Standing } from '@zephyrfield/core/outline/add';
import { formatDate, parseDate } from '@zephyrfield/core/time/civil';
import { newKey } from '@/data/key';

/** A row as it is looked through. */
export interface Row extends OutlineRow {
  id: string;
  /** It stands at this place of the outline, counted from 1; 0 for what one has added without a place */
  number: number;
  ticked: boolean;
  /** `known`: it is in the calendar already; `gone`: a newer outline says nothing of it any more */
  state: 'new' | 'known' | 'moved' | 'gone';
  itemId: string | null;
  was: Standing | null;
  /** What the outline says of it, whatever one has made of it; null for what one has added */
  told: Omit<Standing, 'itemId'> | null;
  /** Its last day is over */
  isOver: boolean;
  /** One has changed it: it stays so when the outline is read again */
  isOwn: boolean;
  /** One has ticked it, or left it out: that stays as well */
  isSet: boolean;
  /** Places of rows that were joined with it */
  covers: readonly string[];
}

/** What a list of rows is given, as a table or as one below the other. */
export interface RowsProps {
  rows: readonly Row[];
  chosen: readonly string[];
  label: string;
  /** The row whose place is shown */
  shown: string | null;
  onStep(step: Step): void;
  /** A row is looked at: its place is shown */
  onRow(id: string): void;
}

/** The rows, which of them are chosen, and how they were before each change. */
export interface Sheet {
  rows: readonly Row[];
  chosen: readonly string[];
  past: readonly (readonly Row[])[];
}

export type Step =
  | { do: 'begin'; rows: readonly Row[] }
  | { do: 'choose'; ids: readonly string[] }
  | { do: 'edit'; ids: readonly string[]; to: Partial<OutlineRow> }
  | { do: 'tick'; ids: readonly string[]; on: boolean }
  | { do: 'join'; ids: readonly string[] }
  | { do: 'add'; row: Row }
  | { do: 'undo' };

const MOST_PAST = 100;

/** One step on. Every change of rows can be taken back, one after the other. */
export function step(sheet: Sheet, taken: Step): Sheet {
  const { rows, past } = sheet;
  const changed = (next: readonly Row[], chosen = sheet.chosen): Sheet => ({
    rows: next,
    chosen,
    past: [...past, rows].slice(-MOST_PAST),
  });
  const among = 'ids' in taken ? new Set(taken.ids) : null;
  switch (taken.do) {
    case 'begin':
      return { rows: taken.rows, chosen: [], past: [] };
    case 'choose':
      return { ...sheet, chosen: taken.ids };
    case 'edit':
      return changed(rows.map((row) => (among!.has(row.id) ? edited(row, taken.to) : row)));
    case 'tick':
      return changed(
        rows.map((row) => (among!.has(row.id) ? { ...row, ticked: taken.on, isSet: true } : row)),
      );
    case 'join': {
      const [first, ...others] = rows.filter((row) => among!.has(row.id));
      if (!first || !others.length) return sheet;
      const left = new Set(others.map((o) => o.id));
      const joined: Row = {
        ...first,
        title: [first, ...others].map((r) => r.title).join(', '),
        details: [first, ...others]
          .map((r) => r.details)
          .filter(Boolean)
          .join('\n'),
        minute: first.minute ?? others.find((o) => o.minute !== null)?.minute ?? null,
        ticked: true,
        isOwn: true,
        covers: [...first.covers, ...others.flatMap((o) => [placeOf(o), ...o.covers])],
      };
      return changed(
        rows.flatMap((row) => (row.id === first.id ? [joined] : left.has(row.id) ? [] : [row])),
        [first.id],
      );
    }
    case 'add':
      return changed([...rows, taken.row], [taken.row.id]);
    case 'undo':
      return past.length ? { ...sheet, rows: past.at(-1)!, past: past.slice(0, -1) } : sheet;
  }
}

/** Gives what is changed by hand is ticked. Another day settles what was doubtful; what lasts or repeats moves as far. */
function edited(row: Row, to: Partial<OutlineRow>): Row {
  const next = { ...row, ...to, ticked: true, isOwn: true };
  if (!to.date) return next;
  if (row.date === null) return { ...next, doubts: [] };
  const by = parseDate(to.date) - parseDate(row.date);
  const moved = (date: string) => formatDate(parseDate(date) + by);
  return {
    ...next,
    doubts: [],
    endDate: row.endDate && moved(row.endDate),
    dates: row.dates.map(moved),
    weekdays: row.weekdays.map((iso) => ((((iso - 1 + by) % 7) + 7) % 7) + 1),
  };
}

const placeOf = ({ at }: Pick<OutlineRow, 'at'>) => `${at.block} ${at.row} ${at.cell} ${at.from}`;

/**
 * The rows of an outline as they are looked through.
 * @param added what was added from it, or from the older one that it takes the place of, as that said it; null for an
 *   outline that nothing was added from
 * @param there what is in the calendar
 * @param today what is before that day is over, and not ticked
 * @param before rows as they were looked through: what was changed by hand stays
 */
export function rowsOf(
  { rows }: Pick<OutlineView, 'rows'>,
  {
    added,
    there,
    before,
    today,
  }: {
    added: readonly Standing[] | null;
    there: readonly Standing[];
    before: readonly Row[];
    today: string;
  },
): Row[] {
  const said = rows.map(toldBy);
  const { states, gone } = compareRows(said, added ?? []);
  const from = new Set(added?.map((a) => a.itemId));
  const others = compareRows(
    said,
    there.filter((t) => !from.has(t.itemId)),
  ).states;
  const changed = before.filter((r) => (r.isOwn || r.isSet) && r.number > 0);
  const own = new Map(changed.map((r) => [placeOf(r), r]));
  const covered = new Set(changed.flatMap((r) => r.covers));
  const inOrder = rows
    .map((row, n) => ({ row, n }))
    .sort(
      ({ row: a }, { row: b }) =>
        a.at.block - b.at.block || a.at.row - b.at.row || a.at.cell - b.at.cell || a.at.from - b.at.from,
    );
  const numbers = new Map(inOrder.map(({ n }, i) => [n, i + 1]));
  const all = rows.map((row, n): Row => {
    // What is elsewhere in the calendar under the same name is another thing; on the same day it is this one.
    const state = states[n]!.is === 'new' && others[n]!.is === 'same' ? others[n]! : states[n]!;
    const isMoved = state.is === 'moved';
    const isKnown = state.is === 'same';
    const looked = own.get(placeOf(row));
    const kept = looked?.isOwn ? looked : undefined;
    const isOver = lastOf(row) < today;
    const isSure = row.date !== null && !(isOver && !isMoved) && !row.doubts.some((d) => d.includes('twice'));
    return {
      ...row,
      ...kept,
      id: looked?.id ?? newKey(),
      number: numbers.get(n)!,
      ticked: looked?.ticked ?? (!row.isTopic && !isKnown && isSure),
      state: isKnown ? 'known' : isMoved ? 'moved' : 'new',
      itemId: state.is === 'new' ? null : state.itemId,
      was: isMoved ? state.was : null,
      told: said[n]!,
      isOver,
      isOwn: kept !== undefined,
      isSet: looked?.isSet ?? false,
      covers: kept?.covers ?? [],
    };
  });
  const byHand = before.filter((r) => r.number === 0 && r.state === 'new');
  const left = all.filter((row) => !covered.has(placeOf(row)));
  return inLookingOrder([...left, ...byHand, ...gone.map(goneRow)]);
}

/** Gives what an outline says of a row. */
const toldBy = ({ title, date, minute, dates, endDate }: OutlineRow) => ({
  ...{ title, date, minute },
  last: dates.at(-1) ?? endDate,
});

/** The last day on which something of a row takes place; far away for what has none. */
const lastOf = ({ date, endDate, dates }: OutlineRow): string => dates.at(-1) ?? endDate ?? date ?? '9999';

const NOWHERE = { block: -1, row: 0, cell: 0, from: 0, to: 0 };

/** A row that no outline has: what one adds, or what a newer outline does not say any more. */
export const bareRow = (title: string, more: Partial<Row> = {}): Row => ({
  ...{
    id: newKey(),
    number: 0,
    ticked: true,
    state: 'new',
    itemId: null,
    was: null,
    told: null,
    isOwn: true,
    isSet: false,
    covers: [],
    isOver: false,
  },
  ...{ title, kind: 'assignment', handIn: 'unknown', date: null, endDate: null, minute: null, until: null },
  ...{
    dates: [],
    weekdays: [],
    place: '',
    details: '',
    isTopic: false,
    doubts: [],
    at: NOWHERE,
    dateAt: null,
  },
  ...more,
});

const goneRow = (was: Standing): Row =>
  bareRow(was.title, {
    ...{ state: 'gone', itemId: was.itemId, was, ticked: false, isOwn: false },
    ...{ date: was.date, minute: was.minute },
  });

/** Gives what is doubtful first, then by day, then what is gone; what is in the calendar already comes last. */
function inLookingOrder(rows: readonly Row[]): Row[] {
  const rank = (r: Row) => (r.state === 'known' ? 3 : r.state === 'gone' ? 2 : r.doubts.length ? 0 : 1);
  return [...rows].sort(
    (a, b) =>
      rank(a) - rank(b) ||
      (a.date ?? '9999').localeCompare(b.date ?? '9999') ||
      (a.minute ?? 1440) - (b.minute ?? 1440) ||
      a.number - b.number,
  );
}

/** Tells whether somebody has to look at a row before it is added. */
export const isDoubtful = (row: Row): boolean =>
  row.state === 'new' && (row.doubts.length > 0 || row.date === null);

/** Gives what is doubtful about a row, or what became of it, in words. */
export function remarkOf(row: Row, dayWords: (date: string) => string): string {
  if (row.state === 'known') return 'is in this calendar already';
  if (row.state === 'gone') return 'is not in this outline any more; tick it to take it away';
  if (row.state === 'moved' && row.was) {
    const was = row.was.date === null ? 'had no day' : `was ${dayWords(row.was.date)}`;
    if (row.was.date !== row.date) return was;
    return row.was.minute === row.minute ? 'ends on another day' : 'is at another hour';
  }
  if (row.doubts.length) return row.doubts.join(' ');
  if (row.isOver && row.state === 'new') return row.ticked ? '' : 'is over already';
  return row.date === null ? 'has no day yet' : '';
}
