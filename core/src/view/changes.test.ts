import { changeWords, type ChangeView } from '../item/change';
import { ianaZone } from '../time/zone';
import { changesByDay } from './changes';

const DUBLIN = ianaZone('Europe/Dublin')!;
const at = (iso: string) => ({ kind: 'instant', at: iso, zone: 'UTC' }) as const;
const change = (id: number, calendarId: string, when: string, seen: boolean): ChangeView => ({
  id,
  calendarId,
  at: when,
  seen,
  kind: 'moved',
  itemId: 'i',
  recurrenceId: '',
  title: 'T',
  from: at('2026-10-08T15:00:00Z'),
  to: at('2026-10-12T15:00:00Z'),
  formerTitle: null,
});

test('unseen first, by the day it was found here and by calendar', () => {
  const { unseen, seen, upTo } = changesByDay(
    [
      change(4, 'b', '2026-10-06T23:30:00Z', false),
      change(3, 'a', '2026-10-06T10:00:00Z', false),
      change(2, 'a', '2026-10-06T09:00:00Z', false),
      change(1, 'a', '2026-10-05T09:00:00Z', true),
    ],
    DUBLIN,
  );
  expect(unseen.map((d) => d.calendars.map((c) => [c.calendarId, c.changes.length]))).toEqual([
    [['b', 1]],
    [['a', 2]],
  ]);
  expect(seen).toHaveLength(1);
  expect(upTo).toBe(4);
  expect(changesByDay([], DUBLIN)).toEqual({ unseen: [], seen: [], upTo: null });
});

test('a change in one line', () => {
  const words = (c: Partial<ChangeView>) => changeWords({ ...change(1, 'a', '', false), ...c }, DUBLIN);
  expect(words({})).toBe('moved: Thu 8 Oct 16:00 → Mon 12 Oct 16:00');
  expect(words({ kind: 'added', from: null, to: { kind: 'date', date: '2026-10-16' } })).toBe(
    'new, Fri 16 Oct',
  );
  expect(words({ kind: 'reworded', formerTitle: 'Keel' })).toBe('reworded, was “Keel”');
  expect(words({ kind: 'reworded' })).toBe('its description was changed');
  expect(words({ kind: 'calledOff', to: null })).toBe('called off, was Thu 8 Oct 16:00');
  expect(words({ kind: 'removed', to: null })).toBe('gone from its feed, was Thu 8 Oct 16:00');
});
