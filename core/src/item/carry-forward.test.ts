import fc from 'fast-check';
import { DUBLIN } from '../../test/feeds';
import { parseDate } from '../time/civil';
import { dayIn, localIn } from '../time/when';
import { UTC, ianaZone } from '../time/zone';
import { carryForward, type TermDays } from './carry-forward';
import { timesOf, type OwnItem } from './own';

const zones = (name: string) => ianaZone(name) ?? UTC;
const day = parseDate;
const off = (from: string, to: string, name: string) => ({ from: day(from), to: day(to), name });
const SPRING: TermDays = {
  firstWeek: day('2026-01-12'),
  lastDay: day('2026-04-24'),
  daysOff: [off('2026-02-16', '2026-02-20', 'Mid-term break')],
};
const AUTUMN: TermDays = {
  firstWeek: day('2026-08-31'),
  lastDay: day('2026-12-18'),
  daysOff: [
    off('2026-10-26', '2026-10-30', 'Mid-term break'),
    off('2026-11-20', '2026-11-20', 'Staff training'),
  ],
};
const OPTIONS = { before: SPRING, after: AUTUMN, zone: DUBLIN, zones };
const at = (at: string) => ({ kind: 'instant' as const, at, zone: 'Europe/Dublin' });
const WORK: OwnItem = {
  kind: 'assignment',
  handIn: 'paper',
  title: 'Chart table',
  place: '',
  details: '',
  when: at('2026-01-14T16:00:00Z'),
  end: null,
  repeat: null,
  changes: [],
};
const carry = (item: Partial<OwnItem>) =>
  carryForward([{ id: 'a', item: { ...WORK, ...item } }], OPTIONS)[0]!;
const localText = (o: OwnItem) => new Date(localIn(o.when!, DUBLIN)).toISOString().slice(0, 16);

test('each stands on its weekday, in its week of the term, at its hour on the wall clock', () => {
  // 16:00 in winter is 15:00 UTC in summer.
  expect(localText(carry({}).item)).toBe('2026-09-02T16:00');
  expect(carry({ when: { kind: 'date', date: '2026-03-20' } }).item.when).toEqual({
    kind: 'date',
    date: '2026-11-06',
  });
});

test('what would be on a day off stands on the next day of school, and says so', () => {
  // Friday of week 12.
  const friday = carry({ when: { kind: 'date', date: '2026-04-03' } });
  expect(friday.item.when).toEqual({ kind: 'date', date: '2026-11-23' });
  expect(friday.doubt).toEqual({ kind: 'dayOff', name: 'Staff training', was: '2026-11-20' });
  expect(carry({ when: { kind: 'date', date: '2026-06-01' } }).doubt).toEqual({ kind: 'afterTerm' });
  expect(carry({ when: null }).doubt).toEqual({ kind: 'undated' });
});

test('a series goes on as long, leaves out the new days off, and takes the old ones in again', () => {
  const series = carry({
    kind: 'meeting',
    when: at('2026-01-12T16:00:00Z'),
    end: at('2026-01-12T17:00:00Z'),
    repeat: {
      rule: 'FREQ=WEEKLY;BYDAY=MO,WE;UNTIL=20260401T225959Z',
      except: [at('2026-02-16T16:00:00Z'), at('2026-02-18T16:00:00Z'), at('2026-03-02T16:00:00Z')],
    },
    changes: [{ of: at('2026-01-14T16:00:00Z'), place: 'Sail loft' }],
  });
  const days = timesOf(series.item, { from: 0, to: 4e12, zone: DUBLIN, zones }).map((w) =>
    new Date(localIn(w, DUBLIN)).toISOString().slice(0, 16),
  );
  expect(days[0]).toBe('2026-08-31T16:00');
  expect(days.at(-1)).toBe('2026-11-18T16:00');
  // The old break's Monday is here again, the day left out for its own sake is not, nor is the new break.
  expect(days).toContain('2026-10-05T16:00');
  expect(days).not.toContain('2026-10-26T16:00');
  expect(days).toHaveLength(12 * 2 - 2 - 1);
  expect(series.count).toBe(days.length);
  expect(series.item.changes).toEqual([{ of: at('2026-09-02T15:00:00Z'), place: 'Sail loft' }]);
  expect(series.dates).toContainEqual({ was: '2026-01-14T16:00:00Z', is: '2026-09-02T15:00:00Z' });
});

test('whatever is carried keeps its weekday and hour, and nothing stands on a day off', () => {
  const some = fc.array(
    fc.record({ day: fc.integer({ min: 0, max: 100 }), hour: fc.integer({ min: 0, max: 23 }) }),
    {
      maxLength: 30,
    },
  );
  fc.assert(
    fc.property(some, (list) => {
      const items = list.map(({ day: n, hour }, i) => ({
        id: `i${String(i).padStart(2, '0')}`,
        item: {
          ...WORK,
          when: {
            kind: 'floating' as const,
            local: new Date((SPRING.firstWeek + n) * 864e5 + hour * 36e5).toISOString().slice(0, 19),
          },
        },
      }));
      const carried = carryForward(items, OPTIONS);
      expect(carried).toHaveLength(items.length);
      for (const { from, item, doubt } of carried) {
        const was = items.find((i) => i.id === from)!.item.when;
        const on = dayIn(item.when!, DUBLIN);
        expect(AUTUMN.daysOff.some((d) => on >= d.from && on <= d.to)).toBe(false);
        expect(localIn(item.when!, DUBLIN) % 864e5).toBe(localIn(was, DUBLIN) % 864e5);
        if (doubt?.kind !== 'dayOff')
          expect(on - AUTUMN.firstWeek).toBe(dayIn(was, DUBLIN) - SPRING.firstWeek);
      }
      const days = carried.map(({ item }) => localIn(item.when!, DUBLIN));
      expect(days).toEqual([...days].sort((a, b) => a - b));
    }),
  );
});
