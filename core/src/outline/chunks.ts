import { clockOf, type Sentence } from './above.ts';
import type { Raw } from './found.ts';
import type { DateSaid } from './said.ts';
import type { Spans } from './spans.ts';
import type { TimeSaid } from './times.ts';
import { items, says, tidied, without } from './title.ts';

/** Facts told of a date: a title, the words it was made of, where they stand, and the hour. */
interface Piece {
  title: string;
  words: string;
  from: number;
  to: number;
  minute: number | null;
  until: number | null;
}

type Clock = Pick<Raw, 'minute' | 'until'>;

/** A date of a line with what belongs to it. */
export interface Chunk {
  said: DateSaid;
  /** The hours beside the date */
  clocks: Clock[];
  pieces: Piece[];
}

/** Which words belong to which date of a line: `draft Oct 9, final Oct 23`, `9 Oct draft, 23 Oct final`. */
export function chunks({ text, isLoose }: Sentence, { dates, times }: Spans): Chunk[] {
  const head = headBefore(text, dates, times);
  const isDateFirst = head !== null || !says(text.slice(0, dates[0]!.from));
  const ends = dates.slice(1).map((next, n) => endBefore(text, dates[n]!, next, times));
  const starts = dates.map((said, n) => startOf(text, said, dates[n - 1]));
  const found = dates.map((said, n): Chunk => {
    const from = isDateFirst ? starts[n]! : (ends[n - 1] ?? 0);
    const to = (isDateFirst ? starts[n + 1] : ends[n]) ?? text.length;
    const own = times.filter((t) => t.from >= from && t.to <= to);
    // Several items of one day; in a sentence a semicolon is one like another.
    const parts =
      isLoose || dates.length > 1 ? [{ text: text.slice(from, to), from: 0 }] : items(text.slice(from, to));
    const pieces = parts.flatMap((part) =>
      piecesOf(text, part.text, from + part.from, said, own, parts.length === 1),
    );
    return { said, clocks: hours(own, text).map(clockOf), pieces };
  });
  const common = times.find(({ from }) => FOR_ALL.test(text.slice(Math.max(0, from - 12), from)));
  const full = head === null ? found : found.map((chunk) => headed(chunk, head, text));
  return shared(full, common ? clockOf(common) : null, head !== null);
}

/** `9 Sept pinch pots (no class on 7 Sept)`: words in the bracket of a date are its own. */
function startOf(text: string, said: DateSaid, before: DateSaid | undefined): number {
  if (!before) return said.from;
  const between = text.slice(before.to, said.from);
  const open = between.lastIndexOf('(');
  return open >= 0 && !between.includes(')', open) && says(between.slice(open))
    ? before.to + open
    : said.from;
}

const SEPARATOR = /[,;·|]\s{0,3}(?:and\s)?(?:on\s)?$/i;

/** `Practical exam: 7 Dec (A), 8 Dec (B)`: what stands before the colon is for all, and what stands behind a date is its own. */
function headBefore(text: string, dates: readonly DateSaid[], times: readonly TimeSaid[]): string | null {
  const [first, second] = dates;
  const head = text.slice(0, first!.from);
  if (!second || !says(head) || !/:\s*$/.test(head)) return null;
  const between = text.slice(behind(text, first!, times), second.from);
  return /\p{L}/u.test(between) && SEPARATOR.test(between) ? tidied(head) : null;
}

/** A piece with the head of its line before it; what has no words of its own is the head. */
function headed(chunk: Chunk, head: string, text: string): Chunk {
  const { said, clocks } = chunk;
  if (chunk.pieces.length)
    return { ...chunk, pieces: chunk.pieces.map((p) => ({ ...p, title: `${head}: ${p.title}` })) };
  const behindIt = /^\s?[(]?(\p{L})[)]?(?=[\s,;.]|$)/u.exec(text.slice(said.to, said.to + 5))?.[1];
  const title = behindIt ? `${head} (${behindIt})` : head;
  const piece = { title, words: head, from: said.from, to: said.to, minute: null, until: null };
  return { ...chunk, pieces: clocks.length ? clocks.map((clock) => ({ ...piece, ...clock })) : [piece] };
}

