import fc from 'fast-check';
import { DUBLIN, calendar, event, read, todo } from '../../test/feeds';
import { dayIn } from '../time/when';
import { contentFrom, contentText } from '../ical/content';
import { entriesOf, expandEntry } from './entries';
import {
  canBeJoined,
  compatible,
  maybeSame,
  isSameThing,
  pairOf,
  settleDuplicates,
  duplicateKeyOf,
  type Candidate,
} from './duplicates';
import { joinWindows, unjoin } from './windows';

const at = (iso: string) => ({ kind: 'instant', at: iso, zone: 'UTC' }) as const;
const DUE = at('2026-10-16T22:59:00Z');
const base: Candidate = {
  id: 'a',
  uid: 'u1',
  sourceId: 's1',
  title: 'Emulsion report',
  when: DUE,
  course: 'Food Chemistry',
  calendar: 'course',
  own: false,
  repeats: false,
  createdAt: 1,
  sameAs: null,
};
const other = (more: Partial<Candidate> = {}): Candidate => ({
  ...base,
  id: 'b',
  uid: 'u2',
  sourceId: 's2',
  course: null,
  calendar: 'school',
  createdAt: 2,
  ...more,
});
const isAlike = (a: string, b: string) => {
  const bare = (title: string) => title.replace(/^\w+: | \[\w+\]$/g, '');
  return bare(a) === bare(b);
};
const settled = (list: Candidate[], notDuplicate: string[] = []) =>
  Object.fromEntries(settleDuplicates(list, new Map(notDuplicate.map((pair) => [pair, false])), DUBLIN));

