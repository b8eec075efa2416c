import { SORT_RULES, handInOf } from '../item/classify.ts';
import { isWork, type HandInWay, type ItemKind } from '../item/kind.ts';
import type { Hint } from './found.ts';

/** Any of these words, whole. */
const anyOf = (...words: readonly string[]) => new RegExp(String.raw`\b(?:${words.join('|')})\b`, 'iu');

/** Days on which there is nothing. */
export const OFF = anyOf(
  'no (?:class(?:es)?|lessons?|school|lectures?|seminars?|labs?|meetings?)',
  '(?:public |bank |school )?holidays?',
  'vacation',
  'half-? ?term',
  '(?:fall|autumn|spring|winter|summer|mid-?term|term|semester|christmas|easter|thanksgiving) break',
  '^break',
  'break$',
  'reading week',
  'study week',
  'recess',
  'thanksgiving(?: week| day| holiday)?',
  'labou?r day',
  'closed',
  'teacher-only',
  'days? off',
  'pupil-free',
  'inset',
  String.raw`^no (?!assignment|homework|quiz|test|reading|exam|due)\p{L}+(?: session)?$`,
  String.raw`no (?:workshops?|rehearsals?|practice|training|sessions?|tutorials?)`,
  '(?:does|do|will) not meet',
  '(?:is|are) cancelled',
  '^cancelled',
  '(?:is|are) free',
  '^free',
  'ferien',
  'feiertag',
  '(?:kein|keine|entfällt)',
  'schulfrei',
  'vacances',
  'férié',
  'pas de cours',
  'vacaciones',
  'festivo',
  'sin clase',
  'locked',
  String.raw`\p{L}*ferien`,
);
const TEST = anyOf(
  'tests?',
  'quiz(?:zes)?',
  'exam(?:s|en|ination)?',
  'mid-?terms?(?! (?:essay|paper|project|report|break|portfolio|survey|holiday))',
  'oral',
  '(?:practical|unit|written|final|mid-unit|end-of-unit) assessments?',
  'viva',
  'klausur',
  'prüfung',
  'kurztest',
  'contrôle',
  'interrogation',
  'prueba',
  'finals',
  'final(?= (?:walk|tuning|test|exam|practical))',
  '^(?:the )?finals?$',
);
const TRIP =
  /\b(?:visit|trip|excursion|walk|tour|field ?day|outing|weekend away|exkursion|klassenfahrt|ausflug|besuch|sortie|visite|visita|excursión)\b(?! (?:report|form|diary|essay|log|payment|money|letter|write-?up|plan)\b)/i;
const EVENT = anyOf(
  String.raw`\p{L}+ hearings?`,
  'concert',
  'evening',
  'guest',
  'talks?',
  'show',
  'sale',
  'race',
  'rehearsals?',
  'performances?',
  'conferences?',
  'meetings?',
  'moot',
  'meal',
  'tasting',
  'camp',
  'open (?:day|bench|house|hour)',
  'fair',
  'exhibition',
  'display',
  'induction',
  'party',
  'ceremony',
  'assembly',
  'demonstration',
  'workshop',
  'presentations?',
  'speeches',
  'launch',
  'kitchen',
  String.raw`round \d`,
  '(?:boat|forest|farm|sports|recording|open|last) (?:day|morning|afternoon)',
  'surgery',
  String.raw`\p{L}+ days?$`,
  'vortrag',
  'konzert',
  'concierto',
);
const LESSON =
  /\b(?:lectures?|seminars?|lessons?|class(?:es)?|tutorials?|introduction|(?:course|we) meets?|vorlesung|cours|clase)\b/i;
/** Work by its name, which no rule of feeds knows. */
const WORK = anyOf(
  'due',
  'hand(?:ed)? in',
  'submit',
  'sheet',
  'diary',
  'card',
  'sketch',
  'draft',
  'essay',
  'report',
  'log',
  'plan',
  'portfolio',
  'drawings?',
  'sample',
  'note',
  'list',
  'abgabe',
  'abgeben',
  'rendre',
  'entrega',
);

