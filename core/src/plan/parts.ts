import type { Part } from './evenings.ts';

/** The share of a part that says none. */
const USUAL = 10;
const MOST_PARTS = 40;
const LONGEST_NAME = 120;

/** Parts as lines, a name and its share in each: `draft 40`. */
export const linesOf = (parts: readonly Part[]): string =>
  parts.map((p) => `${p.name} ${p.share}`).join('\n');

/** The parts that lines say; a line without a number has a usual share. */
export const partsOf = (lines: string): Part[] =>
  lines
    .split('\n')
    .map((line) => line.trim().split(/\s+/))
    .filter(([first]) => first)
    .slice(0, MOST_PARTS)
    .map((words) => {
      const isShare = words.length > 1 && /^\d{1,3}$/.test(words.at(-1)!);
      const name = (isShare ? words.slice(0, -1) : words).join(' ').slice(0, LONGEST_NAME);
      return { name, share: isShare ? Math.max(1, Number(words.at(-1))) : USUAL };
    });
