/**
 * Rights in a learner's schedule, the least first: each may do what those before it may. Who keeps it
 * invites, shares and hands over as well; there is always one.
 */
export const ACCESSES = ['look', 'tick', 'edit', 'keep'] as const;
export type Access = (typeof ACCESSES)[number];

/** Tells whether who has one access may do what asks for another. */
export const suffices = (has: Access, wanted: Access): boolean =>
  ACCESSES.indexOf(has) >= ACCESSES.indexOf(wanted);

/** Knowledge of a calendar for those whom it is not for: its hours, without words, or nothing. */
export const OTHERS_SEE = ['busy', 'nothing'] as const;

/** People in the crew a calendar is for, where it is not for everybody. */
export interface Audience {
  /** Their ids */
  persons: string[];
  others: (typeof OTHERS_SEE)[number];
}

/** Part of a calendar that somebody sees. */
export type Sight = 'all' | (typeof OTHERS_SEE)[number];

/** Way in which somebody stands in a learner's crew. */
export interface Standing {
  personId: string;
  access: Access;
  /** True where it is their own schedule */
  isSelf: boolean;
}

/** A calendar, as far as rights go. */
export interface Guarded {
  audience: Audience | null;
  /** Person who made it; null where nobody knows any more */
  madeBy: string | null;
}

/** Gives what somebody in the crew sees of a calendar. */
export const sightOf = (personId: string, { audience }: Pick<Guarded, 'audience'>): Sight =>
  !audience || audience.persons.includes(personId) ? 'all' : audience.others;

/** Joins what several people see of a calendar: no more than any one of them. */
export const jointSight = (sights: readonly Sight[]): Sight =>
  sights.includes('nothing') ? 'nothing' : sights.includes('busy') ? 'busy' : 'all';

/**
 * What somebody may do in a schedule: the one place where that is decided. An access is enough for all that asks for
 * it or for less; of a calendar that is kept from somebody, and of all that is in it, they may do nothing. Saying whom
 * a calendar is for (`keepFrom`) is for who keeps the schedule, whose schedule it is, and who made the calendar; letting
 * it go out by a link (`share`) is for the first two.
 */
export function may(who: Standing, deed: Access | 'keepFrom' | 'share', calendar?: Guarded): boolean {
  if (calendar && sightOf(who.personId, calendar) !== 'all') return false;
  if (deed !== 'keepFrom' && deed !== 'share') return suffices(who.access, deed);
  const isTheirs = who.isSelf || (calendar && calendar.madeBy === who.personId);
  return suffices(who.access, isTheirs ? 'edit' : 'keep');
}

/**
 * Whether a crew may stand as it is to be: there is somebody who keeps the schedule.
 * @param accesses of all who are in it
 */
export const isKept = (accesses: readonly Access[]): boolean => accesses.includes('keep');

/**
 * Who may change which part of the layer that a learner's crew shares. Ticking off is saying what was done:
 * that it is finished, how it was handed in with a word on it, and how long it took. All else decides how the
 * learner's schedule looks and when they are reminded. What each has for themselves (`PERSONAL`) is theirs to
 * change whatever they may do here.
 */
export const LAYER_ACCESS = {
  finished: 'tick',
  stillToDo: 'tick',
  handedIn: 'tick',
  spent: 'tick',
  timer: 'tick',
  aim: 'edit',
  estimate: 'edit',
  position: 'edit',
  reminders: 'edit',
} as const satisfies Record<string, Access>;
export type LayerField = keyof typeof LAYER_ACCESS;

/**
 * What somebody has to be allowed to make a change of the own layer: the most that one of its parts asks for.
 */
export function layerAccess(change: Partial<Record<LayerField, unknown>>): Access {
  const fields = (Object.keys(LAYER_ACCESS) as LayerField[]).filter((field) => change[field] !== undefined);
  return fields.some((field) => LAYER_ACCESS[field] === 'edit') ? 'edit' : 'tick';
}
