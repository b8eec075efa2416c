import type { OutlineRow } from '@zephyrfield/core/api/outlines';
import { bareRow, remarkOf, rowsOf, step, type Row, type Sheet } from './rows';

const found = (title: string, date: string | null, more: Partial<OutlineRow> = {}): OutlineRow => {
  const {
    id: _,
    number: __,
    ticked: ___,
    state: ____,
    itemId: _____,
    was: ______,
    isOwn: _______,
    isOver: ________,
    told: _________,
    isSet: __________,
    covers: ___________,
    ...row
  } = bareRow(title);
  return { ...row, date, ...more };
};
const at = (block: number) => ({ at: { block, row: 0, cell: 0, from: 0, to: 5 } });
const looked = (rows: OutlineRow[], more: Partial<Parameters<typeof rowsOf>[1]> = {}) =>
  rowsOf({ rows }, { added: null, there: [], before: [], today: '2026-09-01', ...more });
const sheet = (rows: readonly Row[]): Sheet => ({ rows, chosen: [], past: [] });
const words = (date: string) => date.slice(5);

const ROPE = found('Rope test', '2026-11-05', at(4));
const KNOTS = found('Knots practical', '2026-11-27', at(5));

describe('rows as they are looked through', () => {
  test('what is doubtful comes first, topics and what is there already are not ticked', () => {
    const rows = looked(
      [
        found('Towers', '2026-09-10', { isTopic: true, ...at(1) }),
        ROPE,
        found('Mid-term test', '2026-10-12', {
          doubts: ['12 Oct is a Monday, and not a Tuesday.'],
          ...at(3),
        }),
        KNOTS,
      ],
      { there: [{ itemId: 'k', title: 'Knots practical', date: '2026-11-27', minute: null }] },
    );
    expect(rows.map((r) => [r.number, r.title, r.ticked])).toEqual([
      [2, 'Mid-term test', true],
      [1, 'Towers', false],
      [3, 'Rope test', true],
      [4, 'Knots practical', false],
    ]);
    expect(remarkOf(rows[3]!, words)).toBe('is in this calendar already');
  });

  test('what is over is not ticked, unless some of it is still to come', () => {
    const series = { dates: ['2026-09-17', '2026-10-08'], weekdays: [4] };
    const rows = looked(
      [found('Sketch', '2026-09-10', at(1)), found('Lab log', '2026-09-17', { ...series, ...at(2) })],
      {
        today: '2026-10-06',
      },
    );
    expect(rows.map((r) => [r.title, r.ticked, remarkOf(r, words)])).toEqual([
      ['Sketch', false, 'is over already'],
      ['Lab log', true, ''],
    ]);
  });

  test('a newer outline says what has moved and what is gone', () => {
    const rows = looked([{ ...ROPE, date: '2026-11-10' }], {
      added: [
        { itemId: 'r', title: 'Rope test', date: '2026-11-05', minute: null },
        { itemId: 'k', title: 'Knots practical', date: '2026-11-27', minute: null },
      ],
    });
    expect(rows.map((r) => [r.title, r.state, r.itemId, r.ticked, remarkOf(r, words)])).toEqual([
      ['Rope test', 'moved', 'r', true, 'was 11-05'],
      ['Knots practical', 'gone', 'k', false, 'is not in this outline any more; tick it to take it away'],
    ]);
  });

  test('a series or a span that ends on another day has moved, though it begins on the same', () => {
    const log = found('Log', '2026-09-17', { dates: ['2026-09-17', '2026-12-10'], weekdays: [4], ...at(2) });
    const before = { itemId: 'l', title: 'Log', date: '2026-09-17', minute: null };
    const state = (last: string | null | undefined) => {
      const [row] = looked([log], { added: [{ ...before, last }] });
      return [row!.state, remarkOf(row!, words)];
    };
    expect(state('2026-12-10')[0]).toBe('known');
    expect(state('2026-12-03')).toEqual(['moved', 'ends on another day']);
    expect(state(undefined)[0]).toBe('known');
  });

  test('what else is in the calendar is not gone, and what the person moved there is not moved back', () => {
    const rows = looked([ROPE, found('Quiz', '2026-10-08', at(6))], {
      added: [{ itemId: 'r', title: 'Rope test', date: '2026-11-05', minute: null }],
      there: [
        // Moved by hand after it was added, and two things that no outline has to do with.
        { itemId: 'r', title: 'Rope test', date: '2026-11-06', minute: null },
        { itemId: 'm', title: 'Bring gloves', date: '2026-11-12', minute: null },
        { itemId: 'q', title: 'Quiz', date: '2026-10-08', minute: null },
      ],
    });
    expect(rows.map((r) => [r.title, r.state, r.itemId, r.ticked])).toEqual([
      ['Quiz', 'known', 'q', false],
      ['Rope test', 'known', 'r', false],
    ]);
  });

  test('read again, what was changed or added by hand stays', () => {
    const [first] = looked([ROPE]);
    let now = step(sheet([first!]), { do: 'edit', ids: [first!.id], to: { title: 'Rope and sling test' } });
    now = step(now, { do: 'add', row: bareRow('Bring gloves') });
    const again = looked([{ ...ROPE, date: '2026-05-11' }], { before: now.rows });
    expect(again.map((r) => [r.title, r.date])).toEqual([
      ['Rope and sling test', '2026-11-05'],
      ['Bring gloves', null],
    ]);
  });
});

