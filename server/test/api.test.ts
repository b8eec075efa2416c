import { versionOf } from '@zephyrfield/core/lib/version';
import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { OccurrenceView, Session, SourceView } from '@zephyrfield/core/api/schemas';
import request from 'supertest';
import { FLAG, FeedServer, Installation, START, event } from './harness';

let feed: FeedServer;
let installation: Installation;
let agent: Awaited<ReturnType<Installation['person']>>['agent'];
let learnerId: string;

beforeAll(async () => {
  feed = await FeedServer.start();
  installation = await Installation.start(feed.host);
  ({ agent } = await installation.person());
});
beforeEach(async () => {
  installation.now = START;
  feed.requests.length = 0;
  learnerId = await installation.learner(agent);
});
afterAll(async () => {
  await installation.stop();
  await feed.stop();
});

const TIDES = event(
  't1',
  'Tide table exercise',
  'DTSTART:20261006T225900Z',
  'DTEND:20261006T225900Z',
  'URL:https://s.example/t1',
  'DESCRIPTION:Use the tables.',
);
const KEEL = event('k1', 'Keel plan', 'DTSTART;VALUE=DATE:20261012', 'CATEGORIES:Project');

const follow = (path = '/on.ics?key=verysecret', name = 'Ocean Navigation') =>
  agent
    .post(`/api/learners/${learnerId}/sources`)
    .send({ address: `http://${feed.host}${path}`, zone: 'Europe/Dublin', name, kind: 'course', ...FLAG });
const occurrences = async (from = '2026-10-01T00:00:00Z', to = '2026-11-01T00:00:00Z') =>
  (await agent.get(`/api/learners/${learnerId}/occurrences`).query({ from, to }).expect(200))
    .body as OccurrenceView[];
const titles = async () => (await occurrences()).map((o) => o.title);
const finish = (o: OccurrenceView, finished = true, version = o.version) =>
  agent.patch(`/api/items/${o.itemId}/layer`).send({ recurrenceId: o.recurrenceId, finished, version });

