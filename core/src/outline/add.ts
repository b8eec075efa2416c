import { isWork, type HandInWay, type ItemKind } from '../item/kind.ts';
import type { OwnItem } from '../item/own.ts';
import { wordsIn } from '../lib/plain.ts';
import { patternToRule } from '../recurrence/pattern.ts';
import { formatDate, parseDate, startOfWeek, weekday } from '../time/civil.ts';
import { whenOn } from '../time/shift.ts';
import { dateOf, instantOf, type When } from '../time/when.ts';
import type { Zone } from '../time/zone.ts';

/** A row as it is added: days as dates, hours as minutes of the day. */
export interface RowToAdd {
  title: string;
  kind: ItemKind;
  handIn: HandInWay;
  date: string | null;
  endDate: string | null;
  minute: number | null;
  until: number | null;
  /** Dates of what repeats, in order; empty for what stands once */
  dates: readonly string[];
  weekdays: readonly number[];
  place: string;
  details: string;
}

/** What meets without an end is taken to last so many minutes. */
const AN_HOUR = 60;

/** A row as an item of one’s own; what has no day of its own is work without a date. */
export function ownItemOf(row: RowToAdd, zone: Zone): OwnItem {
  const { kind, title, place, details, minute, until } = row;
  const day = row.date === null ? null : parseDate(row.date);
  const at = (on: number, of: number): When => whenOn(instantOf(0, zone.id), on, zone, of);
  const when = day === null ? null : minute === null ? dateOf(day) : at(day, minute);
  return {
    kind,
    handIn: isWork(kind) ? row.handIn : 'nothing',
    ...{ title, place, details, when },
    end: endOf(row, day, at),
    repeat: when && day !== null ? repeatOf(row, day, when, zone, at) : null,
    changes: [],
  };

  function endOf({ endDate }: RowToAdd, on: number | null, moment: typeof at): When | null {
    if (on === null) return null;
    if (isWork(kind))
      return kind === 'test' && minute !== null && until !== null && until > minute
        ? moment(on, until)
        : null;
    // An all-day end is the day after the last one (RFC 5545 3.6.1).
    if (minute === null) return endDate && endDate > row.date! ? dateOf(parseDate(endDate) + 1) : null;
    return moment(on, until !== null && until > minute ? until : Math.min(1439, minute + AN_HOUR));
  }
}

const greatestCommonDivisor = (a: number, b: number): number =>
  b === 0 ? a : greatestCommonDivisor(b, a % b);

/** Dates of a repeat as a rule, with those that it leaves out. */
function repeatOf(
  row: RowToAdd,
  day: number,
  when: When,
  zone: Zone,
  at: (on: number, of: number) => When,
): OwnItem['repeat'] {
  const { dates, weekdays, minute } = row;
  const last = dates.at(-1);
  if (dates.length < 2 || last === undefined) return null;
  const first = startOfWeek(day, 1);
  const weekOf = (of: number) => (startOfWeek(of, 1) - first) / 7;
  // Every other week, where no date is in one between.
  const interval = Math.max(1, dates.map((d) => weekOf(parseDate(d))).reduce(greatestCommonDivisor));
  const rule = patternToRule(
    { every: 'week', interval, weekdays: [...weekdays], monthBy: 'date', until: last, count: null },
    when,
    zone,
  );
  const kept = new Set(dates);
  const except: When[] = [];
  for (let d = day; d <= parseDate(last); d++)
    if (weekdays.includes(weekday(d)) && weekOf(d) % interval === 0 && !kept.has(formatDate(d)))
      except.push(minute === null ? dateOf(d) : at(d, minute));
  return { rule, except };
}

/** What is there already: an item by its id, as it was told or stands. */
export interface Standing {
  itemId: string;
  title: string;
  date: string | null;
  minute: number | null;
  /** Its last day, of what lasts or repeats; left out where that is not known */
  last?: string | null | undefined;
}

/** Outcome of a row: nothing like it was there, it was there just so, or it was there on another day or hour. */
export type RowState =
  { is: 'new' } | { is: 'same'; itemId: string } | { is: 'moved'; itemId: string; was: Standing };

/** From this share of their words on, two titles may be those of one thing. */
const ALIKE = 0.6;

function likeness(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  let shared = 0;
  for (const word of a) if (b.has(word)) shared++;
  return shared / Math.max(1, a.size, b.size);
}

/**
 * Compares rows with what is there: by title and day first, then by title alone, the likest first. Each that is there is
 * met by one row at most.
 * @returns a state for each row, in order, and what no row says any more
 */
export function compareRows(
  rows: readonly Omit<Standing, 'itemId'>[],
  there: readonly Standing[],
): { states: RowState[]; gone: Standing[] } {
  const states = rows.map((): RowState => ({ is: 'new' }));
  const words = there.map((each) => wordsIn(each.title));
  const byDay = new Map<string, number[]>();
  there.forEach(({ date }, n) => byDay.set(date ?? '', [...(byDay.get(date ?? '') ?? []), n]));
  const met = new Set<number>();
  const meet = (row: number, n: number) => {
    met.add(n);
    const { itemId, date, minute, last } = there[n]!;
    const said = rows[row]!;
    const isSame =
      said.date === date && said.minute === minute && (last === undefined || (said.last ?? null) === last);
    states[row] = isSame ? { is: 'same', itemId } : { is: 'moved', itemId, was: there[n]! };
  };
  const best = (row: number, among: readonly number[], least: number): number | null => {
    const own = wordsIn(rows[row]!.title);
    const found = among
      .filter((n) => !met.has(n))
      .map((n) => ({ n, share: likeness(own, words[n]!) }))
      .filter(({ share }) => share >= least)
      .sort((a, b) => b.share - a.share)[0];
    return found?.n ?? null;
  };
  rows.forEach(({ date }, row) => {
    const n = best(row, byDay.get(date ?? '') ?? [], ALIKE);
    if (n !== null) meet(row, n);
  });
  const all = there.map((_, n) => n).slice(0, MOST_COMPARED);
  rows.slice(0, MOST_COMPARED).forEach((_, row) => {
    if (states[row]!.is !== 'new') return;
    // Elsewhere only what is called the same: `Lab report 2` is not `Lab report 3` moved.
    const n = best(row, all, 1);
    if (n !== null) meet(row, n);
  });
  return { states, gone: there.filter((_, n) => !met.has(n)) };
}

/** With so many rows a newer outline is compared; each is with each. */
const MOST_COMPARED = 500;