test('read again, what was ticked or left out by hand stays so, and what was joined is still one', () => {
  const [rope, knots] = looked([ROPE, KNOTS]);
  const left = step(sheet([rope!, knots!]), { do: 'tick', ids: [rope!.id], on: false });
  expect(looked([ROPE, KNOTS], { before: left.rows }).map((r) => [r.title, r.ticked])).toEqual([
    ['Rope test', false],
    ['Knots practical', true],
  ]);
  // Of another term the day is another: only whether it is ticked stays.
  const moved = looked([{ ...ROPE, date: '2026-05-11' }, KNOTS], { before: left.rows });
  expect(moved.find((r) => r.title === 'Rope test')).toMatchObject({ date: '2026-05-11', ticked: false });
  const joined = step(sheet([rope!, knots!]), { do: 'join', ids: [rope!.id, knots!.id] });
  expect(looked([ROPE, KNOTS], { before: joined.rows }).map((r) => r.title)).toEqual([
    'Rope test, Knots practical',
  ]);
});

describe('steps', () => {
  const begun = () => sheet(looked([ROPE, KNOTS]));

  test('several rows are changed at once, and each change can be taken back', () => {
    const start = begun();
    const ids = start.rows.map((r) => r.id);
    const timed = step(start, { do: 'edit', ids, to: { minute: 600 } });
    const left = step(timed, { do: 'tick', ids: [ids[0]!], on: false });
    expect(left.rows.map((r) => [r.minute, r.ticked])).toEqual([
      [600, false],
      [600, true],
    ]);
    const back = step(step(left, { do: 'undo' }), { do: 'undo' });
    expect(back.rows).toEqual(start.rows);
    expect(step(back, { do: 'undo' })).toEqual(back);
  });

  test('what lasts or repeats moves with its first day, all of it', () => {
    const off = found('Break', '2026-10-26', { endDate: '2026-10-30', ...at(1) });
    const log = found('Log', '2026-09-17', {
      dates: ['2026-09-17', '2026-09-24', '2026-10-08'],
      weekdays: [4],
      ...at(2),
    });
    const start = sheet(looked([off, log]));
    const id = (title: string) => start.rows.find((r) => r.title === title)!.id;
    let now = step(start, { do: 'edit', ids: [id('Break')], to: { date: '2026-11-02' } });
    now = step(now, { do: 'edit', ids: [id('Log')], to: { date: '2026-09-14' } });
    const row = (title: string) => now.rows.find((r) => r.title === title)!;
    expect(row('Break').endDate).toBe('2026-11-06');
    expect([row('Log').dates, row('Log').weekdays]).toEqual([
      ['2026-09-14', '2026-09-21', '2026-10-05'],
      [1],
    ]);
  });

  test('another day settles what was doubtful', () => {
    const start = sheet(looked([{ ...ROPE, date: null, doubts: ['There is no 31 Nov.'] }]));
    expect(remarkOf(start.rows[0]!, words)).toBe('There is no 31 Nov.');
    const { rows } = step(start, { do: 'edit', ids: [start.rows[0]!.id], to: { date: '2026-11-30' } });
    expect([rows[0]!.doubts, rows[0]!.ticked, remarkOf(rows[0]!, words)]).toEqual([[], true, '']);
  });

  test('joined, rows are one with the words of all', () => {
    const start = begun();
    const joined = step(start, { do: 'join', ids: start.rows.map((r) => r.id) });
    expect(joined.rows.map((r) => r.title)).toEqual(['Rope test, Knots practical']);
    expect(joined.chosen).toEqual([start.rows[0]!.id]);
    expect(step(start, { do: 'join', ids: [start.rows[0]!.id] })).toBe(start);
  });
});