describe('following a link', () => {
  test('a preview says what is in it and saves nothing', async () => {
    feed.calendar(
      'X-WR-CALNAME:Ocean Navigation',
      TIDES,
      KEEL,
      event('x', 'Never', 'DTSTART;VALUE=DATE:20261131'),
    );
    const { body } = await agent
      .post(`/api/learners/${learnerId}/preview`)
      .send({ address: `http://${feed.host}/on.ics`, zone: 'Europe/Dublin' })
      .expect(200);
    expect(body).toMatchObject({
      name: 'Ocean Navigation',
      entries: 2,
      work: 2,
      first: '2026-10-06',
      last: '2026-10-12',
      alreadyFollowed: null,
      suggestion: { flag: { letters: 'ON' } },
      warnings: [{ line: 21 }, { line: 21 }],
    });
    expect((await agent.get(`/api/learners/${learnerId}/sources`)).body).toEqual([]);
  });

  test('what was found is there, and still after a restart', async () => {
    feed.calendar(TIDES, KEEL);
    await follow().expect(200);
    expect(await titles()).toEqual(['Tide table exercise', 'Keel plan']);
    await installation.restart();
    expect(await titles()).toEqual(['Tide table exercise', 'Keel plan']);
  });

  test('the link is a secret: masked in answers, sealed in the file, in no log', async () => {
    feed.calendar(TIDES);
    const { body } = await follow().expect(200);
    expect(body.source.address).toBe(`${feed.host}/….ics?…`);
    feed.answer = (_req, res) => void res.writeHead(500).end();
    await agent.post(`/api/sources/${body.source.id}/reading`).expect(200);
    await installation.restart();
    const raw = ['zephyrfield.sqlite', 'zephyrfield.sqlite-wal']
      .map((f) => {
        try {
          return readFileSync(join(installation.data, f), 'latin1');
        } catch {
          return '';
        }
      })
      .join('');
    expect(raw).toContain('Tide table exercise');
    expect(raw).not.toContain('verysecret');
    expect(installation.logged.join()).not.toContain('verysecret');
    expect(statSync(join(installation.data, 'key')).mode & 0o777).toBe(0o600);
  });

  test('the same link twice is refused, with the name it has', async () => {
    feed.calendar(TIDES);
    await follow().expect(200);
    const { body } = await follow('/on.ics?key=verysecret', 'Again').expect(409);
    expect(body.title).toContain('Ocean Navigation');
    expect((await agent.get(`/api/learners/${learnerId}/calendars`)).body).toHaveLength(1);
  });

  const answers: [string, string, FeedServer['answer']][] = [
    ['feed-notFound', 'nothing at that address', (_q, r) => void r.writeHead(404).end()],
    ['feed-signIn', 'sign-in', (_q, r) => void r.writeHead(401).end()],
    ['feed-forbidden', 'refuses', (_q, r) => void r.writeHead(403).end()],
    ['feed-gone', 'for good', (_q, r) => void r.writeHead(410).end()],
    ['feed-busy', 'later', (_q, r) => void r.writeHead(429).end()],
    ['feed-serverFault', 'has a problem', (_q, r) => void r.writeHead(502).end()],
    ['feed-webPage', 'web page', (_q, r) => void r.end('<!doctype html><html><title>Sign in</title></html>')],
    ['feed-empty', 'empty', (_q, r) => void r.end('')],
    ['feed-notCalendar', 'not a calendar feed', (_q, r) => void r.end('%PDF-1.7 ...')],
    ['feed-redirects', 'in a circle', (_q, r) => void r.writeHead(302, { location: '/on.ics' }).end()],
    [
      'feed-answer',
      'cannot be used',
      (_q, r) => void r.writeHead(301, { location: 'file:///etc/passwd' }).end(),
    ],
    [
      'feed-private',
      'private network',
      (_q, r) => void r.writeHead(302, { location: 'http://127.0.0.1:1/x' }).end(),
    ],
    ['feed-unreachable', 'cannot be reached', (q) => void q.socket.destroy()],
    ['feed-tooLarge', 'larger', (_q, r) => void r.end(Buffer.alloc(21 * 2 ** 20, 'x'))],
  ];
  test.each(answers)('%s: said in plain words, nothing saved', async (type, words, answer) => {
    feed.answer = answer;
    const { body, headers } = await follow().expect(422);
    expect(headers['content-type']).toContain('application/problem+json');
    expect(body).toMatchObject({
      type: `urn:zephyrfield:${type}`,
      title: expect.stringContaining(words),
      remedy: expect.stringMatching(/\w{3}/),
    });
    expect((await agent.get(`/api/learners/${learnerId}/sources`)).body).toEqual([]);
  });

  test.each([
    ['not a link', 'address'],
    ['ftp://s.example/a.ics', 'address'],
    ['javascript:alert(1)', 'address'],
    ['http://127.0.0.1:1/a.ics', 'private'],
    ['http://[::1]/a.ics', 'private'],
    ['http://169.254.169.254/latest/meta-data', 'private'],
    ['http://0x7f000001/a.ics', 'private'],
    ['http://[::ffff:10.0.0.1]/a.ics', 'private'],
  ])('%s is refused before anything is asked', async (address, code) => {
    const { body } = await agent
      .post(`/api/learners/${learnerId}/preview`)
      .send({ address, zone: 'Europe/Dublin' })
      .expect(422);
    expect(body.type).toBe(`urn:zephyrfield:feed-${code}`);
    expect(feed.requests).toEqual([]);
  });

  test('a feed that repeats without end is kept within bounds, and says so', async () => {
    feed.calendar(
      ...Array.from({ length: 20 }, (_, i) =>
        event(`m${i}`, `Every minute ${i}`, 'DTSTART:20261001T000000Z', 'RRULE:FREQ=MINUTELY'),
      ),
      KEEL,
    );
    const { body } = await agent
      .post(`/api/learners/${learnerId}/preview`)
      .send({ address: `http://${feed.host}/m.ics`, zone: 'Europe/Dublin' })
      .expect(200);
    expect(body).toMatchObject({
      entries: 21,
      warnings: [{ message: expect.stringContaining('more in it than can be kept') }],
    });
  });

  test('a form that is not right is told field by field', async () => {
    const { body } = await agent
      .post(`/api/learners/${learnerId}/sources`)
      .send({ address: '', zone: 'Harbour', name: 'x'.repeat(10_000), kind: 'course', ...FLAG })
      .expect(422);
    expect(body.fields.map((f: { path: string }) => f.path).sort()).toEqual(['address', 'name', 'zone']);
  });
});

