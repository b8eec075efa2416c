import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { UTC } from '@zephyrfield/core/time/zone';
import { calendarStore } from '../src/calendars/store';
import { openDatabase, type Db } from '../src/db/open';
import { applyReading } from '../src/gather/apply';
import { horizon } from '../src/gather/horizon';
import { readBytes } from '../src/gather/read-bytes';
import { inSteps, STEP, type Steps } from '../src/gather/steps';
import { gatherStore, type GatherStore } from '../src/gather/store';
import { peopleStore } from '../src/people/store';
import { FLAG, FeedServer, Installation, START, calendarText, event, eventually } from './harness';

let folder: string;
let db: Db;
let store: GatherStore;
const SPAN = horizon(START);
/** So many entries with a date each take more than two steps. */
const MANY = STEP + 100;
/** So many take longer to be written than to be read. */
const LONG = 15_000;
const feed = (day: string, many = MANY) =>
  new TextEncoder().encode(
    calendarText(
      ...Array.from({ length: many }, (_, i) =>
        event(`e${i}`, `Sheet ${i}`, `DTSTART;VALUE=DATE:202611${day}`),
      ),
    ),
  );

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'zephyrfield-steps-'));
  db = openDatabase(join(folder, 'a.sqlite'), join(__dirname, '../migrations'));
  store = gatherStore(db);
  peopleStore(db).addLearner({ id: 'l', name: 'Juno', zone: 'UTC', createdAt: START });
  calendarStore(db).add({
    ...FLAG,
    id: 'c',
    learnerId: 'l',
    name: 'C',
    kind: 'course',
    zone: 'UTC',
    position: 1,
    createdAt: START,
  });
  store.add({
    id: 's',
    learnerId: 'l',
    calendarId: 'c',
    kind: 'followedLink',
    addressSealed: '',
    addressMasked: '',
    addressDigest: '',
    createdAt: START,
  });
});
afterEach(() => {
  db.$client.close();
  rmSync(folder, { recursive: true });
});

const reading = (day: string, first: boolean) =>
  applyReading(
    store,
    { id: 's', learnerId: 'l', horizonTo: SPAN.to },
    readBytes({ bytes: feed(day), zone: 'UTC', as: { calendar: 'course' }, ...SPAN }),
    {
      now: START,
      zone: UTC,
      horizon: SPAN,
      believed: first,
      quiet: first,
      calendarOf: () => 'c',
    },
  );
const onDay = (day: string) => {
  const count = db.$client.prepare(
    "SELECT count(*) FROM occurrence WHERE start LIKE '%2026-11-' || ? || '%'",
  );
  return count.pluck().get(day);
};
/** One step, as a server does it before it is cut off. */
const oneStep = (steps: Steps<unknown>) => store.transaction(() => steps.next().done);

test('others get their turn between the steps of a long reading', async () => {
  let turns = 0;
  const timer = setInterval(() => turns++, 0);
  const applied = await inSteps(store, reading('12', true));
  clearInterval(timer);
  expect(applied).toMatchObject({ added: MANY });
  expect(turns).toBeGreaterThan(0);
});

test('broken off after a step, the next reading does what is left, and tells each piece of news once', async () => {
  expect(oneStep(reading('12', true))).toBe(false);
  expect(onDay('12')).toBe(STEP / 2);
  await inSteps(store, reading('12', true));
  expect(onDay('12')).toBe(MANY);
  expect(store.changesOf('l')).toEqual([]);

  // What stands has to be read as well, which takes a step itself.
  const moved = reading('13', false);
  while (onDay('13') === 0) expect(oneStep(moved)).toBe(false);
  expect(onDay('12')).toBeGreaterThan(0);
  await inSteps(store, reading('13', false));
  expect([onDay('12'), onDay('13')]).toEqual([0, MANY]);
  const told = db.$client.prepare('SELECT count(*) AS all_, count(DISTINCT item_id) AS each FROM change');
  expect(told.get()).toEqual({ all_: MANY, each: MANY });
});

test('nothing more is put into what was taken away between two steps', async () => {
  const steps = reading('12', true);
  oneStep(steps);
  store.change('s', { removedAt: START });
  await expect(inSteps(store, steps)).rejects.toMatchObject({ problem: { status: 404 } });
  expect(onDay('12')).toBe(STEP / 2);
});

describe('a long link', () => {
  let server: FeedServer;
  let w: Installation;
  beforeEach(async () => {
    server = await FeedServer.start();
    w = await Installation.start(server.host);
  });
  afterEach(async () => {
    await w.stop();
    await server.stop();
  });

  test('a check that is due while a long link is read in for the first time waits, and finds nothing left to do', async () => {
    const count = (what: string) =>
      w.db((other) => other.prepare(`SELECT count(*) FROM ${what}`).pluck().get());
    /** How many entries stand each time the link is asked for */
    const standing: unknown[] = [];
    server.answer = (_req, res) => {
      standing.push(count('item'));
      res.writeHead(200, { 'content-type': 'text/calendar' }).end(feed('12', LONG));
    };
    const { agent, learnerId } = await w.person();
    const following = agent
      .post(`/api/learners/${learnerId}/sources`)
      .send({
        address: `http://${server.host}/long.ics?key=1`,
        zone: 'UTC',
        name: 'Long',
        kind: 'course',
        ...FLAG,
      })
      .then((reply) => reply);
    await eventually(() => count('source') || undefined);
    // Its first step is done, and it is due at once, should the others never come.
    await w.services.schedule.turn();
    expect((await following).status).toBe(200);
    expect(standing).toEqual([0, LONG]);
    expect(count('item')).toBe(LONG);
    expect((await agent.get(`/api/learners/${learnerId}/changes`).expect(200)).body).toEqual([]);
    expect((await agent.get(`/api/learners/${learnerId}/sources`).expect(200)).body).toMatchObject([
      { trouble: null },
    ]);
  });
});
