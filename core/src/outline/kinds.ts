import { handInOf } from '../item/taken/hand-in.ts';
import { isWork, type HandInWay, type ItemKind } from '../item/kind.ts';
import type { Hint } from './found.ts';
import { hintOf } from './hints.ts';
import { anyOf } from '../lib/patterns.ts';

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
const TRIP_WORDS = [
  'visit',
  'trip',
  'excursion',
  'walk',
  'tour',
  'field ?day',
  'outing',
  'weekend away',
  'exkursion',
  'klassenfahrt',
  'ausflug',
  'besuch',
  'sortie',
  'visite',
  'visita',
  'excursión',
];
/** What is written or paid for a trip is none. */
const NO_TRIP = [
  'report',
  'form',
  'diary',
  'essay',
  'log',
  'payment',
  'money',
  'letter',
  'write-?up',
  'plan',
];
const TRIP = anyOf(...TRIP_WORDS.map((word) => String.raw`${word}\b(?! (?:${NO_TRIP.join('|')})\b)`));
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

/** Kinds of work, and places, by what a row of an outline is called; the first that fits decides. */
const BY_TITLE: readonly [ItemKind, RegExp][] = [
  ['practice', /\b(revision|revise|revising|(study|studying|prepare|prep) for)\b/i],
  ['discussion', /\b(discussions?|discuss|forum|debate|critique|peer review|reply to|respond to)\b/i],
  ['project', /\b(project|milestone|portfolio|dissertation|essay)\b/i],
  ['reading', /^(reading|read)\b|\b(read (chapter|pages?)|chapters?\s+\d|pages\s+\d+)/i],
  ['practice', /\b(practise|practice|rehearse|revision|revise|drill sheet|word list|vocabulary)\b/i],
  [
    'assignment',
    anyOf(
      'assignment|homework|worksheet|problem set|exercise|hand in|submit|due|report|sheet',
      'lab log|log(?:book)? check|journal|sketchbook|draft|write-?up',
    ),
  ],
  ['lesson', /\b(lesson|lecture|seminar|class|workshop|tutorial|practical|lab session)\b/i],
  ['meeting', /\b(meeting|club|appointment|evening|office hours?|dentist|doctor|session|rehearsal)\b/i],
];

/** Matches words for what is only to remember: it is named, though no kind follows from it. */
const REMINDS = /\b(?:birthday|reminder|bring|remember)\b/i;

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

/** Gives what something is: by its own words first, then by what stands above it. */
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
  const named = BY_TITLE.find(([, words]) => words.test(title));
  if (named && (hint === null || hint === 'work')) return named[0];
  if (hint) return KIND_OF[hint];
  if (LESSON.test(title)) return 'lesson';
  return WORK.test(title) || !hasTime ? 'assignment' : 'meeting';
}

/** Tells whether a title says by itself what it is: work, a test, somewhere to be, a day off. */
export const isNamed = (title: string): boolean =>
  [OFF, TEST, TRIP, EVENT, LESSON, WORK].some((words) => words.test(title)) ||
  BY_TITLE.some(([, words]) => words.test(title)) ||
  REMINDS.test(title);

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

/** Work that an hour for all work holds for. */
export const isHandedIn = (kind: ItemKind) => isWork(kind) && kind !== 'test' && kind !== 'reading';