describe('checking a link again', () => {
  const check = async (id: string) =>
    (await agent.post(`/api/sources/${id}/reading`).expect(200)).body as {
      unchanged: boolean;
      added: number;
      changed: number;
      gone: number;
      source: SourceView;
    };
  const begin = async (...lines: string[]) => {
    feed.calendar(...lines);
    return ((await follow().expect(200)).body as { source: SourceView }).source.id;
  };

  test('a moved date arrives, and what was ticked off stays so', async () => {
    const id = await begin(TIDES, KEEL);
    const keel = (await occurrences()).find((o) => o.title === 'Keel plan')!;
    await finish(keel).expect(200);
    feed.calendar(
      TIDES,
      KEEL.replace('20261012', '20261015'),
      event('n', 'New', 'DTSTART;VALUE=DATE:20261020'),
    );
    expect(await check(id)).toMatchObject({ added: 1, changed: 1, gone: 0 });
    await installation.restart();
    const after = (await occurrences()).find((o) => o.title === 'Keel plan')!;
    expect(after).toMatchObject({ start: { date: '2026-10-15' }, finished: true, itemId: keel.itemId });
  });

  test('the same validators or the same bytes change nothing', async () => {
    const text = `BEGIN:VCALENDAR\r\n${TIDES}\r\nEND:VCALENDAR\r\n`;
    feed.answer = (req, res) =>
      void (
        req.headers['if-none-match'] === '"1"'
          ? res.writeHead(304)
          : res.writeHead(200, { etag: '"1"', 'last-modified': 'Tue, 06 Oct 2026 10:00:00 GMT' })
      ).end(text);
    const id = ((await follow().expect(200)).body as { source: SourceView }).source.id;
    expect(await check(id)).toMatchObject({ unchanged: true });
    expect(feed.requests.at(-1)!.headers).toMatchObject({
      'if-none-match': '"1"',
      'if-modified-since': 'Tue, 06 Oct 2026 10:00:00 GMT',
    });
    feed.answer = (_req, res) => void res.end(text);
    expect(await check(id)).toMatchObject({ unchanged: true });
  });

  test('a link that fails keeps what it had, says so, and recovers', async () => {
    const id = await begin(TIDES);
    feed.answer = (_req, res) => void res.end('<html>Sign in</html>');
    installation.now += 3_600_000;
    expect((await check(id)).source.trouble).toMatchObject({
      code: 'webPage',
      since: '2026-10-06T16:10:00.000Z',
    });
    installation.now += 3_600_000;
    expect((await check(id)).source).toMatchObject({
      lastGood: '2026-10-06T15:10:00.000Z',
      trouble: { since: '2026-10-06T16:10:00.000Z' },
    });
    expect(await titles()).toEqual(['Tide table exercise']);
    feed.calendar(TIDES);
    expect((await check(id)).source.trouble).toBeNull();
  });

  test('what drops out of the past stays, what was still to come goes, and comes back as itself', async () => {
    const past = event('p', 'Past', 'DTSTART;VALUE=DATE:20261001');
    const id = await begin(past, KEEL, TIDES);
    const keel = (await occurrences()).find((o) => o.title === 'Keel plan')!;
    await finish(keel).expect(200);
    feed.calendar(TIDES);
    expect(await check(id)).toMatchObject({ gone: 1 });
    expect(await titles()).toEqual(['Past', 'Tide table exercise']);
    feed.calendar(TIDES, KEEL);
    await check(id);
    expect((await occurrences()).find((o) => o.title === 'Keel plan')).toMatchObject({
      itemId: keel.itemId,
      finished: true,
    });
  });

  test('an empty reading is held back and said, and believed once a person says so', async () => {
    const lines = [1, 2, 3, 4, 5].map((n) =>
      event(`n${n}`, `Sheet ${n}`, `DTSTART;VALUE=DATE:202610${10 + n}`),
    );
    const id = await begin(...lines);
    feed.calendar();
    expect((await check(id)).source).toMatchObject({
      heldBack: { missing: 5, of: 5, since: '2026-10-06T15:10:00.000Z' },
      entries: 5,
      trouble: null,
    });
    expect(await titles()).toHaveLength(5);
    expect((await agent.get(`/api/learners/${learnerId}/changes`)).body).toEqual([]);
    const { body } = await agent.post(`/api/sources/${id}/reading`).send({ confirm: true }).expect(200);
    expect(body).toMatchObject({ gone: 5, source: { heldBack: null, entries: 0 } });
    expect(await titles()).toEqual([]);
    // Gone from the list, but what is known of it can still be opened.
    const [change] = (await agent.get(`/api/learners/${learnerId}/changes`)).body as {
      itemId: string;
      kind: string;
    }[];
    expect((await agent.get(`/api/items/${change!.itemId}`).expect(200)).body).toMatchObject({
      gone: true,
      history: [{ kind: 'removed' }],
    });
  });

  test('what is held back is believed after several readings over a day, and forgotten when it was a mistake', async () => {
    const lines = [1, 2, 3, 4, 5].map((n) =>
      event(`n${n}`, `Sheet ${n}`, `DTSTART;VALUE=DATE:202610${20 + n}`),
    );
    const id = await begin(...lines);
    const hold = async (hours: number) => {
      installation.now += hours * 3_600_000;
      return (await check(id)).source.heldBack;
    };
    feed.calendar(lines[0]!);
    expect(await hold(0)).toMatchObject({ missing: 4, of: 5 });
    feed.calendar(...lines);
    expect(await hold(1)).toBeNull();
    feed.calendar(lines[0]!);
    for (const hours of [0, 1, 11]) expect(await hold(hours)).not.toBeNull();
    expect(await hold(13)).toBeNull();
    expect(await titles()).toEqual(['Sheet 1']);
  });

  test('changes are told with where from and where to, and seen by each person for themselves', async () => {
    const id = await begin(TIDES, KEEL);
    feed.calendar(
      TIDES.replace('Tide table exercise', 'Tide table, long'),
      KEEL.replace('20261012', '20261015'),
    );
    await check(id);
    const list = async () =>
      (await agent.get(`/api/learners/${learnerId}/changes`).expect(200)).body as {
        id: number;
        kind: string;
        seen: boolean;
        itemId: string;
      }[];
    expect(await list()).toMatchObject([
      { kind: 'reworded', title: 'Tide table, long', formerTitle: 'Tide table exercise', seen: false },
      {
        kind: 'moved',
        title: 'Keel plan',
        from: { date: '2026-10-12' },
        to: { date: '2026-10-15' },
        seen: false,
      },
    ]);
    const [newest, moved] = await list();
    await agent.post(`/api/learners/${learnerId}/changes/seen`).send({ upTo: moved!.id }).expect(200);
    expect((await list()).map((c) => c.seen)).toEqual([false, true]);
    await agent.post(`/api/learners/${learnerId}/changes/seen`).send({ upTo: newest!.id }).expect(200);
    await agent.post(`/api/learners/${learnerId}/changes/seen`).send({ upTo: 0 }).expect(200);
    expect((await list()).map((c) => c.seen)).toEqual([true, true]);
    expect((await agent.get(`/api/items/${moved!.itemId}`)).body.history).toMatchObject([{ kind: 'moved' }]);
  });

  test('own layers follow a new identifier and a series that moves as a whole', async () => {
    const weekly = (start: string, uid = 'w') =>
      event(uid, 'Practice scales', `DTSTART;TZID=Europe/Dublin:${start}`, 'RRULE:FREQ=WEEKLY;COUNT=3');
    const id = await begin(weekly('20261007T170000'), KEEL);
    const [, , third] = (await occurrences()).filter((o) => o.title === 'Practice scales');
    await finish(third!).expect(200);
    await finish((await occurrences()).find((o) => o.title === 'Keel plan')!).expect(200);
    feed.calendar(weekly('20261014T180000'), KEEL.replace('UID:k1', 'UID:other'));
    await check(id);
    const after = await occurrences();
    expect(after.filter((o) => o.title === 'Practice scales').map((o) => o.finished)).toEqual([
      false,
      false,
      true,
    ]);
    expect(after.find((o) => o.title === 'Keel plan')).toMatchObject({ finished: true });
  });

  test('links are checked by themselves when their time has come, but not while paused', async () => {
    const own = await Installation.start(feed.host);
    const person = await own.person();
    feed.calendar(TIDES);
    const { body } = await person.agent
      .post(`/api/learners/${person.learnerId}/sources`)
      .send({
        address: `http://${feed.host}/own.ics`,
        zone: 'Europe/Dublin',
        name: 'ON',
        kind: 'course',
        ...FLAG,
      })
      .expect(200);
    const asked = async () => {
      feed.requests.length = 0;
      await own.services.schedule.turn();
      return feed.requests.filter((r) => r.url === '/own.ics').length;
    };
    expect(await asked()).toBe(0);
    own.now += 2 * 3_600_000;
    feed.calendar(TIDES, KEEL);
    expect(await asked()).toBe(1);
    expect((await person.agent.get(`/api/learners/${person.learnerId}/changes`)).body).toMatchObject([
      { kind: 'added', title: 'Keel plan' },
    ]);
    expect(
      (await person.agent.patch(`/api/sources/${body.source.id}`).send({ paused: true }).expect(200)).body
        .nextCheck,
    ).toBeNull();
    own.now += 48 * 3_600_000;
    expect(await asked()).toBe(0);
    await person.agent.patch(`/api/sources/${body.source.id}`).send({ paused: false }).expect(200);
    expect(await asked()).toBe(1);
    await own.stop();
  });

  test('open screens are told when a link was checked, and when something has changed', async () => {
    const id = await begin(TIDES);
    const cookie = agent.jar
      .getCookies({ domain: 'localhost', path: '/', secure: false, script: false })
      .toValueString();
    const stream = await fetch(`${installation.address}/api/learners/${learnerId}/live`, {
      headers: { cookie },
    });
    const reader = stream.body!.getReader();
    let heard = '';
    const hear = async (event: string) => {
      while (!heard.includes(`event: ${event}`))
        heard += new TextDecoder().decode((await reader.read()).value);
    };
    // A check that finds nothing new is no reason to ask for everything again.
    await Promise.all([hear('checked'), check(id)]);
    expect(heard).not.toContain('event: changed');
    feed.calendar(TIDES, KEEL);
    await Promise.all([hear('changed'), check(id)]);
    await reader.cancel();
    expect((await fetch(`${installation.address}/api/learners/${learnerId}/live`)).status).toBe(401);
  });

  test('a page is not told of its own changes, and other pages of the same person are', async () => {
    await begin(TIDES);
    const cookie = agent.jar
      .getCookies({ domain: 'localhost', path: '/', secure: false, script: false })
      .toValueString();
    const listen = async (page: string) => {
      const stream = await fetch(`${installation.address}/api/learners/${learnerId}/live?page=${page}`, {
        headers: { cookie },
      });
      const reader = stream.body!.getReader();
      let heard = '';
      return {
        async next(): Promise<void> {
          while (!heard.includes('event: changed'))
            heard += new TextDecoder().decode((await reader.read()).value);
        },
        heard: () => heard,
        end: () => reader.cancel(),
      };
    };
    const [mine, other] = await Promise.all([listen('mine'), listen('other')]);
    const [first] = await occurrences();
    const tick = (version: number, page: string) =>
      agent
        .patch(`/api/items/${first!.itemId}/layer`)
        .set('x-zephyrfield-page', page)
        .send({ finished: version === 0, version })
        .expect(200);
    await Promise.all([other.next(), tick(0, 'mine')]);
    expect(mine.heard()).not.toContain('changed');
    await Promise.all([mine.next(), tick(1, 'other')]);
    await Promise.all([mine.end(), other.end()]);
  });

  test('a permanent redirect is taken over', async () => {
    const id = await begin(TIDES);
    const calm = feed.answer;
    feed.answer = (req, res) =>
      req.url === '/new/calendar.ics'
        ? calm(req, res)
        : void res.writeHead(308, { location: '/new/calendar.ics' }).end();
    expect((await check(id)).source.address).toBe(`${feed.host}/…/calendar.ics`);
    feed.requests.length = 0;
    await check(id);
    expect(feed.requests.map((r) => r.url)).toEqual(['/new/calendar.ics']);
  });

  test('a redirect to a link that is followed already is followed, but not taken over', async () => {
    const id = await begin(TIDES);
    const calm = feed.answer;
    await follow('/other.ics', 'Other').expect(200);
    feed.answer = (req, res) =>
      req.url === '/other.ics' ? calm(req, res) : void res.writeHead(301, { location: '/other.ics' }).end();
    expect((await check(id)).source).toMatchObject({ trouble: null, address: `${feed.host}/….ics?…` });
  });

  test('a link that is taken away while it is being read is gone, and nothing else is hurt', async () => {
    const id = await begin(TIDES);
    const calm = feed.answer;
    const held: (() => void)[] = [];
    feed.answer = (req, res) => void held.push(() => calm(req, res));
    const reading = agent.post(`/api/sources/${id}/reading`).then((reply) => reply.status);
    while (!held.length) await agent.get('/api/session');
    await agent.delete(`/api/sources/${id}`).expect(200);
    held.forEach((release) => release());
    expect(await reading).toBe(404);
    expect(await titles()).toEqual([]);
  });

  test('two checks at once ask once', async () => {
    const id = await begin(TIDES);
    const calm = feed.answer;
    const held: (() => void)[] = [];
    feed.answer = (req, res) => void held.push(() => calm(req, res));
    feed.requests.length = 0;
    const checks = Promise.all([check(id), check(id), check(id)]);
    // Once later questions are answered, all three checks have come in.
    while (!held.length) await agent.get('/api/session');
    for (let i = 0; i < 5; i++) await agent.get('/api/session');
    held.forEach((release) => release());
    await checks;
    expect(feed.requests).toHaveLength(1);
  });

  test('a repeat goes on as time goes on', async () => {
    const id = await begin(
      event(
        'w',
        'Weekly',
        'DTSTART;TZID=Europe/Dublin:20260908T170000',
        'DURATION:PT40M',
        'RRULE:FREQ=WEEKLY',
      ),
    );
    const later = async () => (await occurrences('2029-01-01T00:00:00Z', '2029-02-01T00:00:00Z')).length;
    expect(await later()).toBe(0);
    installation.now = Date.parse('2028-06-01T00:00:00Z');
    await check(id);
    expect(await later()).toBeGreaterThan(3);
  });
});

