import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { School, work } from './school';

const releases = join(__dirname, 'releases');
/** Reads the stores of a device as a page of a release has left them: a new item and a tick wait, something was begun. */
const keptBy = (release: string) =>
  JSON.parse(readFileSync(join(releases, release, 'device.json'), 'utf8')) as Record<string, string>;

test.each(readdirSync(releases))('what a page of %s kept without a connection is sent', async (release) => {
  const kept = keptBy(release);
  localStorage.clear();
  for (const [name, value] of Object.entries(kept)) localStorage.setItem(name, value);
  const [made, ticked] = JSON.parse(kept['zephyrfield-outbox']!) as [
    { writes: object[] },
    { itemId: string },
  ];
  const school = new School({
    occurrences: [
      { ...work('Tide table exercise 11', '2026-10-06T22:59:00Z'), itemId: ticked.itemId, version: 3 },
    ],
  });
  // Stores read what is kept as they are loaded, which they are with a page.
  const { useOutbox } = await import('@/data/outbox');
  const { sendKept } = await import('@/data/outbox-send');
  await sendKept(() => {});
  expect(school.changes).toEqual([
    ['/api/learners/juno/own', { writes: made.writes }],
    [`/api/items/${ticked.itemId}/layer`, { recurrenceId: '', version: 3, finished: true }],
  ]);
  expect(useOutbox.getState().waiting).toEqual([]);
});
