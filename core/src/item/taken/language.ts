import type { ItemKind } from '../kind.ts';

/** Words of one language, separated by commas; one may be several words. */
export interface Language {
  /** Names of things: the head of its phrase decides */
  nouns: Partial<Record<ItemKind, string>>;
  /** Nouns that may as well be something else: when they stand decides with them */
  vague: Partial<Record<ItemKind, string>>;
  /** Orders to do something; at the beginning of a phrase */
  verbs: Partial<Record<ItemKind, string>>;
  /** Verbs that are nouns as well: the head of their phrase decides with them */
  vagueVerbs?: Partial<Record<ItemKind, string>>;
  /** Ends of words that are written as one; with the kind of the whole */
  ends?: Partial<Record<ItemKind, string>>;
  /** Words at which a phrase ends: those after them say more about its head */
  joints: string;
  /** That something is to be handed in by then */
  due: string;
  /** That something begins to be there: never a deadline */
  opens: string;
  /** That something ends: a deadline of what can be handed in, else only to know */
  closes: string;
  /** That somewhere is shut */
  shut: string;
  /** That something is not held */
  off: string;
  /** That there is none of what follows */
  none: string;
  /** Words that make a day without lessons, where there is none of it or it is shut */
  school: string;
  /** Only reminds of what follows */
  reminds: string;
}
