import { kindOf } from './classify.ts';
import { handInOf } from './taken/hand-in.ts';
import type { FeedItem } from '../ical/feed-item.ts';
import { trimEndOf, trimStartOf } from '../lib/trim.ts';
import type { Pattern } from '../recurrence/pattern.ts';
import { DAY, MINUTE, weekday } from '../time/civil.ts';
import { dateOf, instantOf, localIn, type When } from '../time/when.ts';
import type { Zone } from '../time/zone.ts';
import { isWork, type HandInWay, type ItemKind } from './kind.ts';
import { takeCalendar, type Named } from './quick/calendar.ts';
import { PLACE } from './quick/words.ts';
import { takeLength, takeTimes, type Times } from './quick/clock.ts';
import { shortDay, weekdayName } from '../words/when.ts';
import { takeDays, type DayOptions, type Days } from './quick/days.ts';
import { Line, type Doubt, type Mark } from './quick/line.ts';
import { takeRepeats, type Repeats } from './quick/repeats.ts';

/** Meaning of one line, as far as it says it. */
export interface QuickReading {
  title: string;
  calendarId: string | null;
  kind: ItemKind;
  handIn: HandInWay;
  when: When | null;
  /** An all-day end is the day after the last (RFC 5545 3.6.1) */
  end: When | null;
  /** Duration in minutes: what work takes, or how long something lasts */
  minutes: number | null;
  repeat: Pattern | null;
  /** What stretches of the line were understood as, in their order */
  marks: Mark[];
  /** Parts that may have been meant otherwise */
  doubts: Doubt[];
}

export interface QuickOptions {
  now: number;
  zone: Zone;
  calendars: readonly Named[];
}

/** Length of a line that is read: more than one line is no line. */
const LONGEST = 500;

/**
 * Reads a line such as `Ceramics · sketchbook · Fri 9 Oct 16:00 · 45 min`, or `cello thurs 3:30-4:15`, or
 * `swim mon wed fri 7am until xmas`: a course by its name, its first words shortened or its letters, a day and
 * time in words, how long, how often. What is left is the title. Nothing need be marked, and no order kept.
 */
export function quickAdd(text: string, { now, zone, calendars }: QuickOptions): QuickReading {
  const line = new Line(text.slice(0, LONGEST));
  const local = now + zone.offsetAt(now);
  const today = Math.floor(local / DAY);
  const options: DayOptions = { today, minute: Math.floor((local - today * DAY) / MINUTE), at: null };

  const length = takeLength(line);
  const sure = takeTimes(line, true);
  const repeats = takeRepeats(line, options);
  const days = takeDays(line, { ...options, at: sure?.minute ?? null });
  // A bare number is an hour only once the day is known: `fri 4`, `sat 10-12`.
  const times = sure ?? takeTimes(line, false, days !== null || repeats !== null);
  if (days?.last != null && times) oneDayOnly(line, days);
  const calendar = takeCalendar(line, calendars);
  const title = titleIn(line.rest('\u00b7'));

  const day = dayOf(days?.day ?? repeats?.day ?? null, { repeats, times, options });
  const told = whatItIs(title, { calendar, times, length, day, isDue: line.says(/^(due|submit|deadline)$/) });
  const kind = days?.last != null && !times && isWork(told) && told !== 'project' ? 'reminder' : told;
  const when = whenOf(day, times, { zone, isWork: isWork(kind) });
  const minutes = times?.until != null ? times.until - times.minute : length;
  return {
    title: title && title[0]!.toUpperCase() + title.slice(1),
    calendarId: calendar?.id ?? null,
    kind,
    handIn: handInOf(faceOf(title, when), kind),
    when,
    end: endOf(
      {
        kind,
        when,
        day,
        last: days?.last ?? null,
        minutes: kind === 'test' && times?.until == null ? null : minutes,
      },
      zone,
    ),
    minutes: minutes ?? null,
    repeat: repeats && day !== null ? repeats.pattern : null,
    marks: line.marks.sort((a, b) => a.from - b.from),
    doubts: line.doubts,
  };
}

/** Hours on several days are written down for the first of them. */
function oneDayOnly(line: Line, { day, last }: Days): void {
  const mark = line.marks.find((m) => m.kind === 'day')!;
  const days = Array.from({ length: Math.min(7, last! - day + 1) }, (_, i) =>
    weekdayName(day + i).slice(0, 3),
  );
  line.doubts.push({
    from: mark.from,
    to: mark.to,
    words: `Only ${weekdayName(day)} is written down.`,
    choices: [
      { words: `only ${shortDay(day)}`, text: shortDay(day).toLowerCase() },
      { words: `every ${days.join(', ')}`, text: `every ${days.join(' ').toLowerCase()}` },
    ],
  });
}

/** The first day: the one that was named, else the first that fits how it repeats, else today for an hour. */
function dayOf(
  named: number | null,
  { repeats, times, options }: { repeats: Repeats | null; times: Times | null; options: DayOptions },
): number | null {
  if (named !== null) return named;
  if (!repeats && !times) return null;
  const isOver = times !== null && times.minute <= options.minute;
  const first = options.today + Number(isOver);
  const { every, weekdays } = repeats?.pattern ?? { every: 'day', weekdays: [] };
  if (every !== 'week' || !weekdays.length) return first;
  return [...Array(7).keys()].map((ahead) => first + ahead).find((d) => weekdays.includes(weekday(d)))!;
}

