import fc from 'fast-check';
import { DUBLIN, calendar, event, read } from '../../test/feeds';
import type { Reading } from '../ical/reading';
import { formatDate } from '../time/civil';
import { recurrenceIdOf } from '../time/when';
import {
  differ,
  isSuspicious,
  standsAt,
  upcoming,
  withRest,
  type Differences,
  type DifferOptions,
  type Snapshot,
} from './differences';
import { entriesOf, expandEntry } from './entries';
import { snapshotOf } from './snapshot';

const OPTIONS: DifferOptions = {
  asOf: Date.parse('2026-10-06T15:10:00Z'),
  viewer: DUBLIN,
  from: Date.parse('2026-01-01T00:00:00Z'),
  to: Date.parse('2027-12-31T00:00:00Z'),
};

const snapshots = (...parts: string[]): Snapshot[] => snapshotsOf(read(calendar(...parts)));

function snapshotsOf(reading: Reading): Snapshot[] {
  return entriesOf(reading, { calendar: 'course' }).map((e) =>
    snapshotOf(
      e,
      expandEntry(e, {
        from: OPTIONS.from,
        to: OPTIONS.to,
        zone: DUBLIN,
        zones: reading.zones,
        as: { calendar: 'course' },
      }),
    ),
  );
}
test('a feed that breaks off, wherever that is, takes nothing away and changes nothing', () => {
  const parts = [
    event('UID:a', 'DTSTART:20261010T100000Z', 'SUMMARY:Keel plan'),
    event('UID:bb', 'DTSTART:20261011T100000Z', 'RRULE:FREQ=WEEKLY;COUNT=5', 'SUMMARY:Log'),
    event('UID:bb', 'RECURRENCE-ID:20261018T100000Z', 'DTSTART:20261019T100000Z', 'SUMMARY:Log moved'),
    event('SUMMARY:Regatta', 'UID:ccc', 'DTSTART:20261012T100000Z'),
  ];
  const before = snapshots(...parts);
  const text = calendar(...parts);
  const nothing = { added: [], moved: [], reworded: [], calledOff: [], removed: [], reissued: [] };
  for (let end = text.indexOf('BEGIN:VEVENT'); end < text.length - 15; end++) {
    const broken = read(text.slice(0, end));
    const after = withRest(before, snapshotsOf(broken), broken.cutOff);
    expect({ end, ...differ(before, after, OPTIONS) }).toMatchObject({ end, ...nothing });
  }
  expect(read(text).cutOff).toBeNull();
});

test('a feed that a person says is renewed keeps what has the same title, in the same order', () => {
  const log = (uid: string, day: number, title = 'Log') =>
    event(`UID:${uid}`, `DTSTART:202610${day}T100000Z`, `SUMMARY:${title}`);
  const before = snapshots(log('a', 12), log('b', 19), log('c', 26, 'Keel plan'));
  const after = snapshots(log('y', 21), log('x', 14), log('z', 28, 'Regatta'));
  const told = (isRenewed: boolean) => differ(before, after, { ...OPTIONS, isRenewed });
  expect(told(false).reissued).toEqual([]);
  expect(told(true).reissued).toEqual([
    { from: 'a', to: 'x' },
    { from: 'b', to: 'y' },
  ]);
  expect(told(true).moved.map((m) => m.uid)).toEqual(['x', 'y']);
  expect(told(true).removed.map((m) => m.uid)).toEqual(['c']);
  expect(told(true).added.map((m) => m.uid)).toEqual(['z']);
});

const changes = (before: string[], after: string[]) => {
  const d = differ(snapshots(...before), snapshots(...after), OPTIONS);
  return Object.fromEntries(
    Object.entries(d).filter(([, list]) => (list as unknown[]).length),
  ) as Partial<Differences>;
};

const KEEL = event(
  'UID:keel',
  'SUMMARY:Keel plan',
  'DTSTART;TZID=Europe/Dublin:20261012T160000',
  'DTEND;TZID=Europe/Dublin:20261012T160000',
  'DESCRIPTION:Draw it',
);
const WEEKLY = event(
  'UID:w',
  'SUMMARY:Slipway',
  'DTSTART;TZID=Europe/Dublin:20261013T170000',
  'DURATION:PT40M',
  'RRULE:FREQ=WEEKLY;COUNT=4',
);
const override = (...lines: string[]) =>
  event('UID:w', 'RECURRENCE-ID;TZID=Europe/Dublin:20261020T170000', ...lines);

