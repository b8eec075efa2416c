import { dueAt } from '../../test/occurrence';
import type { ChangeView } from '../item/change';
import type { OccurrenceView } from '../item/occurrence';
import { parseDate, parseInstant } from '../time/civil';
import { instantOf, type When } from '../time/when';
import { ianaZone } from '../time/zone';
import { LONGEST_SUBJECT, sheetsLead, sheetText, daySheet } from './day-sheet';
import { viewerOf } from '../words/when';
import { lineToday, reminderWords } from './words';

const viewer = { ...ianaZone('Europe/Dublin')!, hours: 24 as const };
Object.setPrototypeOf(viewer, ianaZone('Europe/Dublin')!);
const now = parseInstant('2026-10-06T15:10:00Z');
const day = parseDate('2026-10-06');
const at = (text: string): When => instantOf(parseInstant(text), 'Europe/Dublin');
const work = (title: string, due: When, more: Partial<OccurrenceView> = {}) =>
  dueAt(due, { itemId: title, title, ...more });
const place = (title: string, from: string, to: string, kind: OccurrenceView['kind'] = 'meeting') =>
  work(title, at(from), { kind, handIn: 'nothing', due: null, end: at(to), place: 'Boat shed' });

const all = [
  work('Tide table', at('2026-10-06T22:59:00Z')),
  work('Keel plan', at('2026-10-07T15:00:00Z'), { estimate: 90 }),
  work('Chart 5', at('2026-10-05T22:59:00Z')),
  work(
    'Glaze',
    { kind: 'date', date: '2026-10-09' },
    { aim: { kind: 'date', date: '2026-10-06' }, handIn: 'paper' },
  ),
  work('Done long ago', at('2026-10-07T15:00:00Z'), { finished: true }),
  work('Paper of last week', { kind: 'date', date: '2026-10-01' }, { handIn: 'paper' }),
  place('Cello', '2026-10-07T15:00:00Z', '2026-10-07T15:45:00Z'),
  place('Maths', '2026-10-08T08:00:00Z', '2026-10-08T09:00:00Z', 'lesson'),
  place('Off', '2026-10-07T08:00:00Z', '2026-10-07T09:00:00Z', 'meeting'),
].map((o) => (o.title === 'Off' ? { ...o, status: 'cancelled' as const } : o));
const changes: ChangeView[] = [
  {
    id: 1,
    kind: 'moved',
    itemId: 'x',
    recurrenceId: '',
    calendarId: 'c',
    title: 'Regatta',
    from: at('2026-10-08T15:00:00Z'),
    to: at('2026-10-12T15:00:00Z'),
    formerTitle: null,
    at: '2026-10-06T10:00:00Z',
    seen: false,
  },
  {
    id: 2,
    kind: 'moved',
    itemId: 'y',
    recurrenceId: '',
    calendarId: 'c',
    title: 'Older',
    from: null,
    to: null,
    formerTitle: null,
    at: '2026-10-01T10:00:00Z',
    seen: false,
  },
];
const heads = (sheet: ReturnType<typeof daySheet>) =>
  sheet.sections.map((s) => [s.heading, s.lines.map((l) => l.title)]);

test('in the evening: what to do tonight first, where to be tomorrow, what is past due apart, each once', () => {
  expect(heads(daySheet(all, changes, { edition: 'evening', day, now, viewer }))).toEqual([
    ['To do tonight', ['Tide table', 'Glaze', 'Keel plan']],
    ['Tomorrow, Wednesday 7 October: where to be', ['Cello']],
    ['Past due', ['Chart 5']],
    ['Did this happen?', ['Paper of last week']],
    ['What changed', ['Regatta']],
  ]);
});

test('in the morning it looks at the day; on Sundays at each day of the week, without the timetable', () => {
  expect(heads(daySheet(all, [], { edition: 'morning', day: day + 1, now, viewer }))[0]).toEqual([
    'Where to be',
    ['Cello'],
  ]);
  const week = daySheet(all, [], { edition: 'week', day: day - 2, now, viewer });
  expect(week.title).toBe('The week of 5 – 11 October');
  expect(heads(week).map(([h]) => h)).toEqual([
    'Tuesday 6 October',
    'Wednesday 7 October',
    'Friday 9 October',
    'Past due',
    'Did this happen?',
  ]);
  // On Sunday evening it begins with what is to be done for Monday.
  const sunday = daySheet(all, [], { edition: 'week', day: day - 1, now: now - 24 * 3_600_000, viewer });
  expect(heads(sunday)[0]).toEqual(['To do tonight', ['Chart 5', 'Tide table']]);
});

test('as text, and in a line; a day with nothing says so', () => {
  const text = sheetText(
    daySheet(all, changes, { edition: 'evening', day, now, viewer }),
    'Juno',
    () => 'Boatbuilding',
  );
  expect(text).toContain(
    'To do tonight\n- today 23:59  Tide table (hand in online), Boatbuilding\n' +
      '- aim today, due Fri 9 Oct  Glaze (hand in on paper), Boatbuilding\n' +
      '- tomorrow 16:00  Keel plan (hand in online · 1 h 30), Boatbuilding',
  );
  // An aim one has let pass says which day it was.
  const tomorrow = { edition: 'evening' as const, day: day + 1, now: now + 24 * 3_600_000, viewer };
  expect(sheetText(daySheet(all, changes, tomorrow), 'Juno', () => '')).toContain(
    'aim Tue 6 Oct, due Fri 9 Oct',
  );
  const nothing = daySheet([], [], { edition: 'evening', day, now, viewer });
  expect(sheetText(nothing, 'Juno', () => '')).toBe(
    'Juno: Tonight, Tuesday 6 October\n\nNothing to do tonight: nothing is due today or tomorrow.\n',
  );
  expect(nothing.lead).toBe('Nothing tonight');
  const evening = daySheet(all, changes, { edition: 'evening', day, now, viewer });
  expect(evening.lead).toBe('3 to do tonight: Tide table, Glaze, Keel plan');
  expect(sheetsLead([{ name: 'Juno Lindqvist', sheet: evening }])).toBe(evening.lead);
  // Of several learners, each is named; it stays short enough for a subject.
  const both = sheetsLead([
    { name: 'Pip Lindqvist', sheet: nothing },
    { name: 'Juno Lindqvist', sheet: { ...evening, lead: evening.lead.repeat(3) } },
  ]);
  expect(both).toMatch(/^Pip: Nothing tonight · Juno: 3 to do tonight/);
  expect(both.length).toBeLessThanOrEqual(LONGEST_SUBJECT);
});

