import type { CalendarKind, ItemKind } from '../kind.ts';
import { anyOf } from '../../lib/patterns.ts';
import { ENGLISH, type Cue, type Role } from './lexicon.ts';
import { segmentsOf, type Piece, type Segment } from './phrases.ts';
import { SORTS, type Sort } from './words.ts';

/**
 * Time an entry has in its feed: at a late or odd minute without length, at another moment, on a date, from one hour to
 * another, over several days.
 */
export type Standing = 'deadline' | 'moment' | 'date' | 'hours' | 'days';

/** Facts about an entry beside its title. */
export interface Circumstances {
  standing: Standing;
  repeats: boolean;
  calendar: CalendarKind;
  /** Its feed is one of deadlines */
  ofDeadlines: boolean;
  /** A to-do of its course */
  isTask: boolean;
  description: string;
}

/** Result of weighing an entry. */
export interface Taken {
  sort: Sort;
  /** The kind its title names; null where only how it stands tells the sort */
  kind: ItemKind | null;
  /** It may as well be the other way round, due or not due: a person is asked */
  doubt: boolean;
}

type Scores = Record<Sort, number>;

/** Scores by time in a course's calendar, before a word is read. */
const IN_COURSE: Record<Standing, Scores> = {
  deadline: { work: 3, test: 0, place: -2, off: -2, know: -1 },
  moment: { work: 2.2, test: 0, place: -1, off: -2, know: 0.2 },
  date: { work: 1.2, test: 0, place: 0, off: 0, know: 0.4 },
  hours: { work: 0, test: 1.2, place: 2.6, off: 0, know: 0 },
  days: { work: 0.3, test: 0.3, place: 0.3, off: 0.5, know: 1 },
};
/** And in any other: there it is mostly to remember. */
const ELSEWHERE: Record<Standing, Scores> = {
  ...IN_COURSE,
  deadline: { work: 2, test: 0, place: -1, off: -1, know: 0.5 },
  moment: { work: 0.4, test: 0, place: 0, off: -1, know: 1.5 },
  date: { work: 0.4, test: 0, place: 0, off: 0, know: 1.5 },
};

/** Weight of a word by its role, where it stands at the head of the first phrase that says something. */
const HEAD = 4;
const VAGUE = 2;
/** The same from one hour to another: there it mostly is somewhere to be. */
const VAGUE_AT_HOURS = 1.6;
/** A head before a word that nothing is known of, which may be the head itself; work at its hours. */
const BEFORE_UNKNOWN = 3;
const UNKNOWN_AT_HOURS = 2;
/** Share for a name that comes only behind a joint, after words that nothing is known of, as a share. */
const BEHIND_UNKNOWN = 0.35;
const VERB = 4.5;
/** Weight of a word beside the head, or after a joint. */
const BESIDE = 0.4;
/** The head of a later segment, as a share: less after a test, whose pages it names. */
const LATER = 0.8;
const LATER_AFTER_TEST = 0.2;
const DUE = 3;
const PREDICATE = 6;
/** A feed of deadlines, or an entry that repeats at its hours. */
const MANNER = 1;
const REPEATS_AT_HOURS = 5;
const TASK = 5;
/** Nearer than this, a person is asked; and where not being due wins by less than this, it is due. */
const DOUBTFUL = 0.9;
const TOWARDS_DUE = 0.5;

const HANDED_IN = anyOf(
  'upload',
  'submit',
  'hand (?:it )?in',
  'turn (?:it )?in',
  'due',
  'abgeben',
  'hochladen',
  'rendre',
  'déposer',
  'entregar',
  'subir',
  'lever',
  'last opp',
);
const SAT = anyOf(
  'attempts?',
  'calculators?',
  String.raw`invigilat\p{L}*`,
  'timed',
  'sat in',
  'no notes',
  'closed book',
  'open book',
  'multiple choice',
  String.raw`\d+ questions?`,
  String.raw`\d+ minutes`,
  'erlaubte hilfsmittel',
  'calculatrice',
  'sin apuntes',
  'hjelpemidler',
);

const has = (piece: Piece | undefined, role: Role): boolean =>
  piece?.cues.some((c) => c.role === role) ?? false;
const cueOf = (piece: Piece, ...roles: Role[]): Cue | undefined =>
  piece.cues.find((c) => roles.includes(c.role));
const isNumber = ({ words }: Piece) => /\p{N}/u.test(words);

/** Length up to which a description is read: what tells something of its entry stands at the beginning. */
const MOST_READ = 4_000;

