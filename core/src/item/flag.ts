import { hash } from '../lib/hash.ts';

/** The outlines a calendar's flag can have. Each can be told from the others in grey and at 12 px. */
export const FLAG_SHAPES = [
  'pennon',
  'swallowtail',
  'square',
  'burgee',
  'streamer',
  'shield',
  'guidon',
  'wedge',
  'scallop',
  'banner',
  'lozenge',
  'drop',
] as const;
/** Figure that is drawn on it. */
export const FLAG_PATTERNS = [
  'plain',
  'bar',
  'cross',
  'dot',
  'chevron',
  'halves',
  'stripe',
  'border',
] as const;
/** The calendar colours, by name; what they look like is the design system's business. */
export const COLOURS = [
  'rust',
  'deep',
  'rose',
  'violet',
  'pine',
  'plum',
  'olive',
  'shallow',
  'slate',
  'honey',
  'night',
  'clay',
] as const;

/** The nearest of the named colours (CSS Color 3, 4.3), which is all that other programs are told of one. */
export const CSS_COLOURS: Record<(typeof COLOURS)[number], string> = {
  rust: 'firebrick',
  deep: 'royalblue',
  rose: 'palevioletred',
  violet: 'mediumpurple',
  pine: 'seagreen',
  plum: 'purple',
  olive: 'olivedrab',
  shallow: 'darkcyan',
  slate: 'slategray',
  honey: 'goldenrod',
  night: 'midnightblue',
  clay: 'sienna',
};

export type Colour = (typeof COLOURS)[number];

export interface Flag {
  shape: (typeof FLAG_SHAPES)[number];
  pattern: (typeof FLAG_PATTERNS)[number];
  /** One to three */
  letters: string;
}

/** Two letters that stand for a name: its course code's, else the first of its first two words. */
export function lettersOf(name: string): string {
  const words = name.match(/[\p{L}\p{N}]+/gu) ?? [];
  const initials =
    words.length > 1
      ? `${[...words[0]!][0]}${[...words[1]!][0]}`
      : [...(words[0] ?? 'C')].slice(0, 2).join('');
  return initials.toUpperCase();
}

/** A flag's letters once its calendar's name changes: they follow it, unless somebody has chosen others. */
export const lettersAfter = (letters: string, name: string, newName: string): string =>
  letters === lettersOf(name) ? lettersOf(newName) : letters;

/**
 * A flag and colour for a new calendar, unlike those already flown: the first unused colour, shape and
 * pattern, beginning at a place its name gives, so that two people with the same course often see the same
 * flag.
 */
export function suggestFlag(
  name: string,
  used: readonly { colour: Colour; flag: Flag }[],
): { colour: Colour; flag: Flag } {
  const begin = parseInt(hash(name.toLowerCase()).slice(-4), 36);
  const pick = <T>(all: readonly T[], taken: readonly T[], offset: number): T => {
    const rotated = all.map((_, i) => all[(begin + offset + i) % all.length]!);
    const count = (value: T) => taken.filter((t) => t === value).length;
    return rotated.reduce((best, each) => (count(each) < count(best) ? each : best));
  };
  return {
    colour: pick(
      COLOURS,
      used.map((u) => u.colour),
      0,
    ),
    flag: {
      shape: pick(
        FLAG_SHAPES,
        used.map((u) => u.flag.shape),
        1,
      ),
      pattern: pick(
        FLAG_PATTERNS,
        used.map((u) => u.flag.pattern),
        2,
      ),
      letters: lettersOf(name),
    },
  };
}
