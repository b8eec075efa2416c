import { ianaZone } from '../time/zone';
import { quickAdd } from './quick-add';

const zone = ianaZone('Europe/Dublin')!;
const calendars = [
  { id: 'ce', name: 'Ceramics Studio', kind: 'course' as const, flag: { letters: 'CE' } },
  { id: 'on', name: 'Ocean Navigation', kind: 'course' as const, flag: { letters: 'ON' } },
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
    { title: 'Stats worksheet', minutes: 90, when: { kind: 'date', date: '2026-11-05' } },
  ],
])('reads %j', (line, expected) => expect(read(line)).toMatchObject(expected));

test('a course is told from a word that merely holds its letters', () => {
  expect(read('lemon experiment').calendarId).toBeNull();
  expect(read('ocean navigation chart work').title).toBe('Chart work');
});
