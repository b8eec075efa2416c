import fc from 'fast-check';
import {
  DAY,
  HOUR,
  civilDate,
  dayNumber,
  daysInMonth,
  daysInYear,
  formatDate,
  formatLocal,
  parseDate,
  parseLocal,
  weekday,
} from '../time/civil';
import { expandRule, type ExpandOptions } from './expand';
import { RuleError, parseRule, type Rule } from './rule';

const open: ExpandOptions = {
  allDay: false,
  from: -Infinity,
  to: parseLocal('2100-01-01T00:00:00'),
  toInstant: (l) => l,
  exists: () => true,
};
const times = (rule: string, start: string, options: Partial<ExpandOptions> = {}, limit = 1000) =>
  expandRule(
    parseRule(rule),
    parseLocal(start),
    { ...open, from: parseLocal(start), ...options },
    limit,
  ).times.map(formatLocal);
const dates = (rule: string, start: string, to = '2100-01-01') =>
  expandRule(
    parseRule(rule),
    parseDate(start) * DAY,
    { ...open, allDay: true, from: parseDate(start) * DAY, to: parseDate(to) * DAY },
    1000,
  ).times.map((t) => formatDate(t / DAY));

describe('worked examples of RFC 5545 3.8.5.3', () => {
  test('every other week on Monday, Wednesday and Friday, weeks starting on Sunday', () => {
    expect(dates('FREQ=WEEKLY;INTERVAL=2;WKST=SU;BYDAY=MO,WE,FR;COUNT=7', '1997-09-01')).toEqual([
      '1997-09-01',
      '1997-09-03',
      '1997-09-05',
      '1997-09-15',
      '1997-09-17',
      '1997-09-19',
      '1997-09-29',
    ]);
  });
  test('the second-to-last weekday of the month', () => {
    expect(dates('FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2;COUNT=4', '1997-09-29')).toEqual([
      '1997-09-29',
      '1997-10-30',
      '1997-11-27',
      '1997-12-30',
    ]);
  });
  test('every Friday the 13th', () => {
    expect(dates('FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13;COUNT=4', '1997-09-02')).toEqual([
      '1998-02-13',
      '1998-03-13',
      '1998-11-13',
      '1999-08-13',
    ]);
  });
  test('Monday of week number 20', () => {
    expect(dates('FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO;COUNT=3', '1997-05-12')).toEqual([
      '1997-05-12',
      '1998-05-11',
      '1999-05-17',
    ]);
  });
  test('the first, hundredth and two-hundredth day every third year', () => {
    expect(dates('FREQ=YEARLY;INTERVAL=3;COUNT=4;BYYEARDAY=1,100,200', '1997-01-01')).toEqual([
      '1997-01-01',
      '1997-04-10',
      '1997-07-19',
      '2000-01-01',
    ]);
  });
  test('the twentieth Monday of the year', () => {
    expect(dates('FREQ=YEARLY;BYDAY=20MO;COUNT=3', '1997-05-19')).toEqual([
      '1997-05-19',
      '1998-05-18',
      '1999-05-17',
    ]);
  });
  test('every twenty minutes from nine to five, two ways of saying it', () => {
    const daily = times(
      'FREQ=DAILY;BYHOUR=9,10,11,12,13,14,15,16;BYMINUTE=0,20,40;COUNT=60',
      '1997-09-02T09:00:00',
    );
    expect(
      times('FREQ=MINUTELY;INTERVAL=20;BYHOUR=9,10,11,12,13,14,15,16;COUNT=60', '1997-09-02T09:00:00'),
    ).toEqual(daily);
  });
  test('an invalid date is passed over, not moved', () => {
    expect(dates('FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5', '2007-01-15')).toEqual([
      '2007-01-15',
      '2007-01-30',
      '2007-02-15',
      '2007-03-15',
      '2007-03-30',
    ]);
  });
});