describe('one item', () => {
  test('everything the feed said, as passages and links', async () => {
    feed.calendar(TIDES);
    await follow().expect(200);
    const [o] = await occurrences();
    const { body } = await agent.get(`/api/items/${o!.itemId}`).expect(200);
    expect(body).toMatchObject({
      description: [{ kind: 'paragraph', runs: [{ text: 'Use the tables.' }] }],
      links: [{ href: 'https://s.example/t1', role: 'page' }],
      origin: { calendar: 'Ocean Navigation', uid: 't1' },
      gone: false,
    });
    expect(JSON.stringify(body)).not.toContain('verysecret');
  });

  test('one date of a repeat can be finished by itself', async () => {
    feed.calendar(event('w', 'Practice scales', 'DTSTART;VALUE=DATE:20261005', 'RRULE:FREQ=WEEKLY;COUNT=3'));
    await follow().expect(200);
    const [first, second] = await occurrences();
    await finish(second!).expect(200);
    expect((await occurrences()).map((o) => o.finished)).toEqual([false, true, false]);
    expect(first!.itemId).toBe(second!.itemId);
  });

  test('one date of an all-day repeat that says otherwise is shown as it says', async () => {
    feed.calendar(
      event(
        'w',
        'Practice scales',
        'DTSTART;VALUE=DATE:20261005',
        'RRULE:FREQ=WEEKLY;COUNT=3',
        'DESCRIPTION:C major',
      ),
      event(
        'w',
        'Practice scales',
        'RECURRENCE-ID;VALUE=DATE:20261012\r\nDTSTART;VALUE=DATE:20261012',
        'DESCRIPTION:G minor',
      ),
    );
    await follow().expect(200);
    const said = await Promise.all(
      (await occurrences()).map(
        async (o) =>
          (await agent.get(`/api/items/${o.itemId}`).query({ recurrenceId: o.recurrenceId })).body
            .description[0].runs[0].text as string,
      ),
    );
    expect(said).toEqual(['C major', 'G minor', 'C major']);
  });

  test('of two who change the same, the later one is told', async () => {
    feed.calendar(TIDES);
    await follow().expect(200);
    const [o] = await occurrences();
    await finish(o!).expect(200);
    expect((await finish(o!, false, 0).expect(409)).body.title).toContain('Somebody else');
    expect((await occurrences())[0]).toMatchObject({ finished: true, version: 1 });
    await finish(o!, false, 1).expect(200);
    expect((await occurrences())[0]).toMatchObject({ finished: false, version: 2 });
  });

  test('what is not there is not there', async () => {
    await agent.get('/api/items/none').expect(404);
    await agent.patch('/api/items/none/layer').send({ finished: true, version: 0 }).expect(404);
    await agent
      .get(`/api/learners/${learnerId}/occurrences`)
      .query({ from: '2026-10-06T00:00:00Z', to: '2020-01-01T00:00:00Z' })
      .expect(422);
  });
});

