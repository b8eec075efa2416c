// Words that mean the same, one a line: a word more is a line more. Patterns with a shape of their own stay where they
// are used, where lint looks at how they are made.

const source = (words: readonly string[]) => `(?:${words.join('|')})`;

/** Any of these words, whole, anywhere in a text. */
export const anyOf = (...words: readonly string[]): RegExp =>
  new RegExp(String.raw`\b${source(words)}\b`, 'iu');

/** A text that is one of these, and nothing else. */
export const exactly = (...words: readonly string[]): RegExp => new RegExp(`^${source(words)}$`, 'iu');

/** One of these right before a place of a text, with what may stand between. */
export const endsWith = (words: readonly string[], between: string): RegExp =>
  new RegExp(`${source(words)}${between}$`, 'iu');
