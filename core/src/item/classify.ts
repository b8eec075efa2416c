import type { FeedItem } from '../ical/feed-item.ts';
import { parseDate, parseLocal } from '../time/civil.ts';
import { isWork, type CalendarKind, type ItemKind } from './kind.ts';
import { weigh, type Standing } from './taken/weigh.ts';
import type { Sort } from './taken/words.ts';

/** Kind that a category or the address of an entry says by itself. */
interface Label {
  kind: ItemKind;
  category?: RegExp;
  address?: RegExp;
}

/** In order; the first that fits decides. */
export const LABELS: readonly Label[] = [
  { kind: 'dayOff', category: /\b(holidays?|breaks?|day off|closure)\b/i },
  { kind: 'trip', category: /\b(trips?|excursions?|outings?)\b/i },
  { kind: 'test', category: /\b(tests?|exams?|quiz(zes)?)\b/i, address: /\/(test|quiz|exam)s?\// },
  {
    kind: 'discussion',
    category: /\b(discussions?|forums?|critiques?)\b/i,
    address: /\/(forum|discussion)s?\//,
  },
  { kind: 'project', category: /\bprojects?\b/i },
  { kind: 'reading', category: /\breadings?\b/i },
  { kind: 'practice', category: /\bpractices?\b/i },
  {
    kind: 'assignment',
    category: /\b(assignments?|homework|tasks?|coursework|(studio|course|class) work)\b/i,
    address: /\/(assignment|task|item|hand-?in)s?\//,
  },
  { kind: 'lesson', category: /\b(lessons?|class(es)?|lectures?|timetable|seminars?)\b/i },
  { kind: 'meeting', category: /\b(meetings?|clubs?|appointments?)\b/i },
  { kind: 'reminder', category: /\b(reminders?|birthdays?)\b/i },
];

/** What calls itself a reminder; what else only reminds stays a reminder in any feed. */
const CALLED_REMINDER = /\breminders?\b/i;

/** Tells how long an item states it lasts, in milliseconds; null where it states no end. */
export function statedLength(item: FeedItem): number | null {
  if (item.length) return item.length.days * 86_400_000 + item.length.ms;
  if (!item.start || !item.end) return null;
  const ms = (w: NonNullable<FeedItem['start']>) =>
    w.kind === 'date' ? parseDate(w.date) * 86_400_000 : parseLocal(w.kind === 'instant' ? w.at : w.local);
  return ms(item.end) - ms(item.start);
}

/** In a feed of deadlines, what is at most so long, in milliseconds, is one of them. */
export const MOMENT = 60_000;
const DAY = 86_400_000;

/** Says how an entry stands: a to-do as a deadline does, an event by its start and length. */
function standingOf(item: FeedItem, isDeadlines: boolean): Standing {
  if (item.component === 'VTODO' || !item.start) return 'deadline';
  const length = statedLength(item) ?? 0;
  if (item.start.kind === 'date') return length > DAY ? 'days' : 'date';
  if (length > (isDeadlines ? MOMENT : 0)) return length >= DAY ? 'days' : 'hours';
  const minute = Number((item.start.kind === 'instant' ? item.start.at : item.start.local).slice(14, 16));
  // Nobody meets at 23:59, nor at 55 past.
  return minute % 5 !== 0 || minute === 55 ? 'deadline' : 'moment';
}

/** Kind that an entry is taken for, and whether a person is to be asked. */
export interface TakenFor {
  kind: ItemKind;
  /** It may as well be due, or not be */
  doubt: boolean;
}

/**
 * Works out what an item is: by its categories where they say so, else by weighing its title against how it stands.
 * @param ofDeadlines its feed is one of deadlines (`gather/manner`): then what stands at a moment is one as well,
 *   though its title calls it a reminder, or a minute is written for it
 */
export function takenFor(item: FeedItem, calendar: CalendarKind = 'course', ofDeadlines = false): TakenFor {
  // At home, what stands at a moment is mostly to remember.
  const isDeadlines = ofDeadlines && calendar === 'course';
  const standing = standingOf(item, isDeadlines);
  const isTask = item.component === 'VTODO';
  const isBlock = standing === 'hours' || (standing === 'days' && item.start?.kind !== 'date');
  const isMoment = standing === 'deadline' || standing === 'moment';
  const fits = (kind: ItemKind) =>
    !(isBlock && item.repeat && isWork(kind) && kind !== 'test') &&
    !(isMoment && kind === 'lesson') &&
    !(isMoment && isDeadlines && kind === 'reminder' && CALLED_REMINDER.test(item.title)) &&
    !(isTask && !isWork(kind) && kind !== 'reminder');
  const label = LABELS.find(
    (l) => l.category && item.categories.some((c) => l.category!.test(c)) && fits(l.kind),
  );
  if (label) return { kind: label.kind, doubt: false };

  const taken = weigh(item.title, {
    standing,
    repeats: item.repeat !== null,
    calendar,
    ofDeadlines: isDeadlines,
    isTask,
    description: item.description,
  });
  if (taken.kind && fits(taken.kind)) return { kind: taken.kind, doubt: taken.doubt };
  const at = LABELS.find((l) => l.address && item.url && l.address.test(item.url));
  if (at && !isTask && !isBlock) return { kind: at.kind, doubt: false };
  return {
    kind: unnamed(isTask ? 'work' : taken.sort, item.repeat !== null && calendar === 'course'),
    doubt: taken.doubt,
  };
}

/** The kind of what only how it stands tells the sort of. */
const unnamed = (sort: Sort, isTimetable: boolean): ItemKind =>
  (
    ({
      work: 'assignment',
      test: 'test',
      place: isTimetable ? 'lesson' : 'meeting',
      off: 'dayOff',
      know: 'reminder',
    }) as const
  )[sort];

/** Works out what an item is, as `takenFor` does, for whoever asks nobody. */
export const kindOf = (item: FeedItem, calendar: CalendarKind = 'course', ofDeadlines = false): ItemKind =>
  takenFor(item, calendar, ofDeadlines).kind;
