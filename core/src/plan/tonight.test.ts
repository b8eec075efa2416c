import { dueAt } from '../../test/occurrence';
import { DUBLIN } from '../../test/feeds';
import { keyOf, type OccurrenceView } from '../item/occurrence';
import { agendaEntry } from '../view/entry';
import { DEFAULT_SETTINGS } from '../view/settings';
import { viewerOf } from '../words/when';
import type { SittingEntry } from './plan-days';
import { tonightOf } from './tonight';

const NOW = Date.parse('2026-10-06T15:10:00Z');
const viewer = viewerOf(DUBLIN, DEFAULT_SETTINGS);
const { loads } = DEFAULT_SETTINGS;
const work = (itemId: string, at: string, more: Partial<OccurrenceView> = {}) =>
  dueAt(
    { kind: 'instant', at, zone: 'Europe/Dublin' },
    { itemId, title: itemId, kind: 'assignment', ...more },
  );
const due = (...all: OccurrenceView[]) => all.map((o) => agendaEntry(o, NOW, viewer));
const sitting = (occurrence: OccurrenceView, from: number, state: 'planned' | 'done' = 'planned') =>
  ({
    key: keyOf(occurrence),
    occurrence,
    name: null,
    sitting: { key: String(from), day: '2026-10-06', from, minutes: 20, state },
  }) as unknown as SittingEntry;

const table = work('table', '2026-10-06T22:59:00Z');
const keel = work('keel', '2026-10-12T15:00:00Z');

test('work due tonight comes first, then sittings of other work by their hours', () => {
  const { work: first, sittings } = tonightOf(due(table), [sitting(keel, 1080), sitting(keel, 1035)], loads);
  expect(first.map(({ entry }) => entry.occurrence.itemId)).toEqual(['table']);
  expect(sittings.map((s) => s.sitting.from)).toEqual([1035, 1080]);
});

test('a sitting of what is due tonight stands with it, and nothing stands twice', () => {
  const { work: first, sittings } = tonightOf(due(table), [sitting(table, 1035), sitting(keel, 1080)], loads);
  expect(first[0]!.sittings.map((s) => s.sitting.from)).toEqual([1035]);
  expect(sittings.map((s) => s.occurrence.itemId)).toEqual(['keel']);
});

test('minutes: what is planned of it, else what is thought, else what is usual; done sittings take none', () => {
  const minutes = (of: OccurrenceView[], sittings: SittingEntry[]) =>
    tonightOf(due(...of), sittings, loads).minutes;
  expect(minutes([table], [])).toBe(loads.assignment);
  expect(minutes([{ ...table, estimate: 25 }], [])).toBe(25);
  expect(minutes([table], [sitting(table, 1035)])).toBe(20);
  expect(minutes([], [sitting(keel, 1035), sitting(keel, 1080, 'done')])).toBe(20);
});

test('what is finished stands apart and takes no time', () => {
  const { work: open, finished, minutes } = tonightOf(due({ ...table, finished: true }), [], loads);
  expect([open.length, finished.length, minutes]).toEqual([0, 1, 0]);
});
