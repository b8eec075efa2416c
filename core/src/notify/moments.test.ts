import fc from 'fast-check';
import { DAY, HOUR, MINUTE, parseInstant } from '../time/civil';
import { instantOf, type When } from '../time/when';
import { ianaZone, type Zone } from '../time/zone';
import { momentsBetween, momentsOf, type Remindable } from './moments';
import { DEFAULT_REMINDERS, leadOf, ruleWords, rulesFor, type RemindRule } from './rules';

const dublin = ianaZone('Europe/Dublin')!;
const tokyo = ianaZone('Asia/Tokyo')!;
const at = (text: string): When => ({ kind: 'instant', at: text, zone: 'Europe/Dublin' });
const work: Remindable = {
  kind: 'assignment',
  handIn: 'paper',
  status: 'confirmed',
  start: at('2026-10-08T15:00:00Z'),
  end: null,
  due: at('2026-10-08T15:00:00Z'),
  aim: null,
  finished: false,
  hidden: false,
};
const times = (item: Remindable, rules: readonly RemindRule[], zone: Zone = dublin) =>
  momentsOf(item, rules, zone).map((m) => new Date(m.at).toISOString().slice(0, 16));

describe('when one is reminded', () => {
  test('to hand in: the evening before at 18:00, and three hours ahead', () => {
    expect(times(work, DEFAULT_REMINDERS.work)).toEqual(['2026-10-07T17:00', '2026-10-08T12:00']);
  });
  test('across the change of the clocks the evening stays at 18:00 on the wall', () => {
    // Dublin leaves summer time on 25 October 2026.
    expect(
      times({ ...work, due: at('2026-10-26T16:00:00Z') }, [
        { kind: 'day', days: 2, minute: 1080 },
        { kind: 'day', days: 1, minute: 1080 },
      ]),
    ).toEqual(['2026-10-24T17:00', '2026-10-25T18:00']);
  });
  test('a whole day’s work is in time until the day ends', () => {
    const day: When = { kind: 'date', date: '2026-10-08' };
    const online: Remindable = { ...work, handIn: 'unknown', start: day, due: day };
    expect(times(online, DEFAULT_REMINDERS.work)).toEqual(['2026-10-07T17:00', '2026-10-08T20:00']);
    expect(times(online, DEFAULT_REMINDERS.work, tokyo)).toEqual(['2026-10-07T09:00', '2026-10-08T12:00']);
    // Paper is handed in during a lesson of that day: three hours before midnight that is over.
    for (const handIn of ['paper', 'inClass'] as const)
      expect(times({ ...online, handIn }, DEFAULT_REMINDERS.work)).toEqual(['2026-10-07T17:00']);
  });
  test('a deadline in the small hours is reminded of the evening before that night', () => {
    const night: Remindable = { ...work, due: at('2026-10-08T23:59:00Z') };
    const viewer = Object.assign(Object.create(dublin) as Zone, { nightUntil: 4 });
    expect(times(night, DEFAULT_REMINDERS.work, viewer)).toEqual(['2026-10-07T17:00', '2026-10-08T20:59']);
  });
  test('a test that was made known late is told of the evening before and three hours ahead as well', () => {
    const test: Remindable = { ...work, kind: 'test' };
    const known = (text: string) =>
      times({ ...test, knownSince: parseInstant(text) }, DEFAULT_REMINDERS.test);
    expect(known('2026-09-01T00:00:00Z')).toEqual(['2026-10-01T17:00', '2026-10-06T17:00']);
    expect(known('2026-10-07T10:00:00Z').slice(-2)).toEqual(['2026-10-07T17:00', '2026-10-08T12:00']);
    // It closes at 15:00: made known two hours, and ten minutes, before that, there is still a word in time.
    expect(known('2026-10-08T13:00:00Z').at(-1)).toBe('2026-10-08T14:00');
    expect(known('2026-10-08T14:50:00Z').at(-1)).toBe('2026-10-08T14:55');
  });
  test('to be somewhere: a quarter of an hour; a trip of a whole day, the evening before; a birthday, that morning', () => {
    const lesson: Remindable = {
      ...work,
      kind: 'meeting',
      start: at('2026-10-08T15:00:00Z'),
      end: at('2026-10-08T16:00:00Z'),
      due: null,
    };
    expect(times(lesson, DEFAULT_REMINDERS.place)).toEqual(['2026-10-08T14:45']);
    const day: When = { kind: 'date', date: '2026-10-08' };
    expect(times({ ...lesson, kind: 'trip', start: day, end: null }, DEFAULT_REMINDERS.place)).toEqual([
      '2026-10-07T17:00',
    ]);
    expect(times({ ...lesson, kind: 'reminder', start: day, end: null }, DEFAULT_REMINDERS.note)).toEqual([
      '2026-10-08T07:00',
    ]);
  });
  test('a test at its hours is told the evening before and an hour ahead: one has to be there', () => {
    const exam: Remindable = {
      ...work,
      kind: 'test',
      start: at('2026-10-19T08:00:00Z'),
      end: at('2026-10-19T11:00:00Z'),
      due: null,
    };
    expect(times(exam, DEFAULT_REMINDERS.test)).toEqual([
      '2026-10-12T17:00',
      '2026-10-17T17:00',
      '2026-10-18T17:00',
      '2026-10-19T07:00',
    ]);
  });
  test('with an aim, by that, and once on the day it is due; never after what it is for', () => {
    const aimed = momentsOf(
      { ...work, aim: { kind: 'date', date: '2026-10-06' } },
      DEFAULT_REMINDERS.work,
      dublin,
    );
    expect(aimed.map((m) => [m.of, new Date(m.at).toISOString().slice(0, 16)])).toEqual([
      ['aim', '2026-10-05T17:00'],
      ['due', '2026-10-08T12:00'],
    ]);
    expect(
      times(work, [
        { kind: 'moment', local: '2026-10-09T08:00:00' },
        { kind: 'day', days: 0, minute: 1200 },
      ]),
    ).toEqual([]);
  });
  test('past due only of what is handed in online, twice and no more', () => {
    expect(
      momentsOf({ ...work, handIn: 'online' }, [], dublin).map((m) => [m.of, new Date(m.at).toISOString()]),
    ).toEqual([
      ['pastDue', '2026-10-09T15:00:00.000Z'],
      ['pastDue', '2026-10-11T15:00:00.000Z'],
    ]);
    for (const handIn of ['paper', 'nothing', 'inClass'] as const)
      expect(momentsOf({ ...work, handIn }, [], dublin)).toEqual([]);
    // A quiz that has closed cannot be taken any more.
    expect(momentsOf({ ...work, kind: 'test', handIn: 'online' }, [], dublin)).toEqual([]);
  });
  test('a feed’s alarms in place of the rules: relative, in days on the wall clock, at a moment (RFC 5545 3.8.6.3)', () => {
    const alarm = (trigger: object) => ({ action: 'DISPLAY', description: null, trigger }) as never;
    const alarms = [
      alarm({ relativeTo: 'end', length: { days: -1, ms: 0 } }),
      alarm({ relativeTo: 'start', length: { days: 0, ms: -30 * MINUTE } }),
      alarm({ at: at('2026-10-01T07:00:00Z') }),
    ];
    const found = momentsOf(work, DEFAULT_REMINDERS.work, dublin, alarms).map((m) =>
      new Date(m.at).toISOString().slice(0, 16),
    );
    expect(found).toEqual(['2026-10-01T07:00', '2026-10-07T15:00', '2026-10-08T14:30']);
  });
});

