import { z } from 'zod';
import type { FeedItem } from '../ical/feed-item.ts';
import { CODE, isKindWord } from './course.ts';

/** Where an entry says which course it belongs to. */
export const SPLIT_WAYS = ['endTag', 'startTag', 'code', 'prefix', 'category', 'address'] as const;

export const SplitRule = z.object({
  by: z.enum(SPLIT_WAYS),
  /** For `address`: which part of it, as `host`, `path:0`, `query:course` */
  at: z.string().max(100).optional(),
});
export type SplitRule = z.infer<typeof SplitRule>;

type Face = Pick<FeedItem, 'title' | 'categories' | 'url'>;

/** A tag in the title, and the title without it. */
const TAGS: Partial<Record<SplitRule['by'], RegExp>> = {
  endTag: /^(?<title>.*\S)\s*(?:\[(?<a>[^[\]]{1,60})\]|\((?<b>[^()]{1,60})\)|\s[-–—|·]\s(?<c>[^-–—|·]{1,60}))\s*$/u,
  startTag: /^\s*(?:\[(?<a>[^[\]]{1,60})\]|\((?<b>[^()]{1,60})\))\s*[-–—:]?\s*(?<title>\S.*)$/u,
  code: /^\s*(?<a>[A-Z]{2,5}[ -]?\d{2,4}[A-Z]?)\b\s*[-–—:|·]?\s*(?<title>\S.*)$/u,
  prefix: /^\s*(?<a>[\p{L}\p{N}][\p{L}\p{N}&'’ .]{0,40}?)\s*(?::|\s[-–—|·])\s+(?<title>\S.*)$/u,
};

/** What an entry's course is called by a rule, and its title without that; null where it does not say. */
export function partOf(face: Face, { by, at }: SplitRule): { part: string; title: string } | null {
  const tag = TAGS[by];
  if (tag) {
    const { a, b, c, title } = tag.exec(face.title)?.groups ?? {};
    const part = (a ?? b ?? c)?.trim();
    return part && title ? { part, title: title.trim() } : null;
  }
  const part = by === 'category' ? categoryOf(face) : (addressParts(face.url).find(([where]) => where === at)?.[1] ?? null);
  return part ? { part, title: face.title } : null;
}

function categoryOf({ categories }: Face): string | null {
  const own = categories.filter((c) => !isKindWord(c));
  return own.find((c) => CODE.test(c)) ?? own[0] ?? null;
}

/** The parts of an address that may name a course. */
function addressParts(address: string | null): [where: string, value: string][] {
  if (!address || !URL.canParse(address)) return [];
  const url = new URL(address);
  const path = url.pathname.split('/').filter(Boolean).slice(0, 6).map((value, i): [string, string] => [`path:${i}`, safeDecode(value)]); // prettier-ignore
  const query = [...url.searchParams].slice(0, 8).map(([name, value]): [string, string] => [`query:${name}`, value]);
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
  /** What each part is called in the feed and how many entries it has, the largest first; `null` for those that say none */
  parts: { part: string | null; count: number }[];
}

const MOST_PARTS = 24;
/** The share of entries that must say a course for a proposal to be worth making */
const SHARE = 0.6;

/**
 * Ways in which a feed may hold several courses, the most telling first. A way counts where most entries say something,
 * where that is between two and 24 different things, and where these are shared by entries and not one each.
 */
export function proposeSplits(faces: readonly Face[]): SplitProposal[] {
  const rules: SplitRule[] = (['endTag', 'startTag', 'code', 'category', 'prefix'] as const).map((by) => ({ by }));
  const places = new Set(faces.slice(0, 200).flatMap((f) => addressParts(f.url).map(([where]) => where)));
  const proposals = [...rules, ...[...places].map((at) => ({ by: 'address' as const, at }))].map((rule) => propose(faces, rule)).filter((p) => p !== null);
  // Two places of an address that cut a feed alike are one proposal.
  const seen = new Set<string>();
  return proposals.filter(({ parts }) => {
    const key = parts.map((p) => p.count).join();
    return !seen.has(key) && seen.add(key);
  });
}

function propose(faces: readonly Face[], rule: SplitRule): SplitProposal | null {
  const counts = new Map<string | null, number>();
  for (const face of faces) {
    const part = partOf(face, rule)?.part ?? null;
    counts.set(part, (counts.get(part) ?? 0) + 1);
  }
  const without = counts.get(null) ?? 0;
  counts.delete(null);
  const named = faces.length - without;
  // A loose sign (any word before a colon, any part of an address) must be nearly everywhere and in few values.
  const loose = rule.by === 'prefix' || rule.by === 'address';
  if (counts.size < 2 || counts.size > (loose ? 12 : MOST_PARTS) || named < faces.length * (loose ? 0.9 : SHARE)) return null;
  if (named < counts.size * (loose ? 4 : 2) || [...counts].some(([part, n]) => loose && (isKindWord(part!) || n < 2))) return null;
  const parts = [...counts].sort((a, b) => b[1] - a[1]).map(([part, count]) => ({ part, count }));
  return { rule, parts: without ? [...parts, { part: null, count: without }] : parts };
}
