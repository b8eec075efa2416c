import { trimEndOf, trimStartOf } from '../lib/trim.ts';
import { LEADS } from './times.ts';

const DATE_LEADS =
  /(?:^|[\s,;(–—-])(?:(?:is due|are due|is to be handed in|due|deadline|between|for|by|on|until|till|before|from|am|bis|vom|ab|le|el|para el|pour le|jusqu['’]au|du|del|au|the|not later than|bis zum|zum|week of|week beginning|week commencing|w\/c)\s{0,3}){1,3}$/i;
const EDGES = ' \t.,;:–—-·•*_|/\\>…=~#';

const TAIL =
  /[\s,](?:which(?: is)?|that|is|are|will be|was|ist|sind|takes place|will take place|must be submitted|is submitted|(?:is |are )?(?:to be )?handed in|(?:est )?à rendre|(?:is |are )?due(?: in class)?|and is|i\.e|e\.g|both|any ?time|(?:may|can|must|should|has to|have to) be|\(?before (?:the )?(?:class|lesson)\)?)[.,;:]?$/i;
const HEAD =
  /^(?:please note|note|reminder|remember|also|there is|there are|we have|we will have)[:,]?\s(?:(?:the|a|an|that)\s)?/i;

/** A text without the stretches that were understood, and what led to them. */
export function without(text: string, spans: readonly { from: number; to: number }[]): string {
  let left = '';
  let at = 0;
  for (const { from, to } of [...spans].sort((a, b) => a.from - b.from)) {
    if (from < at) {
      at = Math.max(at, to);
      continue;
    }
    const before = text.slice(at, from);
    // What leads to a date stands right before it.
    const window = before.slice(-40);
    const cut = (DATE_LEADS.exec(window) ?? LEADS.exec(window))?.[0].length ?? 0;
    left += `${before.slice(0, before.length - cut)}${cut ? ' ' : ''} `;
    at = to;
  }
  return tidied(left + text.slice(at));
}

/** `is due one week later` */
const HOW_DUE = /\s(?:is|are|will be) (?:due|to be handed in|handed in)\s/i;

/** A title: no bullets, leaders, empty brackets or loose strokes around it. */
export function tidied(text: string): string {
  const flat = text
    .replace(/\.{3,}|…|_{3,}/g, ' ')
    .replace(/[*_`]{2}/g, '')
    .replace(/(?<=^|[\s(,;])[*_](?=\S)|(?<=\S)[*_](?=$|[\s,;.)])/g, '')
    .replace(/\s+/g, ' ')
    .replace(/[,;:]\s?(?=\))/g, '')
    .replace(/[([] ?[,;:–—-]? ?[)\]]/g, ' ')
    .replace(/ {2,}/g, ' ')
    .replace(/\s([,;:.!?)])/g, '$1')
    .replace(/([,;:])(?:\s?[,;:])+/g, '$1')
    .replace(/,(?=[!?])|\s[–-](?=\s\()|\s?[–—](?=:)/g, '');
  const cut = flat.search(HOW_DUE);
  let trimmed = trimEndOf(trimStartOf(cut < 4 ? flat : flat.slice(0, cut), `${EDGES})`), `${EDGES}(`);
  for (let round = 0; round < 2; round++)
    trimmed = trimEndOf(trimmed.replace(HEAD, '').replace(TAIL, ''), EDGES);
  const open = (trimmed.match(/\(/g) ?? []).length - (trimmed.match(/\)/g) ?? []).length;
  if (open > 0) return `${trimmed})`;
  // What stood in brackets as a whole, or ends with the half of some.
  const isWhole = open === 0 && /^\([^()]+\)$/.test(trimmed);
  const isHalf = open < 0 && trimmed.endsWith(')');
  return isWhole || isHalf
    ? trimEndOf(trimStartOf(trimmed.slice(isWhole ? 1 : 0, -1), EDGES), EDGES)
    : trimmed;
}

/** Tells whether letters are left that could name something. */
export const says = (text: string): boolean => (text.match(/\p{L}/gu)?.length ?? 0) >= 2;

/** Several items of one day: on lines of their own, or told apart by semicolons. */
export function items(text: string): { text: string; from: number }[] {
  const parts: { text: string; from: number }[] = [];
  let at = 0;
  for (const part of text.split(/[\n;]/)) {
    if (says(part)) parts.push({ text: part, from: at });
    at += part.length + 1;
  }
  return parts.flatMap(({ text: part, from }) => handedOut(part).map((p) => ({ ...p, from: from + p.from })));
}

const IN_OR_OUT = /\b(?:(due|handed in)|out|assigned|posted|released|handed out|returned|back)\s*$/i;

/** `Set 1 due, set 2 out`: what is only given out is no item. */
function handedOut(text: string): { text: string; from: number }[] {
  const whole = [{ text, from: 0 }];
  if (!text.includes(',')) return whole;
  let at = 0;
  const parts = text.split(',').map((part) => {
    const from = at;
    at += part.length + 1;
    return { text: part, from, how: IN_OR_OUT.exec(part) };
  });
  if (!parts.every(({ how }) => how)) return whole;
  const due = parts.filter(({ how }) => how![1] !== undefined);
  return due.length ? due.map(({ text: part, from }) => ({ text: part, from })) : whole;
}
