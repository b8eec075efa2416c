import fc from 'fast-check';
import { DUBLIN } from '../../test/feeds';
import { PLAIN, at, date, dueAt } from '../../test/occurrence';
import { ITEM_KINDS } from '../item/kind';
import { viewerOf } from '../words/when';
import { agendaEntry, aimEntry, entryId, partWork } from './entry';
import { DEFAULT_SETTINGS } from './settings';

const NOW = Date.parse('2026-10-06T15:10:00Z');
const VIEWER = viewerOf(DUBLIN, DEFAULT_SETTINGS);
const part = (...all: (typeof PLAIN)[]) => {
  const { due, placed } = partWork(all, NOW, VIEWER);
  return { due: due.map((o) => o.title), placed: placed.map((o) => o.title) };
};

test('a test at its hours and work that is called off stand among what one is at, not among what is due', () => {
  const sat = { ...PLAIN, title: 'Sat test', kind: 'test', start: at('2026-10-06T09:10:00Z') } as const;
  const off = dueAt(date('2026-10-06'), { title: 'Called off', status: 'cancelled' });
  const lesson = { ...sat, title: 'Lesson', kind: 'lesson' } as const;
  const due = dueAt(at('2026-10-06T19:00:00Z'), { title: 'Quiz', kind: 'test' });
  expect(part(sat, off, lesson, due)).toEqual({
    due: ['Quiz'],
    placed: ['Sat test', 'Called off', 'Lesson'],
  });
});

test('each occurrence is in exactly one part, and only what is due is drawn with a stub', () => {
  const occurrence = fc.record({
    kind: fc.constantFrom(...ITEM_KINDS),
    status: fc.constantFrom('confirmed' as const, 'cancelled' as const),
    hasDue: fc.boolean(),
    undated: fc.boolean(),
    finished: fc.boolean(),
  });
  fc.assert(
    fc.property(fc.array(occurrence), (list) => {
      const all = list.map(({ hasDue, ...more }, n) => ({
        ...PLAIN,
        ...more,
        itemId: String(n),
        due: hasDue ? PLAIN.start : null,
      }));
      const { due, placed } = partWork(all, NOW, VIEWER);
      expect([...due, ...placed].map((o) => Number(o.itemId)).sort((a, b) => a - b)).toEqual([...all.keys()]);
      for (const o of due) expect(agendaEntry(o, NOW, VIEWER).urgency).not.toBeNull();
      for (const o of placed) expect(agendaEntry(o, NOW, VIEWER).urgency).toBeNull();
    }),
  );
});

test('an aim is an entry of its own beside its due date', () => {
  const work = dueAt(date('2026-10-09'), { aim: date('2026-10-07') });
  const entry = agendaEntry(work, NOW, VIEWER);
  const aim = aimEntry(entry, VIEWER)!;
  expect(entryId(aim)).toBe(`${entryId(entry)} aim`);
});
