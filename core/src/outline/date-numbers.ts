import type { Add, DayParts } from './said.ts';

const ISO = /(?<![\d-])(\d{4})([-/.])(\d{2})\2(\d{2})(?![\d-])/g;
const FULL = /(?<![\p{L}\d./-])(\d{1,2})([./-])(\d{1,2})\2(\d{4}|\d{2})(?![\d/-]|\.\d)/gu;
const SLASH = /(?<![\p{L}\d./:]|[a-z]-)(\d{1,2})\/(\d{1,2})(?![\d/]|\.\d)/gu;
const DOTS = /(?<![\d./-])(\d{1,2})\.(\d{1,2})\.(?!\d)/g;
const DOTTED_SPAN = /(?<![\d./-])(\d{1,2})\.\s?[-–—]\s?(?=\d{1,2}\.\d{1,2}\.)/g;

/** Dates in numbers: `2026-10-09`, `9/10/2026`, `9/10`, `9.10.`, `26.–30.10.` */
export function inNumbers(text: string, add: Add): void {
  if (!/\d/.test(text)) return;
  for (const m of text.matchAll(ISO)) {
    const [month, day] = [Number(m[3]), Number(m[4])];
    if (month >= 1 && month <= 12 && day >= 1 && day <= 31)
      add({ ...spot(m), form: 'iso', first: { year: Number(m[1]), month, day, isOpen: false } });
  }
  for (const m of text.matchAll(FULL)) {
    const year = Number(m[4]) + (m[4]!.length === 2 ? 2000 : 0);
    const parts = numbers(Number(m[1]), Number(m[3]), m[2] === '.', year);
    if (parts) add({ ...spot(m), form: 'full', first: parts });
  }
  for (const m of text.matchAll(SLASH)) {
    const parts = numbers(Number(m[1]), Number(m[2]), false, null);
    if (parts) add({ ...spot(m), form: 'short', first: parts });
  }
  const firsts = new Map([...text.matchAll(DOTTED_SPAN)].map((m) => [m.index + m[0].length, m]));
  for (const m of text.matchAll(DOTS)) {
    const parts = numbers(Number(m[1]), Number(m[2]), true, null);
    const before = firsts.get(m.index);
    if (!parts) continue;
    if (before)
      add({
        from: before.index,
        to: m.index + m[0].length,
        form: 'short',
        first: { ...parts, day: Number(before[1]) },
        last: parts,
      });
    else add({ ...spot(m), form: 'short', first: parts });
  }
}

const spot = (m: RegExpMatchArray) => ({ from: m.index!, to: m.index! + m[0].length });

/** Two numbers as a day and a month; dots say that the day is first. null where they can be neither. */
function numbers(a: number, b: number, isDotted: boolean, year: number | null): DayParts | null {
  if (a < 1 || b < 1 || a > 31 || b > 31 || (a > 12 && b > 12)) return null;
  if (isDotted) return b > 12 ? null : { year, month: b, day: a, isOpen: false };
  return { year, month: a, day: b, isOpen: true };
}
