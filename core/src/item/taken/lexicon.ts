import type { ItemKind } from '../kind.ts';
import type { Language } from './language.ts';
import { LANGUAGES, SORT_OF, type Sort } from './words.ts';

/** Part that a word plays: by what it names, what it tells to do, or what it says of the rest. */
export type Role =
  | 'noun'
  | 'vague'
  | 'verb'
  | 'vagueVerb'
  | 'joint'
  | 'due'
  | 'opens'
  | 'closes'
  | 'shut'
  | 'off'
  | 'none'
  | 'school'
  | 'reminds';

/** A word of one language with what it says. */
export interface Cue {
  role: Role;
  /** Null for what only says something of others */
  kind: ItemKind | null;
  sort: Sort | null;
}

/** A part at the end of a word is looked for from so many letters on, and has so many before it. */
const [SHORTEST_END, BEFORE_IT] = [3, 3];

function* each(lists: Partial<Record<ItemKind, string>>): Generator<[string, ItemKind]> {
  for (const [kind, list] of Object.entries(lists) as [ItemKind, string][])
    for (const words of split(list)) yield [words, kind];
}
function split(list: string): string[] {
  return list.split(',').map((words) => plain(words.replace(/\s+/g, ' ').trim()));
}

/** A text as words are compared: composed, in small letters, with one kind of apostrophe. */
export function plain(text: string): string {
  return text.normalize('NFKC').toLowerCase().replaceAll('’', "'");
}

function cuesOf(language: Language): Map<string, Cue[]> {
  const found = new Map<string, Cue[]>();
  const add = (words: string, cue: Cue) => {
    const list = found.get(words);
    if (list) list.push(cue);
    else found.set(words, [cue]);
  };
  const named = {
    noun: language.nouns,
    vague: language.vague,
    verb: language.verbs,
    vagueVerb: language.vagueVerbs ?? {},
  } as const;
  for (const [role, lists] of Object.entries(named) as [keyof typeof named, Language['nouns']][])
    for (const [words, kind] of each(lists)) add(words, { role, kind, sort: SORT_OF[kind] });
  const { joints, due, opens, closes, shut, off, none, school, reminds } = language;
  const said = { joint: joints, due, opens, closes, shut, off, none, school, reminds } as const;
  for (const [role, list] of Object.entries(said) as [Role, string][])
    for (const words of split(list)) add(words, { role, kind: null, sort: null });
  return found;
}

/** Each language's cues by their words; a word may have several roles. */
const BY_WORDS: readonly ReadonlyMap<string, readonly Cue[]>[] = LANGUAGES.map(cuesOf);
const BY_END: readonly ReadonlyMap<string, Cue>[] = LANGUAGES.map(({ ends = {} }) => {
  const found = new Map<string, Cue>();
  for (const [words, kind] of each(ends)) found.set(words, { role: 'noun', kind, sort: SORT_OF[kind] });
  return found;
});
const LONGEST_END = Math.max(...BY_END.flatMap((ends) => [...ends.keys()].map((end) => end.length)));

/** Place of English among the languages: its verbs stand first, and its plurals end with an s. */
export const ENGLISH = 0;
export const LANGUAGE_COUNT = LANGUAGES.length;

/** Words of the longest phrase that begins with a word, by that word: most begin none, and are looked up alone. */
const LONGEST_FROM: readonly ReadonlyMap<string, number>[] = BY_WORDS.map((known) => {
  const found = new Map<string, number>();
  for (const phrase of known.keys()) {
    const words = phrase.split(' ');
    found.set(words[0]!, Math.max(found.get(words[0]!) ?? 1, words.length));
  }
  return found;
});

/** Gives of how many words the longest phrase is that begins with a word; 1 where none does. */
export const longestFrom = (word: string, language: number): number => LONGEST_FROM[language]!.get(word) ?? 1;

/** Forms of words that were looked for, so many a language at the most. */
const BENT: readonly Map<string, readonly Cue[] | undefined>[] = LANGUAGES.map(() => new Map());
const MOST_REMEMBERED = 2_000;

/** Finds what words say in a language; undefined where it does not know them. */
export function cuesFor(words: string, language: number): readonly Cue[] | undefined {
  const known = BY_WORDS[language]!;
  const whole = known.get(words);
  if (whole || words.includes(' ')) return whole;
  // The same few words stand in most titles of a feed.
  const remembered = BENT[language]!;
  if (remembered.has(words)) return remembered.get(words);
  const found = bent(words, language, known);
  if (remembered.size >= MOST_REMEMBERED) remembered.clear();
  remembered.set(words, found);
  return found;
}

/** A word in another form: the plural, the last of what a hyphen joins, without its article, the end of a compound. */
function bent(
  word: string,
  language: number,
  known: ReadonlyMap<string, readonly Cue[]>,
): readonly Cue[] | undefined {
  const nounsOf = (cues: readonly Cue[] | undefined) => {
    const nouns = cues?.filter(({ role }) => role === 'noun' || role === 'vague');
    return nouns?.length ? nouns : undefined;
  };
  if (language === ENGLISH && word.endsWith('s')) {
    const single = word.endsWith("'s") ? word.slice(0, -2) : word.slice(0, -1);
    const other = word.endsWith('ies')
      ? `${word.slice(0, -3)}y`
      : word.endsWith('es')
        ? word.slice(0, -2)
        : '';
    const found = nounsOf(known.get(single)) ?? nounsOf(known.get(other));
    if (found) return found;
  }
  const apostrophe = word.indexOf("'");
  if (apostrophe > 0 && apostrophe <= 2) return known.get(word.slice(apostrophe + 1));
  const hyphen = word.lastIndexOf('-');
  if (hyphen > 0) return nounsOf(known.get(word.slice(hyphen + 1)));
  const ends = BY_END[language]!;
  for (let size = Math.min(LONGEST_END, word.length - BEFORE_IT); ends.size && size >= SHORTEST_END; size--) {
    const cue = ends.get(word.slice(-size));
    if (cue) return [cue];
  }
  return undefined;
}
