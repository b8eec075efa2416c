import { timesOf, type OwnItem } from '@zephyrfield/core/item/own';
import { recurrenceIdOf, type When } from '@zephyrfield/core/time/when';
import { ianaZone } from '@zephyrfield/core/time/zone';
import { School, lesson } from '../../test/school';
import { useUndo } from './undo';
import { moveOwn, removalsFor, writesFor } from './own';
import type { OwnAt } from './own-at';

const zone = ianaZone('Europe/Dublin')!;
const zones = (name: string) => ianaZone(name)!;
const at = (text: string): When => ({ kind: 'instant', at: text, zone: 'Europe/Dublin' });
const cello: OwnItem = {
  kind: 'lesson',
  handIn: 'nothing',
  title: 'Cello',
  place: '',
  details: '',
  when: at('2026-10-05T15:00:00Z'),
  end: at('2026-10-05T15:45:00Z'),
  repeat: { rule: 'FREQ=WEEKLY;COUNT=5', except: [] },
  changes: [],
};
const opened: OwnAt = { id: 'i', calendarId: 'hm', version: 3, item: cello, of: at('2026-10-19T15:00:00Z') };
/** As the form gives it: at the date it was opened at, an hour later. */
const later: OwnItem = {
  ...cello,
  title: 'Cello, later',
  when: at('2026-10-19T16:00:00Z'),
  end: at('2026-10-19T16:45:00Z'),
};
const keys = (item: OwnItem | null) =>
  item
    ? timesOf(item, {
        from: Date.parse('2026-09-01T00:00:00Z'),
        to: Date.parse('2027-01-01T00:00:00Z'),
        zone,
        zones,
      }).map((w) => recurrenceIdOf(w).slice(5, 16))
    : [];

test('this date alone', () => {
  const writes = writesFor(opened, later, 'hm', 'one');
  expect(writes).toMatchObject([{ id: 'i', version: 3 }]);
  expect(keys(writes[0]!.item)).toEqual([
    '10-05T15:00',
    '10-12T15:00',
    '10-19T16:00',
    '10-26T16:00',
    '11-02T16:00',
  ]);
  expect(writes[0]!.item!.title).toBe('Cello');
});
test('this date and all later ones: two items that together are all of it', () => {
  const [first, second] = writesFor(opened, later, 'xx', 'later');
  expect(first).toMatchObject({ id: 'i', calendarId: 'hm', version: 3 });
  expect(second).toMatchObject({ id: null, calendarId: 'xx', from: 'i', item: { title: 'Cello, later' } });
  expect(keys(first!.item)).toEqual(['10-05T15:00', '10-12T15:00']);
  // The clocks change on 25 October; the hour on the wall stays.
  expect(keys(second!.item)).toEqual(['10-19T16:00', '10-26T17:00', '11-02T17:00']);
});
test('all its dates move as far as the one it was opened at', () => {
  const [write] = writesFor(opened, later, 'hm', 'all');
  expect(keys(write!.item)).toEqual([
    '10-05T16:00',
    '10-12T16:00',
    '10-19T16:00',
    '10-26T17:00',
    '11-02T17:00',
  ]);
  expect(write!.item!.end).toEqual(at('2026-10-05T16:45:00Z'));
});
test('taken away on one date, from there on, or altogether', () => {
  expect(keys(removalsFor(opened, 'one')[0]!.item)).toEqual([
    '10-05T15:00',
    '10-12T15:00',
    '10-26T16:00',
    '11-02T16:00',
  ]);
  expect(keys(removalsFor(opened, 'later')[0]!.item)).toEqual(['10-05T15:00', '10-12T15:00']);
  expect(removalsFor(opened, 'all')[0]!.item).toBeNull();
});
test('what does not repeat is simply written', () => {
  const single = { ...opened, item: { ...cello, repeat: null }, of: null };
  expect(writesFor(single, later, 'xx', 'one')).toEqual([
    { id: 'i', calendarId: 'xx', item: later, version: 3 },
  ]);
});

describe('moved, though somebody took it away since it was shown', () => {
  const shown = lesson('Cello', '2026-10-19T15:00:00Z', '2026-10-19T15:45:00Z', {
    recurrenceId: '2026-10-19T15:00:00Z',
    own: true,
  });
  const move = async (view: object) => {
    const school = new School({
      occurrences: [shown],
      answers: {
        '/api/items/cello': { own: { item: cello, version: 3 }, gone: false, ...view },
        '/api/learners/juno/own': { written: [], occurrences: [] },
      },
    });
    useUndo.setState({ done: [], message: null });
    await moveOwn('juno', shown, at('2026-10-20T15:00:00Z'), 'Cello moved');
    return { writes: school.changes, message: useUndo.getState().message };
  };
  const refused = {
    writes: [],
    message: { problem: { title: 'Somebody else deleted this a moment ago.' } },
  };

  test('altogether: it is not brought back', async () =>
    expect(await move({ occurrence: shown, gone: true })).toMatchObject(refused));
  test('on that date: no other date is moved in its place', async () => {
    expect(await move({ occurrence: { ...shown, recurrenceId: '2026-10-26T16:00:00Z' } })).toMatchObject(
      refused,
    );
  });
  test('but what still stands is moved', async () => {
    expect(await move({ occurrence: shown })).toMatchObject({
      writes: [['/api/learners/juno/own', { writes: [{ id: 'cello', version: 3 }] }]],
      message: { step: { words: 'Cello moved' } },
    });
  });
});
