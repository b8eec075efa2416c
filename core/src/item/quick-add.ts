import * as chrono from 'chrono-node/en';
import { handInOf, kindOf } from './classify.ts';
import type { FeedItem } from '../ical/feed-item.ts';
import { trimEndOf, trimStartOf } from '../lib/trim.ts';
import { DAY, MINUTE, dayNumber } from '../time/civil.ts';
import { dateOf, instantOf, localIn, type When } from '../time/when.ts';
import type { Zone } from '../time/zone.ts';
import { isWork, type CalendarKind, type HandInWay, type ItemKind } from './kind.ts';

/** What one line says, as far as it says it. */
export interface QuickReading {
  title: string;
  calendarId: string | null;
  kind: ItemKind;
  handIn: HandInWay;
  when: When | null;
  end: When | null;
  /** How long, in minutes: what work takes, or how long something lasts */
  minutes: number | null;
}

export interface QuickOptions {
  now: number;
  zone: Zone;
  calendars: readonly { id: string; name: string; kind: CalendarKind; flag: { letters: string } }[];
}

const DURATION =
  /(?<![\d:.])(?:(\d{1,4}(?:[.,]\d{1,4})?) ?h(?:ours?|rs?)?(?: ?(\d{1,2})(?: ?m(?:in(?:utes?)?)?)?)?|(\d{1,3}) ?m(?:in(?:utes?)?)?)(?![\w:])/i;
/** How much of a line is read: more than one line is no line. */
const LONGEST = 500;

/**
 * Reads a line such as `Ceramics · sketchbook · Fri 9 Oct 16:00 · 45 min`: a course by its name, its first
 * word or its letters, a day and time in words, how long. What is left is the title. Nothing need be marked,
 * and no order kept.
 */
export function quickAdd(line: string, { now, zone, calendars }: QuickOptions): QuickReading {
  let rest = line.normalize('NFKC').replace(/\s+/g, ' ').slice(0, LONGEST);
  const take = (from: number, length: number) => {
    rest = `${rest.slice(0, from)} \u00b7 ${rest.slice(from + length)}`;
  };
  const duration = DURATION.exec(rest);
  const minutes = duration
    ? Math.round(
        duration[3]
          ? Number(duration[3])
          : Number(duration[1]!.replace(',', '.')) * 60 + Number(duration[2] ?? 0),
      )
    : null;
  if (duration) take(duration.index, duration[0].length);

  // The library works in the wall clock of the machine; it is given the person's, as if that were UTC, and
  // read so.
  const local = now + zone.offsetAt(now);
  const found = chrono.GB.parse(rest, { instant: new Date(local), timezone: 0 }, { forwardDate: true })[0];
  let at: { day: number; minute: number | null; until: number | null } | null = null;
  if (found) {
    take(found.index, found.text.length);
    const { start, end } = found;
    const day = dayNumber(start.get('year')!, start.get('month')!, start.get('day')!);
    const minuteOf = (c: typeof start) => c.get('hour')! * 60 + (c.get('minute') ?? 0);
    const timed = start.isCertain('hour');
    at = {
      day,
      minute: timed ? minuteOf(start) : null,
      until: timed && end?.isCertain('hour') ? minuteOf(end) : null,
    };
  }

  const course = courseIn(rest, calendars);
  if (course) take(course.index, course.length);
  const title = titleIn(rest);
  const timedAt = (minute: number): When =>
    instantOf(zone.toInstant(at!.day * DAY + minute * MINUTE), zone.id);
  const when = at && (at.minute === null ? dateOf(at.day) : timedAt(at.minute));
  const told = whatItIs(title, course?.calendar.kind ?? 'course', when);
  // From one hour to another is a place to be, whatever it is called; a test alone has such hours as well.
  const kind = at?.until != null && isWork(told) && told !== 'test' ? 'meeting' : told;
  const work = isWork(kind);
  const length = at?.until != null && at.minute !== null ? at.until - at.minute : minutes;
  const end = !work && at?.minute != null && length && length > 0 ? timedAt(at.minute + length) : null;
  return {
    title: title && title[0]!.toUpperCase() + title.slice(1),
    calendarId: course?.calendar.id ?? null,
    kind,
    handIn: handInOf(faceOf(title, when), kind),
    when,
    end,
    minutes: length ?? null,
  };
}

/** What is left of a line once all else has been taken out of it, without what stood between. */
function titleIn(rest: string): string {
  const pieces = rest
    .replace(/ (?:on|at|by|due|for|until) ?\u00b7/gi, ' \u00b7')
    .replace(/ ?[\u00b7|,;] ?(?=[\u00b7|,;]|$)|^ ?[\u00b7|,;] ?/g, ' ')
    .split('\u00b7');
  const whole = trimStartOf(
    pieces
      .map((piece) => piece.trim())
      .filter(Boolean)
      .join(' '),
    ENDS,
  );
  const trimmed = trimEndOf(whole, ENDS);
  return trimmed === whole ? whole.replace(/ (?:on|at|by|due|for)$/i, '') : trimmed;
}
const ENDS = ' :–-';

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
const faceOf = (title: string, when: When | null): FeedItem => ({
  ...BARE,
  links: [],
  categories: [],
  alarms: [],
  extra: [],
  component: 'VEVENT',
  title,
  start: when,
});

/**
 * By the same words as a feed's items are; what no word tells is work in a course, and somewhere to be
 * elsewhere.
 */
function whatItIs(title: string, calendar: CalendarKind, when: When | null): ItemKind {
  const kind = kindOf(faceOf(title, when), calendar);
  if (when === null && !isWork(kind)) return 'assignment';
  // A lesson is told by its word even where nobody says how long it lasts.
  if (
    when?.kind === 'instant' &&
    kindOf({ ...faceOf(title, when), length: { days: 0, ms: MINUTE } }, calendar) === 'lesson'
  )
    return 'lesson';
  const isTold = kindOf(faceOf(title, when), 'course') === kindOf(faceOf(title, when), 'home');
  return !isTold && calendar !== 'course' && when?.kind === 'instant' ? 'meeting' : kind;
}

/**
 * The calendar a line names: by its whole name, else its first word, else its letters in capitals; the
 * longest counts.
 */
function courseIn<C extends QuickOptions['calendars'][number]>(
  line: string,
  calendars: readonly C[],
): { calendar: C; index: number; length: number } | null {
  let best: { calendar: C; index: number; length: number } | null = null;
  const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
  const where = plain(line);
  // Accents gone, places must still be those of the line.
  const same = where.length === line.length;
  for (const calendar of calendars) {
    const first = calendar.name.split(/\s+/)[0] ?? '';
    const names = [calendar.name, ...(first.length > 3 ? [first] : [])].map((name) => ({
      word: same ? plain(name) : name,
      at: same ? where : line,
    }));
    for (const { word, at } of [...names, { word: calendar.flag.letters, at: line }]) {
      const hit = new RegExp(
        `(?<![\\p{L}\\p{N}])${word.replace(/[^\p{L}\p{N} ]/gu, '\\$&')}(?![\\p{L}\\p{N}])`,
        'u',
      ).exec(at);
      if (hit && (!best || word.length > best.length))
        best = { calendar, index: hit.index, length: hit[0].length };
    }
  }
  return best;
}

/** The minute of the day a When stands at on a wall clock; null for a whole day. */
export const minuteOf = (when: When | null, zone: Zone): number | null => {
  if (!when || when.kind === 'date') return null;
  const local = localIn(when, zone);
  return Math.floor((local - Math.floor(local / DAY) * DAY) / MINUTE);
};
