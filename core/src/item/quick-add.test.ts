import fc from 'fast-check';
import { patternToRule } from '../recurrence/pattern';
import { parseDate } from '../time/civil';
import { dayIn, type When } from '../time/when';
import { ianaZone } from '../time/zone';
import { minuteWords, shortDay } from '../words/when';
import { minuteOf, quickAdd } from './quick-add';

const zone = ianaZone('Europe/Dublin')!;
const calendars = [
  { id: 'ce', name: 'Ceramics Studio', kind: 'course' as const, flag: { letters: 'CE' } },
  { id: 'on', name: 'Ocean Navigation', kind: 'course' as const, flag: { letters: 'ON' } },
  { id: 'sw', name: 'Statistics Workshop', kind: 'course' as const, flag: { letters: 'SW' } },
  { id: 'bb', name: 'Boatbuilding', kind: 'course' as const, flag: { letters: 'BB' } },
  { id: 'fc', name: 'Food Chemistry', kind: 'course' as const, flag: { letters: 'FC' } },
  { id: 'sh', name: 'School', kind: 'school' as const, flag: { letters: 'SH' } },
  { id: 'hm', name: 'Home', kind: 'home' as const, flag: { letters: 'HM' } },
];
// Tuesday 6 October 2026, 16:10 in Dublin.
const read = (line: string) => quickAdd(line, { now: Date.parse('2026-10-06T15:10:00Z'), zone, calendars });

test.each([
  [
    'ceramics sketchbook fri 16:00 45min',
    {
      calendarId: 'ce',
      title: 'Sketchbook',
      kind: 'assignment',
      minutes: 45,
      when: { kind: 'instant', at: '2026-10-09T15:00:00Z', zone: 'Europe/Dublin' },
      end: null,
    },
  ],
  [
    'Ceramics · sketchbook · Fri 9 Oct 16:00 · 45 min',
    {
      calendarId: 'ce',
      title: 'Sketchbook',
      minutes: 45,
      when: { kind: 'instant', at: '2026-10-09T15:00:00Z', zone: 'Europe/Dublin' },
    },
  ],
  [
    'read chapter 5 by tomorrow ON',
    {
      calendarId: 'on',
      title: 'Read chapter 5',
      kind: 'reading',
      handIn: 'nothing',
      when: { kind: 'date', date: '2026-10-07' },
    },
  ],
  [
    'cello lesson tomorrow 17:00 40 min home',
    {
      calendarId: 'hm',
      title: 'Cello lesson',
      kind: 'lesson',
      minutes: 40,
      when: { kind: 'instant', at: '2026-10-07T16:00:00Z', zone: 'Europe/Dublin' },
      end: { kind: 'instant', at: '2026-10-07T16:40:00Z', zone: 'Europe/Dublin' },
    },
  ],
  [
    'home cello practice duet thu 17:30 - 18:15',
    {
      calendarId: 'hm',
      title: 'Cello practice duet',
      kind: 'meeting',
      when: { kind: 'instant', at: '2026-10-08T16:30:00Z', zone: 'Europe/Dublin' },
      end: { kind: 'instant', at: '2026-10-08T17:15:00Z', zone: 'Europe/Dublin' },
    },
  ],
  [
    'dentist on 3 November at 9:15',
    {
      title: 'Dentist',
      kind: 'meeting',
      when: { kind: 'instant', at: '2026-11-03T09:15:00Z', zone: 'Europe/Dublin' },
    },
  ],
  [
    'tidy the boat shed',
    { title: 'Tidy the boat shed', calendarId: null, when: null, kind: 'assignment', minutes: null },
  ],
  [
    'stats worksheet 1h30 5/11',
    { title: 'Worksheet', calendarId: 'sw', minutes: 90, when: { kind: 'date', date: '2026-11-05' } },
  ],
])('reads %j', (line, expected) => expect(read(line)).toMatchObject(expected));

test('a course is told from a word that merely holds its letters', () => {
  expect(read('lemon experiment').calendarId).toBeNull();
  expect(read('ocean navigation chart work').title).toBe('Chart work');
});