describe('the same thing twice', () => {
  test('same title, same due and a course that may be the same; shown where its course is', () => {
    expect(settled([other(), base])).toEqual({ a: null, b: 'a' });
    expect(settled([base, other({ title: 'EMULSION  report [Food Chemistry]' })])).toEqual({
      a: null,
      b: 'a',
    });
  });
  test.each<[string, Partial<Candidate>]>([
    ['another title', { title: 'Emulsion reports' }],
    ['another due date', { when: at('2026-10-16T21:59:00Z') }],
    ['another course', { course: 'Norwegian' }],
    ['the same source', { sourceId: 's1' }],
    ['no date at all', { when: null }],
  ])('not with %s', (_what, more) => {
    expect(settled([base, other(more)])).toEqual({ a: null, b: null });
  });
  test('a due date without an hour is the same day’s due date with one', () => {
    const on = (date: string, course: string | null) => other({ when: { kind: 'date', date }, course });
    expect(isSameThing(base, on('2026-10-16', 'Food Chemistry'), DUBLIN)).toBe(true);
    expect(isSameThing(base, on('2026-10-17', 'Food Chemistry'), DUBLIN)).toBe(false);
    // Of which course it is nobody knows: it may be another one's, due an hour sooner.
    expect(isSameThing(base, on('2026-10-16', null), DUBLIN)).toBe(false);
  });
  test('an identifier is its source’s own: across sources it is one thing only with title and date', () => {
    const same = (more: Partial<Candidate>) => isSameThing(base, other({ uid: 'u1', ...more }), DUBLIN);
    expect(same({})).toBe(true);
    expect(same({ title: 'Food Chemistry: Emulsion report' })).toBe(true);
    expect(same({ title: 'Otherwise' })).toBe(false);
    expect(same({ when: at('2026-10-17T22:59:00Z') })).toBe(false);
    expect(same({ when: null })).toBe(false);
    expect(same({ course: 'History' })).toBe(false);
    const wide = { uid: 'r7@campus.example' };
    expect(isSameThing({ ...base, ...wide }, other({ ...wide, course: 'History' }), DUBLIN)).toBe(true);
  });
  test('what may be one of several stands by itself, and is asked about', () => {
    const history = other({ id: 'h', uid: 'u3', sourceId: 's3', course: 'History', calendar: 'course' });
    const list = [base, history, other()];
    expect(settled(list)).toEqual({ a: null, h: null, b: null });
    expect(maybeSame(list, new Map(), DUBLIN).map(([a, b]) => a.id + b.id)).toEqual(['ab', 'hb']);
  });
  test('no two feeds lose a due date of each other, whatever identifiers and titles they share', () => {
    const entry = fc.record({
      uid: fc.constantFrom('1', '2', '3', 'long-and-its-own@campus.example'),
      title: fc.constantFrom(
        'Quiz 1',
        'Worksheet',
        'Essay [History]',
        'History: Essay',
        'Mathematics: Quiz 1',
      ),
      day: fc.integer({ min: 5, max: 8 }),
      hour: fc.constantFrom(null, '16:00', '22:59'),
    });
    const feed = fc.record({
      entries: fc.uniqueArray(entry, { maxLength: 4, selector: (e) => e.uid }),
      course: fc.constantFrom('Mathematics', 'History', null),
    });
    fc.assert(
      fc.property(fc.array(feed, { minLength: 2, maxLength: 3 }), (feeds) => {
        const all = feeds.flatMap(({ entries, course }, n) =>
          entries.map(({ uid, title, day, hour }): Candidate => ({
            ...base,
            ...{ id: `${n}-${uid}`, uid, title, course, sourceId: `s${n}`, createdAt: n },
            calendar: course === null ? 'group' : 'course',
            when: hour ? at(`2026-10-0${day}T${hour}:00Z`) : { kind: 'date', date: `2026-10-0${day}` },
          })),
        );
        const shownAs = settleDuplicates(all, new Map(), DUBLIN);
        const shown = (c: Candidate) => all.find(({ id }) => id === (shownAs.get(c.id) ?? c.id))!;
        for (const candidate of all) {
          const { title, when, course } = shown(candidate);
          if (!candidate.uid.includes('@')) expect(compatible(course, candidate.course)).toBe(true);
          expect([dayIn(when!, DUBLIN), isAlike(title, candidate.title)]).toEqual([
            dayIn(candidate.when!, DUBLIN),
            true,
          ]);
        }
      }),
      { numRuns: 500, seed: 33 },
    );
  });
  test('what was taken for one thing stays one when one feed hears of a moved date first', () => {
    const moved = other({ when: at('2026-10-19T22:59:00Z') });
    expect(settled([base, moved])).toEqual({ a: null, b: null });
    expect(settled([base, { ...moved, sameAs: 'a' }])).toEqual({ a: null, b: 'a' });
    expect(settled([base, { ...moved, sameAs: 'a', title: 'Something else' }])).toEqual({ a: null, b: null });
  });
  test('what a person has called the same stays one, of one feed and under any name and date', () => {
    const list = [base, other({ sourceId: 's1', title: 'Report', when: null, calendar: 'course' })];
    expect(Object.fromEntries(settleDuplicates(list, new Map([[pairOf('a', 'b'), true]]), DUBLIN))).toEqual({
      a: null,
      b: 'a',
    });
  });
  test('what is written by hand is shown as part of what is gathered, whichever came first', () => {
    const mine = other({ own: true, calendar: 'course', createdAt: 0, title: 'Mine' });
    expect(
      Object.fromEntries(settleDuplicates([mine, base], new Map([[pairOf('a', 'b'), true]]), DUBLIN)),
    ).toEqual({ a: null, b: 'a' });
  });
  test('a series and a single date cannot be joined, nor two that are written by hand', () => {
    expect(canBeJoined(base, other())).toBe(true);
    expect(canBeJoined(base, other({ repeats: true }))).toBe(false);
    expect(canBeJoined({ ...base, own: true }, other({ own: true }))).toBe(false);
  });
  test.each<[string, Partial<Candidate>, boolean]>([
    ['the course before it', { title: 'Food Chemistry: Emulsion report' }, true],
    ['the course before it in brackets', { title: '[Food Chemistry] Emulsion report' }, true],
    ['a course’s code before it', { title: 'FC 101 Emulsion report', course: null }, false],
    ['the course after it', { title: 'Emulsion report – Food Chemistry' }, true],
    ['another hour of the same day', { title: 'Emulsion report', when: at('2026-10-16T08:00:00Z') }, true],
    ['another course before it', { title: 'Norwegian: Emulsion report' }, false],
    ['another day', { title: 'Food Chemistry: Emulsion report', when: at('2026-10-18T08:00:00Z') }, false],
    ['another name', { title: 'Emulsion quiz' }, false],
    ['the same source', { title: 'Food Chemistry: Emulsion report', sourceId: 's1' }, false],
  ])('asked about with %s: %j', (_what, more, isAsked) => {
    const found = maybeSame([other(more), base], new Map(), DUBLIN);
    expect(found.map((pair) => pair.map((c) => c.id))).toEqual(isAsked ? [['a', 'b']] : []);
    expect(maybeSame([other(more), base], new Map([[pairOf('a', 'b'), false]]), DUBLIN)).toEqual([]);
  });
  test('what a person has told apart stays apart', () => {
    expect(settled([base, other()], [pairOf('b', 'a')])).toEqual({ a: null, b: null });
  });
  test('every group has one that is shown, and no two of one source in it', () => {
    const some = fc.record({
      uid: fc.constantFrom('u1', 'u2', 'u3'),
      sourceId: fc.constantFrom('s1', 's2', 's3'),
      title: fc.constantFrom('A', 'B'),
      course: fc.constantFrom(null, 'X', 'Y'),
      calendar: fc.constantFrom('course' as const, 'school' as const),
    });
    fc.assert(
      fc.property(fc.array(some, { maxLength: 12 }), (list) => {
        const all = list.map((c, i): Candidate => ({ ...base, ...c, id: `i${i}`, createdAt: i }));
        const result = settleDuplicates(all, new Map(), DUBLIN);
        expect([...result.keys()].sort()).toEqual(all.map((c) => c.id).sort());
        for (const [id, primary] of result) {
          if (primary === null) continue;
          expect(result.get(primary)).toBeNull();
          const group = all.filter((c) => c.id === primary || result.get(c.id) === primary);
          expect(new Set(group.map((c) => c.sourceId)).size).toBe(group.length);
          expect(id).not.toBe(primary);
        }
        // The order in which they are looked at does not matter.
        expect(Object.fromEntries(settleDuplicates([...all].reverse(), new Map(), DUBLIN))).toEqual(
          Object.fromEntries(result),
        );
      }),
      { numRuns: 200, seed: 15 },
    );
  });
  test('courses are compatible where one name holds the other', () => {
    expect([
      compatible('Food Chemistry', 'food chemistry (Autumn)'),
      compatible(null, 'X'),
      compatible('Art', 'Martial Arts'),
    ]).toEqual([true, true, false]);
  });
  test('the key of two feeds’ entries for one thing is the same', () => {
    const key = (text: string) => {
      const reading = read(calendar(text));
      const entry = entriesOf(reading, { calendar: 'course' })[0]!;
      const dates = expandEntry(entry, {
        from: Date.parse('2026-08-01T00:00:00Z'),
        to: Date.parse('2027-02-01T00:00:00Z'),
        zone: DUBLIN,
        zones: {},
        as: { calendar: 'course' },
      });
      return duplicateKeyOf(entry, dates[0], DUBLIN);
    };
    expect(key(event('UID:1', 'SUMMARY:Emulsion report [Food Chemistry]', 'DTSTART:20261016T225900Z'))).toBe(
      key(todo('UID:2', 'SUMMARY:Emulsion report', 'DUE;VALUE=DATE:20261016')),
    );
    expect(key(todo('UID:3', 'SUMMARY:Some day'))).toBeNull();
  });
});

