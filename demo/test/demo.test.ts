import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { entriesOf } from '@zephyrfield/core/gather/entries';
import { readFeed } from '@zephyrfield/core/ical/reading';
import { ianaZone } from '@zephyrfield/core/time/zone';
import { writeFeed } from '@zephyrfield/stand-ins/campus/write';
import { DemoClock } from '../src/clock';
import { campusFeeds } from '../src/feeds/index';
import { FOLLOWED, LEARNERS, LEFT_OPEN, PEOPLE } from '../src/people';
import { DEMO_START, ZONE, dayOf, inUtc } from '../src/term';

const feeds = campusFeeds('http://campus.example');
const entries = (path: string) =>
  entriesOf(
    readFeed(
      new TextEncoder().encode(
        writeFeed(
          feeds.find((f) => f.path === path)!,
          '2026-08-01T00:00:00Z',
        ),
      ),
      { fallbackZone: ianaZone(ZONE)! },
    ),
    { calendar: 'course' },
  );

test('the term is where the scenario puts it', () => {
  expect(dayOf(1, 1)).toBe('2026-08-31');
  expect(dayOf(6, 2)).toBe('2026-10-06');
  expect(dayOf(16, 5)).toBe('2026-12-18');
  expect(inUtc('2026-10-24', '23:59')).toEqual({ kind: 'utc', at: '2026-10-24T22:59:00Z' });
  expect(inUtc('2026-10-26', '23:59')).toEqual({ kind: 'utc', at: '2026-10-26T23:59:00Z' });
});

test('every feed is read without a warning, each in its own way', () => {
  for (const feed of feeds) {
    const reading = readFeed(new TextEncoder().encode(writeFeed(feed, '2026-08-01T00:00:00Z')), {
      fallbackZone: ianaZone(ZONE)!,
    });
    expect(reading.warnings).toEqual([]);
    expect(reading.items.length).toBe(feed.entries.length);
  }
  expect(entries('boatbuilding').every((e) => e.content.master?.component === 'VTODO')).toBe(true);
  expect(entries('ceramics-studio').every((e) => e.handIn === 'paper' && e.kind === 'assignment')).toBe(true);
  expect(entries('ocean-navigation').every((e) => e.handIn === 'online')).toBe(true);
});

test('what the demo follows, sees and leaves open is there', () => {
  const uids = new Set(feeds.flatMap((f) => f.entries.map((e) => e.uid)));
  for (const { path, learner } of FOLLOWED) {
    expect(feeds.map((f) => f.path)).toContain(path);
    expect(LEARNERS.map((l) => l.id)).toContain(learner);
  }
  for (const uid of LEFT_OPEN) expect(uids).toContain(uid);
  for (const { sees } of PEOPLE)
    for (const [learner] of sees) expect(LEARNERS.map((l) => l.id)).toContain(learner);
});

test('the clock begins where the demo does, ticks, moves ahead, and goes on after a restart', () => {
  let real = 5_000;
  const file = join(mkdtempSync(join(tmpdir(), 'clock-')), 'clock');
  const clock = new DemoClock(DEMO_START, file, () => real);
  real += 1_000;
  expect(clock.now()).toBe(DEMO_START + 1_000);
  clock.advance(3_600_000);
  real += 99_000_000;
  expect(new DemoClock(DEMO_START, file, () => real).now()).toBe(DEMO_START + 3_601_000);
});
