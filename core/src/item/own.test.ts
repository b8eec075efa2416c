import fc from 'fast-check';
import { OwnItem } from '../api/own';
import { patternToRule, patternWords, ruleToPattern, onDaysOff, type Pattern } from '../recurrence/pattern';
import { DAY, dayNumber, formatDate } from '../time/civil';
import { instantIn, recurrenceIdOf, type When } from '../time/when';
import { whenOn } from '../time/shift';
import { ianaZone } from '../time/zone';
import { contentFrom, contentText } from '../ical/content';
import { changeOne, contentOf, ownOf, splitAt, timesOf, type OwnItem as Own } from './own';

const zone = ianaZone('Europe/Dublin')!;
const zones = (name: string) => ianaZone(name)!;
const at = (text: string): When => ({ kind: 'instant', at: text, zone: 'Europe/Dublin' });
const own: Own = {
  kind: 'lesson',
  handIn: 'nothing',
  title: 'Cello',
  place: 'Hall',
  details: '',
  when: at('2026-10-05T15:00:00Z'),
  end: at('2026-10-05T15:45:00Z'),
  repeat: null,
  changes: [],
};
const span = {
  from: Date.parse('2026-09-01T00:00:00Z'),
  to: Date.parse('2027-03-01T00:00:00Z'),
  zone,
  zones,
};
const weekly = (rule: string): Own => ({ ...own, repeat: { rule, except: [] } });
const keys = (item: Own | null) => (item ? timesOf(item, span).map(recurrenceIdOf) : []);

describe('patterns', () => {
  const start = own.when!;
  const plain: Pattern = {
    every: 'week',
    interval: 1,
    weekdays: [1, 3],
    monthBy: 'date',
    until: null,
    count: null,
  };
  test.each<[Partial<Pattern>, string]>([
    [{ until: '2026-12-16' }, 'every Monday and Wednesday until 16 December'],
    [{ weekdays: [1, 2, 3, 4, 5] }, 'every weekday'],
    [{ interval: 2, weekdays: [1] }, 'every second week on Monday'],
    [{ every: 'day', count: 5 }, 'every day, 5 times'],
    [{ every: 'month' }, 'every month on the 5th'],
    [{ every: 'month', monthBy: 'weekday', interval: 3 }, 'every 3rd month on the first Monday'],
    [{ every: 'year' }, 'every year on 5 October'],
  ])('%j is said as %j', (part, words) =>
    expect(patternWords({ ...plain, ...part }, start, zone, 2026)).toBe(words),
  );
  test('a pattern survives being a rule; a rule that says more has no pattern', () => {
    const pattern = fc.record({
      every: fc.constantFrom<Pattern['every']>('day', 'week', 'month', 'year'),
      interval: fc.integer({ min: 1, max: 9 }),
      weekdays: fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1 }).map((d) => d.sort()),
      monthBy: fc.constantFrom<Pattern['monthBy']>('date', 'weekday'),
      until: fc.option(fc.integer({ min: 20_740, max: 21_500 }).map(formatDate)),
      count: fc.option(fc.integer({ min: 1, max: 60 })),
    });
    fc.assert(
      fc.property(pattern, (p) => {
        const asked = { ...p, until: p.count === null ? p.until : null };
        const back = ruleToPattern(patternToRule(asked, start, zone), start, zone)!;
        expect(back).toMatchObject({
          every: asked.every,
          interval: asked.interval,
          until: asked.until,
          count: asked.count,
        });
        if (asked.every === 'week') expect(back.weekdays).toEqual(asked.weekdays);
        if (asked.every === 'month') expect(back.monthBy).toBe(asked.monthBy);
      }),
    );
    expect(ruleToPattern('FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=-1', start, zone)).toBeNull();
    expect(ruleToPattern('FREQ=HOURLY', start, zone)).toBeNull();
  });
  test('days off are left out', () => {
    const times = timesOf(weekly('FREQ=WEEKLY;BYDAY=MO,WE;COUNT=10'), span);
    const off = onDaysOff(times, [{ from: dayNumber(2026, 10, 26), to: dayNumber(2026, 10, 30) }], zone);
    expect(off.map(recurrenceIdOf)).toEqual(['2026-10-26T16:00:00Z', '2026-10-28T16:00:00Z']);
  });
});

