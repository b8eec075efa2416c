import { plain } from '../../lib/plain.ts';

/** One word, number or sign of a line, as it is looked at: in small letters, accents gone. */
export interface Token {
  text: string;
  /** Place where it stands in the line */
  from: number;
  to: number;
}

/** What a stretch of a line was understood as. */
export type MarkKind = 'day' | 'time' | 'length' | 'repeat' | 'calendar';
export interface Mark {
  kind: MarkKind;
  from: number;
  to: number;
}

/** What may have been meant otherwise, with each way of saying it so that there is no doubt. */
export interface Doubt {
  /** In the line: what is put in its place when a choice is made */
  from: number;
  to: number;
  words: string;
  choices: { words: string; text: string }[];
}

const TOKEN = /[\p{L}\p{N}]+(?:[:.'’/][\p{L}\p{N}]+)*|[-–—+&@]/gu;

/** A line while it is read: its words, which of them have been understood already, and as what. */
export class Line {
  readonly tokens: readonly Token[];
  readonly marks: Mark[] = [];
  readonly doubts: Doubt[] = [];
  private readonly taken: boolean[];

  constructor(readonly text: string) {
    this.tokens = [...text.matchAll(TOKEN)].map((m) => ({
      text: plain(m[0]),
      from: m.index,
      to: m.index + m[0].length,
    }));
    this.taken = this.tokens.map(() => false);
  }

  /** A word by its place, if nothing has been made of it yet; empty where there is none. */
  at(i: number): string {
    return this.isFree(i) ? this.tokens[i]!.text : '';
  }
  /** A word by its place, whatever was made of it. */
  any(i: number): string {
    return this.tokens[i]?.text ?? '';
  }
  isFree = (i: number): boolean => i >= 0 && i < this.tokens.length && !this.taken[i];
  /** Gives what stands right behind a word: `.` after a German date, say. */
  behind(i: number): string {
    const token = this.tokens[i];
    return token ? (this.text[token.to] ?? '') : '';
  }
  /** Tells whether any of some words stands in the line. */
  says = (words: RegExp): boolean => this.tokens.some((t) => words.test(t.text));

  /** Counts words from `i` up to `end`, not included, as understood. */
  take(i: number, end: number, kind: MarkKind): Mark {
    for (let k = i; k < end; k++) this.taken[k] = true;
    const mark = { kind, from: this.tokens[i]!.from, to: this.tokens[end - 1]!.to };
    this.marks.push(mark);
    return mark;
  }
  /** Leaves words out of the title that say nothing by themselves. */
  skip(i: number): void {
    if (this.isFree(i)) this.taken[i] = true;
  }
  /** The first word that stands wholly inside a stretch of the line, and the one after the last. */
  within(from: number, to: number): [first: number, end: number] {
    const first = this.tokens.findIndex((t) => t.to > from);
    const end = this.tokens.findIndex((t) => t.from >= to);
    return [first, end < 0 ? this.tokens.length : end];
  }
  doubt(i: number, end: number, words: string, choices: Doubt['choices'] = []): void {
    this.doubts.push({ from: this.tokens[i]!.from, to: this.tokens[end - 1]!.to, words, choices });
  }

  /** The line with what was understood blanked out, each letter where it was. */
  rest(blank = ' '): string {
    let text = this.text;
    this.tokens.forEach(({ from, to }, i) => {
      if (this.taken[i]) text = text.slice(0, from) + blank.repeat(to - from) + text.slice(to);
    });
    return text;
  }
}
