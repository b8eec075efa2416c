import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { HAND_IN_WORDS, KIND_WORDS } from '@zephyrfield/core/item/words';
import { isWork } from '@zephyrfield/core/item/kind';
import { patternWords } from '@zephyrfield/core/recurrence/pattern';
import { dateOf } from '@zephyrfield/core/time/when';
import { parseDate } from '@zephyrfield/core/time/civil';
import { longDay, type Viewer } from '@zephyrfield/core/words/when';
import { patternOf, type Fields } from './form';

interface PartOf {
  label: string;
  /** The fields that say it; they are taken together or not at all */
  names: readonly (keyof Fields)[];
  words(f: Fields, calendars: readonly CalendarView[], viewer: Viewer): string;
}

const whenWords = ({ day, lastDay, time, until }: Fields): string => {
  const days = [day, lastDay].filter((d, i) => d && (i === 0 || d !== day)).map((d) => longDay(parseDate(d)));
  return [days.join(' to '), [time, until].filter(Boolean).join(' to ')].filter(Boolean).join(', ');
};

const repeatWords = (f: Fields, viewer: Viewer): string => {
  const pattern = patternOf(f);
  if (!pattern) return f.otherRule ? 'by its own rule' : 'does not repeat';
  const day = parseDate(f.day);
  return Number.isNaN(day) ? 'repeats' : patternWords(pattern, dateOf(day), viewer);
};

/** What people tell apart in an item, in the form's order. */
const PARTS: readonly PartOf[] = [
  { label: 'What', names: ['title'], words: (f) => f.title },
  {
    label: 'Calendar',
    names: ['calendarId'],
    words: (f, calendars) => calendars.find((c) => c.id === f.calendarId)?.name ?? '',
  },
  {
    label: 'What it is',
    names: ['purpose', 'kind', 'handIn'],
    words: ({ kind, handIn }) =>
      isWork(kind) ? `${KIND_WORDS[kind]}, ${HAND_IN_WORDS[handIn]}` : KIND_WORDS[kind],
  },
  { label: 'When', names: ['day', 'lastDay', 'time', 'until'], words: whenWords },
  { label: 'Where', names: ['place'], words: (f) => f.place },
  {
    label: 'Repeats',
    names: ['repeats', 'interval', 'weekdays', 'monthBy', 'ends', 'endsOn', 'count', 'otherRule'],
    words: (f, _, viewer) => repeatWords(f, viewer),
  },
  { label: 'What is expected', names: ['details'], words: (f) => f.details },
];

const says = (f: Fields, { names }: Pick<PartOf, 'names'>) => JSON.stringify(names.map((name) => f[name]));
const partIn = (f: Fields, { names }: Pick<PartOf, 'names'>): Partial<Fields> =>
  Object.fromEntries(names.map((name) => [name, f[name]]));

/** Something that two people, or two windows, have written differently. */
export interface Difference {
  label: string;
  mine: { words: string; fields: Partial<Fields> };
  theirs: { words: string; fields: Partial<Fields> };
  /** Tells whose stands in the form as it is now; null where it has been changed to something else again */
  stands(now: Fields): 'mine' | 'theirs' | null;
}

/** Finds where what one has typed differs from what stands by now. */
export function differencesOf(
  mine: Fields,
  theirs: Fields,
  calendars: readonly CalendarView[],
  viewer: Viewer,
): Difference[] {
  return PARTS.filter((part) => says(mine, part) !== says(theirs, part)).map((part) => {
    const side = (f: Fields) => ({ words: part.words(f, calendars, viewer), fields: partIn(f, part) });
    return {
      label: part.label,
      mine: side(mine),
      theirs: side(theirs),
      stands: (now) =>
        says(now, part) === says(mine, part)
          ? 'mine'
          : says(now, part) === says(theirs, part)
            ? 'theirs'
            : null,
    };
  });
}

/** Both joined: mine, and theirs where only they have changed it. */
export const joined = (begun: Fields, mine: Fields, theirs: Fields): Fields =>
  Object.assign(
    {},
    mine,
    ...PARTS.filter((part) => says(mine, part) === says(begun, part)).map((part) => partIn(theirs, part)),
  ) as Fields;