/** Weighs what a title says against how the entry stands, and says what it is taken for. */
export function weigh(title: string, around: Circumstances): Taken {
  const { standing, calendar, ofDeadlines, isTask, repeats } = around;
  const description = around.description.slice(0, MOST_READ);
  const scores = { ...(calendar === 'course' ? IN_COURSE : ELSEWHERE)[standing] };
  const kinds = new Map<Sort, { kind: ItemKind; weight: number }>();
  const add = (cue: Pick<Cue, 'kind' | 'sort'>, weight: number) => {
    if (!cue.sort) return;
    scores[cue.sort] += weight;
    // A project's proposal is a part of the project.
    const telling = cue.kind === 'project' ? weight + HEAD : weight;
    if (cue.kind && telling > (kinds.get(cue.sort)?.weight ?? 0))
      kinds.set(cue.sort, { kind: cue.kind, weight: telling });
  };
  const { segments, language } = segmentsOf(title);
  let first: Sort | null = null;
  for (const segment of segments) {
    const share = first === null ? 1 : first === 'test' ? LATER_AFTER_TEST : LATER;
    const said = weighSegment(segment, { language, standing, before: first });
    for (const { cue, weight } of said.weights) add(cue, weight * share);
    for (const { cue, weight } of said.predicate) add(cue, weight);
    first ??= said.head;
  }
  if (ofDeadlines && (standing === 'deadline' || standing === 'moment' || standing === 'date'))
    for (const sort of ['work', 'test'] as const) scores[sort] += MANNER;
  if (isTask) scores.work += TASK;
  if (repeats && standing === 'hours') scores.place += REPEATS_AT_HOURS;
  if (SAT.test(description) && first !== 'off' && !(first === 'work' && scores.work >= 2 * HEAD))
    scores.test += 1.5;
  if (standing !== 'hours' && HANDED_IN.test(description) && first !== 'off' && first !== 'test')
    scores.work += 0.8;

  const isDue = (sort: Sort) =>
    sort === 'work' || (sort === 'test' && (standing === 'deadline' || standing === 'moment'));
  const best = (of: readonly Sort[]) => of.reduce((a, b) => (scores[b] > scores[a] ? b : a));
  const due = best(SORTS.filter(isDue));
  const other = best(SORTS.filter((s) => !isDue(s)));
  const lead = scores[due] - scores[other];
  const sort = lead > -TOWARDS_DUE ? due : other;
  return { sort, kind: kinds.get(sort)?.kind ?? null, doubt: Math.abs(lead) < DOUBTFUL };
}

interface Weight {
  cue: Pick<Cue, 'kind' | 'sort'>;
  weight: number;
}

interface Weighed {
  weights: Weight[];
  /** Said of what it names, in whatever segment that stands */
  predicate: Weight[];
  /** Sort that the segment names; null where it names nothing */
  head: Sort | null;
}

const KNOW = { kind: null, sort: 'know' } as const;
const OFF = { kind: null, sort: 'off' } as const;
const WORK = { kind: null, sort: 'work' } as const;

interface Place {
  language: number;
  standing: Standing;
  /** Sort that the segments before it name */
  before: Sort | null;
}

function weighSegment(segment: Segment, { language, standing, before }: Place): Weighed {
  const [begins] = segment;
  if (!begins) return { weights: [], predicate: [], head: null };
  const rest = segment.slice(1);
  if (has(begins, 'none') && rest.length) {
    const isSchool =
      rest.some((p) => has(p, 'school')) && !rest.some((p) => cueOf(p, 'noun')?.sort === 'work');
    return {
      weights: [],
      predicate: [{ cue: isSchool ? OFF : KNOW, weight: PREDICATE }],
      head: isSchool ? 'off' : 'know',
    };
  }
  // What only reminds is weighed with what it reminds of.
  if (has(begins, 'reminds') && segment.length === 1)
    return { weights: [{ cue: KNOW, weight: HEAD / 2 }], predicate: [], head: null };

  const weights: Weight[] = [];
  const head = headOf(segment);
  const verb = verbOf(segment, language);
  const leads = verb?.role === 'vagueVerb' && head ? undefined : verb;
  if (verb) weights.push({ cue: verb, weight: verb.role === 'verb' ? VERB : VAGUE });
  for (const [i, piece] of segment.entries()) {
    const cue = cueOf(piece, 'noun', 'vague');
    if (!cue) continue;
    const isHead = i === head?.at && !(leads && leads.role === 'verb');
    weights.push({ cue, weight: isHead ? headWeight(segment, head!, { language, standing }) : BESIDE });
  }
  const named = leads?.sort ?? head?.cue.sort ?? null;
  return { weights, predicate: predicateOf(segment, named ?? before, standing), head: named };
}