test('many things past due never push tonight’s away; what is cut and what is hidden is counted', () => {
  const old = Array.from({ length: 10 }, (_, i) => work(`Old ${i}`, at(`2026-09-1${i}T15:00:00Z`)));
  const hidden = work('Hidden', at('2026-10-06T20:00:00Z'), { hidden: true });
  const sheet = daySheet([...old, ...all, hidden], [], { edition: 'evening', day, now, viewer });
  expect(sheet.sections[0]!.lines.map((l) => l.title)).toEqual(['Tide table', 'Glaze', 'Keel plan']);
  expect(sheet.sections.find((s) => s.heading === 'Past due')).toMatchObject({ more: 5 });
  const text = sheetText(sheet, 'Juno', () => '');
  expect(text).toContain('- and 5 more');
  expect(text).toContain('1 single item hidden by you is left out.');
  // With nothing tonight, that is said although something is past due.
  const late = daySheet(old, [], { edition: 'evening', day, now, viewer });
  expect(late.lead).toBe('Nothing tonight, 10 past due');
  expect(late.nothing).toMatch(/^Nothing to do tonight/);
});

test('with a sitting to come or a plan that no longer holds, nobody reads that there is nothing to do', () => {
  const part = { heading: 'Sit down to', lines: [], more: 0 };
  const sheet = (plan: { now: (typeof part)[]; next: (typeof part)[] }) =>
    daySheet([], [], { edition: 'evening', day, now, viewer, plan });
  expect(sheet({ now: [part], next: [] }).nothing).toBe('');
  expect(sheet({ now: [], next: [part] }).nothing).not.toBe('');
});

test('a deadline after midnight is tonight’s, up to the hour at which the night is over', () => {
  const late = Object.assign(Object.create(viewer) as typeof viewer, { nightUntil: 4 });
  const list = [work('Log', at('2026-10-06T23:59:00Z')), work('Early', at('2026-10-07T03:00:00Z'))];
  const { sections } = daySheet(list, [], { edition: 'evening', day, now, viewer: late });
  expect(sections[0]!.lines.map((l) => [l.when, l.title])).toEqual([
    ['tonight 00:59', 'Log'],
    ['tomorrow 04:00', 'Early'],
  ]);
  expect(reminderWords(list[0]!, { of: 'due', at: now }, late)).toBe(
    'Due the night of Tue 6 Oct 00:59 · hand in online',
  );
});

test('a reminder’s words are exact, since nobody knows when they are read', () => {
  expect(reminderWords(all[1]!, { of: 'due', at: now }, viewer)).toBe('Due Wed 7 Oct 16:00 · hand in online');
  expect(reminderWords(all[3]!, { of: 'aim', at: now }, viewer)).toBe(
    'Your aim is Tue 6 Oct; due Fri 9 Oct · hand in on paper',
  );
  expect(reminderWords(all[2]!, { of: 'pastDue', at: now }, viewer)).toBe(
    'Was due Mon 5 Oct 23:59, and is still open.',
  );
  expect(reminderWords(all[6]!, { of: 'start', at: now }, viewer)).toBe(
    'Wed 7 Oct, 16:00 – 16:45 · Boat shed',
  );
});

test('who reads a reminder on the day or the evening before is told so; a deadline after midnight is tonight’s', () => {
  const at = (iso: string) => Date.parse(iso);
  const line = 'Due Thu 8 Oct 16:00 · hand in on paper';
  const anchor = at('2026-10-08T15:00:00Z');
  const said = (now: string) => lineToday(line, anchor, at(now), viewer);
  expect(said('2026-10-06T15:00:00Z')).toBe(line);
  expect(said('2026-10-07T15:00:00Z')).toBe('Tomorrow, due Thu 8 Oct 16:00 · hand in on paper');
  expect(said('2026-10-08T07:00:00Z')).toBe('Today, due Thu 8 Oct 16:00 · hand in on paper');
  // Of a whole day, the last moment is the midnight that ends it.
  expect(lineToday('Due Thu 8 Oct', at('2026-10-08T23:00:00Z'), at('2026-10-08T07:00:00Z'), viewer)).toMatch(
    /^Today/,
  );
  const night = viewerOf(viewer, { hours: 24, nightUntil: 4 });
  expect(
    lineToday(
      'Due the night of Tue 6 Oct 00:59',
      at('2026-10-06T23:59:00Z'),
      at('2026-10-06T17:00:00Z'),
      night,
    ),
  ).toMatch(/^Today/);
  expect(lineToday('Called off', null, at('2026-10-06T17:00:00Z'), viewer)).toBe('Called off');
});
