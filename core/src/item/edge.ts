import { endTagOf, trimEndOf } from '../lib/trim.ts';

const OPENINGS = 'availability (?:begins|starts)|available from|opens|open|opening|available|begins';
const CLOSINGS = 'availability ends|available until|closes|close|closing|due|ends|deadline';
const EDGE = new RegExp(String.raw`\b(?:${OPENINGS}|${CLOSINGS})$`, 'i');
const OPENING = new RegExp(`^(?:${OPENINGS})$`, 'i');

/** Which edge of a piece of work a title names, and of what. */
export interface Edge {
  of: string;
  isOpening: boolean;
  /** It says when it is due, and not when it closes */
  isDue: boolean;
}

/** Reads the edge off a title, with a course tag at its end: `Sampling quiz (opens) [SW]`; null where it names none. */
export function edgeIn(title: string): Edge | null {
  const before = endTagOf(title, ['[]'])?.before ?? title;
  const open = before.endsWith(')') ? before.slice(0, -1) : before;
  const word = EDGE.exec(open)?.[0];
  if (!word) return null;
  const rest = open.slice(0, -word.length);
  const of = trimEndOf((rest.endsWith('(') ? rest.slice(0, -1) : rest).trimEnd(), ' \t\u00a0:,–—-');
  return of.trim()
    ? {
        of: of.trim() + title.slice(before.length),
        isOpening: OPENING.test(word),
        isDue: /^(?:due|deadline)$/i.test(word),
      }
    : null;
}
