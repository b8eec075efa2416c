import MarkdownIt from 'markdown-it';
import type { Passage } from './passage.ts';
import { richText } from './rich-text.ts';

/**
 * CommonMark, with line ends as they are typed. Markup of a page is let through here, and taken out by
 * `richText`.
 */
const markdown = new MarkdownIt({ html: true, breaks: true });

/**
 * A part of a brief, written with Markdown's lists, bold and links, as passages. Nothing in it can become
 * markup of a page.
 */
export function briefPassages(text: string): Passage[] {
  return richText('', markdown.render(text));
}