describe('own items', () => {
  test('are written and read back as they were', () => {
    const moved = changeOne(
      changeOne(weekly('FREQ=WEEKLY;COUNT=8'), at('2026-10-12T15:00:00Z'), {
        when: at('2026-10-13T16:00:00Z'),
        title: 'Cello, with piano',
      }),
      at('2026-10-19T15:00:00Z'),
      {
        details: 'Bring rosin',
      },
    );
    const back = ownOf(contentFrom(contentText(contentOf(moved, 'u'))), moved);
    expect(back).toEqual(moved);
    expect(
      ownOf(contentOf({ ...own, kind: 'reading', when: null, end: null }, 'u'), {
        kind: 'reading',
        handIn: 'nothing',
      }).when,
    ).toBeNull();
  });
  test('a date that was moved keeps its length; one called off is left out; the hour stays over a change of clocks', () => {
    const item = changeOne(
      changeOne(weekly('FREQ=WEEKLY;COUNT=4'), at('2026-10-12T15:00:00Z'), {
        when: at('2026-10-13T16:00:00Z'),
      }),
      at('2026-10-19T15:00:00Z'),
      { calledOff: true },
    );
    expect(keys(item)).toEqual(['2026-10-05T15:00:00Z', '2026-10-13T16:00:00Z', '2026-10-26T16:00:00Z']);
    expect(contentOf(item, 'u').overrides[0]!.end).toEqual(at('2026-10-13T16:45:00Z'));
  });
  test('parted in two, both together stand where the whole stood, in any place and by any rule', () => {
    const rule = fc.constantFrom(
      'FREQ=WEEKLY;BYDAY=MO,WE',
      'FREQ=DAILY;COUNT=40',
      'FREQ=WEEKLY;INTERVAL=2;UNTIL=20261216T235959Z',
      'FREQ=MONTHLY;COUNT=4',
      'FREQ=WEEKLY;BYDAY=MO,TH;COUNT=20',
    );
    fc.assert(
      fc.property(rule, fc.nat(12), fc.nat(12), (text, place, off) => {
        const plain = weekly(text);
        const times = timesOf(plain, span);
        const whole = changeOne(plain, times[off % times.length]!, { calledOff: true });
        const of = times[place % times.length]!;
        const { before, after } = splitAt(whole, of, zone, zones);
        // What begins at a date that is called off still begins there.
        expect([...keys(before), ...keys(after)].sort()).toEqual(keys(whole).sort());
        expect(keys(before).every((k) => k < recurrenceIdOf(of))).toBe(true);
      }),
      { numRuns: 80 },
    );
  });
  test('a move to another day keeps the hour on the wall clock', () => {
    const moved = whenOn(own.when!, dayNumber(2026, 10, 27), zone);
    expect(moved).toEqual(at('2026-10-27T16:00:00Z'));
    expect(instantIn(moved, zone) % DAY).toBe(16 * 3_600_000);
    expect(whenOn({ kind: 'date', date: '2026-10-05' }, 20_740, zone)).toEqual({
      kind: 'date',
      date: formatDate(20_740),
    });
  });
  test.each([
    [{ title: ' ' }, 'title'],
    [{ end: at('2026-10-05T14:00:00Z') }, 'end'],
    [{ title: 'x'.repeat(10_000) }, 'title'],
    [{ when: { kind: 'date', date: '2026-11-31' } as When, end: null }, 'when.date'],
    [{ when: null, end: null }, 'when'],
    [{ repeat: { rule: 'FREQ=SOMETIMES', except: [] } }, 'repeat.rule'],
    [{ repeat: { rule: 'FREQ=SECONDLY', except: [] } }, 'repeat.rule'],
    [{ repeat: { rule: 'FREQ=DAILY;BYHOUR=1,2,3;BYMINUTE=0,1,2', except: [] } }, 'repeat.rule'],
    [{ kind: 'assignment' as const }, 'end'],
  ])('%j is refused at its field', (part, path) => {
    const result = OwnItem.safeParse({ ...own, ...part });
    expect(result.error?.issues.map((i) => i.path.join('.'))).toContain(path);
  });
});
