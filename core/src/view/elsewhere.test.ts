import { shownElsewhere } from './elsewhere';

test('what of a calendar is shown in others is counted by where, a series once', () => {
  const at = (itemId: string, calendarId: string, ...alsoIn: string[]) => ({ itemId, calendarId, alsoIn });
  const found = shownElsewhere([
    at('lab', 'chemistry', 'group'),
    at('lab', 'chemistry', 'group'),
    at('essay', 'chemistry', 'group', 'school'),
    at('play', 'drama', 'group'),
    at('walk', 'home'),
  ]);
  expect(Object.fromEntries(found)).toEqual({
    group: [
      { calendarId: 'chemistry', count: 2 },
      { calendarId: 'drama', count: 1 },
    ],
    school: [{ calendarId: 'chemistry', count: 1 }],
  });
});
