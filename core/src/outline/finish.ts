import { isWork } from '../item/kind.ts';
import { wordsIn } from '../lib/plain.ts';
import { shortDay } from '../words/when.ts';
import type { Found } from './found.ts';
import { timesIn } from './times.ts';
import { isHandedIn } from './kinds.ts';

/** With so many others of its day a row is compared. */
const MOST_COMPARED = 60;

const ALL = /\b(?:all|every|each|everything|anything|any|always|are at|is at)\b/i;
const DUE = /\b(?:due|due times?|handed in|hand in|submitted|deadlines?|hand-ins?)\b/i;
/** So near the words that say so the hour stands. */
const NEAR = 60;

/** The hour that a text gives for all work; null for none. */
export function timeForAll(text: string): number | null {
  for (const sentence of text
    .slice(0, 200_000)
    .replace(/\n(?=\p{Ll})/gu, ' ')
    .split(/[.\n]/)) {
    const [all, due] = [ALL.exec(sentence), DUE.exec(sentence)];
    if (!all || !due || Math.abs(all.index - due.index) > NEAR) continue;
    const last = all.index > due.index ? all : due;
    const [time] = timesIn(
      sentence.slice(Math.min(all.index, due.index), last.index + last[0].length + NEAR),
    );
    if (time) return time.minute;
  }
  return null;
}

/** Gives work without an hour the one that is told for all of it. */
export function withTimes(found: Found[], forAll: number | null): void {
  if (forAll === null) return;
  for (const f of found) if (f.minute === null && isHandedIn(f.kind)) f.minute = forAll;
}

const NAMED_BREAK = /reading week|holiday|break|half-?term|ferien|vacances|vacaciones/;

/** Gives what repeats and is no work leaves out days on which there is nothing; work on such a day is doubtful. */
export function withBreaks(found: readonly Found[]): Found[] {
  const off = new Set<number>();
  for (const f of found)
    if (f.kind === 'dayOff' && f.day !== null && !f.days.length && !f.isTopic)
      for (let d = f.day; d <= (f.lastDay ?? f.day) && d - f.day < 60; d++) off.add(d);
  return found.map((f) => {
    const free = f.days.filter((d) => off.has(d));
    if (!free.length) return f;
    const isLeft = NAMED_BREAK.test(f.details);
    if (!isWork(f.kind) || isLeft) return { ...f, days: f.days.filter((d) => !off.has(d)) };
    const words = `${free.map((d) => shortDay(d).slice(4)).join(', ')} ${free.length === 1 ? 'is a day' : 'are days'} off.`;
    return { ...f, doubts: [...f.doubts, { kind: 'break' as const, words }] };
  });
}

/** Gives what is told twice is one; told in the same words, the second is kept as doubtful. */
export function onceEach(found: readonly Found[]): Found[] {
  const byDay = new Map<number, { f: Found; words: Set<string> }[]>();
  return found.flatMap((f) => {
    if (f.day === null || f.days.length) return [f];
    const words = wordsIn(f.title);
    const others = byDay.get(f.day) ?? [];
    byDay.set(f.day, [...others, { f, words }]);
    const same = others
      .slice(0, MOST_COMPARED)
      .find((o) => isSame(o.words, words) && !o.f.days.length && !isOtherHour(o.f, f));
    if (!same || (f.kind === 'dayOff' && same.f.kind === 'dayOff')) return same ? [] : [f];
    if (f.minute !== null && same.f.minute === null) same.f.minute = f.minute;
    return same.words.size === words.size
      ? [{ ...f, doubts: [...f.doubts, { kind: 'twice' as const, words: 'This stands here twice.' }] }]
      : [];
  });
}

/** Two shows of a day */
const isOtherHour = (a: Found, b: Found) => a.minute !== null && b.minute !== null && a.minute !== b.minute;

function isSame(a: ReadonlySet<string>, b: ReadonlySet<string>): boolean {
  const [few, many] = a.size <= b.size ? [a, b] : [b, a];
  if (few.size === 0) return false;
  let shared = 0;
  for (const word of few) if (many.has(word)) shared++;
  return few.size === 1 ? many.size === 1 && shared === 1 : shared === few.size;
}
