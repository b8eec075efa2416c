import { readHtml } from '../ical/html.ts';
import { findAddresses, isHtml, safeHref } from '../ical/links.ts';
import type { Passage, Run } from './passage.ts';

const MOST_PASSAGES = 500;

/**
 * A description as passages: from HTML where there is some, else from plain text, whose addresses become
 * links.
 */
export function richText(plain: string, html: string | null): Passage[] {
  const markup = html ?? (isHtml(plain) ? plain : null);
  return (markup ? fromHtml(markup) : fromPlain(plain)).slice(0, MOST_PASSAGES);
}

function fromPlain(text: string): Passage[] {
  return text
    .split(/\r?\n/)
    .map((line) => line.trimEnd())
    .filter((line) => line.trim())
    .slice(0, MOST_PASSAGES)
    .map((line) => {
      const text = line.trimStart();
      const isBullet = /^[-*•]\s/.test(text);
      return {
        kind: isBullet ? 'bullet' : 'paragraph',
        runs: linked(isBullet ? text.slice(1).trimStart() : line),
      };
    });
}

function linked(text: string, style: Omit<Run, 'text'> = {}): Run[] {
  const runs: Run[] = [];
  let at = 0;
  for (const { href, start, end } of findAddresses(text)) {
    if (start > at) runs.push({ ...style, text: text.slice(at, start) });
    runs.push({ ...style, text: text.slice(start, end), href });
    at = end;
  }
  if (at < text.length) runs.push({ ...style, text: text.slice(at) });
  return runs;
}

const BLOCKS = new Set([
  'p',
  'div',
  'li',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'tr',
  'blockquote',
  'pre',
  'ul',
  'ol',
  'table',
  'section',
  'article',
  'body',
]);
const UNSHOWN = new Set([
  'script',
  'style',
  'head',
  'title',
  'template',
  'noscript',
  'iframe',
  'object',
  'svg',
  'math',
]);

function fromHtml(html: string): Passage[] {
  const passages: Passage[] = [];
  let kind: Passage['kind'] = 'paragraph';
  let number = 0;
  let runs: Run[] = [];
  let bold = 0;
  let italic = 0;
  let unshown = 0;
  const hrefs: (string | null)[] = [];
  const lists: { ordered: boolean; count: number }[] = [];
  // The parser hands text over in pieces (at each &amp;); an address must not be cut by that.
  let pending: string[] = [];
  const take = () => {
    const text = pending.join('').replace(/\s+/g, ' ');
    pending = [];
    if (unshown || !text || passages.length >= MOST_PASSAGES) return;
    const href = hrefs.at(-1) ?? undefined;
    const style = { ...(bold ? { bold: true } : {}), ...(italic ? { italic: true } : {}) };
    if (href) runs.push({ ...style, text, href });
    else runs.push(...linked(text, style));
  };
  const flush = () => {
    const trimmed = trim(runs);
    if (trimmed.length && passages.length < MOST_PASSAGES)
      passages.push(kind === 'numbered' ? { kind, number, runs: trimmed } : { kind, runs: trimmed });
    runs = [];
    if (!lists.length) kind = 'paragraph';
  };
  readHtml(html, {
    onopentag(name, attributes) {
      take();
      if (UNSHOWN.has(name)) unshown++;
      if (BLOCKS.has(name) || name === 'br') flush();
      if (name === 'ul' || name === 'ol') lists.push({ ordered: name === 'ol', count: 0 });
      if (name === 'li') {
        const list = lists.at(-1);
        kind = list?.ordered ? 'numbered' : 'bullet';
        number = list ? ++list.count : 1;
      } else if (/^h[1-6]$/.test(name)) kind = 'heading';
      if (name === 'b' || name === 'strong') bold++;
      if (name === 'i' || name === 'em') italic++;
      if (name === 'a') hrefs.push(safeHref(attributes['href']));
    },
    ontext(text) {
      pending.push(text);
    },
    onclosetag(name) {
      take();
      if (UNSHOWN.has(name)) unshown--;
      if (BLOCKS.has(name)) flush();
      if (name === 'ul' || name === 'ol') {
        lists.pop();
        kind = 'paragraph';
      }
      if (name === 'b' || name === 'strong') bold--;
      if (name === 'i' || name === 'em') italic--;
      if (name === 'a') hrefs.pop();
    },
  });
  take();
  flush();
  return passages;
}

function trim(runs: Run[]): Run[] {
  const list = runs.filter((r) => r.text);
  while (list.length && !list[0]!.text.trim()) list.shift();
  while (list.length && !list.at(-1)!.text.trim()) list.pop();
  if (!list.length) return [];
  list[0] = { ...list[0]!, text: list[0]!.text.trimStart() };
  list[list.length - 1] = { ...list.at(-1)!, text: list.at(-1)!.text.trimEnd() };
  return list;
}
