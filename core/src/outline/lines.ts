import { MONTHS, inWeek, weekdayOf, type DateSaid } from './dates.ts';
import type { Hint, Raw } from './found.ts';
import { spansIn, type Reader, type Spans } from './spans.ts';
import { items, says, tidied, without } from './title.ts';
import type { TimeSaid } from './times.ts';
import { placeIn, sentencesOf, type Unit } from './units.ts';
import { weeklyIn } from './weekly.ts';
import type { Weeks } from './weeks.ts';
import { COUNTED_BEFORE, COUNTED_BEHIND, NOT_PLANNED, hintOf, isRemark } from './words.ts';

/** What stands above a line and holds for it. */
export interface Above {
  /** A date by itself, and how far in it stood */
  day: { said: DateSaid; indent: number; level: number } | null;
  week: number | null;
  /** A month by itself, under which days stand by their numbers */
  month: number | null;
  hint: Hint | null;
  /** The heading that was read last */
  title: string;
  /** The stretch of the page: from a heading on, or where dates begin to stand otherwise in their lines */
  group: string;
  shape: string;
}

export interface Lines {
  reader: Reader;
  weeks: Weeks;
  /** So many lines begin with a date in numbers: from three on it is a list of them */
  shortFirst: number;
  shortLast: number;
}