test('what is stored of an entry reads back as it was', () => {
  const reading = read(
    calendar(
      event(
        'UID:w',
        'SUMMARY:Reading',
        'DTSTART;TZID=Europe/Dublin:20260908T170000',
        'RRULE:FREQ=WEEKLY;COUNT=4',
        'CATEGORIES:A,B',
        'X-OWN;P=1:kept',
        'BEGIN:VALARM',
        'TRIGGER:-PT1H',
        'END:VALARM',
      ),
      event(
        'UID:w',
        'SUMMARY:Moved',
        'RECURRENCE-ID;TZID=Europe/Dublin:20260915T170000',
        'DTSTART;VALUE=DATE:20260914',
        'URL:https://s.example/1',
        'STATUS:TENTATIVE',
        'SEQUENCE:2',
      ),
      event('UID:o', 'SUMMARY:Quiz opens', 'DTSTART:20261007T070000Z'),
      event('UID:c', 'SUMMARY:Quiz closes', 'DTSTART:20261007T190000Z'),
      todo('UID:t', 'SUMMARY:T', 'PERCENT-COMPLETE:40', 'COMPLETED:20261007T101500Z'),
    ),
  );
  const items = joinWindows(reading.items).items;
  for (const { content } of entriesOf({ items }, { calendar: 'course' }))
    expect(contentFrom(contentText(content))).toEqual(content);
  expect(
    unjoin(items)
      .map((i) => i.uid)
      .sort(),
  ).toEqual(reading.items.map((i) => i.uid).sort());
});

test('a closing that is told apart is not joined', () => {
  const { items } = read(
    calendar(
      event('UID:o', 'SUMMARY:Quiz opens [SW]', 'DTSTART:20261007T070000Z'),
      event('UID:c', 'SUMMARY:Quiz closes [SW]', 'DTSTART:20261007T190000Z'),
    ),
  );
  expect(joinWindows(items).items.map((i) => i.title)).toEqual(['Quiz [SW]']);
  expect(joinWindows(items, ['c']).items.map((i) => i.title)).toEqual([
    'Quiz opens [SW]',
    'Quiz closes [SW]',
  ]);
});
