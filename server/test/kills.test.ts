import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { DEFAULT_SHARE } from '@zephyrfield/core/out/share';
import { BRIEF, ZONE } from './family';
import { ESSAY, FLAG, FOLDER, FeedServer, PNG, RUN_UP, event, type Agent } from './harness';
import { Process, chance } from './process';

/** Number of times the server is killed: a few in each run, a hundred with `ZEPHYRFIELD_KILLS=100`. */
const KILLS = Number(process.env['ZEPHYRFIELD_KILLS'] ?? 4);
const NOTE = 'a note to the crew';
const MANY = 7_000;
/** Number of items in the archive that is brought back. */
const KEPT = 40;
const EMAIL = 'juno@skerrow.example';
const PASSWORD = 'a good long password';
const turn = () => new Promise((done) => setImmediate(done));

/** A kind of write: how it is asked for with a word of its own, and where that word stands afterwards. */
interface Kind {
  name: string;
  write(agent: Agent, word: string): Promise<{ status: number }>;
  /** An SQL query for how often a word is there */
  count: string;
  /** A later one takes its place, so that only the last is there */
  isReplaced?: true;
  /** It stands nowhere by its word: how many there are is compared */
  isCounted?: true;
}

function kindsOf(
  feed: FeedServer,
  ids: { learner: string; calendar: string; item: string },
  archive: Buffer,
) {
  const path = `/api/learners/${ids.learner}`;
  const item = async (agent: Agent) =>
    (await agent.get(`/api/items/${ids.item}`)).body as {
      occurrence: { version: number; personVersion: number };
    };
  const own = (word: string) => ({ ...ESSAY, title: word });
  const kinds: Kind[] = [
    {
      name: 'an item of one’s own',
      write: (agent, word) =>
        agent
          .post(`${path}/own`)
          .send({ writes: [{ id: null, calendarId: ids.calendar, version: 0, item: own(word) }] }),
      count: 'SELECT count(*) FROM item WHERE title = ?',
    },
    {
      name: 'a note for oneself',
      write: async (agent, word) =>
        agent
          .patch(`/api/items/${ids.item}/person-layer`)
          .send({ recurrenceId: '', version: (await item(agent)).occurrence.personVersion, note: word }),
      count: 'SELECT count(*) FROM person_layer WHERE note = ?',
      isReplaced: true,
    },
    {
      name: 'a brief',
      write: (agent, word) =>
        agent.put(`/api/items/${ids.item}/brief`).send({ brief: { ...BRIEF, aim: word } }),
      count: `SELECT count(*) FROM brief b JOIN brief_text t ON t.id = b.text_id
        WHERE json_extract(t.value, '$.aim') = ?`,
      isReplaced: true,
    },
    {
      name: 'a file of a brief',
      write: (agent, word) =>
        agent
          .post(`/api/items/${ids.item}/files`)
          .query({ name: `${word}.png` })
          .set('content-type', 'application/octet-stream')
          .send(Buffer.concat([PNG, Buffer.from(word)])),
      count: "SELECT count(*) FROM brief_file WHERE name = ? || '.png'",
    },
    {
      name: NOTE,
      write: (agent, word) =>
        agent
          .post('/api/notes')
          .send({ learnerIds: [ids.learner], item: ids.item, text: word, key: keyOf(word) }),
      count: 'SELECT count(*) FROM note WHERE text = ?',
    },
    {
      name: 'a brief to take again',
      write: (agent, word) => agent.post('/api/briefs').send({ name: word, brief: BRIEF }),
      count: 'SELECT count(*) FROM kept_brief WHERE name = ?',
    },
    {
      name: 'a link for others',
      write: (agent, word) =>
        agent.post(`${path}/shares`).send({
          ...{ name: word, page: false, until: null },
          rules: { ...DEFAULT_SHARE, calendars: [ids.calendar] },
        }),
      count: 'SELECT count(*) FROM share WHERE name = ?',
    },
    {
      name: 'a run-up',
      write: async (agent, word) => {
        const { runUps } = (await agent.get(`${path}/plan`)).body as {
          runUps: { itemId: string; version: number }[];
        };
        const version = runUps.find((r) => r.itemId === ids.item)?.version ?? 0;
        const parts = [{ name: word, share: 1 }];
        return agent
          .post(`${path}/plan/run-ups`)
          .send({ writes: [{ itemId: ids.item, version, runUp: { ...RUN_UP, parts } }] });
      },
      count: "SELECT count(*) FROM run_up WHERE json_extract(parts, '$[0].name') = ?",
      isReplaced: true,
    },
    {
      name: `a first reading of ${MANY} entries`,
      write: (agent, word) =>
        agent.post(`${path}/sources`).send({
          ...{ address: `http://${feed.host}/${word}.ics`, zone: ZONE, name: word, kind: 'course' },
          ...FLAG,
        }),
      count: `SELECT count(*) / ${MANY}.0 FROM item i JOIN calendar c ON c.id = i.calendar_id WHERE c.name = ?`,
    },
    {
      name: 'an archive that is brought back',
      write: (agent) =>
        agent.post('/api/archives/restored').set('content-type', 'application/octet-stream').send(archive),
      // Every schedule but the first is one that was brought back, whole.
      count: `SELECT count(*) FROM learner l WHERE ? <> '' AND (SELECT count(*) FROM item i
        WHERE i.learner_id = l.id AND i.title GLOB 'Kept *') = ${KEPT}`,
      isCounted: true,
    },
  ];
  return kinds;
}

const keys = new Map<string, string>();
/** Gives the key of a note, the same for what is sent again. */
const keyOf = (word: string) => keys.get(word) ?? (keys.set(word, randomUUID()), keys.get(word)!);

