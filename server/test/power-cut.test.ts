import { mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import Database from 'better-sqlite3';
import { FLAG, FOLDER, FeedServer, event } from './harness';
import { Process, chance } from './process';

const turn = () => new Promise((done) => setImmediate(done));
const SHEETS = 300;
const sheets = (round: number) =>
  Array.from({ length: SHEETS }, (_, i) =>
    event(
      `s${i}`,
      `Sheet ${i}`,
      `DTSTART;VALUE=DATE:2027${String(1 + ((i + round) % 12)).padStart(2, '0')}10`,
      `DESCRIPTION:Round ${round}`,
    ),
  );

test('twenty power cuts in the middle of readings lose no tick and leave a sound database', async () => {
  const feed = await FeedServer.start();
  const data = mkdtempSync(join(FOLDER, 'zephyrfield-cut-'));
  const server = new Process(data, { ZEPHYRFIELD_ALLOW_HOSTS: feed.host });
  await server.up();
  try {
    await cutTwentyTimes(feed, server, data);
  } finally {
    await server.kill();
    await feed.stop();
    rmSync(data, { recursive: true, force: true });
  }
}, 300_000);

async function cutTwentyTimes(feed: FeedServer, server: Process, data: string): Promise<void> {
  const email = 'juno@skerrow.example';
  const password = 'a good long password';
  const signedIn = async (path: string, body: object) => {
    const agent = server.caller();
    await agent.post(`/api/auth/${path}`).send(body).expect(200);
    return agent;
  };
  let agent = await signedIn('sign-up/email', { name: 'Juno', email, password, setUpWord: server.setUpWord });
  const learnerId = (
    (await agent.post('/api/learners').send({ name: 'Juno', zone: 'Europe/Dublin' }).expect(200)).body as {
      id: string;
    }
  ).id;
  feed.calendar(...sheets(0));
  const { body } = await agent
    .post(`/api/learners/${learnerId}/sources`)
    .send({
      address: `http://${feed.host}/s.ics`,
      zone: 'Europe/Dublin',
      name: 'Sheets',
      kind: 'course',
      ...FLAG,
    })
    .expect(200);
  const sourceId = (body as { source: { id: string } }).source.id;
  const rows = () => {
    const db = new Database(join(data, 'zephyrfield.sqlite'), { readonly: true });
    const items = db.prepare('select id, title from item where gone_at is null order by title').all() as {
      id: string;
      title: string;
    }[];
    const ticked = (
      db.prepare('select item_id from layer where finished_at is not null').all() as { item_id: string }[]
    ).map((r) => r.item_id);
    const integrity = db.pragma('integrity_check', { simple: true });
    const broken = db.pragma('foreign_key_check') as unknown[];
    db.close();
    return { items, ticked, integrity, broken };
  };

  const acknowledged = new Set<string>();
  const numbers = chance(20261006);
  for (let round = 1; round <= 20; round++) {
    const next = numbers.next().value!;
    feed.calendar(...sheets(round));
    feed.requests.length = 0;
    const reading = agent
      .post(`/api/sources/${sourceId}/reading`)
      .send({})
      .then(
        () => {},
        () => {},
      );
    const ticking = (async () => {
      const list = (
        await agent
          .get(`/api/learners/${learnerId}/occurrences`)
          .query({ from: '2026-12-01T00:00:00Z', to: '2028-02-01T00:00:00Z' })
      ).body as OccurrenceView[];
      const o = list.filter((each) => !each.finished)[next(20)];
      if (!o) return;
      const saved = await agent
        .patch(`/api/items/${o.itemId}/layer`)
        .send({ recurrenceId: o.recurrenceId, finished: true, version: o.version });
      if (saved.status === 200) acknowledged.add(o.itemId);
    })().catch(() => {});
    // The moment of the cut: some turns of the event loop after nothing, after the feed was asked for, or
    // after a tick was acknowledged; counted in turns, not in time.
    if (round % 3 === 1) while (!feed.requests.length) await turn();
    if (round % 3 === 2) await ticking;
    for (let turns = next(20_000); turns > 0; turns--) await turn();
    await server.kill();
    await Promise.all([reading, ticking]);

    const { items, ticked, integrity, broken } = rows();
    expect(integrity).toBe('ok');
    expect(broken).toEqual([]);
    expect(items).toHaveLength(SHEETS);
    for (const id of acknowledged) expect(ticked).toContain(id);
    await server.up();
    agent = await signedIn('sign-in/email', { email, password });
  }
  expect(acknowledged.size).toBeGreaterThan(3);
}