describe('bounds', () => {
  test('a rule from decades ago is worked out only where it is asked for', () => {
    const found = expandRule(
      parseRule('FREQ=DAILY'),
      parseLocal('1950-01-01T08:00:00'),
      {
        ...open,
        from: parseLocal('2026-10-01T00:00:00'),
        to: parseLocal('2026-10-04T00:00:00'),
        maxSteps: 20,
      },
      10,
    );
    expect(found).toEqual({
      cutShort: false,
      times: ['2026-10-01', '2026-10-02', '2026-10-03'].map((d) => parseLocal(`${d}T08:00:00`)),
    });
  });
  test('every second for ever is cut short and says so', () => {
    expect(
      expandRule(parseRule('FREQ=SECONDLY'), parseLocal('2026-10-01T00:00:00'), open, 500),
    ).toMatchObject({ cutShort: true, times: { length: 500 } });
  });
  test('a count that began long ago does not run away', () => {
    expect(
      expandRule(
        parseRule('FREQ=SECONDLY;COUNT=999999'),
        parseLocal('1970-01-01T00:00:00'),
        { ...open, from: parseLocal('2026-01-01T00:00:00') },
        500,
      ),
    ).toEqual({ cutShort: true, times: [] });
  });
  test('a count beyond all counting is as good as none', () => {
    for (const count of ['2147483647', '99999999999999999999', '9'.repeat(400)])
      expect(dates(`FREQ=DAILY;COUNT=${count}`, '2026-10-01')).toEqual(dates('FREQ=DAILY', '2026-10-01'));
    expect(dates(`FREQ=DAILY;INTERVAL=${'9'.repeat(400)}`, '2026-10-01')).toEqual(['2026-10-01']);
    expect(() => parseRule('FREQ=DAILY;COUNT=0')).toThrow('not a positive number');
  });
  test('a day that never comes ends at the horizon', () => {
    expect(dates('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30', '2026-01-01')).toEqual([]);
  });
  test('until is inclusive, as a day, on the wall clock and as an instant', () => {
    expect(dates('FREQ=DAILY;UNTIL=20261003', '2026-10-01')).toHaveLength(3);
    expect(times('FREQ=DAILY;UNTIL=20261003T080000', '2026-10-01T08:00:00')).toHaveLength(3);
    expect(
      times('FREQ=DAILY;UNTIL=20261003T070000Z', '2026-10-01T08:00:00', { toInstant: (l) => l - HOUR }),
    ).toHaveLength(3);
    expect(
      times('FREQ=DAILY;UNTIL=20261003T065959Z', '2026-10-01T08:00:00', { toInstant: (l) => l - HOUR }),
    ).toHaveLength(2);
  });
  test('a local time that clocks skip is no occurrence and is not counted', () => {
    const exists = (l: number) => formatLocal(l).slice(0, 10) !== '2026-10-02';
    expect(times('FREQ=DAILY;COUNT=2', '2026-10-01T08:00:00', { exists })).toEqual([
      '2026-10-01T08:00:00',
      '2026-10-03T08:00:00',
    ]);
  });
});

describe('rules that cannot be followed', () => {
  test.each([
    '',
    'FREQ=OFTEN',
    'FREQ=DAILY;INTERVAL=0',
    'FREQ=DAILY;COUNT=-1',
    'FREQ=MONTHLY;BYMONTHDAY=32',
    'FREQ=MONTHLY;BYMONTHDAY=0',
    'FREQ=WEEKLY;BYDAY=XX',
    'FREQ=DAILY;BYHOUR=24',
    'FREQ=DAILY;UNTIL=someday',
  ])('%s', (text) => {
    expect(() => parseRule(text)).toThrow(RuleError);
  });
});

/**
 * A second opinion, slow and plain: walks every day and asks the RFC's table of 3.3.10 part by part, by
 * expanding and limiting sets the way its text describes, with none of the code above but the calendar
 * arithmetic.
 */
function slowly(rule: Rule, start: number, days: number): number[] {
  const first = civilDate(start);
  const found: number[] = [];
  const groups = new Map<string, number[]>();
  const week1 = (y: number) => {
    const jan4 = dayNumber(y, 1, 4);
    return jan4 - ((weekday(jan4) - rule.weekStart + 7) % 7);
  };
  const weekOf = (day: number) => day - ((weekday(day) - rule.weekStart + 7) % 7);
  // Further than asked, so that the last period is whole and its positions counted rightly.
  for (let day = weekOf(dayNumber(first.year, 1, 1)); day < start + days + 1700; day++) {
    const { year, month, day: dom } = civilDate(day);
    const period =
      rule.freq === 'YEARLY'
        ? year - first.year
        : rule.freq === 'MONTHLY'
          ? (year - first.year) * 12 + month - first.month
          : rule.freq === 'WEEKLY'
            ? (weekOf(day) - weekOf(start)) / 7
            : day - start;
    if (period < 0 || period % rule.interval) continue;
    const inMonth = daysInMonth(year, month);
    const yearDay = day - dayNumber(year, 1, 1) + 1;
    if (rule.byMonth.length && !rule.byMonth.includes(month)) continue;
    if (rule.byMonthDay.length && !rule.byMonthDay.some((n) => (n > 0 ? n : inMonth + 1 + n) === dom))
      continue;
    if (
      rule.byYearDay.length &&
      !rule.byYearDay.some((n) => (n > 0 ? n : daysInYear(year) + 1 + n) === yearDay)
    )
      continue;
    if (rule.byWeekNo.length) {
      const y = day >= week1(year + 1) ? year + 1 : day < week1(year) ? year - 1 : year;
      const weeks = (week1(y + 1) - week1(y)) / 7;
      const no = Math.floor((day - week1(y)) / 7) + 1;
      if (!rule.byWeekNo.some((n) => (n > 0 ? n : weeks + 1 + n) === no)) continue;
    }
    if (rule.byDay.length) {
      const fits = rule.byDay.some(({ weekday: wd, nth }) => {
        if (wd !== weekday(day)) return false;
        if (!nth) return true;
        const [from, to] =
          rule.freq === 'MONTHLY' || rule.byMonth.length
            ? [day - dom + 1, day - dom + inMonth]
            : [day - yearDay + 1, day - yearDay + daysInYear(year)];
        const same: number[] = [];
        for (let d = from; d <= to; d++) if (weekday(d) === wd) same.push(d);
        return same.at(nth > 0 ? nth - 1 : nth) === day;
      });
      if (!fits) continue;
    } else if (!rule.byMonthDay.length && !rule.byYearDay.length) {
      if (rule.freq === 'WEEKLY' && weekday(day) !== weekday(start)) continue;
      if (rule.freq === 'MONTHLY' && dom !== first.day) continue;
      if (rule.freq === 'YEARLY' && rule.byWeekNo.length && weekday(day) !== weekday(start)) continue;
      if (
        rule.freq === 'YEARLY' &&
        !rule.byWeekNo.length &&
        (dom !== first.day || (!rule.byMonth.length && month !== first.month))
      )
        continue;
    }
    const group = groups.get(String(period));
    if (group) group.push(day);
    else groups.set(String(period), [day]);
  }
  for (const group of groups.values()) {
    const picked = rule.bySetPos.length
      ? group.filter((_, i) => rule.bySetPos.includes(i + 1) || rule.bySetPos.includes(i - group.length))
      : group;
    found.push(...picked.filter((d) => d >= start && d < start + days));
  }
  return found.sort((a, b) => a - b).slice(0, rule.count);
}