/** Words that say of something that it has to be handed in. */
const DUE = anyOf(
  'due',
  'deadline',
  'hand(?:ed)? in',
  'submit(?:ted)?',
  'submission',
  'to be returned',
  'hand-?in',
  'abgabe',
  'rendre',
  'entrega',
);
export const isDue = (text: string): boolean => DUE.test(text);

/** What is due is work, whatever stands above it. */
export const hintFor = (hint: Hint | null, words: string): Hint | null =>
  isDue(words) && hint !== 'test' && hint !== 'off' ? 'work' : hint;

/** The same for a line below a heading: what names work, a test or somewhere to be is not what a lesson is about. */
export const hintForLine = (hint: Hint | null, words: string): Hint | null =>
  (hint === 'topic' || hint === 'reading') && isNamed(words) && !isDue(words) ? null : hintFor(hint, words);

const HEADINGS: readonly [Hint, RegExp][] = [
  ['test', /\b(?:tests?|quiz(?:zes)?|exam(?:s|ination)?s?|hearings|prüfungen|contrôles|exámenes)\b/i],
  ['off', /^(?:free|breaks?|holidays?|days off|no (?:class|school)|off|ferien|vacances|vacaciones)\b/i],
  [
    'topic',
    /\b(?:topics?|thema|themen|inhalt|thème|sujet|tema|contenido|sessions?|activit(?:y|ies)|lectures?|seminars?|content|themes?|what we do|in the room|in class(?! \d)|lesson)\b/i,
  ],
  ['reading', /\b(?:readings?|read|chapters?)\b/i],
  [
    'place',
    /\b(?:to be at|be there|events?|visits|trips|excursions|field days|outings|shows|concerts|rehearsals|dates to keep)\b/i,
  ],
  [
    'work',
    /\b(?:due|deadlines?|assignments?|assessments?|homework|hausaufgaben?|aufgaben?|devoirs?|tareas?|deberes|work|prepare|preparation|hand(?:ing)?[- ]ins?|hand in|to hand in|to do|todo|deliverables?|bring|submit|tasks?|abgaben?|à rendre|entregas?)\b/i,
  ],
];

/** What a heading or the name of a column says of what stands under it. */
export const hintOf = (heading: string): Hint | null =>
  HEADINGS.find(([, words]) => words.test(heading))?.[0] ?? null;

const KIND_OF: Record<Hint, ItemKind> = {
  work: 'assignment',
  test: 'test',
  place: 'meeting',
  off: 'dayOff',
  topic: 'lesson',
  reading: 'reading',
};

/** From this minute of the day on an hour is a deadline. */
const LATE = 1380;

/** `Interviews (no lessons on Thursdays)`: what a bracket says at length is beside the point. */
const withoutAside = (title: string) =>
  title.replace(/\([^()]*\)/g, (aside) => (aside.split(' ').length > 3 ? ' ' : aside));

/** What something is: by its own words first, then by what stands above it. */
export function kindFor(title: string, hint: Hint | null, sort: string, minute: number | null): ItemKind {
  // Nobody meets at the end of a day.
  const hasTime = minute !== null && minute < LATE;
  if (OFF.test(withoutAside(title)) || hint === 'off') return 'dayOff';
  const said = sort ? sortOf(sort) : null;
  if (said) return KIND_OF[said];
  if (hint === 'reading') return 'reading';
  if (TEST.test(title)) return 'test';
  if (hint === 'work' ? title.search(TRIP) === 0 : TRIP.test(title)) return 'trip';
  if (hint === 'work' ? title.search(EVENT) === 0 : EVENT.test(title)) return 'meeting';
  if (hint === 'topic' && !/\b(?:due|hand(?:ed)? in|submit)\b/i.test(title))
    return hasTime ? 'meeting' : 'lesson';
  const rule = SORT_RULES.find(
    (r) => !['reminder', 'dayOff', 'test', 'trip'].includes(r.kind) && r.title?.test(title),
  );
  if (rule && (hint === null || hint === 'work')) return rule.kind;
  if (hint) return KIND_OF[hint];
  if (LESSON.test(title)) return 'lesson';
  return WORK.test(title) || !hasTime ? 'assignment' : 'meeting';
}

