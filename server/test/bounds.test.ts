import { versionOf } from '@zephyrfield/core/lib/version';
import type { BriefPlace } from '@zephyrfield/core/api/own';
import type { ItemView, OwnWritten } from '@zephyrfield/core/api/schemas';
import type { OwnItem } from '@zephyrfield/core/item/own';
import { resolve } from 'node:path';
import { FeedTrouble } from '../src/gather/trouble';
import { openStreams } from '../src/http/live';
import { MOST } from '../src/limits';
import { READ } from '../src/gather/jobs';
import { UsedUp, workPool, type Pool } from '../src/work/pool';
import { archive } from './archive';
import { FLAG, FeedServer, Installation, event, type Agent, ESSAY, PNG } from './harness';

// One request, feed or file stops nobody else: work is bounded, and done where it holds up nobody.

let w: Installation;
let feed: FeedServer;
let agent: Agent;
let learnerId: string;
let calendarId: string;
const essay = ESSAY;

beforeAll(async () => {
  feed = await FeedServer.start();
  w = await Installation.start(feed.host, { ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
});
afterAll(async () => {
  await w.stop();
  await feed.stop();
});
/** Somebody new each time: who has used up their time has to wait. */
let people = 0;
beforeEach(async () => {
  ({ agent, learnerId } = await w.person('Juno', `juno${people++}@skerrow.example`));
  const made = await agent
    .post(`/api/learners/${learnerId}/calendars`)
    .send({ name: 'Home', kind: 'home', zone: 'Europe/Dublin', ...FLAG })
    .expect(200);
  calendarId = (made.body as { id: string }).id;
});

const write = (items: OwnItem[], status = 200) =>
  agent
    .post(`/api/learners/${learnerId}/own`)
    .send({ writes: items.map((item) => ({ id: null, calendarId, item, version: 0 })) })
    .expect(status);
const written = (reply: { body: unknown }) => (reply.body as { written: OwnWritten[] }).written;

/**
 * How much of the time that something takes this process can do nothing else: its longest stretch without a turn, as a
 * share of the whole. What is worked out in a thread leaves nearly all of it, however fast or busy the machine is.
 */
async function heldUpBy(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  let [last, longest] = [began, 0];
  const turn = () => {
    const now = performance.now();
    [last, longest] = [now, Math.max(longest, now - last)];
  };
  const turns = setInterval(turn, 1);
  await work().finally(() => clearInterval(turns));
  turn();
  return longest / (last - began);
}
/** Whoever holds up others does so for nearly all of it. */
const HALF = 0.5;

describe('own items', () => {
  const wild = (rule: string, date: string, n = 50) =>
    Array.from({ length: n }, (): OwnItem => ({
      ...essay,
      when: { kind: 'date', date },
      repeat: { rule, except: [] },
    }));
  const EVERY = `FREQ=YEARLY;BYWEEKNO=${Array.from({ length: 53 }, (_, i) => i + 1).join(',')};BYDAY=MO,TU,WE,TH,FR,SA,SU;COUNT=999999`;
  test.each([
    ['all days of all weeks, counted, from the year 100', EVERY, '0100-01-01'],
    ['each day, counted, from the year 100', 'FREQ=DAILY;COUNT=999999', '0100-01-01'],
  ])('fifty that repeat on %s are refused in words, and hold up nobody', async (_what, rule, date) => {
    const heldUp = await heldUpBy(async () => {
      const { body } = await write(wild(rule, date), 422);
      expect(body).toMatchObject({ title: 'This takes too long to work out.', fields: [{ path: 'repeat' }] });
    });
    expect(heldUp).toBeLessThan(HALF);
    expect(
      (
        await agent
          .get(`/api/learners/${learnerId}/occurrences`)
          .query({ from: '2026-10-01T00:00:00Z', to: '2026-11-01T00:00:00Z' })
          .expect(200)
      ).body,
    ).toEqual([]);
  });

  test('more dates than can be written at once are refused with their number; what is usual is not', async () => {
    expect((await write(wild('FREQ=DAILY', '2020-01-01'), 422)).body).toMatchObject({
      title: expect.stringMatching(/^That makes \d{5} dates/),
    });
    await write(wild('FREQ=DAILY', '2026-09-01', 8));
    await write(wild('FREQ=WEEKLY;COUNT=2000', '2000-01-03', 50));
  });

  test('of all of them together no more dates are kept than may be, and a span that holds very many holds up nobody', async () => {
    const daily = (n: number) => wild('FREQ=DAILY', '2026-09-01', n);
    let refused: { body: unknown } | undefined;
    for (let n = 0; n < 9 && !refused; n++) {
      const reply = await agent
        .post(`/api/learners/${learnerId}/own`)
        .send({ writes: daily(8).map((item) => ({ id: null, calendarId, item, version: 0 })) });
      if (reply.status !== 200) refused = reply;
    }
    expect(refused!.body).toMatchObject({
      title: expect.stringMatching(/^Your own items would have \d{5} dates; at most 40000 are kept/),
    });
    const ask = (to: string) =>
      agent.get(`/api/learners/${learnerId}/occurrences`).query({ from: '2026-09-01T00:00:00Z', to });
    const heldUp = await heldUpBy(async () => {
      const { body } = await ask('2027-09-01T00:00:00Z').expect(200);
      expect((body as unknown[]).length).toBeGreaterThan(8_000);
    });
    expect(heldUp).toBeLessThan(HALF);
    // What nobody could look at is refused.
    expect((await ask('2029-12-01T00:00:00Z')).status).toBe(422);
  });

  test('the start waits for none of them, and what was written when nothing was looked at stays as it was', async () => {
    const monthly = { ...essay, repeat: { rule: 'FREQ=MONTHLY', except: [] } };
    const [wildOne, plain] = written(await write([{ ...monthly, title: 'Wild' }, monthly]));
    w.db((db) =>
      db
        .prepare(
          "UPDATE item SET content = replace(replace(content, 'FREQ=MONTHLY', ?), '2026-10-05', '0100-01-01') WHERE id = ?",
        )
        .run(EVERY, wildOne!.id),
    );
    w.now += 400 * 86_400_000;
    const laterDates = async () =>
      (
        await agent
          .get(`/api/learners/${learnerId}/occurrences`)
          .query({ from: '2029-08-01T00:00:00Z', to: '2029-09-30T00:00:00Z' })
          .expect(200)
      ).body as { itemId: string }[];
    await w.restart({ ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
    expect(await laterDates()).toEqual([]);
    const heldUp = await heldUpBy(() => w.services.own.extend());
    expect(heldUp).toBeLessThan(HALF);
    expect(new Set((await laterDates()).map((o) => o.itemId))).toEqual(new Set([plain!.id]));
  });
});

describe('files', () => {
  const send = async (name: string, bytes: Buffer) => {
    const [item] = written(await write([essay]));
    return agent
      .post(`/api/items/${item!.id}/files`)
      .query({ name })
      .set('content-type', 'application/octet-stream')
      .send(bytes);
  };
  test.each([
    ['a picture that ends too early', 'a.png', PNG.subarray(0, 20)],
    [
      'a picture whose services say they are endless',
      'a.png',
      Buffer.concat([PNG.subarray(0, 8), Buffer.from([0xff, 0xff, 0xff, 0xff]), Buffer.from('IDAT')]),
    ],
    ['a picture of nothing but its mark', 'a.png', PNG.subarray(0, 8)],
    ['byte-order marks to the end', 'a.txt', Buffer.from('\ufeff'.repeat(2 ** 20))],
    [
      'heads of sound files, one in the other',
      'a.png',
      Buffer.from('ID3\x04\0\0\0\0\0\0'.repeat(2 ** 17), 'latin1'),
    ],
  ])('%s: 415 or what it is, at once', async (_what, name, bytes) => {
    // It is looked at in a thread, which would be ended if it took long.
    const reply = await send(name, bytes);
    expect([200, 415]).toContain(reply.status);
  });

  test('an archive that would be a thousand times as large is refused, holds up nobody, and whoever sent it waits', async () => {
    const bomb = archive('[Content_Types].xml', 1_000 * 2 ** 20);
    expect(bomb.length).toBeLessThan(2 * 2 ** 20);
    const heldUp = await heldUpBy(async () => {
      const reply = await send('report.docx', bomb);
      expect([415, 429]).toContain(reply.status);
    });
    expect(heldUp).toBeLessThan(HALF);
  });
});

describe('briefs', () => {
  test('one on a thousand alike is stored once and pointed to; undone, each has what it had', async () => {
    const lines = Array.from({ length: 600 }, (_, i) =>
      event(
        `log-${i}`,
        `Lab log ${i}`,
        `DTSTART;VALUE=DATE:2026${String(1 + (i % 12)).padStart(2, '0')}10`,
        'CATEGORIES:Assignment',
      ),
    );
    feed.calendar(...lines);
    await agent
      .post(`/api/learners/${learnerId}/sources`)
      .send({
        address: `http://${feed.host}/logs.ics`,
        zone: 'Europe/Dublin',
        name: 'Logs',
        kind: 'course',
        ...FLAG,
      })
      .expect(200);
    const [first] = (
      await agent
        .get(`/api/learners/${learnerId}/occurrences`)
        .query({ from: '2026-01-01T00:00:00Z', to: '2026-12-31T00:00:00Z' })
        .expect(200)
    ).body as { itemId: string }[];
    const part = 'x'.repeat(4_000);
    const brief = {
      aim: part,
      steps: part,
      time: part,
      help: part,
      adjustments: part,
      good: part,
      ask: part,
      questions: part,
    };
    const put = (body: object) => agent.put(`/api/items/${first!.itemId}/brief`).send(body).expect(200);
    const size = () =>
      Number(
        w.db((db) =>
          db
            .prepare('SELECT page_count * page_size FROM pragma_page_count(), pragma_page_size()')
            .pluck()
            .get(),
        ),
      );
    const before = size();
    const reply = await put({ brief, alike: true });
    expect(reply.text.length).toBeLessThan(100_000);
    expect(size() - before).toBeLessThan(2 * 2 ** 20);
    const undo = (reply.body as { before: BriefPlace[] }).before;
    expect(undo).toHaveLength(600);

    const again = await put({ brief: { ...brief, aim: 'Shorter' }, alike: true });
    await agent
      .post(`/api/learners/${learnerId}/briefs`)
      .send({
        writes: (again.body as { before: BriefPlace[] }).before,
        version: versionOf({ ...brief, aim: 'Shorter' }),
      })
      .expect(200);
    expect(
      ((await agent.get(`/api/items/${first!.itemId}`).expect(200)).body as ItemView).brief.shared,
    ).toEqual(brief);
    await agent
      .post(`/api/learners/${learnerId}/briefs`)
      .send({ writes: undo, version: versionOf(brief) })
      .expect(200);
    expect(
      ((await agent.get(`/api/items/${first!.itemId}`).expect(200)).body as ItemView).brief.shared,
    ).toBeNull();
  });

  test('of those kept to begin others there are so many, and one can be written over', async () => {
    const keep = (name: string) => agent.post('/api/briefs').send({ name, brief: {} });
    for (let i = 0; i < MOST.keptBriefs; i++) await keep(`Kept ${i}`).expect(200);
    await keep('Add a reminder').expect(422);
    await keep('Kept 0').expect(200);
  });
});

test('a person’s oldest event stream makes room for one more than there may be', () => {
  const streams = openStreams();
  const closed: number[] = [];
  const caller = { personId: 'p', sessionId: 's', until: 0 };
  const leave = Array.from({ length: MOST.streams }, (_, i) =>
    streams.begin(caller, () => void closed.push(i)),
  );
  expect(closed).toEqual([]);
  streams.begin({ ...caller, personId: 'another' }, () => void closed.push(-1));
  streams.begin(caller, () => void closed.push(-2));
  expect(closed).toEqual([0]);
  leave[1]!();
  streams.begin({ ...caller, sessionId: 'other' }, () => void closed.push(-3));
  expect(closed).toEqual([0]);
  streams.end('p', 'other');
  expect(closed).toEqual([0, -3]);
});

test('a file that waits to be read in is let go of after a day, also when nobody sends another', async () => {
  const bytes = Buffer.from('BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n');
  await agent
    .post(`/api/learners/${learnerId}/files`)
    .query({ name: 'a.ics', zone: 'UTC' })
    .set('content-type', 'text/calendar')
    .send(bytes)
    .expect(200);
  const waiting = () => w.db((db) => db.prepare('SELECT count(*) FROM waiting_file').pluck().get());
  w.services.files.tidy();
  expect(waiting()).toBe(1);
  w.now += 86_400_001;
  w.services.files.tidy();
  expect(waiting()).toBe(0);
});

test('of schedules and calendars there are generous numbers, and words where they end', async () => {
  const who = await (async () => {
    for (let i = 0; i < MOST.learners; i++)
      await agent
        .post('/api/learners')
        .send({ name: `L${i}`, zone: 'UTC' })
        .expect(200);
    return agent.post('/api/learners').send({ name: 'Add a reminder', zone: 'UTC' });
  })();
  expect(who.body).toMatchObject({
    status: 422,
    title: `You have begun ${MOST.learners} schedules, which is the most.`,
  });
  const add = () =>
    agent
      .post(`/api/learners/${learnerId}/calendars`)
      .send({ name: 'C', kind: 'home', zone: 'UTC', ...FLAG });
  for (let i = 1; i < MOST.calendars; i++) await add().expect(200);
  expect((await add().expect(422)).body.title).toContain(`${MOST.calendars} calendars`);
});

describe('the threads that work', () => {
  let pool: Pool;
  let now = 0;
  const make = (threads: number, timeoutMs = 1_000) =>
    (pool = workPool({
      script: resolve(__dirname, '../dist/worker.js'),
      threads,
      memoryMb: 128,
      now: () => now,
      timeoutMs,
      // However busy the machine is, it is their own time that is used up.
      patience: 1_000,
    }));
  afterEach(() => pool.close());

  const span = { zone: 'Europe/Dublin', as: { calendar: 'course' as const }, from: 0, to: 4e12 };
  const small = {
    ...span,
    bytes: new TextEncoder().encode(
      ['BEGIN:VCALENDAR', event('a', 'Tides', 'DTSTART;VALUE=DATE:20261006'), 'END:VCALENDAR', ''].join(
        '\r\n',
      ),
    ),
  };
  /** Takes longer than there is: every second of a hundred years, by its services */
  const heavy = {
    ...span,
    bytes: new TextEncoder().encode(
      [
        'BEGIN:VCALENDAR',
        ...Array.from({ length: 70_000 }, (_, i) =>
          event(`h${i}`, 'Hostile', 'DTSTART:19700101T000000Z', 'RRULE:FREQ=SECONDLY;BYDAY=MO;COUNT=999999'),
        ),
        'END:VCALENDAR',
        '',
      ].join('\r\n'),
    ),
  };

  test('others have their turn while one keeps asking for what takes long', async () => {
    make(2);
    let ended = 0;
    // Both threads are there already.
    await Promise.all(['w1', 'w2'].map((owner) => pool.run(READ, small, owner)));
    const hostile = Array.from({ length: 10 }, () =>
      pool
        .run(READ, heavy, 'hostile')
        .catch((error: unknown) => error)
        .finally(() => (ended += 1)),
    );
    for (let i = 0; i < 5; i++) expect((await pool.run(READ, small, `other ${i}`)).entries).toHaveLength(1);
    // In the order of asking, all ten of them would have come first.
    expect(ended).toBeLessThan(5);
    expect(await hostile[0]).toBeInstanceOf(UsedUp);
  });

  test('who used up their time waits longer each time, and is forgiven after a day', async () => {
    make(1, 500);
    const refused = async () =>
      (await pool.run(READ, small, 'hostile').catch((error: { retryAfter: number }) => error)) as {
        retryAfter?: number;
      };
    const waits: number[] = [];
    for (let i = 0; i < 3; i++) {
      await expect(pool.run(READ, heavy, 'hostile')).rejects.toBeInstanceOf(UsedUp);
      const { retryAfter } = await refused();
      waits.push(retryAfter!);
      now += retryAfter! * 1000;
    }
    expect(waits).toEqual([30, 60, 120]);
    expect((await pool.run(READ, small, 'hostile')).entries).toHaveLength(1);
    now += 2 * 86_400_000;
    await pool.run(READ, small, 'hostile');
    await expect(pool.run(READ, heavy, 'hostile')).rejects.toBeInstanceOf(UsedUp);
    expect((await refused()).retryAfter).toBe(30);
  });

  /** Work that waits or grows as it is told, in a thread that does nothing else */
  const held = (of: { waits: 'first' | 'always' | 'never'; grow?: number }) =>
    ({ tries: new Int32Array(new SharedArrayBuffer(4)), ...of }) as never;
  const withGates = () =>
    (pool = workPool({
      script: resolve(__dirname, 'gate-worker.mjs'),
      ...{ threads: 2, memoryMb: 128, growsMb: 100, timeoutMs: 200, now: () => now },
    }));

  test('what gets no time of a processor is tried again by itself, and then told that the server is busy', async () => {
    withGates();
    expect(await pool.run(READ, held({ waits: 'first' }), 'a')).toBe(2);
    const busy = await pool.run(READ, held({ waits: 'always' }), 'a').catch((error: unknown) => error);
    expect(busy).toMatchObject({ problem: { status: 503 } });
    // It was not theirs: nobody is made to wait.
    expect(await pool.run(READ, held({ waits: 'never' }), 'a')).toBe(1);
  });

  test('of what is done at the same time, only what grows by itself as well is laid to whoever asked', async () => {
    withGates();
    const [beside, grown] = await Promise.all([
      pool.run(READ, held({ waits: 'first' }), 'beside'),
      pool.run(READ, held({ waits: 'always', grow: 300 * 2 ** 20 }), 'grown').catch((e: unknown) => e),
    ]);
    expect(beside).toBe(2);
    expect(grown).toBeInstanceOf(UsedUp);
    expect(await pool.run(READ, held({ waits: 'never' }), 'beside')).toBe(1);
    await expect(pool.run(READ, held({ waits: 'never' }), 'grown')).rejects.toMatchObject({
      problem: { status: 429 },
    });
  });

  test('bytes that are no calendar are told apart from work that failed', async () => {
    make(1);
    await expect(
      pool.run(READ, { ...span, bytes: new TextEncoder().encode('<!doctype html>') }, 'a'),
    ).rejects.toBeInstanceOf(FeedTrouble);
  });
});
