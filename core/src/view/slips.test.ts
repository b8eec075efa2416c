import { at, date as day, dueAt } from '../../test/occurrence';
import type { OccurrenceView } from '../item/occurrence';
import { parseDate } from '../time/civil';
import { ianaZone } from '../time/zone';
import { agendaEntry, aimEntry } from './entry';
import { opensWords, slipDetail, slipGist, slipNote, slipTime, spokenSlip } from './slips';

const DUBLIN = ianaZone('Europe/Dublin')!;
const NOW = Date.parse('2026-10-06T15:10:00Z');
const DAY0 = parseDate('2026-10-06');
const make = (changes: Partial<OccurrenceView>) =>
  dueAt(at('2026-10-07T19:00:00Z'), { title: 'Sampling quiz', kind: 'test', ...changes });
const entry = (changes: Partial<OccurrenceView>) => agendaEntry(make(changes), NOW, DUBLIN);

test('the time on a slip: a clock time, a date where there is none, a span for where to be', () => {
  expect(slipTime(entry({}), DUBLIN)).toBe('20:00');
  expect(slipTime(entry({ due: day('2026-10-07') }), DUBLIN)).toBe('7 Oct');
  expect(
    slipTime(
      entry({
        kind: 'lesson',
        due: null,
        start: at('2026-10-07T08:10:00Z'),
        end: at('2026-10-07T09:50:00Z'),
      }),
      DUBLIN,
    ),
  ).toBe('09:10 – 10:50');
  expect(
    slipTime(entry({ kind: 'dayOff', due: null, start: day('2026-10-26'), end: day('2026-10-31') }), DUBLIN),
  ).toBe('Mon 26 Oct to Fri 30 Oct');
});

test('the gist: its day once, and how far off that is unless it lasts just now', () => {
  const gist = (changes: Partial<OccurrenceView>) => slipGist(entry(changes), DUBLIN, NOW);
  expect(gist({})).toBe('Due Wednesday 7 October, 20:00 · tomorrow');
  expect(gist({ due: day('2026-10-06') })).toBe('Due Tuesday 6 October · today');
  const lesson = {
    kind: 'lesson',
    due: null,
    start: at('2026-10-05T08:10:00Z'),
    end: at('2026-10-05T09:50:00Z'),
  } as const;
  expect(gist(lesson)).toBe('Monday 5 October, 09:10 – 10:50 · yesterday');
  const long = (first: string, end: string) =>
    gist({ kind: 'dayOff', due: null, start: day(first), end: day(end) });
  expect(long('2026-10-26', '2026-10-31')).toBe('Mon 26 Oct to Fri 30 Oct · in 3 weeks');
  expect(long('2026-10-05', '2026-10-10')).toBe('Mon 5 Oct to Fri 9 Oct');
  expect(long('2026-10-01', '2026-10-03')).toBe('Thu 1 Oct to Fri 2 Oct · 5 days ago');
  expect(slipGist(aimEntry(entry({ aim: day('2026-10-05') }), DUBLIN)!, DUBLIN, NOW)).toBe(
    'Your aim Monday 5 October · yesterday',
  );
});

test('a window says when it opens, and only then', () => {
  expect(opensWords(make({ start: at('2026-10-07T07:00:00Z') }), DUBLIN)).toBe('opens 08:00');
  expect(opensWords(make({ start: at('2026-10-05T07:00:00Z') }), DUBLIN)).toBe('opens Mon 5 Oct 08:00');
  expect(opensWords(make({ start: day('2026-10-05'), due: day('2026-10-07') }), DUBLIN)).toBe(
    'opens Mon 5 Oct',
  );
  expect(opensWords(make({}), DUBLIN)).toBeNull();
  expect(slipDetail(entry({ start: at('2026-10-07T07:00:00Z') }), DUBLIN)).toBe('test · opens 08:00');
});

test('the small print: what it is and how it is handed in, or where to be', () => {
  expect(slipDetail(entry({ handIn: 'paper' }), DUBLIN)).toBe('test · hand in on paper');
  expect(slipDetail(entry({ handIn: 'unknown' }), DUBLIN)).toBe('test');
  expect(slipDetail(entry({ kind: 'meeting', due: null, place: 'Slip 2' }), DUBLIN)).toBe('Slip 2');
});

test('the note under a day: how long what is past has been so, near days in words, nothing for what is far', () => {
  expect(slipNote(entry({}), DUBLIN, DAY0)).toBe('tomorrow');
  expect(slipNote(entry({ due: at('2026-10-01T19:00:00Z') }), DUBLIN, DAY0)).toBe('5 days ago');
  expect(slipNote(entry({ due: at('2026-10-20T19:00:00Z') }), DUBLIN, DAY0)).toBeUndefined();
});

test('without a heading that says the day, each slip says it once', () => {
  const note = (changes: Partial<OccurrenceView>) => slipNote(entry(changes), DUBLIN, DAY0, false);
  expect(note({ due: at('2026-10-06T19:00:00Z') })).toBe('today');
  expect(note({})).toBe('tomorrow');
  expect(note({ due: at('2026-10-20T19:00:00Z') })).toBe('Tue 20 Oct');
  expect(note({ due: at('2026-10-01T19:00:00Z') })).toBe('Thu 1 Oct');
  expect(note({ due: at('2026-10-01T19:00:00Z'), finished: true })).toBe('Thu 1 Oct');
  expect(note({ due: day('2026-10-20') })).toBe('Tuesday');
  expect(note({ due: day('2026-10-01') })).toBe('5 days ago');
  expect(note({ undated: true })).toBeUndefined();
});

test('spoken whole: what, whose, when, how, and how it stands', () => {
  const calendar = {
    id: 'c',
    learnerId: 'l',
    name: 'Statistics',
    kind: 'course',
    colour: 'violet',
    flag: { shape: 'guidon', pattern: 'chevron', letters: 'SW' },
    category: '',
    zone: 'Europe/Dublin',
    position: 1,
    handMade: false,
    reminders: null,
    alarms: 'ignore',
  } as const;
  expect(spokenSlip(entry({ start: at('2026-10-07T07:00:00Z') }), calendar.name, DUBLIN)).toBe(
    'Sampling quiz, Statistics, test, due Wednesday 7 October, 20:00, opens 08:00, hand in online, soon',
  );
  expect(spokenSlip(entry({ kind: 'meeting', due: null, place: 'Slip 2' }), undefined, DUBLIN)).toBe(
    'Sampling quiz, meeting, Wednesday 7 October, 20:00, Slip 2',
  );
});
