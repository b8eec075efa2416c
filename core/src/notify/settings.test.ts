import fc from 'fast-check';
import { DAY, HOUR, MINUTE, parseInstant } from '../time/civil';
import { ianaZone } from '../time/zone';
import { DEFAULT_NOTICE_SETTINGS, afterQuiet, sheetsBetween, snoozeTimes, channelsFor } from './settings';

const dublin = ianaZone('Europe/Dublin')!;
const t = (text: string) => parseInstant(text);
const quiet = { from: 22 * 60, to: 7 * 60 };

test('what falls into quiet hours waits until they are over, the rest does not; over midnight and across the clock change', () => {
  expect(afterQuiet(t('2026-10-06T20:30:00Z'), quiet, dublin)).toBe(t('2026-10-06T20:30:00Z'));
  expect(afterQuiet(t('2026-10-06T21:30:00Z'), quiet, dublin)).toBe(t('2026-10-07T06:00:00Z'));
  expect(afterQuiet(t('2026-10-07T02:00:00Z'), quiet, dublin)).toBe(t('2026-10-07T06:00:00Z'));
  // The night the clocks go back is an hour longer.
  expect(afterQuiet(t('2026-10-24T22:00:00Z'), quiet, dublin)).toBe(t('2026-10-25T07:00:00Z'));
  expect(afterQuiet(t('2026-10-06T12:30:00Z'), { from: 13 * 60, to: 14 * 60 }, dublin)).toBe(
    t('2026-10-06T13:00:00Z'),
  );
  expect(afterQuiet(t('2026-10-06T12:30:00Z'), null, dublin)).toBe(t('2026-10-06T12:30:00Z'));
});

test('any moment comes out of quiet hours, never earlier, within a day, and then it is not quiet', () => {
  const minute = fc.integer({ min: 0, max: 1439 });
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 60 * 24 * 60 }), minute, minute, (m, from, to) => {
      fc.pre(from !== to);
      const at = t('2026-10-01T00:00:00Z') + m * MINUTE;
      const out = afterQuiet(at, { from, to }, dublin);
      expect(out).toBeGreaterThanOrEqual(at);
      expect(out - at).toBeLessThanOrEqual(DAY + HOUR);
      expect(afterQuiet(out, { from, to }, dublin)).toBe(out);
    }),
  );
});

test('sheets come at their hour on the wall clock, each once however the time is cut; the week’s on Sunday', () => {
  const sheets = { morning: 7 * 60, evening: 18 * 60, week: 17 * 60 };
  const [from, to] = [t('2026-10-23T12:00:00Z'), t('2026-10-26T12:00:00Z')];
  const all = sheetsBetween(sheets, from, to, dublin);
  expect(all.map((b) => `${b.edition} ${new Date(b.at).toISOString().slice(0, 16)}`)).toEqual([
    'evening 2026-10-23T17:00',
    'morning 2026-10-24T06:00',
    'evening 2026-10-24T17:00',
    'morning 2026-10-25T07:00',
    'week 2026-10-25T17:00',
    'morning 2026-10-26T07:00',
  ]);
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 30 }), (steps) => {
      const met: number[] = [];
      let at = from;
      for (const hours of steps) {
        const next = Math.min(to, at + hours * HOUR);
        met.push(...sheetsBetween(sheets, at, next, dublin).map((b) => b.at));
        at = next;
      }
      met.push(...sheetsBetween(sheets, at, to, dublin).map((b) => b.at));
      expect(met).toEqual(all.map((b) => b.at));
    }),
  );
});

test('snoozing: an hour, this evening while there is one, tomorrow morning', () => {
  expect(snoozeTimes(t('2026-10-06T15:10:00Z'), dublin)).toEqual({
    hour: t('2026-10-06T16:10:00Z'),
    evening: t('2026-10-06T17:00:00Z'),
    tomorrow: t('2026-10-07T07:00:00Z'),
  });
  expect(snoozeTimes(t('2026-10-06T16:45:00Z'), dublin).evening).toBeNull();
});

test('a learner may be told of otherwise than the others', () => {
  const noticeSettings = {
    ...DEFAULT_NOTICE_SETTINGS,
    learners: { juno: { ...DEFAULT_NOTICE_SETTINGS.all, dueSoon: ['mail' as const] } },
  };
  expect(channelsFor(noticeSettings, 'juno', 'dueSoon')).toEqual(['mail']);
  expect(channelsFor(noticeSettings, 'tobias', 'dueSoon')).toEqual(DEFAULT_NOTICE_SETTINGS.all.dueSoon);
});
