import type { Hint } from './found.ts';
import { anyOf } from '../lib/patterns.ts';

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

/** Gives what is due is work, whatever stands above it. */
export const hintFor = (hint: Hint | null, words: string): Hint | null =>
  isDue(words) && hint !== 'test' && hint !== 'off' ? 'work' : hint;

const HEADINGS: readonly [Hint, RegExp][] = [
  ['test', /\b(?:tests?|quiz(?:zes)?|exam(?:s|ination)?s?|hearings|prüfungen|contrôles|exámenes)\b/i],
  ['off', /^(?:free|breaks?|holidays?|days off|no (?:class|school)|off|ferien|vacances|vacaciones)\b/i],
  [
    'topic',
    anyOf(
      'topics?',
      'thema',
      'themen',
      'inhalt',
      'thème',
      'sujet',
      'tema',
      'contenido',
      'sessions?',
      'activit(?:y|ies)',
      'lectures?',
      'seminars?',
      'content',
      'themes?',
      'what we do',
      'in the room',
      String.raw`in class(?! \d)`,
      'lesson',
    ),
  ],
  ['reading', /\b(?:readings?|read|chapters?)\b/i],
  [
    'place',
    anyOf(
      'to be at',
      'be there',
      'events?',
      'visits',
      'trips',
      'excursions',
      'field days',
      'outings',
      'shows',
      'concerts',
      'rehearsals',
      'dates to keep',
    ),
  ],
  [
    'work',
    anyOf(
      'due',
      'deadlines?',
      'assignments?',
      'assessments?',
      'homework',
      'hausaufgaben?',
      'aufgaben?',
      'devoirs?',
      'tareas?',
      'deberes',
      'work',
      'prepare',
      'preparation',
      'hand(?:ing)?[- ]ins?',
      'hand in',
      'to hand in',
      'to do',
      'todo',
      'deliverables?',
      'bring',
      'submit',
      'tasks?',
      'abgaben?',
      'à rendre',
      'entregas?',
    ),
  ],
];

/** Gives what a heading or the name of a column says of what stands under it. */
export const hintOf = (heading: string): Hint | null =>
  HEADINGS.find(([, words]) => words.test(heading))?.[0] ?? null;

/** Columns of marks, and of what else is no item. */
export const MARKS =
  /\b(?:marks?|points?|pts|score|grades?|weight|worth|pass|percent|hours?|credits?|max|ects|punkte|note|barème|nota)\b|%/i;
export const REMARKS = anyOf(
  'remarks?',
  'notes?',
  'comments?',
  'info',
  'details?',
  'materials?',
  'resources?',
  'descriptions?',
  'bemerkung(?:en)?',
  'remarques?',
  'observaciones',
);
