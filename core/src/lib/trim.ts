// Patterns that take something away at the end of a text look for it from every place in it, which takes
// quadratic time on a long run of it. These look from the end.

/** A text without any of some characters at its end: `trimEndOf('Quiz –', ' –')` is `Quiz`. */
export function trimEndOf(text: string, characters: string): string {
  let end = text.length;
  while (end > 0 && characters.includes(text[end - 1]!)) end--;
  return text.slice(0, end);
}

/** A text without any of some characters at its beginning. */
export function trimStartOf(text: string, characters: string): string {
  let start = 0;
  while (start < text.length && characters.includes(text[start]!)) start++;
  return text.slice(start);
}

/** What stands in brackets at the end of a text, and the text before them, spaces trimmed off both. */
export interface EndTag {
  before: string;
  inner: string;
}

/**
 * The tag in brackets that a text ends with: `Lab log 7 [Food Chemistry]`.
 * @param brackets which of `[]` and `()` count
 * @returns null where it ends with none, or one that has brackets of its kind in it
 */
export function endTagOf(text: string, brackets: readonly ('[]' | '()')[]): EndTag | null {
  const trimmed = text.trimEnd();
  const kind = brackets.find(([, close]) => trimmed.endsWith(close!));
  if (!kind) return null;
  const [open, close] = kind as unknown as [string, string];
  const at = trimmed.lastIndexOf(open);
  const inner = trimmed.slice(at + 1, -1);
  if (at < 0 || inner.includes(close)) return null;
  return { before: trimmed.slice(0, at).trimEnd(), inner: inner.trim() };
}
