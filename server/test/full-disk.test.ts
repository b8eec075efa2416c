import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { ESSAY, FLAG, Installation, PNG, eventually } from './harness';

const KB = 1024;
/** A small disk of its own, in memory. Only root may make one; elsewhere `steady.test` has what can be held without. */
function smallDisk(): string | null {
  const at = mkdtempSync(join(tmpdir(), 'zephyrfield-disk-'));
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=8m', 'tmpfs', at], { stdio: 'ignore' });
    return at;
  } catch {
    rmSync(at, { recursive: true });
    return null;
  }
}
const disk = smallDisk();
afterAll(() => {
  if (!disk) return;
  execFileSync('umount', ['-l', disk]);
  rmSync(disk, { recursive: true });
});

(disk ? test : test.skip)(
  'a disk that fills up: what was acknowledged is there and nothing else, reading goes on over a restart, and all recovers by itself',
  async () => {
    const w = await Installation.start('', {}, disk!);
    const { agent, learnerId } = await w.person();
    const addCalendar = () =>
      agent
        .post(`/api/learners/${learnerId}/calendars`)
        .send({ name: 'Home', kind: 'home', zone: 'Europe/Dublin', ...FLAG });
    const calendarId = ((await addCalendar().expect(200)).body as { id: string }).id;
    const { bavail, bsize } = statfsSync(disk!);
    const ballast = join(disk!, 'ballast');
    writeFileSync(ballast, Buffer.alloc(bavail * bsize - 160 * KB));

    const saved: string[] = [];
    const refused = new Set<string>();
    for (let i = 0; i < 60; i++) {
      const item = {
        ...ESSAY,
        title: `Essay ${i}`,
        details: 'x'.repeat(2000),
        when: { kind: 'date', date: '2026-10-12' },
      };
      const { status, body } = await agent
        .post(`/api/learners/${learnerId}/own`)
        .send({ writes: [{ id: null, calendarId, version: 0, item }] });
      if (status === 200) saved.push(item.title);
      else refused.add(`${status} ${(body as { type: string }).type}`);
    }
    expect([...refused]).toEqual(['507 urn:zephyrfield:disk-full']);
    await eventually(async () => ((await agent.get('/readyz')).status === 503 ? true : undefined));
    const there = async () =>
      (
        (
          await agent
            .get(`/api/learners/${learnerId}/occurrences`)
            .query({ from: '2026-10-01T00:00:00Z', to: '2026-11-01T00:00:00Z' })
            .expect(200)
        ).body as OccurrenceView[]
      )
        .map((o) => o.title)
        .sort();
    expect(await there()).toEqual([...saved].sort());

    // A file that has no room leaves nothing of itself.
    const { bavail: left } = statfsSync(disk!);
    const itemId = w.db((db) => db.prepare('SELECT id FROM item LIMIT 1').pluck().get()) as string;
    const photo = Buffer.concat([PNG, Buffer.alloc(2_000 * KB)]);
    const { body } = await agent
      .post(`/api/items/${itemId}/files`)
      .query({ name: 'sheet.png', recurrenceId: '' })
      .set('content-type', 'application/octet-stream')
      .send(photo)
      .expect(507);
    expect(body).toMatchObject({ type: 'urn:zephyrfield:disk-full' });
    expect(statfsSync(disk!).bavail).toBeGreaterThanOrEqual(left - 4);
    const files = () => readdirSync(join(w.data, 'files')).filter((name) => name !== '.bin');
    expect(files()).toEqual([]);

    await w.restart();
    expect(await there()).toEqual([...saved].sort());
    rmSync(ballast);
    await addCalendar().expect(200);
    await w.stop();
  },
);