describe('what counts as a change', () => {
  test('stamps, order and another way of writing the same moment are none', () => {
    const utc = KEEL.replace(
      'DTSTART;TZID=Europe/Dublin:20261012T160000',
      'DTSTART:20261012T150000Z',
    ).replace('DTEND;TZID=Europe/Dublin:20261012T160000', 'DURATION:PT0S');
    expect(changes([KEEL, WEEKLY], [WEEKLY, utc.replace('20260701T120000Z', '20260901T120000Z')])).toEqual(
      {},
    );
  });
  test('moved, from where to where', () => {
    const { moved } = changes([KEEL], [KEEL.replaceAll('20261012T16', '20261014T09')]);
    expect(moved).toEqual([
      {
        uid: 'keel',
        recurrenceId: null,
        title: 'Keel plan',
        from: expect.objectContaining({ at: '2026-10-12T15:00:00Z' }),
        to: expect.objectContaining({ at: '2026-10-14T08:00:00Z' }),
      },
    ]);
  });
  test('reworded: its title, or only its description', () => {
    expect(changes([KEEL], [KEEL.replace('Keel plan', 'Keel plan, second try')])).toEqual({
      reworded: [
        {
          uid: 'keel',
          recurrenceId: null,
          title: 'Keel plan, second try',
          from: 'Keel plan',
          to: 'Keel plan, second try',
        },
      ],
    });
    expect(changes([KEEL], [KEEL.replace('Draw it', 'Draw it twice')])).toMatchObject({
      reworded: [{ from: 'Keel plan', to: 'Keel plan' }],
    });
  });
  test('called off, and on again', () => {
    const off = KEEL.replace('SUMMARY', 'STATUS:CANCELLED\r\nSUMMARY');
    expect(Object.keys(changes([KEEL], [off]))).toEqual(['calledOff']);
    expect(Object.keys(changes([off], [KEEL]))).toEqual(['added']);
    expect(changes([off], [])).toEqual({});
  });
  test('gone while still to come; dropped out of a moving window once past', () => {
    expect(Object.keys(changes([KEEL, WEEKLY], [WEEKLY]))).toEqual(['removed']);
    expect(Object.keys(changes([KEEL.replaceAll('20261012', '20260912'), WEEKLY], [WEEKLY]))).toEqual([
      'rolledOff',
    ]);
  });
  test('the same thing under another identifier is the same thing', () => {
    expect(changes([KEEL], [KEEL.replace('UID:keel', 'UID:new')])).toEqual({
      reissued: [{ from: 'keel', to: 'new' }],
    });
    const linked = KEEL.replace('SUMMARY', 'URL:https://s.example/keel\r\nSUMMARY');
    expect(
      Object.keys(
        changes([linked], [linked.replace('UID:keel', 'UID:new').replaceAll('20261012', '20261014')]),
      ),
    ).toEqual(['moved', 'reissued']);
    expect(
      Object.keys(
        changes([KEEL], [KEEL.replace('UID:keel', 'UID:new').replaceAll('20261012', '20261014')]),
      ).sort(),
    ).toEqual(['added', 'removed']);
  });
});

describe('series', () => {
  test('one date moved is told as that date', () => {
    const moved = override('SUMMARY:Slipway', 'DTSTART;TZID=Europe/Dublin:20261021T170000', 'DURATION:PT40M');
    expect(changes([WEEKLY], [WEEKLY, moved])).toMatchObject({
      moved: [
        {
          recurrenceId: '2026-10-20T16:00:00Z',
          from: { at: '2026-10-20T16:00:00Z' },
          to: { at: '2026-10-21T16:00:00Z' },
        },
      ],
    });
    expect(changes([WEEKLY, moved], [WEEKLY])).toMatchObject({
      moved: [{ to: { at: '2026-10-20T16:00:00Z' } }],
    });
  });
  test('one date skipped is gone, one more is new', () => {
    const skipped = WEEKLY.replace('RRULE', 'EXDATE;TZID=Europe/Dublin:20261020T170000\r\nRRULE');
    expect(changes([WEEKLY], [skipped])).toMatchObject({
      removed: [{ recurrenceId: '2026-10-20T16:00:00Z' }],
    });
    expect(changes([WEEKLY], [WEEKLY.replace('COUNT=4', 'COUNT=5')])).toMatchObject({
      added: [{ recurrenceId: '2026-11-10T17:00:00Z' }],
    });
  });
  test('all of it moved is one move, and own layers know the way', () => {
    const d = changes([WEEKLY], [WEEKLY.replace('20261013T17', '20261013T18')]);
    expect(d.moved).toMatchObject([{ recurrenceId: null, occurrences: 4 }]);
    expect(d.movedIds).toHaveLength(4);
    expect(d.movedIds![0]).toEqual({ uid: 'w', from: '2026-10-13T16:00:00Z', to: '2026-10-13T17:00:00Z' });
    expect([d.added, d.removed]).toEqual([undefined, undefined]);
  });
  test('a new one is told once, by its next date', () => {
    expect(changes([], [WEEKLY])).toMatchObject({
      added: [{ recurrenceId: null, start: { at: '2026-10-13T16:00:00Z' } }],
    });
  });
  test('what lies beyond the older horizon is not new', () => {
    const d = differ(snapshots(WEEKLY), snapshots(WEEKLY.replace('COUNT=4', 'COUNT=400')), {
      ...OPTIONS,
      to: Date.parse('2026-11-05T00:00:00Z'),
    });
    expect(d.added).toEqual([]);
  });
});