/** The rows of a stretch that has one date; a show at two hours is two. */
function piecesOf(
  text: string,
  words: string,
  from: number,
  said: DateSaid,
  own: readonly TimeSaid[],
  isOnly: boolean,
): Piece[] {
  const to = from + words.length;
  const times = own.filter((t) => t.from >= from && t.to <= to);
  const all = hours(times, text);
  const inside = all.length > 1 ? [said, { from: all[0]!.from, to: all.at(-1)!.to }] : [said, ...times];
  const spans = inside
    .filter((s) => s.from >= from && s.to <= to)
    .map((s) => ({ from: s.from - from, to: s.to - from }));
  const title = tidied(without(words, spans).replace(LINKS, ''));
  if (!says(title)) return [];
  const clocks = all.length ? all : [isOnly ? own[0] : undefined];
  return clocks.map((time) => ({ title, words, from, to, ...clockOf(time) }));
}

/** Words that lead over from the date before. */
const LINKS = /^(?:\W*\b(?:and|then|or|at the latest)\b){1,3}/i;

/** The first of some times; all of them where they are told as hours of the same: `14:00 and 19:00`. */
function hours(times: readonly TimeSaid[], text: string): TimeSaid[] {
  const areSame = times.every((t, n) => n === 0 || AND.test(text.slice(times[n - 1]!.to, t.from)));
  return areSame ? [...times] : times.slice(0, 1);
}

const AND = /^\s?(?:,|&|and|,\sand|und|et|y)\s(?:at\s)?$/i;

/** `both 6–7:30 pm`, `always by 18:00` */
const FOR_ALL = /\b(?:both|all|each|always)(?:\s(?:at|from|by))?\s$/i;

/** Finds where what belongs to a date ends, and what belongs to the next one begins. */
function endBefore(text: string, said: DateSaid, next: DateSaid, times: readonly TimeSaid[]): number {
  const from = behind(text, said, times);
  const cut = text.slice(from, next.from).search(/[;·|]/);
  return cut < 0 ? from : from + cut + 1;
}

/** Behind a date, its hour still belongs to it. */
function behind(text: string, said: DateSaid, times: readonly TimeSaid[]): number {
  let to = said.to;
  for (const time of times)
    if (time.from >= to && time.from - to <= 8 && !/[;.]/.test(text.slice(to, time.from))) to = time.to;
  return to;
}

const STAGE =
  /(?:^|[\s,])(?:(?:rough |first |full |final |revised )?(?:draft|version)|final|outline|proposal|first|second|third|part \d)$/i;

/** Gives what the first of several dates names for all of them: before a colon, or before a word for a stage. */
function headOf(found: readonly Chunk[]): string | undefined {
  const [first, second] = found.map((c) => c.pieces[0]?.title ?? '');
  const named = /^([^:]{3,60}):\s/.exec(first ?? '')?.[1];
  if (named || !first || !second || !STAGE.test(second)) return named;
  const stage = STAGE.exec(first);
  return stage && stage.index > 2 ? first.slice(0, stage.index) : undefined;
}

/** Gives what has no words of its own has those of its neighbour; what stands before a colon is for all. */
function shared(found: Chunk[], common: Clock | null, isHeaded: boolean): Chunk[] {
  // `28 September, 9 November and 7 December, 10:15`: the hour behind the last one is that of all.
  const last = found.at(-1);
  const forAll = common ?? (last && !last.pieces.length ? (last.clocks[0] ?? null) : null);
  const head = isHeaded ? undefined : headOf(found);
  const full = found.map((chunk, n) => {
    if (chunk.pieces.length)
      return {
        ...chunk,
        pieces: chunk.pieces.map((p) => (forAll && p.minute === null ? { ...p, ...forAll } : p)),
      };
    const other =
      found.slice(0, n).findLast((c) => c.pieces.length) ?? found.slice(n).find((c) => c.pieces.length);
    const clocks = chunk.clocks.length ? chunk.clocks : forAll ? [forAll] : [{}];
    return {
      ...chunk,
      pieces: clocks.flatMap((clock) => (other?.pieces ?? []).map((p) => ({ ...p, ...clock }))),
    };
  });
  if (!head || full.length < 2) return isHeaded ? full : asCounted(full);
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

const COUNTED = /^(?:the )?(second|third|fourth|next|other|last|final)(?: one)?$/i;

/** `the first test … and the second`: the second test. */
function asCounted(full: readonly Chunk[]): Chunk[] {
  const first = full[0]?.pieces[0]?.title ?? '';
  if (!/\bfirst\b/i.test(first)) return [...full];
  return full.map((chunk) => ({
    ...chunk,
    pieces: chunk.pieces.map((p) => {
      const word = COUNTED.exec(p.title)?.[1];
      return word ? { ...p, title: first.replace(/\bfirst\b/i, word.toLowerCase()) } : p;
    }),
  }));
}
