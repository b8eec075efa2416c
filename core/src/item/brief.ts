import { marked } from 'marked';
import type { Passage } from './passage.ts';
import { richText } from './rich-text.ts';

/** A part of a brief, written with Markdown's lists, bold and links, as passages. Nothing in it can become markup of a page. */
export function briefPassages(text: string): Passage[] {
  return richText('', marked.parse(text, { async: false, breaks: true, gfm: true }));
}

/** Whether two briefs say the same, part by part; null is none. */
export function sameBrief<B extends object>(a: B | null, b: B | null): boolean {
  if (!a || !b) return a === b;
  return (Object.keys({ ...a, ...b }) as (keyof B)[]).every((part) => a[part] === b[part]);
}
