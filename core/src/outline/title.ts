import { trimEndOf, trimStartOf } from '../lib/trim.ts';
import { LEADS } from './times.ts';

const DATE_LEADS =
  /(?:^|[\s,;(–—-])(?:(?:is due|are due|is to be handed in|due|deadline|by|on|until|till|before|from|am|bis|vom|ab|le|el|para el|pour le|jusqu['’]au|du|del|au|the|not later than|bis zum|zum|week of|week beginning|week commencing|w\/c)\s{0,3}){1,3}$/i;
const EDGES = ' \t.,;:–—-·•*_|/\\>…=~#';

const TAIL =
  /[\s,](?:which(?: is)?|that|is|are|will be|was|ist|sind|takes place|will take place|must be submitted|is submitted|(?:is |are )?(?:to be )?handed in|(?:est )?à rendre|(?:is |are )?due(?: in class)?|(?:may|can|must|should|has to|have to) be|\(?before (?:the )?(?:class|lesson)\)?)[.,;:]?$/i;
const HEAD =
  /^(?:please note|note|reminder|remember|there is|there are|we have|we will have)[:,]?\s(?:(?:the|a|an|that)\s)?/i;

/** A text without the stretches that were understood, and what led to them. */
export function without(text: string, spans: readonly { from: number; to: number }[]): string {
  let left = '';
  let at = 0;
  for (const { from, to } of [...spans].sort((a, b) => a.from - b.from)) {
    if (from < at) continue;
    const before = text.slice(at, from);
    // What leads to a date stands right before it.
    const window = before.slice(-40);
    const cut = (DATE_LEADS.exec(window) ?? LEADS.exec(window))?.[0].length ?? 0;
    left += `${before.slice(0, before.length - cut)}${cut ? ' ' : ''} `;
    at = to;
  }
  return tidied(left + text.slice(at));
}

/** A title: no bullets, leaders, empty brackets or loose strokes around it. */
export function tidied(text: string): string {
  const flat = text
    .replace(/\.{3,}|…|_{3,}/g, ' ')
    .replace(/[*_`]{2}/g, '')
    .replace(/\s+/g, ' ')
    .replace(/[([] ?[,;:–—-]? ?[)\]]/g, ' ')
    .replace(/ {2,}/g, ' ')
    .replace(/\s([,;:.])/g, '$1')
    .replace(/([,;:])(?:\s?[,;:])+/g, '$1');
  let trimmed = trimEndOf(trimStartOf(flat, EDGES), EDGES);
  for (let round = 0; round < 2; round++)
    trimmed = trimEndOf(trimmed.replace(HEAD, '').replace(TAIL, ''), EDGES);
  const open = (trimmed.match(/\(/g) ?? []).length - (trimmed.match(/\)/g) ?? []).length;
  return open > 0 ? `${trimmed})` : open < 0 && trimmed.endsWith(')') ? trimmed.slice(0, -1) : trimmed;
}

/** Whether letters are left that could name something. */
export const says = (text: string): boolean => (text.match(/\p{L}/gu)?.length ?? 0) >= 2;

/** Several items of one day: on lines of their own, or told apart by semicolons. */
export function items(text: string): { text: string; from: number }[] {
  const parts: { text: string; from: number }[] = [];
  let at = 0;
  for (const part of text.split(/[\n;]/)) {
    if (says(part)) parts.push({ text: part, from: at });
    at += part.length + 1;
  }
  return parts;
}
