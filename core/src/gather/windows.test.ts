import { calendar, event, read } from '../../test/feeds';
import { UTC } from '../time/zone';
import { entriesOf, expandEntry } from './entries';
import { joinWindows, unjoin } from './windows';

const edge = (uid: string, title: string, at: string, course = 'SW') =>
  event(`UID:${uid}`, `SUMMARY:${title}`, `DTSTART:${at}`, `DTEND:${at}`, `CATEGORIES:${course}`);
const join = (...parts: string[]) =>
  joinWindows(read(calendar(...parts)).items).items.map((i) => ({
    uid: i.uid,
    title: i.title,
    from: i.start && 'at' in i.start ? i.start.at : null,
    due: i.due && 'at' in i.due ? i.due.at : null,
  }));

test('opens and closes are one item, due when it closes', () => {
  expect(
    join(
      edge('o', 'Sampling quiz opens', '20261007T070000Z'),
      edge('c', 'Sampling quiz closes', '20261007T190000Z'),
    ),
  ).toEqual([
    { uid: 'c', title: 'Sampling quiz', from: '2026-10-07T07:00:00Z', due: '2026-10-07T19:00:00Z' },
  ]);
  expect(
    entriesOf(
      joinWindows(
        read(
          calendar(
            edge('o', 'Sampling quiz (opens)', '20261007T070000Z'),
            edge('c', 'Sampling quiz (due)', '20261007T190000Z'),
          ),
        ).items,
      ),
      { calendar: 'course' },
    ),
  ).toMatchObject([{ kind: 'test', title: 'Sampling quiz' }]);
});

test('opens, due and closes are one item, due when it is due', () => {
  const parts = [
    edge('o', 'Reflection opens', '20261005T070000Z'),
    edge('d', 'Reflection due', '20261009T150000Z'),
    edge('c', 'Reflection closes', '20261011T225900Z'),
  ];
  const all = read(calendar(...parts)).items;
  const one = joinWindows(all).items;
  expect(join(...parts)).toEqual([
    { uid: 'd', title: 'Reflection', from: '2026-10-05T07:00:00Z', due: '2026-10-09T15:00:00Z' },
  ]);
  expect(one[0]!.windowOf!.map((i) => i.uid)).toEqual(['o', 'd', 'c']);
  expect(unjoin(one).map((i) => i.uid)).toEqual(['o', 'd', 'c']);
  // Two closings are two things, whatever stands between them.
  expect(join(parts[0]!, edge('x', 'Reflection closes', '20261006T150000Z'), parts[2]!)).toHaveLength(2);
});

test('never across courses, and an edge without its partner stays', () => {
  const parts = [
    edge('o', 'Test 1 opens', '20261007T070000Z', 'SW'),
    edge('c', 'Test 1 closes', '20261007T190000Z', 'FC'),
    edge('x', 'Report due', '20261009T190000Z'),
  ];
  expect(join(...parts).map((i) => i.uid)).toEqual(['o', 'c', 'x']);
});

test('of a weekly test, each opening goes with the closing after it', () => {
  const parts = [1, 2, 3].flatMap((n) => [
    edge(`o${n}`, 'Quiz opens', `2026100${2 * n}T070000Z`),
    edge(`c${n}`, 'Quiz closes', `2026100${2 * n + 1}T190000Z`),
  ]);
  expect(join(...parts.reverse()).map((i) => [i.uid, i.from?.slice(0, 10), i.due?.slice(0, 10)])).toEqual([
    ['c3', '2026-10-06', '2026-10-07'],
    ['c2', '2026-10-04', '2026-10-05'],
    ['c1', '2026-10-02', '2026-10-03'],
  ]);
});

test('what repeats or is called off is left alone', () => {
  expect(
    join(
      edge('o', 'Quiz opens', '20261007T070000Z'),
      edge('c', 'Quiz closes', '20261007T190000Z').replace('CATEGORIES', 'STATUS:CANCELLED\r\nCATEGORIES'),
    ),
  ).toHaveLength(2);
});

test('work closes at the last edge of its window, or where its title says so; what is only due closes never', () => {
  const closes = (...parts: string[]) =>
    entriesOf(joinWindows(read(calendar(...parts)).items), { calendar: 'course' }).flatMap((entry) =>
      expandEntry(entry, {
        ...{ from: Date.parse('2026-09-01'), to: Date.parse('2026-12-01'), zone: UTC, zones: {} },
        as: { calendar: 'course' },
      }).map((o) => o.closes && 'at' in o.closes && o.closes.at),
    );
  const opens = edge('o', 'Reflection opens', '20261005T070000Z');
  const due = edge('d', 'Reflection due', '20261009T150000Z');
  expect(closes(opens, due, edge('c', 'Reflection closes', '20261011T225900Z'))).toEqual([
    '2026-10-11T22:59:00Z',
  ]);
  expect(closes(opens, due)).toEqual([null]);
  expect(closes(opens, edge('c', 'Reflection closes', '20261011T225900Z'))).toEqual(['2026-10-11T22:59:00Z']);
  expect(closes(edge('c', 'Quiz 5 - Availability Ends', '20261011T225900Z'))).toEqual([
    '2026-10-11T22:59:00Z',
  ]);
  expect(closes(due)).toEqual([null]);
});