const WEEK_WORDS = /\b(?:week|wk|woche|semaine|semana)\.?\s?\d{1,2}\b/giu;
const WEEKDAY_FIRST = /^[-*•–]?\s?(\p{L}{2,10})\.?\s?(?=[:,–—-]|\s{2}|\s\p{L}|$)/u;
const SEPARATED = /(?:[:–—(|,]|\.{3}|\s-|\s{2})$/;
const isSeparated = (before: string) => SEPARATED.test(before.endsWith('  ') ? before : before.trimEnd());
const DUE_BEFORE = /\b(?:due|by|on|until|till|before|deadline|am|bis|vom|le|el)\W{0,3}$/i;
const MONTH_ALONE =
  /^(january|february|march|april|may|june|july|august|september|october|november|december)(?:\s\d{4})?:?$/i;
const LONGEST = 160;
const TOLD = /\b(?:exam|test|quiz|midterm|essay|report|project|paper|assignment|homework|presentation)\b/i;

/** Whether a line begins or ends with a date in two numbers, as those of a list do. */
export function shortIn(text: string, reader: Reader): { first: boolean; last: boolean } {
  if (text.length > LONGEST || !/\d[./]\d/.test(text)) return { first: false, last: false };
  const { dates } = spansIn(text, reader);
  const first = dates.find((d) => d.form === 'short');
  return {
    first:
      first !== undefined && !says(text.slice(0, first.from)) && !COUNTED_BEHIND.test(text.slice(first.to)),
    last: first !== undefined && says(text.slice(0, first.from)) && isSeparated(text.slice(0, first.from)),
  };
}

/** Whether two numbers with a stroke or a dot are a date here. */
function isDate(said: DateSaid, text: string, { shortFirst, shortLast }: Lines): boolean {
  const before = text.slice(Math.max(0, said.from - 40), said.from);
  const behind = text.slice(said.to, said.to + 30);
  if (said.form === 'short') {
    if (COUNTED_BEFORE.test(before) || COUNTED_BEHIND.test(behind)) return false;
    if (said.weekday || said.last) return true;
    if (DUE_BEFORE.test(before)) return true;
    if (!says(text.slice(0, said.from))) return shortFirst >= 3;
    if (!isSeparated(before)) return false;
    // One by itself at the end of a line that names work, with a number that no month has.
    const isPlain = said.first.day > 12 || said.first.month > 12;
    return (
      shortLast >= 3 ||
      (isPlain && /^\W*$/.test(behind) && /[:–—-]$/.test(before.trimEnd()) && TOLD.test(before))
    );
  }
  return !NOT_PLANNED.test(before);
}

/** What a unit says of days. Changes what stands above the lines to come. */
export function rawsOfUnit(unit: Unit, standing: Above, lines: Lines): Raw[] {
  const sentences = sentencesOf(unit);
  const raws: Raw[] = [];
  for (const { text, at } of sentences) {
    const spans = spansIn(text, lines.reader);
    const dates = spans.dates.filter((said) => isDate(said, text, lines));
    const shape = shapeOf(text, dates);
    if (shape && unit.isApart && shape !== standing.shape) standing.group = unit.where;
    standing.shape = shape || standing.shape;
    raws.push(
      ...rawsOf(
        { text, at, unit, isLoose: sentences.length > 1 || text.length > LONGEST },
        { ...spans, dates },
        standing,
        lines,
      ),
    );
  }
  return raws;
}

/** Where the date of a line stands in it; empty for a line without one. */
function shapeOf(text: string, dates: readonly DateSaid[]): string {
  const [first] = dates;
  const last = dates.at(-1);
  if (!first || !last) return '';
  if (!says(text.slice(0, first.from))) return 'first';
  return says(text.slice(last.to)) ? 'middle' : 'last';
}

interface Sentence {
  text: string;
  at: number;
  unit: Unit;
  isLoose: boolean;
}

const EMPTY = {
  date: null,
  day: null,
  lastDay: null,
  lastKnown: null,
  weekday: null,
  minute: null,
  until: null,
  hint: null,
  sort: '',
  place: '',
  details: '',
  weekly: null,
  dateAt: null,
} as const;

function rawsOf(sentence: Sentence, spans: Spans, standing: Above, lines: Lines): Raw[] {
  const { text, unit } = sentence;
  const { dates, times } = spans;
  const whole = (title: string, more: Partial<Raw>): Raw => ({
    ...EMPTY,
    title,
    hint: standing.hint,
    group: standing.group,
    manner: sentence.isLoose ? 'loose' : 'firm',
    at: placeIn(unit, sentence.at, sentence.at + text.length),
    ...more,
  });
  const weekly = weeklyIn(text, spans, lines.reader.language);
  if (weekly) {
    const rest = without(text, [...weekly.spans, ...times]);
    const title = says(rest) ? rest : tidied(text);
    return says(title) ? [whole(title, { weekly: weekly.weekly, ...clockOf(times[0]) })] : [];
  }
  if (!dates.length) return undated(sentence, times, standing, lines, whole);
  const named = underTitle(sentence, spans, standing);
  if (named) return [whole(named.title, { date: dates[0]!, place: named.place, ...clockOf(times[0]) })];
  if (isHeading(sentence, dates, standing, lines)) return [];
  return chunks(sentence, spans).flatMap(({ said, pieces }) =>
    pieces.map(({ title, from, to, minute, until }) =>
      whole(title, {
        date: said,
        minute,
        until,
        at: placeIn(unit, sentence.at + from, sentence.at + to),
        dateAt: placeIn(unit, sentence.at + said.from, sentence.at + said.to),
      }),
    ),
  );
}

const clockOf = (time: TimeSaid | undefined) => ({
  minute: time?.minute ?? null,
  until: time?.until ?? null,
});

const PLACE = /^(?:in |at )?(?:the )?(?:room|hall|lab|studio|building|auditorium|theatre|gym)\b.{0,24}$/i;

/** A date with its hour, and at most a room, under a heading: `Exam` is what takes place then. */
function underTitle({ text, isLoose }: Sentence, { dates, times }: Spans, { title }: Above) {
  if (isLoose || dates.length !== 1 || !times.length || !title) return null;
  const rest = without(text, [...dates, ...times]);
  return !says(rest) || PLACE.test(rest) ? { title, place: rest } : null;
}

const DAY_FIRST = /^(\d{1,2})(?:st|nd|rd|th)?(?:\s?[-–]\s?(\d{1,2}))?\s?[:.)–-]?\s(?=\p{L})/u;

/** `17: Quiz 1` under a month. */
function dayOfMonth(text: string, month: number): DateSaid | null {
  const m = DAY_FIRST.exec(text);
  const parts = (day: number) => ({ year: null, month, day, isOpen: false });
  const [day, last] = [Number(m?.[1] ?? 0), Number(m?.[2] ?? 0)];
  if (!m || day < 1 || day > 31 || last > 31) return null;
  return {
    ...{ from: 0, to: m[0].length, form: 'words', weekday: null, week: null },
    ...{ first: parts(day), last: last > day ? parts(last) : null },
  };
}

