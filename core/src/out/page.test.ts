import { DUBLIN, calendar, event } from '../../test/feeds';
import { NOW, scheduleOf } from '../../test/going-out';
import { DEFAULT_SETTINGS } from '../view/settings';
import { viewerOf } from '../words/when';
import { datesGoingOut } from './going-out';
import { monthAsked, monthPage } from './page';
import { DEFAULT_SHARE } from './share';

const viewer = viewerOf(DUBLIN, DEFAULT_SETTINGS);
const schedule = scheduleOf(
  calendar(
    event(
      'UID:w',
      'SUMMARY:Studio week',
      'DTSTART;VALUE=DATE:20261001',
      'DTEND;VALUE=DATE:20261004',
      'CATEGORIES:Holiday',
    ),
    event('UID:l', 'SUMMARY:Shed log', 'DTSTART:20261008T225900Z', 'CATEGORIES:Assignment'),
    event('UID:n', 'SUMMARY:Next month', 'DTSTART:20261101T100000Z', 'DTEND:20261101T110000Z'),
  ),
);
const page = (month?: string, detail: 'everything' | 'busy' = 'everything') =>
  monthPage(datesGoingOut(schedule, { ...DEFAULT_SHARE, detail }, 'salt'), monthAsked(month, NOW, viewer), {
    now: NOW,
    viewer,
    firstDay: 1,
    calendars: schedule.calendars,
  });

test('a month has whole weeks, its own days numbered, and what lasts days on each of them', () => {
  const { title, weeks, days, before, after, weekdays, today } = page();
  expect([title, before, after, today]).toEqual(['October 2026', '2026-09', '2026-11', '2026-10-06']);
  expect([weekdays[0], weeks.length, weeks[0]!.map((d) => d.number)]).toEqual([
    'Monday',
    5,
    [null, null, null, 1, 2, 3, 4],
  ]);
  expect(days.map((d) => [d.date, d.lines.map((l) => `${l.time} ${l.title}`)])).toEqual([
    ['2026-10-01', [expect.stringContaining('Studio week') as string]],
    ['2026-10-02', [expect.stringContaining('Studio week') as string]],
    ['2026-10-03', [expect.stringContaining('Studio week') as string]],
    ['2026-10-08', ['23:59 Shed log']],
  ]);
});

test('months next to a year’s end follow each other, and what is no month is this one', () => {
  expect([page('2026-12').after, page('2027-01').before]).toEqual(['2027-01', '2026-12']);
  for (const asked of ['2026-13', '2026-00', 'x', '', '999999-01'])
    expect(page(asked).title).toBe('October 2026');
});

test('where hours alone are said, no word stands in it', () => {
  const text = JSON.stringify(page('2026-11', 'busy').days);
  expect(text).toContain('Busy');
  expect(text).not.toContain('Next month');
});
