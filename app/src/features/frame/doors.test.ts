import { PLACES } from '@/places';
import { DOORS, YOU, doorOf, heldIn, pageName, roomOf } from './doors';

const OUTSIDE = ['/', '/confirm', '/forgotten', '/join', '/new-account', '/reset'];

test('every place is behind just one door', () => {
  for (const place of PLACES.filter((p) => !OUTSIDE.includes(p))) {
    const doors = [...DOORS, YOU].filter((door) => doorOf(place) === door);
    expect([place, doors.length]).toEqual([place, 1]);
  }
  expect(doorOf('/join')).toBeUndefined();
});

test('every place has a name of its own, and two places never the same', () => {
  const rooms = DOORS.flatMap((door) =>
    door.rooms.map(({ href, asked }) => [href.split('?')[0]!, asked] as const),
  );
  const plain = PLACES.filter(
    (p) => !OUTSIDE.includes(p) && p !== '/notices' && !rooms.some(([r]) => r === p),
  );
  const names = [
    ...rooms.map(([path, asked]) => pageName(path, asked ? { [asked[0]]: asked[1] } : {})),
    ...plain.map((path) => pageName(path, {})),
  ];
  expect(names.filter((name) => !name)).toEqual([]);
  expect(new Set(names).size).toBe(names.length);
});

test('rooms at one address are told apart by what is asked', () => {
  const todo = doorOf('/plan')!;
  expect(roomOf(todo, '/plan', {})!.words).toBe('evenings');
  expect(roomOf(todo, '/plan', { view: 'weeks' })!.words).toBe('weeks');
  expect(roomOf(todo, '/plan', { view: 'nonsense' })!.words).toBe('evenings');
  expect(roomOf(doorOf('/news')!, '/news', { show: 'reminders' })!.words).toBe('reminders');
});

test('what is opened from within leads back to where it was opened', () => {
  expect(heldIn('/gather/follow')?.from).toEqual({ href: '/gather', words: 'Gather' });
  expect(heldIn('/settings')?.from).toMatchObject({ href: '/you' });
  expect(heldIn('/hidden')?.from).toMatchObject({ href: '/calendar' });
  expect(heldIn('/today')).toBeUndefined();
});
