import { endTagOf, trimEndOf } from '../lib/trim.ts';

const EDGE =
  /\b(?:availability (?:begins|starts|ends)|available (?:from|until)|opens|open|opening|available|begins|closes|close|closing|due|ends|deadline)$/i;
const OPENING = /^(?:open|opens|opening|available|available from|begins|availability (?:begins|starts))$/i;

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
