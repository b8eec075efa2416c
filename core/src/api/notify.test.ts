import { DEFAULT_NOTICE_SETTINGS } from '../notify/settings';
import { RemindRules, RemindSet, NoticeSettings } from './notify';

const wrong = (result: { error?: { issues: { path: PropertyKey[]; message: string }[] } | undefined }) =>
  result.error?.issues.map((i) => [i.path.join('.'), i.message]);

test('rules come before what they are for, within 60 days, at times there are, and are not endless', () => {
  expect(wrong(RemindRules.safeParse([{ kind: 'ahead', minutes: -5 }]))).toEqual([
    ['0.minutes', 'A reminder comes before, not after.'],
  ]);
  expect(wrong(RemindRules.safeParse([{ kind: 'day', days: 61, minute: 0 }]))).toEqual([
    ['0.days', 'At most 60 days ahead.'],
  ]);
  expect(wrong(RemindRules.safeParse([{ kind: 'moment', local: '2026-11-31T10:00:00' }]))).toEqual([
    ['0.local', 'There is no such time.'],
  ]);
  expect(wrong(RemindRules.safeParse([{ kind: 'moment', local: '2026-11-30T10:00:00Z' }]))).toEqual([
    ['0.local', 'There is no such time.'],
  ]);
  expect(
    wrong(RemindRules.safeParse(Array.from({ length: 9 }, () => ({ kind: 'ahead', minutes: 5 })))),
  ).toEqual([['', 'Eight reminders are the most.']]);
});

test('a schedule or calendar says something of some kinds, and never a single moment', () => {
  expect(RemindSet.parse({ test: [{ kind: 'ahead', minutes: 5 }] })).toEqual({
    test: [{ kind: 'ahead', minutes: 5 }],
  });
  expect(wrong(RemindSet.safeParse({ work: [{ kind: 'moment', local: '2026-11-30T10:00:00' }] }))).toEqual([
    ['work', 'A moment is for one item alone.'],
  ]);
  expect(RemindSet.safeParse({ everything: [] }).success).toBe(false);
});

test('what one is told: a channel for each kind of notice, quiet hours that end', () => {
  expect(NoticeSettings.safeParse(DEFAULT_NOTICE_SETTINGS).success).toBe(true);
  const { sheet: _none, ...some } = DEFAULT_NOTICE_SETTINGS.all;
  expect(NoticeSettings.safeParse({ ...DEFAULT_NOTICE_SETTINGS, all: some }).success).toBe(false);
  expect(
    NoticeSettings.safeParse({
      ...DEFAULT_NOTICE_SETTINGS,
      all: { ...DEFAULT_NOTICE_SETTINGS.all, sheet: ['pigeon'] },
    }).success,
  ).toBe(false);
  expect(wrong(NoticeSettings.safeParse({ ...DEFAULT_NOTICE_SETTINGS, quiet: { from: 0, to: 0 } }))).toEqual([
    ['quiet.to', 'Quiet hours that never end would hold everything back: choose another end.'],
  ]);
});