describe('who may what', () => {
  test('nobody without an account', async () => {
    for (const path of [
      `/api/learners/${learnerId}/calendars`,
      `/api/learners/${learnerId}/sources`,
      '/api/items/x',
    ])
      await request(installation.address).get(path).expect(401);
    expect((await request(installation.address).get('/api/session')).body).toMatchObject({
      person: null,
      learners: [],
      empty: false,
      open: false,
      demo: false,
    });
  });
  test('only the first account is made by itself', async () => {
    await installation
      .caller()
      .post('/api/auth/sign-up/email')
      .send({ name: 'X', email: 'x@skerrow.example', password: 'a good long password' })
      .expect(403);
  });
  test('nobody sees another’s schedule, or that there is one', async () => {
    const open = await Installation.start(feed.host, { ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
    const juno = await open.person();
    const other = await open.person('Anselm', 'anselm@skerrow.example');
    feed.calendar(TIDES);
    const { body } = await juno.agent
      .post(`/api/learners/${juno.learnerId}/sources`)
      .send({
        address: `http://${feed.host}/a.ics`,
        zone: 'Europe/Dublin',
        name: 'ON',
        kind: 'course',
        ...FLAG,
      })
      .expect(200);
    const [o] = (
      await juno.agent
        .get(`/api/learners/${juno.learnerId}/occurrences`)
        .query({ from: '2026-10-01T00:00:00Z', to: '2026-11-01T00:00:00Z' })
    ).body as OccurrenceView[];
    await other.agent.get(`/api/learners/${juno.learnerId}/calendars`).expect(404);
    await other.agent.get(`/api/items/${o!.itemId}`).expect(404);
    await other.agent.patch(`/api/items/${o!.itemId}/layer`).send({ finished: true, version: 0 }).expect(404);
    await other.agent.post(`/api/sources/${body.source.id}/reading`).expect(404);
    await other.agent.delete(`/api/sources/${body.source.id}`).expect(404);
    await other.agent.patch(`/api/calendars/${body.calendar.id}`).send({ name: 'Mine' }).expect(404);
    await open.stop();
  });
  test('a change asked for by another site’s page is refused', async () => {
    await agent
      .post('/api/learners')
      .set('Origin', 'https://evil.example')
      .send({ name: 'X', zone: 'Europe/Dublin' })
      .expect(403);
    await agent
      .post('/api/learners')
      .set('Origin', 'not an origin')
      .send({ name: 'X', zone: 'Europe/Dublin' })
      .expect(403);
    await agent
      .post('/api/learners')
      .set('Sec-Fetch-Site', 'cross-site')
      .send({ name: 'X', zone: 'Europe/Dublin' })
      .expect(403);
  });
  test('the demo’s doors are not there in a real installation', async () => {
    await agent.get('/api/demo/people').expect(404);
    await agent.post('/api/demo/people/juno/session').expect(404);
    await agent.post('/api/demo/clock').send({ minutes: 5 }).expect(404);
  });
});

describe('calendars', () => {
  test('name, colour and flag can be changed; taking a link away takes its calendar', async () => {
    feed.calendar(TIDES);
    const { body } = await follow().expect(200);
    await agent
      .patch(`/api/calendars/${body.calendar.id}`)
      .send({ name: 'Navigation', colour: 'rose' })
      .expect(200);
    expect((await agent.get(`/api/learners/${learnerId}/calendars`)).body).toMatchObject([
      { name: 'Navigation', colour: 'rose', flag: FLAG.flag },
    ]);
    await agent.patch(`/api/calendars/${body.calendar.id}`).send({ colour: 'pink' }).expect(422);
    await agent.delete(`/api/sources/${body.source.id}`).expect(200);
    expect((await agent.get(`/api/learners/${learnerId}/calendars`)).body).toEqual([]);
    expect(await occurrences()).toEqual([]);
  });
});

test('too many checks in a minute are told to wait', async () => {
  const small = await Installation.start(feed.host, { ZEPHYRFIELD_CHECKS_PER_MINUTE: '2' });
  const person = await small.person();
  const statuses = [];
  for (let i = 0; i < 3; i++)
    statuses.push(
      (
        await person.agent
          .post(`/api/learners/${person.learnerId}/preview`)
          .send({ address: 'nothing', zone: 'Europe/Dublin' })
      ).body.status,
    );
  expect(statuses).toEqual([422, 422, 429]);
  await small.stop();
});

test('a strict content policy, the contract, and an honest 404', async () => {
  const { headers, body } = await request(installation.address).get('/api/openapi.json').expect(200);
  expect(body.openapi).toBe('3.1.0');
  expect(headers['content-security-policy']).toContain("default-src 'none'");
  expect(headers['content-security-policy']).not.toContain("script-src 'self' 'unsafe-inline'");
  expect(
    (await request(installation.address).get('/api/nothing-here').expect(404)).headers['content-type'],
  ).toContain('problem+json');
});

describe('settings and the term', () => {
  test('are the person’s own, saved whole, and refused where they cannot be', async () => {
    const session = async () => (await agent.get('/api/session').expect(200)).body as Session;
    const { settings } = await session();
    expect(settings).toMatchObject({ hours: 24, firstDay: 1, zone: null });
    await agent
      .put('/api/settings')
      .send({ ...settings, hours: 12, zone: 'Asia/Tokyo' })
      .expect(200);
    await installation.restart();
    expect((await session()).settings).toMatchObject({ hours: 12, zone: 'Asia/Tokyo' });
    const { body } = await agent
      .put('/api/settings')
      .send({ ...settings, dayFrom: 20, dayTo: 8 })
      .expect(422);
    expect(body).toMatchObject({
      fields: [{ path: 'dayTo', message: 'The last hour comes after the first.' }],
    });
    await agent.put('/api/settings').send(settings).expect(200);
    await installation.caller().put('/api/settings').send(settings).expect(401);
  });
  test('a term is typed for a learner, and taken from the school again', async () => {
    const term = {
      start: '2026-08-31',
      end: '2026-12-18',
      names: [{ day: '2026-10-05', name: 'Studio week' }],
      breaks: [],
    };
    const learner = async () =>
      ((await agent.get('/api/session')).body as Session).learners.find((l) => l.id === learnerId)!;
    await agent.put(`/api/learners/${learnerId}/term`).send({ term, version: null }).expect(200);
    expect((await learner()).term).toEqual(term);
    expect(
      (
        await agent
          .put(`/api/learners/${learnerId}/term`)
          .send({ term: { ...term, end: '2026-01-01' }, version: versionOf(term) })
          .expect(422)
      ).body,
    ).toMatchObject({ fields: [{ path: 'term.end', message: 'The term ends after it begins.' }] });
    await agent
      .put(`/api/learners/${learnerId}/term`)
      .send({ term: null, version: versionOf(term) })
      .expect(200);
    expect((await learner()).term).toBeNull();
  });
  test.each([
    [
      'term',
      { start: '2026-08-31', end: '2026-12-18', names: [], breaks: [] },
      { start: '2026-09-07', end: '2026-12-11', names: [], breaks: [] },
    ],
    ['reminders', { work: [{ kind: 'ahead', minutes: 60 }] }, { work: [{ kind: 'ahead', minutes: 120 }] }],
  ] as const)(
    'of two who change a schedule’s %s the later is told, and nothing of the other’s is lost',
    async (what, one, other) => {
      const path = `/api/learners/${learnerId}/${what}`;
      const stands = async () =>
        ((await agent.get('/api/session')).body as Session).learners.find((l) => l.id === learnerId)![what];
      await agent
        .put(path)
        .send({ [what]: one, version: null })
        .expect(200);
      const { body } = await agent
        .put(path)
        .send({ [what]: other, version: null })
        .expect(409);
      expect(body).toMatchObject({ type: 'urn:zephyrfield:changed-meanwhile' });
      expect(await stands()).toEqual(one);
      await agent
        .put(path)
        .send({ [what]: other, version: versionOf(one) })
        .expect(200);
      await agent
        .put(path)
        .send({ [what]: null, version: versionOf(other) })
        .expect(200);
      expect(await stands()).toBeNull();
    },
  );
  test('descriptions can be searched', async () => {
    feed.calendar(TIDES, KEEL);
    await follow().expect(200);
    const { body } = await agent.get(`/api/learners/${learnerId}/texts`).expect(200);
    expect((body as { text: string }[]).map((t) => t.text)).toEqual(['Use the tables.']);
    await agent.get('/api/learners/none/texts').expect(404);
  });
});

test('what began long before a span of time is still in it', async () => {
  feed.calendar(
    event('long', 'Half-scale dinghy', 'DTSTART;VALUE=DATE:20260901', 'DTEND;VALUE=DATE:20261201'),
    event('brief', 'Over', 'DTSTART;VALUE=DATE:20260905'),
  );
  await follow().expect(200);
  expect((await occurrences('2026-10-05T00:00:00Z', '2026-10-12T00:00:00Z')).map((o) => o.title)).toEqual([
    'Half-scale dinghy',
  ]);
});