const some = <T>(one: fc.Arbitrary<T>, max = 3) =>
  fc.option(fc.uniqueArray(one, { minLength: 1, maxLength: max }), { nil: undefined, freq: 2 });
const signed = (most: number) => fc.integer({ min: 1, max: most }).chain((n) => fc.constantFrom(n, -n));
const code = fc.constantFrom('MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU');
const ruleText = fc
  .record({
    freq: fc.constantFrom('YEARLY', 'MONTHLY', 'WEEKLY', 'DAILY'),
    interval: fc.integer({ min: 1, max: 4 }),
    wkst: code,
    count: fc.option(fc.integer({ min: 1, max: 30 }), { nil: undefined }),
    month: some(fc.integer({ min: 1, max: 12 })),
    monthDay: some(signed(31)),
    yearDay: some(signed(366)),
    weekNo: some(signed(53)),
    day: some(fc.tuple(fc.constantFrom('', '1', '2', '-1', '5'), code)),
    setPos: some(signed(4), 2),
  })
  .map((r) => {
    const numbered = (r.freq === 'MONTHLY' || r.freq === 'YEARLY') && !r.weekNo;
    const list = (name: string, values: unknown[] | undefined) =>
      values ? `;${name}=${values.join(',')}` : '';
    const days = r.day?.map(([n, c]) => (numbered ? n : '') + c);
    const limited = r.month ?? r.day ?? r.monthDay;
    return [
      `FREQ=${r.freq};INTERVAL=${r.interval};WKST=${r.wkst}`,
      r.count ? `;COUNT=${r.count}` : '',
      list('BYMONTH', r.month),
      r.freq === 'WEEKLY' ? '' : list('BYMONTHDAY', r.monthDay),
      r.freq === 'YEARLY' ? list('BYYEARDAY', r.yearDay) + list('BYWEEKNO', r.weekNo) : '',
      list('BYDAY', days),
      limited ? list('BYSETPOS', r.setPos) : '',
    ].join('');
  });

test('agrees with a slow evaluation written from the table, over random rules', () => {
  const span = 900;
  fc.assert(
    fc.property(ruleText, fc.integer({ min: 0, max: 4000 }), (text, offset) => {
      const start = dayNumber(2018, 1, 1) + offset;
      const rule = parseRule(text);
      const fast = expandRule(
        rule,
        start * DAY,
        { ...open, allDay: true, from: start * DAY, to: (start + span) * DAY },
        10_000,
      ).times.map((t) => t / DAY);
      expect(fast).toEqual(slowly(rule, start, span));
    }),
    { numRuns: 250, seed: 20261006 },
  );
});

test('the part of a window is the whole, cut to the window', () => {
  fc.assert(
    fc.property(
      ruleText,
      fc.integer({ min: 0, max: 900 }),
      fc.integer({ min: 1, max: 300 }),
      (text, skip, length) => {
        const start = dayNumber(2024, 2, 29);
        const whole = expandRule(
          parseRule(text),
          start * DAY,
          { ...open, allDay: true, from: start * DAY, to: (start + 1300) * DAY },
          10_000,
        ).times;
        const [from, to] = [(start + skip) * DAY, (start + skip + length) * DAY];
        const part = expandRule(
          parseRule(text),
          start * DAY,
          { ...open, allDay: true, from, to },
          10_000,
        ).times;
        expect(part).toEqual(whole.filter((t) => t >= from && t < to));
      },
    ),
    { numRuns: 200, seed: 7 },
  );
});