/** A line without a date of its own, under something that has one. */
function undated(
  { text, unit, isLoose }: Sentence,
  times: TimeSaid[],
  standing: Above,
  lines: Lines,
  whole: (title: string, more: Partial<Raw>) => Raw,
): Raw[] {
  const first = WEEKDAY_FIRST.exec(text);
  const weekday = first && weekdayOf(first[1]!, lines.reader.language);
  if (weekday && standing.week !== null && !isLoose) {
    const rest = text.slice(first[0].length);
    const title = without(rest, timesBehind(times, first[0].length));
    if (!says(title)) return [];
    return [whole(title, { date: inWeek(standing.week, weekday), ...clockOf(times[0]) })];
  }
  const numbered = standing.month === null || isLoose ? null : dayOfMonth(text, standing.month);
  if (numbered) {
    const title = without(text.slice(numbered.to), timesBehind(times, numbered.to));
    return says(title) ? [whole(title, { date: numbered, ...clockOf(times[0]) })] : [];
  }
  const isBelow =
    unit.level === 0 &&
    (unit.isItem || unit.indent > (standing.day?.indent ?? 0) || (standing.day?.level ?? 0) > 0);
  if (standing.day && isBelow && !isLoose) {
    const { said } = standing.day;
    return items(text).flatMap((item) => {
      const own = times.filter((t) => t.from >= item.from && t.to <= item.from + item.text.length);
      const title = without(item.text, timesBehind(own, item.from));
      if (!says(title) || isRemark(title)) return [];
      return [whole(title, { date: said, ...clockOf(own[0]) })];
    });
  }
  if (standing.week !== null && (unit.isItem || unit.indent > 0) && !isLoose && !isRemark(text)) {
    const title = without(text, times);
    return says(title) ? [whole(title, { date: inWeek(standing.week, null), ...clockOf(times[0]) })] : [];
  }
  // A line that stands by itself begins something else.
  standing.day = null;
  const month = MONTH_ALONE.exec(text)?.[1];
  standing.month =
    month === undefined
      ? unit.isItem
        ? standing.month
        : null
      : MONTHS.indexOf(month.slice(0, 3).toLowerCase()) + 1;
  const isName = unit.level > 0 || /:$/.test(text) || (!/\d/.test(text) && unit.text.length < 60);
  if (!isLoose && isName) {
    if (!unit.isItem) standing.title = tidied(text);
    standing.hint = hintOf(text) ?? (unit.level > 0 || unit.isApart ? null : standing.hint);
    if (unit.level > 0 || unit.isApart) standing.week = null;
  } else if (isLoose) standing.hint = null;
  return [];
}

const timesBehind = (times: readonly TimeSaid[], at: number) =>
  times.filter((t) => t.from >= at).map(({ from, to }) => ({ from: from - at, to: to - at }));

/** A date, or a week, with nothing beside it: it holds for what stands below. */
function isHeading(
  { text, unit, isLoose }: Sentence,
  dates: DateSaid[],
  standing: Above,
  { weeks }: Lines,
): boolean {
  if (isLoose || dates.length > 2) return false;
  const number = /\b(?:week|wk|woche|semaine|semana)\.?\s?(\d{1,2})\b/iu.exec(text);
  const rest = without(text, dates).replace(WEEK_WORDS, ' ');
  const dated = dates.find((d) => d.week === null);
  if (says(tidied(rest))) return false;
  if (number) {
    standing.week = Number(number[1]);
    standing.day = null;
    if (dated) weeks.tell(standing.week, dated.first, null);
  } else if (dated) standing.day = { said: dated, indent: unit.indent, level: unit.level };
  return true;
}

interface Chunk {
  said: DateSaid;
  /** The hour beside the date */
  clock: Pick<Raw, 'minute' | 'until'> | null;
  pieces: { title: string; from: number; to: number; minute: number | null; until: number | null }[];
}

