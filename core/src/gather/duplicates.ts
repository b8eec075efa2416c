import { hash } from '../lib/hash.ts';
import type { CalendarKind } from '../item/kind.ts';
import { DAY } from '../time/civil.ts';
import { dayIn, instantIn, type When } from '../time/when.ts';
import type { Zone } from '../time/zone.ts';
import { endTagOf } from '../lib/trim.ts';
import type { Entry, EntryOccurrence } from './entries.ts';
import { sectionOf } from './split.ts';

/** An item as the search for the same thing twice sees it. */
export interface Candidate {
  id: string;
  uid: string;
  sourceId: string;
  title: string;
  /** Place where it stands: its due date, else its start */
  when: When | null;
  /** The course it belongs to, by its own word or by its calendar's name; null where neither says */
  course: string | null;
  calendar: CalendarKind;
  /** Of a person's own making */
  own: boolean;
  /** Has more than one date */
  repeats: boolean;
  createdAt: number;
  /** The item it is shown as part of, as things stand */
  sameAs: string | null;
}

const plain = (text: string) =>
  text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
const titleOf = (title: string) => plain(endTagOf(title, ['[]', '()'])?.before ?? title) || plain(title);

/**
 * A key that two entries share when they may be the same thing: same title, same day (for somebody in
 * `zone`), same way of repeating. Null for what has no date.
 */
export function duplicateKeyOf(
  { title, content: { master } }: Pick<Entry, 'title' | 'content'>,
  first: Pick<EntryOccurrence, 'start' | 'due'> | undefined,
  zone: Zone,
): string | null {
  if (!first) return null;
  const repeat = master?.repeat;
  return hash(
    `${titleOf(title)}\n${dayIn(first.due ?? first.start, zone)}\n${repeat ? repeat.rules.join('\n') : ''}`,
  );
}

/** Answers of a person about pairs, by `pairOf`: whether the two are the same thing. */
export type Verdicts = ReadonlyMap<string, boolean>;
export const pairOf = (a: string, b: string): string => (a < b ? `${a} ${b}` : `${b} ${a}`);

const sameWhen = (a: When | null, b: When | null, zone: Zone): boolean => {
  if (!a || !b) return a === b;
  // A date without an hour and a moment on that date are the same due date, said less and more exactly.
  return a.kind === 'date' || b.kind === 'date'
    ? dayIn(a, zone) === dayIn(b, zone)
    : Math.abs(instantIn(a, zone) - instantIn(b, zone)) < DAY / 1440;
};

/** Tells whether two courses may be one: one of them is not known, or one name holds the other. */
export function compatible(a: string | null, b: string | null): boolean {
  if (!a || !b) return true;
  const [x, y] = [` ${plain(a)} `, ` ${plain(b)} `];
  return x.includes(y) || y.includes(x);
}

/** Tells whether a day and an hour of it are said of one thing: less and more exactly. */
const saysMore = (a: When | null, b: When | null): boolean => (a?.kind === 'date') !== (b?.kind === 'date');

/**
 * Tells whether two items of different sources are the same thing, now or (once taken for it) still. An identifier is its
 * source's own: small tools write "1", "2", "3", so that across sources it tells something only beside title and date.
 */
export function isSameThing(a: Candidate, b: Candidate, zone: Zone): boolean {
  if (a.sourceId === b.sourceId) return false;
  const title = titleOf(a.title) === titleOf(b.title);
  const when = sameWhen(a.when, b.when, zone);
  // One feed may hear of a moved date, or of a better title, before the other does.
  if (a.sameAs === b.id || b.sameAs === a.id) return title || when;
  if (a.when === null || !when) return false;
  const isAlike = title || isRenamed(a.title, b.title);
  if (a.uid === b.uid && isWide(a.uid)) return isAlike;
  if (!compatible(a.course, b.course)) return false;
  if (a.uid === b.uid) return isAlike;
  return title && (!saysMore(a.when, b.when) || (a.course !== null && b.course !== null));
}

/** Tells whether an identifier may hold beyond its source: "7" is anybody's, "7@campus.example" one campus's. */
const isWide = (uid: string): boolean => uid.includes('@') || uid.length >= 16;

/** Tells whether two titles are one without the course that one of them names. */
const isRenamed = (a: string, b: string): boolean => {
  const said = new Set(readings(a).map(({ words }) => words));
  return readings(b).some(({ words }) => said.has(words));
};

const RANK: Record<CalendarKind, number> = { course: 0, group: 1, school: 2, home: 3, own: 4 };

/**
 * The item that stands for its group: one that is gathered, the one nearest to its course, then the one there
 * longest.
 */