describe('a loss that looks like a mistake', () => {
  const many = (n: number) =>
    Array.from({ length: n }, (_, i) =>
      KEEL.replace('UID:keel', `UID:k${i}`).replace('Keel plan', `Keel plan ${i}`),
    );
  const suspicious = (before: string[], after: string[]) => {
    const a = snapshots(...before);
    return isSuspicious(differ(a, snapshots(...after), OPTIONS), upcoming(a, OPTIONS));
  };
  test('an empty reading, or most of it missing', () => {
    expect(suspicious(many(6), [])).toBe(true);
    expect(suspicious(many(6), many(6).slice(0, 2))).toBe(true);
  });
  test('some missing, the last single one, the past or new identifiers are none', () => {
    expect(suspicious(many(6), many(6).slice(0, 4))).toBe(false);
    expect(suspicious([KEEL], [])).toBe(false);
    expect(
      suspicious(
        many(6).map((k) => k.replaceAll('20261012', '20260912')),
        [],
      ),
    ).toBe(false);
    expect(
      suspicious(
        many(6),
        many(6).map((k) => k.replace('UID:k', 'UID:new-k')),
      ),
    ).toBe(false);
  });
});

test('the differences applied to the one reading give the other', () => {
  const entry = fc.record({
    title: fc.constantFrom('A', 'B', 'C'),
    day: fc.integer({ min: 0, max: 40 }),
    off: fc.boolean(),
  });
  const reading = fc.dictionary(fc.constantFrom('u1', 'u2', 'u3', 'u4', 'u5', 'u6'), entry);
  const DAY0 = 20_740;
  const make = (r: Record<string, { title: string; day: number; off: boolean }>): Snapshot[] =>
    Object.entries(r).map(([uid, { title, day, off }]) => ({
      uid,
      title,
      wording: title,
      url: null,
      occurrences: [
        {
          recurrenceId: '',
          title,
          status: off ? ('cancelled' as const) : ('confirmed' as const),
          start: { kind: 'date' as const, date: formatDate(DAY0 + day) },
          end: null,
          due: null,
        },
      ],
    }));
  const state = (list: Snapshot[]) =>
    new Map(
      list.map((s) => [
        s.uid,
        {
          title: s.title,
          at: s.occurrences[0]!.status === 'cancelled' ? null : recurrenceIdOf(standsAt(s.occurrences[0]!)),
        },
      ]),
    );
  fc.assert(
    fc.property(reading, reading, (a, b) => {
      const [before, after] = [make(a), make(b)];
      const d = differ(before, after, { ...OPTIONS, asOf: DAY0 * 86_400_000 });
      const told = state(before);
      for (const { from, to } of d.reissued) {
        told.set(to, told.get(from)!);
        told.delete(from);
      }
      for (const { uid } of [...d.removed, ...d.rolledOff]) told.delete(uid);
      for (const { uid, title, start } of d.added) told.set(uid, { title, at: recurrenceIdOf(start) });
      for (const { uid, to } of d.moved) told.get(uid)!.at = recurrenceIdOf(to);
      for (const { uid, to } of d.reworded) told.get(uid)!.title = to;
      for (const { uid } of d.calledOff) told.get(uid)!.at = null;
      // What is called off stands nowhere: it is compared by who is left.
      const live = (m: ReturnType<typeof state>) =>
        [...m].filter(([, e]) => e.at !== null).sort((x, y) => x[0].localeCompare(y[0]));
      expect(live(told)).toEqual(live(state(after)));
    }),
    { numRuns: 500, seed: 21 },
  );
});