/** Whether a title says by itself what it is: work, a test, somewhere to be, a day off. */
export const isNamed = (title: string): boolean =>
  [OFF, TEST, TRIP, EVENT, LESSON, WORK].some((words) => words.test(title)) ||
  SORT_RULES.some((r) => r.title?.test(title));

/** The words of a column of kinds: `be there`, `bring it`, `Quizzes`. */
function sortOf(sort: string): Hint | null {
  if (/\b(?:free|off|holiday|break)\b/i.test(sort)) return 'off';
  if (/\bbe there\b|\bvisit|\bevent/i.test(sort)) return 'place';
  return hintOf(sort);
}

/** Only what a lesson is about. */
export const isTopicOf = (kind: ItemKind, hint: Hint | null): boolean =>
  (kind === 'lesson' && hint !== 'work') || (kind === 'reading' && hint === 'reading');

export const handInFor = (title: string, details: string, kind: ItemKind): HandInWay =>
  handInOf({ title, description: details, categories: [], place: '', url: null }, kind);

/** Columns of marks, and of what else is no item. */
export const MARKS =
  /\b(?:marks?|points?|pts|score|grades?|weight|worth|pass|percent|hours?|credits?|max|ects|punkte|note|barème|nota)\b|%/i;
export const REMARKS =
  /\b(?:remarks?|notes?|comments?|info|details?|materials?|resources?|descriptions?|bemerkung(?:en)?|remarques?|observaciones)\b/i;

/** What is said beside a date that is none of the term’s: when something was printed, or came to be. */
export const NOT_PLANNED =
  /(?:printed|exported|last change|changed|updated|modified|(?<!(?:first|second|third|final|last|draft|new|revised|short|long|clean|full) )version|edition|revised|published|accessed|since|copyright|©|founded|established|as of|isbn|written|issued|stand|seit|after)\W{0,20}(?:on |at |am )?$/i;
/** What numbers with a stroke are when they are no date. */
export const COUNTED_BEFORE =
  /(?:room|gate|bench|section|sect|no|nr|office|hall|pages?|pp?|version|studio|scale|phone|store|shed|unit|ratio|grade|part|lab|b|gb|raum|salle|aula|seite|chapters?|ch|code)\.?\s?[a-z]?-?$/i;
export const COUNTED_BEHIND =
  /^\s?(?:of\b|inch|in\b\s?(?:wide|long)|km|m\b|cm|mm|%|percent|points?|marks?|pages?|pts|paste|cups?|kg|g\b|hz|worn)/i;

/** Work on the day it is given out. */
const GIVEN_OUT =
  /^(?:hw|homework|(?:problem )?set|sheet|worksheet|assignment|essay|project|lab|exercises?|quiz)\s?\d{0,2}\b.{0,30}\s(?:out|assigned|posted|released|handed out|given out)$/i;
const PHONE = /\b\d{3}[-\s]\d{3,4}\b/;
const FRACTION = /(?<!\d)\d{1,3}\/\d{1,3}(?!\d)/g;
export const isGivenOut = (text: string): boolean => GIVEN_OUT.test(text);
const NOTHING_DUE = /^no (?:new )?(?:assignments?|homework|quiz(?:zes)?|tests?|readings?|exams?)$/i;
/** What is no item of its own: work that is given out, a telephone, sizes, rooms. */
export const isRemark = (text: string): boolean =>
  isGivenOut(text) || NOTHING_DUE.test(text) || PHONE.test(text) || (text.match(FRACTION)?.length ?? 0) > 1;

/** Work that an hour for all work holds for. */
export const isHandedIn = (kind: ItemKind) => isWork(kind) && kind !== 'test' && kind !== 'reading';