function headWeight(
  segment: Segment,
  { at, cue, isBehind }: Head,
  { language, standing }: Pick<Place, 'language' | 'standing'>,
): number {
  const next = segment[at + 1];
  const isUnsure = language === ENGLISH && next !== undefined && !next.cues.length && !isNumber(next);
  const share = isBehind ? BEHIND_UNKNOWN : 1;
  if (cue.role === 'noun') {
    const unsure = standing === 'hours' && cue.sort === 'work' ? UNKNOWN_AT_HOURS : BEFORE_UNKNOWN;
    return share * (isUnsure ? unsure : HEAD);
  }
  if (isUnsure && cue.sort === 'test') return BESIDE;
  return share * (standing === 'hours' ? VAGUE_AT_HOURS : VAGUE);
}

interface Head {
  at: number;
  cue: Cue;
  /** It stands behind a joint, and before that stand words that nothing is known of */
  isBehind: boolean;
}

/** The last thing that the first phrase names; of the next phrase where the first names nothing. */
function headOf(segment: Segment): Head | null {
  let found: Head | null = null;
  let [unknown, isBehind] = [false, false];
  for (const [at, piece] of segment.entries()) {
    const cue = cueOf(piece, 'noun', 'vague');
    if (cue) found = { at, cue, isBehind };
    else if (has(piece, 'joint')) {
      if (found) break;
      isBehind ||= unknown;
    } else if (!piece.cues.length && !isNumber(piece)) unknown = true;
  }
  return found;
}

/** Finds the verb that tells to do something: in English at the beginning of a phrase, elsewhere at its end as well. */
function verbOf(segment: Segment, language: number): Cue | undefined {
  const pieces =
    language === ENGLISH ? segment.slice(0, segment.findIndex((p) => !isFiller(p)) + 1) : segment;
  for (const piece of pieces) {
    const cue = cueOf(piece, 'verb', 'vagueVerb');
    // A word that stands alone names something rather than tells to do it.
    if (cue && (cue.role === 'verb' || segment.length > 1)) return cue;
  }
  return undefined;
}
/** Words that may stand before a verb. */
const FILLERS = new Set([
  'please',
  'to',
  'must',
  'and',
  'also',
  'all',
  'kindly',
  'students',
  'everyone',
  'all students',
  'week',
  'day',
]);
const isFiller = (piece: Piece) =>
  FILLERS.has(piece.words) || isNumber(piece) || has(piece, 'reminds') || has(piece, 'due');

/** Weighs the statement about what a segment names: that it is due, opens, closes, is shut or not held. */
function predicateOf(segment: Segment, named: Sort | null, standing: Standing): Weight[] {
  const handsIn = named === 'work' || named === 'test';
  // A test that is due on a day is taken by then, or goes back on paper.
  const isOpenTest = named === 'test' && (standing === 'deadline' || standing === 'moment');
  for (const [i, piece] of segment.entries()) {
    const next = segment[i + 1];
    const ends = !next || has(next, 'joint') || isNumber(next) || TIME_WORDS.has(next.words);
    if (has(piece, 'due') && (ends || i > 0)) return [{ cue: isOpenTest ? TEST : WORK, weight: DUE }];
    if (!ends || (i === 0 && named === null)) continue;
    if (has(piece, 'closes')) {
      if (handsIn) return [{ cue: isOpenTest ? TEST : WORK, weight: DUE }];
      return [{ cue: standing === 'deadline' && named === null ? WORK : KNOW, weight: DUE }];
    }
    // What is open over a span is due at its end; at a moment it only opens.
    if (has(piece, 'opens') && handsIn && (standing === 'hours' || standing === 'days'))
      return [{ cue: named === 'test' ? TEST : WORK, weight: DUE }];
    if (has(piece, 'opens')) return [{ cue: KNOW, weight: PREDICATE + DUE }];
    if (has(piece, 'shut') || has(piece, 'off')) {
      const isSchool = segment.slice(0, i).some((p) => has(p, 'school'));
      return [{ cue: isSchool ? OFF : KNOW, weight: PREDICATE }];
    }
  }
  return [];
}
const TEST = { kind: null, sort: 'test' } as const;
const TIME_WORDS: ReadonlySet<string> = new Set(
  `
    today, tonight, tomorrow, now, noon, midnight, early, late, mon, tue, wed, thu, fri, sat, sun, monday,
    tuesday, wednesday, thursday, friday, saturday, sunday, soon, online, all, week, again, heute, morgen,
    demain, hoy, mañana, i dag, i morgen`
    .split(',')
    .map((word) => word.replace(/\s+/g, ' ').trim()),
);
