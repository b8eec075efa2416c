import { HANDED_IN_WORDS, HAND_IN_WORDS, KIND_WORDS } from '@zephyrfield/core/item/words';
import { HAND_IN_WAYS, ITEM_KINDS, isWork, type HandInWay, type ItemKind } from '@zephyrfield/core/item/kind';
import type { OutlineRow } from '@zephyrfield/core/api/outlines';
import { parseDate } from '@zephyrfield/core/time/civil';
import { clockOf, minuteOfClock } from '@zephyrfield/core/time/minute';
import { daysWords, shortDay } from '@zephyrfield/core/words/when';
import { plural } from '@zephyrfield/core/words/text';

/** A column of the rows: what it shows, what is typed in it, and what comes of that. */
export interface Column {
  key: 'title' | 'kind' | 'date' | 'minute' | 'until' | 'handIn' | 'place';
  name: string;
  width: string;
  shows(row: OutlineRow): string;
  /** Gives what a field of it begins with */
  value(row: OutlineRow): string;
  field(row: OutlineRow): 'text' | 'date' | 'time' | readonly { value: string; words: string }[];
  /** Gives what was typed, as a change of the row; null where it says nothing */
  change(value: string, row: OutlineRow): Partial<OutlineRow> | null;
}

export const dayWords = (date: string): string => shortDay(parseDate(date));

/** Tells when a row is, in words. */
export function whenOf(row: OutlineRow): string {
  const { date, endDate, dates } = row;
  if (date === null) return 'no day';
  // Its weekday is the same each time.
  if (dates.length > 1) return `${dayWords(date).slice(4)} to ${dayWords(dates.at(-1)!).slice(4)}`;
  return endDate ? daysWords(parseDate(date), parseDate(endDate)) : dayWords(date);
}

/** Tells how often it takes place, where it repeats. */
export const timesWords = ({ dates }: OutlineRow): string =>
  dates.length > 1 ? plural(dates.length, 'time') : '';

/** Tells whether it may last several days: then its end is a day, and no hour. */
const lasts = ({ kind, minute, dates }: OutlineRow) => !isWork(kind) && minute === null && dates.length < 2;
const clock = (minute: number | null) => (minute === null ? '' : clockOf(minute));
const options = <T extends string>(all: readonly T[], words: Record<T, string>) =>
  all.map((value) => ({ value, words: words[value] }));

const KINDS = options(ITEM_KINDS, KIND_WORDS);
const WAYS = options(HAND_IN_WAYS, HAND_IN_WORDS);

export const COLUMNS: readonly Column[] = [
  {
    ...{ key: 'title', name: 'what', width: 'w-auto' },
    shows: (row) => row.title,
    value: (row) => row.title,
    field: () => 'text',
    change: (value) => (value.trim() ? { title: value.trim().slice(0, 300) } : null),
  },
  {
    ...{ key: 'kind', name: 'it is', width: 'w-[104px]' },
    shows: (row) => KIND_WORDS[row.kind],
    value: (row) => row.kind,
    field: () => KINDS,
    change: (value) => {
      const kind = value as ItemKind;
      return { kind, ...(isWork(kind) ? {} : { handIn: 'nothing' }), isTopic: false };
    },
  },
  {
    ...{ key: 'date', name: 'when', width: 'w-[104px]' },
    shows: whenOf,
    value: (row) => row.date ?? '',
    field: () => 'date',
    change: (value, row) => (value && value !== row.date ? { date: value } : null),
  },
  {
    ...{ key: 'minute', name: 'at', width: 'w-[60px]' },
    shows: (row) => clock(row.minute),
    value: (row) => clock(row.minute),
    field: () => 'time',
    change: (value) => ({ minute: minuteOfClock(value) }),
  },
  {
    ...{ key: 'until', name: 'until', width: 'w-[84px]' },
    shows: (row) => (lasts(row) ? (row.endDate ? dayWords(row.endDate).slice(4) : '') : clock(row.until)),
    value: (row) => (lasts(row) ? (row.endDate ?? '') : clock(row.until)),
    field: (row) => (lasts(row) ? 'date' : 'time'),
    change: (value, row) => {
      if (!lasts(row)) return { until: minuteOfClock(value) };
      if (value && row.date !== null && value < row.date) return null;
      return { endDate: value && value !== row.date ? value : null };
    },
  },
  {
    ...{ key: 'handIn', name: 'handing in', width: 'w-[80px]' },
    shows: (row) => (row.handIn === 'unknown' || !isWork(row.kind) ? '' : HANDED_IN_WORDS[row.handIn]),
    value: (row) => row.handIn,
    field: () => WAYS,
    change: (value) => ({ handIn: value as HandInWay }),
  },
  {
    ...{ key: 'place', name: 'where', width: 'w-[70px]' },
    shows: (row) => row.place,
    value: (row) => row.place,
    field: () => 'text',
    change: (value) => ({ place: value.trim().slice(0, 300) }),
  },
];
