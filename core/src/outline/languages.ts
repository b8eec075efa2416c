import * as chrono from 'chrono-node';

/** A language that dates are read in. */
export interface Language {
  name: 'English' | 'German' | 'French' | 'Spanish';
  /** Reads dates in words; strictly, so that a month by itself is a word like another */
  parse: (text: string, at: Date) => readonly chrono.ParsedResult[];
  /** Beginnings of the months' names, in order */
  months: RegExp;
  /** Beginnings of the weekdays' names, from Monday on */
  weekdays: readonly RegExp[];
  /** Words that are hardly found in another one of them */
  words: ReadonlySet<string>;
}

const set = (words: string) => new Set(words.split(' '));
const reading =
  (locale: { strict?: chrono.Chrono; casual: chrono.Chrono }): Language['parse'] =>
  (text, instant) =>
    (locale.strict ?? locale.casual).parse(text, { instant, timezone: 0 }, { forwardDate: false });

export const ENGLISH: Language = {
  name: 'English',
  parse: reading(chrono.en),
  months: /\b(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*/i,
  weekdays: [
    /^mo(?:n|ndays?)?$/,
    /^tu(?:e|es|esdays?)?$/,
    /^we(?:d|ds|dnesdays?)?$/,
    /^th(?:u|ur|urs|ursdays?)?$/,
    /^fr(?:i|idays?)?$/,
    /^sa(?:t|turdays?)?$/,
    /^su(?:n|ndays?)?$/,
  ],
  words: set('the of and to in by at is on for with week due be all every from no class test'),
};
const OTHERS: readonly Language[] = [
  {
    name: 'German',
    parse: reading(chrono.de),
    months: /\b(?:jan|jän|feb|mär|maerz|apr|mai|jun|jul|aug|sep|okt|nov|dez)[a-zä]*/i,
    weekdays: [
      /^(?:mo|montags?)$/,
      /^(?:di|dienstags?)$/,
      /^(?:mi|mittwochs?)$/,
      /^(?:do|donnerstags?)$/,
      /^(?:fr|freitags?)$/,
      /^(?:sa|samstags?|sonnabends?)$/,
      /^(?:so|sonntags?)$/,
    ],
    words: set(
      'der die das und bis im am mit uhr abgabe woche kein keine prüfung ferien zum zur vom den ist',
    ),
  },
  {
    name: 'French',
    parse: reading(chrono.fr),
    months: /\b(?:janv|févr|fevr|mars|avr|mai|juin|juil|août|aout|sept|oct|nov|déc|dec)[a-zéû]*/i,
    weekdays: [
      /^(?:lun|lundis?)$/,
      /^(?:mar|mardis?)$/,
      /^(?:mer|mercredis?)$/,
      /^(?:jeu|jeudis?)$/,
      /^(?:ven|vendredis?)$/,
      /^(?:sam|samedis?)$/,
      /^(?:dim|dimanches?)$/,
    ],
    words: set('le la les des et à au aux du pour semaine rendre pas cours avec est une un vacances devoir'),
  },
  {
    name: 'Spanish',
    parse: reading(chrono.es),
    months: /\b(?:ene|feb|mar|abr|may|jun|jul|ago|sep|oct|nov|dic)[a-z]*/i,
    weekdays: [
      /^(?:lun|lunes)$/,
      /^(?:mar|martes)$/,
      /^(?:mié|mie|miércoles|miercoles)$/,
      /^(?:jue|jueves)$/,
      /^(?:vie|viernes)$/,
      /^(?:sáb|sab|sábados?|sabados?)$/,
      /^(?:dom|domingos?)$/,
    ],
    words: set('el la los las y de del en para semana entrega clase sin con una hasta prueba examen por es'),
  },
];

const MOST_WORDS = 4_000;
/** So many different little words a text of a language has. */
const FEWEST_KINDS = 4;

/**
 * The language of a text, by the little words in it.
 * @returns `known`: whether it is one of those that dates are read in; a text of few words counts as known
 */
export function languageOf(text: string): { language: Language; known: boolean } {
  const words = (
    text
      .slice(0, 40_000)
      .toLowerCase()
      .match(/\p{L}+/gu) ?? []
  ).slice(0, MOST_WORDS);
  const share = ({ words: its }: Language) => words.filter((word) => its.has(word)).length;
  const counted = [ENGLISH, ...OTHERS].map((language) => ({ language, n: share(language) }));
  const most = counted.reduce((a, b) => (b.n > a.n ? b : a));
  const kinds = new Set(words.filter((word) => most.language.words.has(word))).size;
  return {
    language: most.language,
    known: words.length < 80 || (most.n * 25 > words.length && kinds >= FEWEST_KINDS),
  };
}