/** Which words belong to which date of a line: `draft Oct 9, final Oct 23`, `9 Oct draft, 23 Oct final`. */
function chunks({ text, isLoose }: Sentence, { dates, times }: Spans): Chunk[] {
  const first = dates[0]!;
  const isDateFirst = !says(without(text.slice(0, first.from), [])) || !says(text.slice(0, first.from));
  const bounds = dates.map((said, n) => {
    const next = dates[n + 1];
    const before = dates[n - 1];
    if (isDateFirst) return { said, from: said.from, to: next?.from ?? text.length };
    return {
      said,
      from: before ? behind(text, before, times) : 0,
      to: next ? behind(text, said, times) : text.length,
    };
  });
  const found = bounds.map(({ said, from, to }) => {
    const part = text.slice(from, to);
    const own = times.filter((t) => t.from >= from && t.to <= to);
    const spans = [said, ...own].map((s) => ({ from: s.from - from, to: s.to - from }));
    // Several items of one day; in a sentence a semicolon is one like another.
    const pieces = isLoose || dates.length > 1 ? [{ text: part, from: 0 }] : items(part);
    return {
      said,
      clock: own[0] ? clockOf(own[0]) : null,
      pieces: pieces.flatMap((piece) => {
        const inside = spans
          .map((s) => ({ from: s.from - piece.from, to: s.to - piece.from }))
          .filter((s) => s.from >= 0 && s.to <= piece.text.length);
        const title = without(piece.text, inside).replace(/^\W*(?:and|then)(?:\s|$)/i, '');
        const time = own.find(
          (t) => t.from - from >= piece.from && t.to - from <= piece.from + piece.text.length,
        );
        const at = from + piece.from;
        return says(title)
          ? [
              {
                title,
                from: at,
                to: at + piece.text.length,
                ...clockOf(time ?? (pieces.length === 1 ? own[0] : undefined)),
              },
            ]
          : [];
      }),
    };
  });
  return shared(found);
}

/** Behind a date, its hour still belongs to it. */
function behind(text: string, said: DateSaid, times: readonly TimeSaid[]): number {
  const hour = times.find(
    (t) => t.from >= said.to && t.from - said.to <= 8 && !/[;.]/.test(text.slice(said.to, t.from)),
  );
  return hour ? hour.to : said.to;
}

const STAGE =
  /(?:^|[\s,])(?:(?:rough |first |full |final |revised )?(?:draft|version)|final|outline|proposal|first|second|third|part \d)$/i;

/** What the first of several dates names for all of them: before a colon, or before a word for a stage. */
function headOf(found: readonly Chunk[]): string | undefined {
  const [first, second] = found.map((c) => c.pieces[0]?.title ?? '');
  const named = /^([^:]{3,60}):\s/.exec(first ?? '')?.[1];
  if (named || !first || !second || !STAGE.test(second)) return named;
  const stage = STAGE.exec(first);
  return stage && stage.index > 2 ? first.slice(0, stage.index) : undefined;
}

/** What has no words of its own has those of its neighbour; what stands before a colon is for all. */
function shared(found: Chunk[]): Chunk[] {
  // `28 September, 9 November and 7 December, 10:15`: the hour behind the last one is that of all.
  const last = found.at(-1);
  const forAll = last && !last.pieces.length ? last.clock : null;
  const head = headOf(found);
  const full = found.map((chunk, n) => {
    if (chunk.pieces.length)
      return {
        ...chunk,
        pieces: chunk.pieces.map((p) => (forAll && p.minute === null ? { ...p, ...forAll } : p)),
      };
    const other =
      found.slice(0, n).findLast((c) => c.pieces.length) ?? found.slice(n).find((c) => c.pieces.length);
    const own = chunk.clock ?? forAll;
    return { ...chunk, pieces: (other?.pieces ?? []).map((p) => (own ? { ...p, ...own } : p)) };
  });
  if (!head || full.length < 2) return full;
  return full.map((chunk, n) =>
    n === 0
      ? chunk
      : {
          ...chunk,
          pieces: chunk.pieces.map((p) =>
            p.title.startsWith(head) ? p : { ...p, title: `${head}: ${p.title}` },
          ),
        },
  );
}
