import { cuesFor, ENGLISH, LANGUAGE_COUNT, longestFrom, plain, type Cue } from './lexicon.ts';

/** One word of a title, or several that mean something together. */
export interface Piece {
  words: string;
  cues: readonly Cue[];
}

/** A part of a title between colons, dashes, commas and brackets. */
export type Segment = Piece[];

/** Matches the end of a segment: a point or colon only beside a space, a hyphen only between two. */
const BOUND = /[;–—|·()[\]{},!?/\n"“”„«»]|[:.](?=\s|$)|\s-\s|\s:\s/u;
const WORD = /[\p{L}\p{N}]+(?:['’\-:.][\p{L}\p{N}]+)*/gu;

/** No title says more in so many letters. */
const LONGEST_TITLE = 300;

/** Reads a title in the language that knows most of its words; English where none knows more. Linear in its length. */
export function segmentsOf(title: string): { segments: Segment[]; language: number } {
  const parts = plain(title.slice(0, LONGEST_TITLE))
    .split(BOUND)
    .map((part) => part.match(WORD) ?? [])
    .filter((words) => words.length);
  let best = { segments: [] as Segment[], language: ENGLISH, known: -1 };
  for (let language = 0; language < LANGUAGE_COUNT; language++) {
    const segments = parts.map((words) => piecesOf(words, language));
    // A word that joins others tells a language as well as one that names something.
    const known = segments
      .flat()
      .reduce((sum, { cues, words }) => sum + (cues.length ? words.split(' ').length : 0), 0);
    if (known > best.known) best = { segments, language, known };
  }
  return best;
}

/** Takes the longest run of words that is known first, from the left. */
function piecesOf(words: readonly string[], language: number): Segment {
  const pieces: Segment = [];
  for (let i = 0; i < words.length;) {
    let size = Math.min(longestFrom(words[i]!, language), words.length - i);
    let cues: readonly Cue[] | undefined;
    for (; size > 0; size--) if ((cues = cuesFor(words.slice(i, i + size).join(' '), language))) break;
    size = Math.max(1, size);
    pieces.push({ words: words.slice(i, i + size).join(' '), cues: cues ?? [] });
    i += size;
  }
  return pieces;
}
