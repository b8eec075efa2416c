import { marked } from 'marked';
import type { Passage } from './passage.ts';
import { richText } from './rich-text.ts';

/** A part of a brief, written with Markdown's lists, bold and links, as passages. Nothing in it can become markup of a page. */
export function briefPassages(text: string): Passage[] {
  return richText('', marked.parse(text, { async: false, breaks: true, gfm: true }));
}
