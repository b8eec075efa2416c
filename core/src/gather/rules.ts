import type { FeedItem } from '../ical/feed-item.ts';
import type { HandInWay, ItemKind } from '../item/kind.ts';
import { sectionOf, type SplitRule } from './split.ts';

/** Corrections that a person has made to an entry, or about all that are like it. */
export interface Correction {
  /** One entry by its UID, or all of a kind by what their titles have in common */
  of: { uid: string } | { like: string; section: string | null };
  kind?: ItemKind | undefined;
  handIn?: HandInWay | undefined;
}

/** Way in which one source's entries are to be understood, where a person has said so. */
export interface Rules {
  split: SplitRule | null;
  corrections: Correction[];
  /** UIDs of closings that are not to be joined with an opening */
  unjoined: string[];
}

export const NO_RULES: Rules = { split: null, corrections: [], unjoined: [] };

/**
 * What the titles of a kind have in common: `Lab log 7` → `lab log`, `Word list: the feast` → `word list`.
 * Numbers, dates and what follows a colon or dash are what differs from one to the next.
 */
export function likenessOf(title: string): string {
  const end = title.search(/:|\s[-–—|·]\s/u);
  const head = end < 0 ? title : title.slice(0, end);
  const stem = (text: string) =>
    text
      .normalize('NFKC')
      .toLowerCase()
      .replace(/[\p{N}#№]+(?:st|nd|rd|th)?/gu, ' ')
      .replace(/[^\p{L}]+/gu, ' ')
      .trim();
  return (stem(head) || stem(title)).slice(0, 200);
}

/** An entry's face as its source's rules see it: which part it belongs to, its title without the tag. */
export function seenBy(
  face: Pick<FeedItem, 'title' | 'categories' | 'url'>,
  rules: Rules,
): { section: string | null; title: string } {
  return (rules.split && sectionOf(face, rules.split)) || { section: null, title: face.title };
}

/** Gives what has been corrected about an entry: the entry itself before its kind, the later before the earlier. */
export function correctionOf(
  uid: string,
  title: string,
  section: string | null,
  { corrections }: Rules,
): Pick<Correction, 'kind' | 'handIn'> {
  if (!corrections.length) return {};
  const like = likenessOf(title);
  const found: Pick<Correction, 'kind' | 'handIn'> = {};
  const kinds = corrections.filter(({ of }) => 'like' in of && of.like === like && of.section === section);
  for (const { kind, handIn } of [
    ...kinds,
    ...corrections.filter(({ of }) => 'uid' in of && of.uid === uid),
  ]) {
    if (kind) found.kind = kind;
    if (handIn) found.handIn = handIn;
  }
  return found;
}

/**
 * Adds a correction to rules; one for the same thing is taken up into it.
 * @param correction with null for what is no longer corrected
 */
export function withCorrection(
  rules: Rules,
  correction: { of: Correction['of']; kind?: ItemKind | null | undefined; handIn?: HandInWay | undefined },
): Rules {
  const same = (of: Correction['of']) => JSON.stringify(of) === JSON.stringify(correction.of);
  const old = rules.corrections.find((c) => same(c.of));
  const { kind, handIn, of } = { ...old, ...correction };
  const said = { ...(kind ? { kind } : {}), ...(handIn ? { handIn } : {}) };
  const others = rules.corrections.filter((c) => !same(c.of));
  // A word on all of a kind replaces earlier words on single ones of it only where these are asked for again.
  return {
    ...rules,
    corrections: Object.keys(said).length ? [...others, { of, ...said }].slice(-500) : others,
  };
}
