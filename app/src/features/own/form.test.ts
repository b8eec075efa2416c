import type { OwnItem } from '@zephyrfield/core/item/own';
import { ianaZone } from '@zephyrfield/core/time/zone';
import { EMPTY, PURPOSE_KINDS, fieldsOf, itemOf, purposeOf, type Fields } from './form';

const zone = ianaZone('Europe/Dublin')!;
const fields = (more: Partial<Fields>): Fields => ({
  ...EMPTY,
  title: 'Rehearsal',
  calendarId: 'hm',
  day: '2026-10-12',
  lastDay: '2026-10-12',
  ...more,
});
const at = (text: string) => ({ kind: 'instant' as const, at: text, zone: 'Europe/Dublin' });

test.each<[string, Partial<Fields>, Partial<OwnItem>]>([
  [
    'work due at an hour',
    { time: '16:00' },
    { kind: 'assignment', when: at('2026-10-12T15:00:00Z'), end: null, handIn: 'paper' },
  ],
  ['work due on a day', {}, { when: { kind: 'date', date: '2026-10-12' }, end: null }],
  ['work without a date', { day: '' }, { when: null }],
  [
    'somewhere to be',
    { purpose: 'be', kind: 'meeting', time: '18:00', until: '19:30' },
    { when: at('2026-10-12T17:00:00Z'), end: at('2026-10-12T18:30:00Z'), handIn: 'nothing' },
  ],
  [
    'a break of a week, its end the day after',
    { purpose: 'off', kind: 'dayOff', lastDay: '2026-10-16' },
    { when: { kind: 'date', date: '2026-10-12' }, end: { kind: 'date', date: '2026-10-17' } },
  ],
  ['an hour that clocks skip', { day: '2027-03-28', time: '01:30' }, { when: at('2027-03-28T01:30:00Z') }],
  [
    'every Monday and Wednesday',
    { repeats: 'week', weekdays: [1, 3], ends: 'on', endsOn: '2026-12-16' },
    { repeat: { rule: 'FREQ=WEEKLY;BYDAY=MO,WE;UNTIL=20261216', except: [] } },
  ],
])('%s', (_what, more, expected) => expect(itemOf(fields(more), zone).item).toMatchObject(expected));

test.each<[Partial<Fields>, keyof Fields, string]>([
  [{ title: '  ' }, 'title', 'Say what it is.'],
  [{ calendarId: '' }, 'calendarId', 'Choose a calendar.'],
  [{ purpose: 'be', kind: 'meeting', day: '' }, 'day', 'Say on which day.'],
  [{ day: '2026-11-31' }, 'day', 'There is no such day.'],
  [
    { purpose: 'be', kind: 'meeting', time: '18:00', until: '17:00' },
    'until',
    'The end comes after the beginning.',
  ],
  [
    { purpose: 'off', kind: 'dayOff', lastDay: '2026-10-11' },
    'lastDay',
    'The last day comes after the first.',
  ],
  [{ repeats: 'week', ends: 'on', endsOn: '2026-10-01' }, 'endsOn', 'That is before it begins.'],
  [{ repeats: 'week', ends: 'on', endsOn: '' }, 'endsOn', 'Say until which day.'],
])('%j is wrong at %s', (more, field, words) =>
  expect(itemOf(fields(more), zone).errors).toMatchObject({ [field]: words }),
);

test('an item in the form and out again is the same, and of the same kind', () => {
  for (const purpose of ['be', 'do', 'remind', 'long', 'off'] as const) {
    const { item } = itemOf(
      fields({
        purpose,
        kind: PURPOSE_KINDS[purpose][0]!,
        time: purpose === 'be' || purpose === 'do' ? '09:15' : '',
        until: purpose === 'be' ? '10:00' : '',
        repeats: 'month',
        monthBy: 'weekday',
        ends: 'after',
        count: '4',
      }),
      zone,
    );
    expect(purposeOf(item!)).toBe(purpose);
    expect(itemOf(fieldsOf(item!, 'hm', zone), zone).item).toEqual(item);
  }
});

test('a rule the form has no words for is kept as it is', () => {
  const { item } = itemOf(fields({ otherRule: 'FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=-1' }), zone);
  expect(fieldsOf(item!, 'hm', zone)).toMatchObject({
    repeats: 'no',
    otherRule: 'FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=-1',
  });
  expect(itemOf(fieldsOf(item!, 'hm', zone), zone).item!.repeat!.rule).toBe(
    'FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=-1',
  );
});
