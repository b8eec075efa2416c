import type { FeedItem } from '../ical/feed-item.ts';
import { parseDate, parseLocal } from '../time/civil.ts';
import { isWork, type CalendarKind, type HandInWay, type ItemKind } from './kind.ts';

interface KindRule {
  kind: ItemKind;
  /** Words in a category that decide by themselves */
  category?: RegExp;
  /** Words in the title */
  title?: RegExp;
  /** Parts of the item's address */
  address?: RegExp;
}

/** In order; categories are asked first, then titles, then addresses. The first that fits decides. */
export const SORT_RULES: readonly KindRule[] = [
  {
    kind: 'dayOff',
    category: /\b(holidays?|breaks?|day off|closure)\b/i,
    title:
      /\b(mid-?term break|half-? ?term|holidays?|school closed|no school|day off|no lessons|inset day|hols|bank holiday|break\b(?!ing|fast))/i,
  },
  {
    kind: 'trip',
    category: /\b(trips?|excursions?|outings?)\b/i,
    title: /\b(trip|excursion|outing|field day|visit to|rowing day)\b/i,
  },
  {
    // That there is nothing to do is only to know.
    kind: 'reminder',
    title: /^no (homework|hw|assignments?|reading)\b/i,
  },
  {
    // Getting ready for a test is no test.
    kind: 'practice',
    title: /\b(revision|revise|revising|(study|studying|prepare|prep) for)\b/i,
  },
  {
    kind: 'test',
    category: /\b(tests?|exams?|quiz(zes)?)\b/i,
    title: /\b(tests?|exam|exams|quiz|quizzes|mid-?terms?|finals?|assessment|oral)\b/i,
    address: /\/(test|quiz|exam)s?\//,
  },
  {
    kind: 'discussion',
    category: /\b(discussions?|forums?|critiques?)\b/i,
    title: /\b(discussions?|discuss|forum|debate|critique|peer review|reply to|respond to)\b/i,
    address: /\/(forum|discussion)s?\//,
  },
  {
    kind: 'project',
    category: /\bprojects?\b/i,
    title: /\b(project|milestone|portfolio|dissertation|essay|half-scale)\b/i,
  },
  {
    kind: 'reading',
    category: /\breadings?\b/i,
    title: /^(reading|read)\b|\b(read (chapter|pages?)|chapters?\s+\d|pages\s+\d+)/i,
  },
  {
    kind: 'practice',
    category: /\bpractices?\b/i,
    title: /\b(practise|practice|rehearse|revision|revise|drill sheet|word list|vocabulary)\b/i,
  },
  {
    kind: 'assignment',
    category: /\b(assignments?|homework|tasks?|coursework|(studio|course|class) work)\b/i,
    title:
      /\b(assignment|homework|worksheet|problem set|exercise|hand in|submit|due|report|lab log|log(book)? check|journal|sketchbook|draft|plotting sheet|write-?up)\b/i,
    address: /\/(assignment|task|item|hand-?in)s?\//,
  },
  {
    kind: 'lesson',
    category: /\b(lessons?|class(es)?|lectures?|timetable|seminars?)\b/i,
    title: /\b(lesson|lecture|seminar|class|workshop|tutorial|practical|lab session)\b/i,
  },
  {
    kind: 'meeting',
    category: /\b(meetings?|clubs?|appointments?)\b/i,
    title: /\b(meeting|club|appointment|evening|office hours?|dentist|doctor|session|rehearsal)\b/i,
  },
  {
    kind: 'reminder',
    category: /\b(reminders?|birthdays?)\b/i,
    title: /\b(birthday|reminder|bring|remember|feed the|fire drill)\b/i,
  },
];

/** What calls itself a reminder; what else only reminds stays a reminder in any feed. */
const CALLED_REMINDER = /\breminders?\b/i;

/** How long an item states it lasts, in milliseconds; null where it states no end. */
export function statedLength(item: FeedItem): number | null {
  if (item.length) return item.length.days * 86_400_000 + item.length.ms;
  if (!item.start || !item.end) return null;
  const ms = (w: NonNullable<FeedItem['start']>) =>
    w.kind === 'date' ? parseDate(w.date) * 86_400_000 : parseLocal(w.kind === 'instant' ? w.at : w.local);
  return ms(item.end) - ms(item.start);
}

/** In a feed of deadlines, what is at most so long, in milliseconds, is one of them. */
export const MOMENT = 60_000;

/**
 * Works out what an item is from its categories, title, address and component.
 * @param ofDeadlines its feed is one of deadlines (`gather/manner`): then what stands at a moment is one as well,
 *   though its title calls it a reminder, or a minute is written for it
 */
export function kindOf(item: FeedItem, calendar: CalendarKind = 'course', ofDeadlines = false): ItemKind {
  // At home, what stands at a moment is mostly to remember.
  const isDeadlines = ofDeadlines && calendar === 'course';
  const length = statedLength(item);
  const timedBlock =
    item.component === 'VEVENT' &&
    item.start?.kind !== 'date' &&
    length !== null &&
    length > (isDeadlines ? MOMENT : 0);
  // What repeats at its hours is somewhere to be, and what has no length is no lesson.
  const isMoment = item.component === 'VEVENT' && item.start?.kind !== 'date' && !timedBlock;
  const fits = (rule: KindRule) =>
    !(timedBlock && item.repeat && isWork(rule.kind) && rule.kind !== 'test') &&
    !(isMoment && rule.kind === 'lesson') &&
    !(isMoment && isDeadlines && rule.kind === 'reminder' && CALLED_REMINDER.test(item.title));
  const rule =
    SORT_RULES.find((r) => r.category && item.categories.some((c) => r.category!.test(c)) && fits(r)) ??
    SORT_RULES.find((r) => r.title?.test(item.title) && fits(r)) ??
    SORT_RULES.find(
      (r) => item.component === 'VEVENT' && !timedBlock && item.url && r.address?.test(item.url),
    );
  if (rule && (item.component !== 'VTODO' || isWork(rule.kind) || rule.kind === 'reminder')) return rule.kind;
  if (item.component === 'VTODO') return 'assignment';
  if (timedBlock) return item.repeat && calendar === 'course' ? 'lesson' : 'meeting';
  return calendar === 'course' ? 'assignment' : 'reminder';
}

const HAND_IN_RULES: readonly [HandInWay, RegExp][] = [
  ['nothing', /\b(nothing to hand in|not handed in|no hand-?in|for yourself)\b/i],
  ['inClass', /\b(hand in (in|during) (class|lesson)|in class|present(ed)? in)\b/i],
  ['paper', /\b(on paper|paper copy|printed?|sketchbook|shelf|hand-?written|pigeonhole|tray)\b/i],
  ['mail', /\b(by e-?mail|e-?mail (it )?to|mail it to)\b/i],
  ['online', /\b(online|upload|submit|web page|course page)\b/i],
];

/** Works out how a piece of work is handed in; `nothing` for what is not work. */
export function handInOf(
  item: Pick<FeedItem, 'title' | 'description' | 'categories' | 'place' | 'url'>,
  kind: ItemKind,
): HandInWay {
  if (!isWork(kind)) return 'nothing';
  const text = `${item.title}\n${item.description}\n${item.categories.join('\n')}\n${item.place}`;
  const rule = HAND_IN_RULES.find(([, words]) => words.test(text));
  if (rule) return rule[0];
  if (kind === 'reading' || kind === 'practice') return 'nothing';
  return item.url ? 'online' : 'unknown';
}
