import type { FeedItem } from '../ical/feed-item.ts';
import { endTagOf } from '../lib/trim.ts';
import { CODE, isKindWord } from './course.ts';

/** Where an entry says which course it belongs to. */
export const SPLIT_WAYS = ['endTag', 'startTag', 'code', 'prefix', 'category', 'address'] as const;

export interface SplitRule {
  by: (typeof SPLIT_WAYS)[number];
  /** For `address`: which part of it, as `host`, `path:0`, `query:course` */
  at?: string | undefined;
}

type Face = Pick<FeedItem, 'title' | 'categories' | 'url'>;

interface Tagged {
  section: string;
  title: string;
}

/** Longest name of a section; what a feed says beyond that is left out. */
export const LONGEST_SECTION = 200;

const SEPARATORS = '-–—|·';
const MOST = 60;
const tagged = (section: string, title: string): Tagged | null =>
  section && title ? { section, title } : null;

/** `Lab log 7 [Food Chemistry]`, `Lab log 7 (Food Chemistry)`, `Lab log 7 – Food Chemistry`. */
function endTag(title: string): Tagged | null {
  const tag = endTagOf(title, ['[]', '()']);
  if (tag && tag.inner.length <= MOST && tag.before) return tagged(tag.inner, tag.before);
  const at = Math.max(...[...SEPARATORS].map((sign) => title.lastIndexOf(sign)));
  const isApart = at > 0 && title[at - 1]!.trim() === '' && title[at + 1]?.trim() === '';
  const section = title.slice(at + 1).trim();
  return isApart && section.length <= MOST ? tagged(section, title.slice(0, at).trim()) : null;
}

/** `[Food Chemistry] Lab log 7`. */
function startTag(title: string): Tagged | null {
  const found = /^(?:\[([^[\]]{1,60})\]|\(([^()]{1,60})\))/u.exec(title);
  const rest = found ? title.slice(found[0].length).trim() : '';
  return found && tagged((found[1] ?? found[2])!.trim(), rest.replace(/^[-–—:]/u, '').trim() || rest);
}

/** `FC 101 Lab log 7`. */
function codeTag(title: string): Tagged | null {
  const code = /^[A-Z]{2,5}[ -]?\d{2,4}[A-Z]?\b/u.exec(title)?.[0];
  const rest = code ? title.slice(code.length).trim() : '';
  return code ? tagged(code, rest.replace(/^[-–—:|·]/u, '').trim() || rest) : null;
}

/** `Food Chemistry: lab log 7`. */
function prefixTag(title: string): Tagged | null {
  const [, section, rest] =
    /^([\p{L}\p{N}][\p{L}\p{N}&'’ .]{0,40}?) ?(?::| [-–—|·]) (.+)$/u.exec(title.replace(/\s+/gu, ' ')) ?? [];
  return section && rest ? tagged(section.trim(), rest) : null;
}

/** A tag in the title, and the title without it. */
const TAGS: Partial<Record<SplitRule['by'], (title: string) => Tagged | null>> = {
  endTag,
  startTag,
  code: codeTag,
  prefix: prefixTag,
};

/** Gives what an entry's course is called by a rule, and its title without that; null where it does not say. */
export function sectionOf(face: Face, { by, at }: SplitRule): Tagged | null {
  const tag = TAGS[by];
  if (tag) return tag(face.title.trim());
  const section =
    by === 'category'
      ? categoryOf(face)
      : (addressParts(face.url).find(([where]) => where === at)?.[1] ?? null);
  return section ? { section: section.slice(0, LONGEST_SECTION), title: face.title } : null;
}

function categoryOf({ categories }: Face): string | null {
  const own = categories.filter((c) => !isKindWord(c));
  return own.find((c) => CODE.test(c)) ?? own[0] ?? null;
}

/** The parts of an address that may name a course. */
function addressParts(address: string | null): [where: string, value: string][] {
  if (!address || !URL.canParse(address)) return [];
  const url = new URL(address);
  const path = url.pathname
    .split('/')
    .filter(Boolean)
    .slice(0, 6)
    .map((value, i): [string, string] => [`path:${i}`, safeDecode(value)]);
  const query = [...url.searchParams]
    .slice(0, 8)
    .map(([name, value]): [string, string] => [`query:${name}`, value]);
  return [['host', url.hostname], ...path, ...query];
}

function safeDecode(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

export interface SplitProposal {
  rule: SplitRule;
  /**
   * Name of each part in the feed and how many entries it has, the largest first; `null` for those
   * that say none
   */
  sections: { section: string | null; count: number }[];
}

const MOST_PARTS = 24;
/** The share of entries that must say a course for a proposal to be worth making */
const SHARE = 0.6;

/**
 * Ways in which a feed may hold several courses, the most telling first. A way counts where most entries say
 * something, where that is between two and 24 different things, and where these are shared by entries and not
 * one each.
 */
export function proposeSplits(faces: readonly Face[]): SplitProposal[] {
  const rules: SplitRule[] = (['endTag', 'startTag', 'code', 'category', 'prefix'] as const).map((by) => ({
    by,
  }));
  const places = new Set(faces.slice(0, 200).flatMap((f) => addressParts(f.url).map(([where]) => where)));
  const proposals = [...rules, ...[...places].map((at) => ({ by: 'address' as const, at }))]
    .map((rule) => propose(faces, rule))
    .filter((p) => p !== null);
  // Two places of an address that cut a feed alike are one proposal.
  const seen = new Set<string>();
  return proposals.filter(({ sections }) => {
    const key = sections.map((p) => p.count).join();
    return !seen.has(key) && seen.add(key);
  });
}

function propose(faces: readonly Face[], rule: SplitRule): SplitProposal | null {
  const counts = new Map<string | null, number>();
  for (const face of faces) {
    const section = sectionOf(face, rule)?.section ?? null;
    counts.set(section, (counts.get(section) ?? 0) + 1);
  }
  const without = counts.get(null) ?? 0;
  counts.delete(null);
  const named = faces.length - without;
  // A loose sign (any word before a colon, any part of an address) must be nearly everywhere and in few
  // values.
  const loose = rule.by === 'prefix' || rule.by === 'address';
  if (
    counts.size < 2 ||
    counts.size > (loose ? 12 : MOST_PARTS) ||
    named < faces.length * (loose ? 0.9 : SHARE)
  )
    return null;
  if (
    named < counts.size * (rule.by === 'address' ? 4 : 2) ||
    [...counts].some(([section, n]) => loose && (isKindWord(section!) || n < 2))
  )
    return null;
  const sections = [...counts].sort((a, b) => b[1] - a[1]).map(([section, count]) => ({ section, count }));
  return { rule, sections: without ? [...sections, { section: null, count: without }] : sections };
}
