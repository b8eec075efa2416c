import { DUBLIN, calendar, event, read } from '../../test/feeds';
import { entriesOf, expandEntry } from './entries';
import { isOfDeadlines } from './manner';

const at = (uid: string, title: string, start: string, end: string | null = null) =>
  event(`UID:${uid}`, `SUMMARY:${title}`, `DTSTART:202610${start}`, ...(end ? [`DTEND:202610${end}`] : []));
const DEADLINES = [
  at('1', 'Emulsion write-up', '06T225900Z', '06T225900Z'),
  at('2', 'Tide tables', '13T225900Z', '13T225900Z'),
  at('3', 'Plotting sheet', '20T225900Z'),
];
const LESSONS = [1, 2, 3, 4].map((n) => at(`l${n}`, `Lab ${n}`, `0${n}T090000Z`, `0${n}T100000Z`));
const due = (of: 'course' | 'home', ...events: string[]) => {
  const { items, zones } = read(calendar(...events));
  const as = { calendar: of, ofDeadlines: isOfDeadlines(items) };
  const dues = entriesOf({ items }, as).flatMap((entry) =>
    expandEntry(entry, {
      from: Date.parse('2026-10-01T00:00:00Z'),
      to: Date.parse('2026-12-01T00:00:00Z'),
      zone: DUBLIN,
      zones,
      as,
    }).map((o) => [entry.title, o.due?.kind === 'instant' ? o.due.at : null] as const),
  );
  return Object.fromEntries(dues);
};
const REMINDER = at('r', 'Reminder: lab coats', '21T150000Z', '21T150000Z');
const MINUTE = at('m', 'Hull paint', '22T225900Z', '22T230000Z');

test('in a feed of deadlines, what calls itself a reminder is due, and so is what lasts a minute', () => {
  expect(due('course', ...DEADLINES, REMINDER, MINUTE)).toMatchObject({
    'Reminder: lab coats': '2026-10-21T15:00:00Z',
    'Hull paint': '2026-10-22T22:59:00Z',
  });
});

test('at home, neither is', () => {
  expect(due('home', ...DEADLINES, REMINDER, MINUTE)).toMatchObject({
    'Reminder: lab coats': null,
    'Hull paint': null,
  });
});

test.each<[string, string[]]>([
  ['among lessons', LESSONS],
  ['with next to nothing beside them', []],
])(
  '%s, what lasts a minute is not, and a reminder is due until somebody says otherwise',
  (_where, others) => {
    expect(due('course', ...others, REMINDER, MINUTE)).toMatchObject({
      'Reminder: lab coats': '2026-10-21T15:00:00Z',
      'Hull paint': null,
    });
  },
);