function whenOf(
  day: number | null,
  times: Times | null,
  { zone, isWork: work }: { zone: Zone; isWork: boolean },
): When | null {
  if (day === null) return null;
  if (!times) return dateOf(day);
  // Midnight is the end of its day.
  const minute = times.minute === 1440 && work ? 1439 : times.minute;
  return instantOf(zone.toInstant(day * DAY + minute * MINUTE), zone.id);
}

function endOf(
  of: { kind: ItemKind; when: When | null; day: number | null; last: number | null; minutes: number | null },
  zone: Zone,
): When | null {
  const { kind, when, day, last, minutes } = of;
  if ((isWork(kind) && kind !== 'test') || !when || day === null) return null;
  if (when.kind === 'date') return last === null || isWork(kind) ? null : dateOf(last + 1);
  if (!minutes || minutes <= 0) return null;
  return instantOf(zone.toInstant(localIn(when, zone) + minutes * MINUTE), zone.id);
}

/** Gives what is left of a line once all else has been taken out of it, without what stood between. */
function titleIn(rest: string): string {
  const pieces = rest
    .split(/[\u00b7|,;]/)
    .map((piece) => piece.trim())
    .filter(Boolean);
  let title = trimStartOf(trimEndOf(pieces.join(' '), ENDS), ENDS);
  // Words that led in what was taken out say nothing at an end.
  for (
    let words = title.split(' ');
    words.length > 1 && LOOSE.has(words.at(-1)!.toLowerCase());
    words = title.split(' ')
  )
    title = trimEndOf(words.slice(0, -1).join(' '), ENDS);
  return title.replace(/ +/g, ' ').replace(/ all day$/i, '');
}
const ENDS = ' :.–-·';
const LOOSE = new Set([
  'on',
  'at',
  'by',
  'due',
  'for',
  'until',
  'from',
  'this',
  'the',
  'bis',
  'am',
  'und',
  'and',
  'in',
]);

const BARE = {
  uid: '',
  sequence: 0,
  description: '',
  html: null,
  place: '',
  url: null,
  links: [],
  categories: [],
  status: 'confirmed',
  completed: null,
  percent: null,
  repeat: null,
  recurrenceId: null,
  andFuture: false,
  alarms: [],
  extra: [],
  line: 0,
  digest: 0,
  end: null,
  due: null,
  length: null,
} as const;
/** Makes an event of a title and a moment, with nothing else in it. */
export const faceOf = (title: string, when: When | null): FeedItem => ({
  ...BARE,
  links: [],
  categories: [],
  alarms: [],
  extra: [],
  component: 'VEVENT',
  title,
  start: when,
});

/** Words of things to know. */
const TO_KNOW =
  /^(remind|remember|don.?t forget)\b|\b(birthday|anniversary|half day|(first|last) day|mufti|non.?uniform|own clothes|sports day)\b/i;
/** Words of things that are done, wherever and at whatever hour it is told to be finished. */
const WORK =
  /^(finish|write|read|revise|learn|prepare|prep|make|do|complete|hand in|submit|buy|pay|email|e-mail|ring|call|phone|ask|pack|wash|book (?:an?|the|tickets?)|print|sign|return|send|tidy|check|choose|draw|paint|practise|practice|research|update|fill in|order|get|find|sort|start|plan|clean|collect)\b|\b(homework|hw|essay|worksheet|poster|coursework|write-?up|draft|presentation|slides|chapter|reading|notes|summary|corrections)\b/i;

/**
 * By the same words as a feed's items are, and by some more that people use of themselves; what no word tells
 * is work, unless it has an hour and is in no course.
 */
function whatItIs(
  title: string,
  given: {
    calendar: Named | null;
    times: Times | null;
    length: number | null;
    day: number | null;
    isDue: boolean;
  },
): ItemKind {
  const { calendar, times, length, day, isDue } = given;
  if (TO_KNOW.test(title) && !WORK.test(title)) return 'reminder';
  const at = day === null ? null : times ? instantOf(0) : dateOf(day);
  const face = faceOf(title, at);
  const lasts = { ...face, length: { days: 0, ms: MINUTE } };
  const told = kindOf(face, calendar?.kind ?? 'course');
  // A word decides where it decides the same in any calendar.
  const isTold = told === kindOf(face, calendar?.kind === 'course' || !calendar ? 'home' : 'course');
  const isSpan = times?.until != null;
  if (isDue && !isWork(told)) return 'assignment';
  if (day === null) return isWork(told) ? told : 'assignment';
  if (!times) {
    if (WORK.test(title) && !isWork(told) && told !== 'dayOff') return 'assignment';
    if (isTold) return told;
    // So long, at no hour: it is practised.
    if (length !== null && PLACE.test(title)) return 'practice';
    return PLACE.test(title) && !WORK.test(title)
      ? 'meeting'
      : calendar?.kind === 'course' || WORK.test(title)
        ? told
        : 'assignment';
  }
  // From one hour to another is a place to be, whatever it is called; a test alone has such hours as well.
  if (isDue || (WORK.test(title) && !isSpan)) return isWork(told) ? told : 'assignment';
  if (kindOf(lasts, calendar?.kind ?? 'course') === 'lesson') return 'lesson';
  if (isSpan) return isWork(told) && told !== 'test' ? 'meeting' : told;
  if (isTold && !(isWork(told) && PLACE.test(title) && told !== 'test')) return told;
  return PLACE.test(title) || calendar?.kind !== 'course' ? 'meeting' : told;
}

/** The minute of the day a When stands at on a wall clock; null for a whole day. */
export const minuteOf = (when: When | null, zone: Zone): number | null => {
  if (!when || when.kind === 'date') return null;
  const local = localIn(when, zone);
  return Math.floor((local - Math.floor(local / DAY) * DAY) / MINUTE);
};