const first = (a: Candidate, b: Candidate) =>
  Number(a.own) - Number(b.own) ||
  RANK[a.calendar] - RANK[b.calendar] ||
  a.createdAt - b.createdAt ||
  (a.uid < b.uid || (a.uid === b.uid && a.id < b.id) ? -1 : 1);

/** For each candidate, the item it is shown as part of; null where it is shown itself. */
export function settleDuplicates(
  candidates: readonly Candidate[],
  verdicts: Verdicts,
  zone: Zone,
): Map<string, string | null> {
  const ordered = [...candidates].sort(first);
  const result = new Map<string, string | null>(ordered.map((c) => [c.id, null]));
  const members = new Map<string, Candidate[]>();
  const said = (a: Candidate, b: Candidate) => verdicts.get(pairOf(a.id, b.id));
  for (const candidate of ordered) {
    const open = [...members].filter(([, group]) => group.every((m) => said(m, candidate) !== false));
    const called = open.find(([, group]) => group.some((m) => said(m, candidate)));
    const found = called
      ? [called]
      : open.filter(
          ([, group]) =>
            group.some((m) => isSameThing(m, candidate, zone)) &&
            group.every(
              (m) =>
                m.sourceId !== candidate.sourceId &&
                (compatible(m.course, candidate.course) || isSameThing(m, candidate, zone)),
            ),
        );
    // Where it may be one of several, it stands by itself and is asked about; where it was is no question.
    const home =
      found.length > 1
        ? (found.find(([id]) => id === candidate.sameAs) ??
          found.find(([, group]) => group.some((m) => m.uid === candidate.uid)))
        : found[0];
    if (!home) members.set(candidate.id, [candidate]);
    else {
      home[1].push(candidate);
      result.set(candidate.id, home[0]);
    }
  }
  return result;
}

/** Tells whether two items could be joined: of a series and a single date, one would hide the other's dates. */
export const canBeJoined = (a: Candidate, b: Candidate): boolean =>
  a.id !== b.id && a.repeats === b.repeats && !(a.own && b.own);

/** So many under one name on one day are looked at; more of them say that the name says nothing. */
const MOST_OF_A_NAME = 8;

/** Gives what a title says without the course it names, in every way that titles name one; itself first. */
function readings(title: string): { words: string; course: string | null }[] {
  const face = { title, categories: [], url: null };
  const tags = (['prefix', 'startTag', 'code', 'endTag'] as const).flatMap((by) => {
    const tag = sectionOf(face, { by });
    return tag ? [{ words: titleOf(tag.title), course: tag.section }] : [];
  });
  return [{ words: titleOf(title), course: null }, ...tags];
}

/**
 * Pairs that may be the same thing, so that a person is asked: on one day, in two sources, with one title once the
 * course in it is left out ("Biology: Leaf lab report" and "Leaf lab report"), or under one identifier with one title or on
 * one day. Linear in what it is given.
 * @param verdicts what has been said already is not asked again
 */
export function maybeSame(
  candidates: readonly Candidate[],
  verdicts: Verdicts,
  zone: Zone,
): [Candidate, Candidate][] {
  const named = new Map<string, { candidate: Candidate; course: string | null }[]>();
  const put = (key: string, one: { candidate: Candidate; course: string | null }) => {
    const list = named.get(key);
    if (list) list.push(one);
    else named.set(key, [one]);
  };
  for (const candidate of candidates) {
    if (!candidate.when || candidate.sameAs !== null) continue;
    const day = dayIn(candidate.when, zone);
    for (const { words, course } of readings(candidate.title)) {
      put(`${day}\n${words}`, { candidate, course });
      // Under one identifier, another day or another name is asked about as well.
      put(`${candidate.uid}\n${words}`, { candidate, course });
    }
    put(`${candidate.uid}\n${day}`, { candidate, course: null });
  }
  const found = new Map<string, [Candidate, Candidate]>();
  for (const list of named.values()) {
    if (list.length > MOST_OF_A_NAME) continue;
    for (const [i, a] of list.entries())
      for (const b of list.slice(i + 1)) {
        const [x, y] =
          first(a.candidate, b.candidate) < 0 ? [a.candidate, b.candidate] : [b.candidate, a.candidate];
        const isOpen = x.sourceId !== y.sourceId && canBeJoined(x, y) && !verdicts.has(pairOf(x.id, y.id));
        const [courseA, courseB] = [a.course ?? a.candidate.course, b.course ?? b.candidate.course];
        if (isOpen && compatible(courseA, courseB)) found.set(pairOf(x.id, y.id), [x, y]);
      }
  }
  return [...found.values()];
}