test(`${KILLS} kills in the middle of writes of every kind lose none that was acknowledged, and double none`, async () => {
  const feed = await FeedServer.start();
  const data = mkdtempSync(join(FOLDER, 'zephyrfield-kills-'));
  const server = new Process(data, { ZEPHYRFIELD_ALLOW_HOSTS: feed.host });
  await server.up();
  try {
    await killAgainAndAgain(feed, server, data);
  } finally {
    await server.kill();
    await feed.stop();
    rmSync(data, { recursive: true, force: true });
  }
}, 3_600_000);

async function killAgainAndAgain(feed: FeedServer, server: Process, data: string): Promise<void> {
  const signedIn = async (path: string, body: object) => {
    const agent = server.caller();
    await agent.post(`/api/auth/${path}`).send(body).expect(200);
    return agent;
  };
  let agent = await signedIn('sign-up/email', {
    ...{ name: 'Juno', email: EMAIL, password: PASSWORD, setUpWord: server.setUpWord },
  });
  const made = async (path: string, body: object) =>
    (await agent.post(path).send(body).expect(200)).body as never;
  const { id: learner } = (await made('/api/learners', { name: 'Juno', zone: ZONE })) as { id: string };
  const path = `/api/learners/${learner}`;
  const { id: calendar } = (await made(`${path}/calendars`, {
    ...{ name: 'Home', kind: 'home', zone: ZONE, ...FLAG },
  })) as { id: string };
  const writes = Array.from({ length: KEPT }, (_, n) => ({
    ...{ id: null, calendarId: calendar, version: 0, item: { ...ESSAY, title: `Kept ${n}` } },
  }));
  const { written } = (await made(`${path}/own`, { writes })) as { written: { id: string }[] };
  const archive = (
    await agent
      .get(`${path}/archive`)
      .buffer(true)
      .parse((res, done) => {
        const parts: Buffer[] = [];
        res.on('data', (part: Buffer) => parts.push(part));
        res.on('end', () => done(null, Buffer.concat(parts)));
      })
      .expect(200)
  ).body as Buffer;
  feed.calendar(
    ...Array.from({ length: MANY }, (_, n) => event(`m${n}`, `Entry ${n}`, 'DTSTART;VALUE=DATE:20261012')),
  );
  const kinds = kindsOf(feed, { learner, calendar, item: written[0]!.id }, archive);
  const counted = (kind: Kind, word: string): number => {
    const db = new Database(join(data, 'zephyrfield.sqlite'), { readonly: true });
    const count = db.prepare<[string], number>(kind.count).pluck().get(word)!;
    db.close();
    return count;
  };
  const soundness = () => {
    const db = new Database(join(data, 'zephyrfield.sqlite'), { readonly: true });
    const found = [db.pragma('integrity_check', { simple: true }), db.pragma('foreign_key_check')];
    db.close();
    return found;
  };
  const numbers = chance(20261202);
  const stands = new Map<string, string>();
  let acknowledged = 0;
  for (let round = 1; round <= KILLS; round++) {
    const next = numbers.next().value!;
    // A few at once, others in each round: all of them would wait for one another.
    const [big, small] = [kinds.slice(-2), kinds.slice(0, -2)];
    const now = [
      big[round % 2]!,
      ...Array.from({ length: 3 }, (_, n) => small[(round * 3 + n) % small.length]!),
    ];
    const before = new Map(now.map((kind) => [kind.name, counted(kind, 'any')]));
    const words = new Map(now.map((kind) => [kind.name, `r${round}x${next(1_000)}`]));
    const done = new Set<string>();
    const asked = now.map(async (kind) => {
      const { status } = await kind.write(agent, words.get(kind.name)!).catch(() => ({ status: 0 }));
      // Cut off, it may be there or not; but nothing may be refused.
      expect([0, 200]).toContain(status);
      if (status === 200) done.add(kind.name);
    });
    // The moment of the kill, counted in turns and in what was acknowledged, not in time.
    if (round % 3 === 1) while (done.size < 2) await turn();
    if (round % 3 === 2) await asked[0];
    for (let turns = next(20_000); turns > 0; turns--) await turn();
    await server.kill();
    await Promise.all(asked);
    expect(soundness()).toEqual(['ok', []]);
    for (const kind of now) {
      const word = words.get(kind.name)!;
      const count = kind.isCounted ? counted(kind, word) - before.get(kind.name)! : counted(kind, word);
      const isThere = done.has(kind.name);
      expect({ round, name: kind.name, count }).toEqual({
        ...{ round, name: kind.name },
        count: isThere ? 1 : count === 0 ? 0 : 1,
      });
      const last = stands.get(kind.name);
      if (kind.isReplaced && count === 0 && last) expect(counted(kind, last)).toBe(1);
      if (count === 1) stands.set(kind.name, word);
      if (isThere) acknowledged++;
    }
    await server.up();
    agent = await signedIn('sign-in/email', { email: EMAIL, password: PASSWORD });
    // What was cut off is sent again by the page that had it: it is there once.
    const note = now.find((kind) => kind.name === NOTE);
    if (note) {
      expect((await note.write(agent, words.get(NOTE)!)).status).toBe(200);
      expect(counted(note, words.get(NOTE)!)).toBe(1);
    }
  }
  expect(acknowledged).toBeGreaterThanOrEqual(KILLS);
  if (process.env['ZEPHYRFIELD_KILLS'])
    console.warn(`${KILLS} kills, ${acknowledged} writes acknowledged, none lost, none doubled`);
}