const rule: fc.Arbitrary<RemindRule> = fc.oneof(
  fc.record({ kind: fc.constant('ahead' as const), minutes: fc.integer({ min: 0, max: 3000 }) }),
  fc.record({
    kind: fc.constant('day' as const),
    days: fc.integer({ min: 0, max: 9 }),
    minute: fc.integer({ min: 0, max: 1439 }),
  }),
);
const when = fc
  .integer({
    min: parseInstant('2026-10-20T00:00:00Z') / MINUTE,
    max: parseInstant('2026-10-30T00:00:00Z') / MINUTE,
  })
  .map((m) => instantOf(m * MINUTE, 'Europe/Dublin'));
const item = fc
  .record({
    due: when,
    kind: fc.constantFrom('assignment', 'meeting', 'test'),
    handIn: fc.constantFrom('online', 'paper'),
    aim: fc.option(when, { nil: null }),
  })
  .map((p): Remindable => ({
    ...work,
    ...(p as Pick<Remindable, 'kind' | 'handIn' | 'aim' | 'due'>),
    start: p.due,
  }));

describe('over any history', () => {
  test('moments lie before what they are for, each once, in order; what is finished, hidden or called off has none', () => {
    fc.assert(
      fc.property(item, fc.array(rule, { maxLength: 5 }), (i, rules) => {
        const all = momentsOf(i, rules, dublin);
        for (const m of all) expect(m.of === 'pastDue' ? m.at > m.anchor : m.at <= m.anchor).toBe(true);
        expect(all.map((m) => m.at)).toEqual([...new Set(all.map((m) => m.at))].sort((a, b) => a - b));
        for (const off of [{ finished: true }, { hidden: true }, { status: 'cancelled' as const }])
          expect(momentsOf({ ...i, ...off }, rules, dublin)).toEqual([]);
      }),
    );
  });
  test('an instant moved by whole hours moves its relative moments as far', () => {
    fc.assert(
      fc.property(
        when,
        fc.integer({ min: -48, max: 48 }),
        fc.integer({ min: 0, max: 3000 }),
        (due, hours, minutes) => {
          const base = { ...work, due, start: due };
          const later = instantOf(parseInstant((due as { at: string }).at) + hours * HOUR, 'Europe/Dublin');
          const [a] = momentsOf(base, [{ kind: 'ahead', minutes }], dublin);
          const [b] = momentsOf({ ...base, due: later, start: later }, [{ kind: 'ahead', minutes }], dublin);
          expect(b!.at - a!.at).toBe(hours * HOUR);
        },
      ),
    );
  });
  test('however often and when the machine wakes, and however its clock jumps ahead, each moment is met exactly once', () => {
    fc.assert(
      fc.property(
        fc.array(item, { maxLength: 6 }),
        fc.array(rule, { minLength: 1, maxLength: 4 }),
        fc.array(fc.integer({ min: 1, max: 4 * DAY }), { minLength: 1, maxLength: 40 }),
        (items, rules, sleeps) => {
          const all = items.flatMap((i, n) => momentsOf(i, rules, dublin).map((m) => `${n} ${m.at}`));
          let now = parseInstant('2026-10-01T00:00:00Z');
          const met: string[] = [];
          const wake = (to: number) => {
            items.forEach((i, n) =>
              met.push(...momentsBetween(momentsOf(i, rules, dublin), now, to).map((m) => `${n} ${m.at}`)),
            );
            now = to;
          };
          for (const ms of sleeps) wake(now + ms);
          wake(parseInstant('2026-12-01T00:00:00Z'));
          expect(met.sort()).toEqual(all.sort());
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('whose rules hold', () => {
  const none = { item: null, calendar: null, learner: null };
  const lesson = { kind: 'lesson' as const, calendarKind: 'school' as const };
  test('the item’s own, else its calendar’s, else the schedule’s, else what holds to begin with', () => {
    const [a, b, c] = [
      [{ kind: 'ahead' as const, minutes: 1 }],
      [{ kind: 'ahead' as const, minutes: 2 }],
      [{ kind: 'ahead' as const, minutes: 3 }],
    ];
    const of = { kind: 'assignment' as const, calendarKind: 'course' as const };
    expect(rulesFor(of, { item: a, calendar: { work: b }, learner: { work: c } })).toBe(a);
    expect(rulesFor(of, { item: null, calendar: { work: b }, learner: { work: c } })).toBe(b);
    expect(rulesFor(of, { item: null, calendar: { test: b }, learner: { work: c } })).toBe(c);
    expect(rulesFor(of, none)).toBe(DEFAULT_REMINDERS.work);
    expect(rulesFor({ ...of, kind: 'dayOff' }, none)).toEqual([]);
  });
  test('a timetable’s lessons are not told of unless its calendar says so; a cello lesson at home is', () => {
    expect(rulesFor(lesson, { ...none, learner: { place: [{ kind: 'ahead', minutes: 10 }] } })).toEqual([]);
    expect(rulesFor(lesson, { ...none, calendar: { place: [{ kind: 'ahead', minutes: 10 }] } })).toHaveLength(
      1,
    );
    expect(rulesFor({ ...lesson, calendarKind: 'home' }, none)).toEqual(DEFAULT_REMINDERS.place);
  });
  test('in words, and how far they look', () => {
    expect(
      [
        ...DEFAULT_REMINDERS.work,
        ...DEFAULT_REMINDERS.test,
        ...DEFAULT_REMINDERS.place,
        ...DEFAULT_REMINDERS.note,
      ].map((r) => ruleWords(r)),
    ).toEqual([
      'the evening before at 18:00',
      '3 hours before',
      '1 week before at 18:00',
      '2 days before at 18:00',
      '15 minutes before',
      'when it begins',
    ]);
    expect(ruleWords({ kind: 'moment', local: '2026-10-07T18:00:00' }, 12)).toBe('on 2026-10-07 at 6:00 pm');
    expect(Math.max(...DEFAULT_REMINDERS.test.map(leadOf))).toBe(8 * 1440);
  });
});
