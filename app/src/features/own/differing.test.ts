import { UTC } from '@zephyrfield/core/time/zone';
import { viewerOf } from '@zephyrfield/core/words/when';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';
import { BOATS, CERAMICS } from '../../../test/school';
import { differencesOf, joined } from './differing';
import { EMPTY, type Fields } from './form';

const VIEWER = viewerOf(UTC, DEFAULT_SETTINGS);
const begun: Fields = {
  ...EMPTY,
  title: 'Varnish',
  calendarId: 'bb',
  day: '2026-10-09',
  lastDay: '2026-10-09',
  time: '16:00',
};
const mine: Fields = { ...begun, title: 'Varnish the oars', place: 'Shed' };
const theirs: Fields = { ...begun, day: '2026-10-12', lastDay: '2026-10-12', place: 'Slipway' };

test('two who changed different things are joined; what both changed stays as one has typed it', () => {
  expect(joined(begun, mine, theirs)).toEqual({
    ...mine,
    day: '2026-10-12',
    lastDay: '2026-10-12',
    place: 'Shed',
  });
});

test('what differs is said in words, part by part, and whose of it stands', () => {
  const differences = differencesOf(mine, theirs, [CERAMICS, BOATS], VIEWER);
  expect(differences.map((d) => [d.label, d.mine.words, d.theirs.words])).toEqual([
    ['What', 'Varnish the oars', 'Varnish'],
    ['When', 'Friday 9 October, 16:00', 'Monday 12 October, 16:00'],
    ['Where', 'Shed', 'Slipway'],
  ]);
  expect(differences.map((d) => d.stands(joined(begun, mine, theirs)))).toEqual(['mine', 'theirs', 'mine']);
  expect(differences[2]!.stands({ ...mine, place: 'Pier' })).toBeNull();
});