/** `Title · calendar · kind · Thu 8 Oct 15:30-16:15 · rule until` of what is understood, for reading. */
function said(line: string): string {
  const r = read(line);
  const at = (w: When | null) => {
    if (!w) return '';
    const [day, minute] = [shortDay(dayIn(w, zone)), minuteOf(w, zone)];
    return minute === null ? day : `${day} ${minuteWords(minute)}`;
  };
  const last =
    r.end?.kind === 'date'
      ? ` to ${shortDay(parseDate(r.end.date) - 1)}`
      : r.end
        ? `-${at(r.end).slice(-5)}`
        : '';
  const rule =
    r.repeat && r.when ? patternToRule({ ...r.repeat, until: null, count: null }, r.when, zone) : '';
  return [r.title, r.calendarId, r.kind, at(r.when) + last, rule, r.repeat?.until]
    .filter(Boolean)
    .join(' · ');
}

describe('lines as people type them', () => {
  test.each([
    // Hours at a school are between eight and seven, and evenings are evenings.
    ['cello thurs 3:30-4:15', 'Cello · meeting · Thu 8 Oct 15:30-16:15'],
    ['drama sat 10-12', 'Drama · meeting · Sat 10 Oct 10:00-12:00'],
    ['football mon 5-6.30pm', 'Football · meeting · Mon 12 Oct 17:00-18:30'],
    ['orchestra 1/2 past 4 weds', 'Orchestra · meeting · Wed 7 Oct 16:30'],
    ['quarter to 5 bus home', 'Bus home · meeting · Tue 6 Oct 16:45'],
    ['dentist thursday 1530', 'Dentist · meeting · Thu 8 Oct 15:30'],
    ['orthodontist 9.40 12 nov', 'Orthodontist · meeting · Thu 12 Nov 09:40'],
    ['film with nan tonight 8', 'Film with nan · meeting · Tue 6 Oct 20:00'],
    ['call grandma 4ish sun', 'Call grandma · assignment · Sun 11 Oct 16:00'],
    ['log due midnight sunday', 'Log · assignment · Sun 11 Oct 23:59'],
    ['sketch due 11:59 fri', 'Sketch · assignment · Fri 9 Oct 23:59'],
    // Days as they are misspelled, shortened and meant.
    ['tomorow buy milk', 'Buy milk · assignment · Wed 7 Oct'],
    ['dr appt 12th 8:45', 'Dr appt · meeting · Mon 12 Oct 08:45'],
    ['test on friday the 16th', 'Test · test · Fri 16 Oct'],
    ['essay thurs week', 'Essay · project · Thu 15 Oct'],
    ['a week on friday poster', 'Poster · assignment · Fri 16 Oct'],
    ['dentist in a fortnight 9am', 'Dentist · meeting · Tue 20 Oct 09:00'],
    ['mum’s birthday nov 3rd', 'Mum’s birthday · reminder · Tue 3 Nov'],
    ['parents evening 15 oct 18:30', 'Parents evening · meeting · Thu 15 Oct 18:30'],
    ['art homework due thurs 3 sept', 'Art homework · assignment · Thu 3 Sep'],
    ['tidy the shed 12.10.', 'Tidy the shed · assignment · Mon 12 Oct'],
    ['half term 26 oct - 30 oct', 'Half term · dayOff · Mon 26 Oct to Fri 30 Oct'],
    ['holiday 24-31 oct', 'Holiday · dayOff · Sat 24 Oct to Sat 31 Oct'],
    // A lesson typed after its hour is next week's; one that is still to come is today's.
    ['maths lesson tues 3:15pm', 'Maths lesson · lesson · Tue 13 Oct 15:15'],
    ['tutor tues 4.30 for 1 hour', 'Tutor · meeting · Tue 6 Oct 16:30-17:30'],
    // Repeats, with their end.
    [
      'piano every tues 4pm until xmas',
      'Piano · meeting · Tue 13 Oct 16:00 · FREQ=WEEKLY;BYDAY=TU · 2026-12-25',
    ],
    ['swim mon wed fri 7am', 'Swim · meeting · Wed 7 Oct 07:00 · FREQ=WEEKLY;BYDAY=MO,WE,FR'],
    [
      'drama club every other thursday 4-5',
      'Drama club · meeting · Thu 8 Oct 16:00-17:00 · FREQ=WEEKLY;INTERVAL=2;BYDAY=TH',
    ],
    [
      'band every mon 3:45-5 until 14 dec',
      'Band · meeting · Mon 12 Oct 15:45-17:00 · FREQ=WEEKLY;BYDAY=MO · 2026-12-14',
    ],
    ['guitar 20 min every day', 'Guitar · practice · Tue 6 Oct · FREQ=DAILY'],
    [
      'first monday of the month house meeting 5pm',
      'House meeting · meeting · Mon 2 Nov 17:00 · FREQ=MONTHLY;BYDAY=1MO',
    ],
    // Calendars by a shortened word, where it stands by itself; and not in the middle of what is to be done.
    ['food chem report 16 oct', 'Report · fc · assignment · Fri 16 Oct'],
    ['boat log fri', 'Log · bb · assignment · Fri 9 Oct'],
    ['long project boat model due 4 december 2h', 'Long project boat model · project · Fri 4 Dec'],
    ['ON chart ex 7 mon', 'Chart ex 7 · on · assignment · Mon 12 Oct'],
    ['school trip 20 oct', 'School trip · sh · trip · Tue 20 Oct'],
    ['no school fri 20 nov', 'No school · dayOff · Fri 20 Nov'],
    // Numbers and months that are none of it.
    ['problem set 3.15 due wed', 'Problem set 3.15 · assignment · Wed 7 Oct'],
    ['pages 10-12 by wed', 'Pages 10-12 · reading · Wed 7 Oct'],
    ['ask about chapter may', 'Ask about chapter may · assignment'],
    ['essay 1500 words due 20 nov', 'Essay 1500 words · project · Fri 20 Nov'],
    ['revise for chem test tmrw', 'Revise for chem test · practice · Wed 7 Oct'],
    ['exam 9-12 mon 19 oct', 'Exam · test · Mon 19 Oct 09:00-12:00'],
  ])('%s', (line, expected) => expect(said(line)).toBe(expected));

  test('what may be meant otherwise is said, and each choice leaves no doubt', () => {
    for (const line of [
      'essay thurs week',
      'trip next friday',
      'choir 7 thurs',
      'essay tues',
      'party fri 10 oct',
      'sat+sun first aid 10-4',
    ]) {
      const { doubts } = read(line);
      expect(doubts).toHaveLength(1);
      for (const { text } of doubts[0]!.choices) {
        const sure = line.slice(0, doubts[0]!.from) + text + line.slice(doubts[0]!.to);
        expect({ sure, doubts: read(sure).doubts }).toEqual({ sure, doubts: [] });
      }
    }
  });

  test('whatever is typed: marks stand in the line, in order and apart; the title is made of its words', () => {
    const word = fc.constantFrom(
      ...'essay fri 12th 10-4 oct 3:30 pm every mon and until xmas half past 4 2h next week due ceramics ON · , 24-31 12.10. in 2 weeks tomorow 1530 noon'.split(
        ' ',
      ),
      'É',
      '🎻',
    );
    fc.assert(
      fc.property(fc.array(fc.oneof(word, fc.string({ maxLength: 6 })), { maxLength: 12 }), (words) => {
        const line = words.join(' ');
        const { marks, title } = read(line);
        let at = 0;
        for (const { from, to } of marks) {
          expect(from).toBeGreaterThanOrEqual(at);
          expect(to).toBeGreaterThan(from);
          at = to;
        }
        expect(at).toBeLessThanOrEqual(line.length);
        const all = line.toLowerCase();
        for (const part of title.toLowerCase().split(' ')) expect(all).toContain(part);
      }),
    );
  });
});
