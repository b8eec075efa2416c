import type { FeedItem } from '../../ical/feed-item.ts';
import { isWork, type HandInWay, type ItemKind } from '../kind.ts';
import { anyOf } from '../../lib/patterns.ts';
import { plain } from './lexicon.ts';

/** The same as `anyOf` wherever it stands, to take it out. */
const allOf = (...words: string[]): RegExp => new RegExp(anyOf(...words), 'giu');

/** Finds a form, a slip or something signed that goes back on paper. */
const ON_PAPER = anyOf(
  'permission slip',
  'slips?',
  'signed',
  'get .{0,30} signed',
  'sign(?: and|,|:| the| your| it)',
  'on paper',
  'paper cop(?:y|ies)',
  'hard cop(?:y|ies)',
  'print(?: out|ed| it|s? the)?',
  'printout',
  'hand-?written',
  'in pen',
  'stapled?',
  'pigeon-?holes?',
  'in-?tray',
  'tray',
  'shelf',
  'envelope',
  '(?:rental|medical|consent|permission|health|insurance|contact|experience|reply|absence) forms?',
  String.raw`unterschrieben\p{L}*`,
  'unterschrift',
  'ausgedruckt',
  'auf papier',
  String.raw`einverständnis\p{L}*`,
  'elternzettel',
  'rücklaufzettel',
  'zettel',
  'signée?s?',
  'signer',
  'imprimée?s?',
  'sur papier',
  'talon',
  'autorisation',
  'firmad[oa]s?',
  'firmar',
  'impres[oa]s?',
  'en papel',
  'autorización',
  String.raw`signert\p{L}*`,
  'signer',
  String.raw`svarslipp\p{L}*`,
  String.raw`samtykke\p{L}*`,
  'slipp',
  'lapp',
  'på papir',
  'utskrift',
);
const ONLINE = anyOf(
  'online',
  'on-line',
  String.raw`upload\p{L}*`,
  'submit(?:ted|s)?(?! (?:it )?(?:in|to|on|by hand|at|during) (?:class|lesson|the lesson|the office|reception|paper|school))',
  'drop ?box',
  'portal',
  'platform',
  'web ?pages?',
  'course page',
  'course site',
  'website',
  'learning site',
  'browser',
  'link below',
  'share the link',
  'as an? (?:pdf|docx?|file|link)',
  'hochladen',
  'hochgeladen',
  String.raw`online-?\p{L}*`,
  'lernplattform',
  'plattform',
  'téléverser',
  'téléversement',
  'déposer',
  'dépôt',
  'en ligne',
  'plateforme',
  'subir',
  String.raw`súbe\p{L}*`,
  'sube',
  'plataforma',
  'en línea',
  'aula virtual',
  'last(?:e|es)? opp',
  'på nett',
  String.raw`læringsplattform\p{L}*`,
  'digitalt',
  'lever(?:es)? digitalt',
);
const BY_MAIL = anyOf(
  'by e-?mail',
  String.raw`e-?mail (?:it |them |your \p{L}+ |the \p{L}+ |a \p{L}+ )?to`,
  '^e-?mail',
  'mail it to',
  'per e-?mail',
  'per mail',
  'par (?:e-?mail|mail|courriel)',
  'por (?:correo|e-?mail)',
  'på e-?post',
  'per e-?post',
);
const IN_CLASS = anyOf(
  '(?:bring|brought) .{0,40}(?:to|into) (?:class|lessons?|the lesson|school|form)',
  'hand(?:ed)? (?:it |them )?in (?:in|during|at) (?:class|lesson|the lesson)',
  '(?:at|by) the (?:start|beginning|end) of (?:the )?(?:class|lesson|period)',
  '(?:at|by) (?:start|beginning|end) of (?:class|lesson|period)',
  '(?:sat|done|written|taken|due|complete|finish) (?:it )?in (?:class|lesson|the lesson|lessons)',
  '(?:present(?:ed|ation)?|shown?|collected|checked) (?:it )?in (?:class|lesson|the lesson|lessons)',
  'present(?:ed)? (?:it |them )?(?:to|in front of) (?:the )?class',
  'in-class',
  'im unterricht',
  'in der (?:schule|stunde) abgeben',
  'en classe',
  'au cours',
  'en clase',
  'al profesor en clase',
  'i timen',
  'i klassen',
);
/** It was begun there, which says nothing of where it goes. */
const FROM_CLASS = allOf(
  'begun',
  'began',
  'started',
  'start',
  'from',
  'what we (?:did|began|started)',
  'did',
  'finish what .{0,30}',
  'learned',
  'learnt',
  'discussed',
  'covered) in (?:class',
  'lessons?',
);
const NOTHING = anyOf(
  'nothing to (?:hand in|submit|turn in)',
  'not (?:handed in|collected|graded|marked)',
  'no (?:hand-?in|submission)',
  'for yourself',
  'nicht abzugeben',
  'ohne abgabe',
  'rien à rendre',
  'nada que entregar',
  'ingenting å levere',
  'leveres ikke',
);

const WAYS: readonly [HandInWay, RegExp][] = [
  ['nothing', NOTHING],
  ['mail', BY_MAIL],
  ['online', ONLINE],
  ['paper', ON_PAPER],
  ['inClass', IN_CLASS],
];

/** Length up to which a description is read: a hand-in stands near the beginning or is told nowhere. */
const LONGEST = 4_000;

/**
 * Works out how a piece of work is handed in: by its title, else by what its description says, else by what it is.
 * `nothing` for what is not work.
 */
export function handInOf(
  item: Pick<FeedItem, 'title' | 'description' | 'categories' | 'place' | 'url'>,
  kind: ItemKind,
): HandInWay {
  if (!isWork(kind)) return 'nothing';
  const rest = `${item.description.slice(0, LONGEST)}\n${item.categories.join('\n')}\n${item.place}`;
  for (const text of [item.title, rest]) {
    const said = plain(text).replace(FROM_CLASS, ' ');
    const way = WAYS.find(([, words]) => words.test(said));
    if (way) return way[0];
  }
  if (kind === 'reading' || kind === 'practice') return 'nothing';
  return item.url ? 'online' : 'unknown';
}
