import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { Shared } from '../src/gather/shared';
import { FLAG, FeedServer, Installation, START, calendarText, event } from './harness';

let feed: FeedServer;
let installation: Installation;
let people = 0;

beforeAll(async () => {
  feed = await FeedServer.start();
  installation = await Installation.start(feed.host, { ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
});
beforeEach(() => {
  installation.now = START;
});
afterAll(async () => {
  await installation.stop();
  await feed.stop();
});

/** Of those on one server, a few go at once; those of the tests before are due as well. */
async function checkAll(): Promise<void> {
  while (installation.services.gathered.countDue(installation.now))
    await installation.services.schedule.turn();
}

/** Some families follow the same link, and the teacher moves a date in it; how often the feed was asked since. */
async function asked(
  path: string,
  more: object[] = [{}, {}],
  check: (sourceId: string) => Promise<void> = checkAll,
) {
  let requests: string[] = [];
  let day = '20261012';
  feed.answer = (req, res) => {
    if (req.url === path) requests.push(path);
    const lines = [event('k', 'Keel plan', `DTSTART:${day}T150000Z`, 'CATEGORIES:Assignment')];
    res.writeHead(200, { 'content-type': 'text/calendar', etag: `"${day}"` }).end(calendarText(...lines));
  };
  const families = [];
  for (const settings of more) {
    const { agent } = await installation.person('Juno', `juno${(people += 1)}@skerrow.example`);
    const learnerId = await installation.learner(agent);
    const { body } = await agent
      .post(`/api/learners/${learnerId}/sources`)
      .send({
        address: `http://${feed.host}${path}`,
        zone: 'Europe/Dublin',
        name: 'Boats',
        kind: 'course',
        ...FLAG,
        ...settings,
      })
      .expect(200);
    families.push({ agent, learnerId, sourceId: (body as { source: { id: string } }).source.id });
  }
  requests = [];
  day = '20261014';
  installation.now += 2 * 3_600_000;
  await check(families[0]!.sourceId);
  const days = [];
  for (const { agent, learnerId } of families) {
    const { body } = await agent
      .get(`/api/learners/${learnerId}/occurrences`)
      .query({ from: '2026-10-01T00:00:00Z', to: '2026-11-01T00:00:00Z' })
      .expect(200);
    days.push((body as OccurrenceView[]).map((o) => [o.due?.kind === 'instant' && o.due.at, o.kind]));
  }
  return { requests: requests.length, days };
}

const MOVED = [['2026-10-14T15:00:00Z', 'assignment']];

test('a public link that two follow is fetched once for both, and each has the moved date', async () => {
  expect(await asked('/feeds/boats.ics')).toEqual({ requests: 1, days: [MOVED, MOVED] });
});

test('once one is checked, all who follow a public link have it; one that is read otherwise looks by itself', async () => {
  const many = [...Array.from({ length: 10 }, () => ({})), { zone: 'America/New_York' }];
  const { requests, days } = await asked('/feeds/dinghy.ics', many, async (id) => {
    await installation.services.gather.readSource(id);
  });
  expect(requests).toBe(1);
  expect(days.slice(0, 10)).toEqual(Array(10).fill(MOVED));
  expect(days[10]).not.toEqual(MOVED);
});

test('one with a secret is fetched for each of them, as if the other were not there', async () => {
  expect(await asked('/feeds/boats.ics?key=4f')).toEqual({ requests: 2, days: [MOVED, MOVED] });
  expect(await asked('/feeds/3f9a0c1b44.ics')).toEqual({ requests: 2, days: [MOVED, MOVED] });
});

test('what one has it understood as is theirs alone', async () => {
  const { days } = await asked('/feeds/harbour.ics', [{}, { zone: 'America/New_York', kind: 'school' }]);
  expect(days).toEqual([MOVED, MOVED]);
});

describe('what is shared', () => {
  const clock = { now: 0 };
  const make = () => {
    let n = 0;
    const shared = new Shared(() => clock.now);
    const get = (key: string, size = 1) =>
      shared.once(
        key,
        () => size,
        async () => ++n,
      );
    return { shared, get };
  };
  test('is worked out once a minute for each key', async () => {
    const { get } = make();
    expect([await get('a'), await get('a'), await get('b')]).toEqual([1, 1, 2]);
    clock.now += 61_000;
    expect(await get('a')).toBe(3);
  });
  test('is kept only so far as it fits', async () => {
    const { get } = make();
    const large = 40 * 2 ** 20;
    expect([await get('a', large), await get('b', large)]).toEqual([1, 2]);
    expect([await get('b', large), await get('a', large)]).toEqual([2, 3]);
  });
  test('is tried anew where it failed', async () => {
    const { shared, get } = make();
    await expect(
      shared.once(
        'a',
        () => 1,
        () => Promise.reject(new Error('no')),
      ),
    ).rejects.toThrow('no');
    expect(await get('a')).toBe(1);
  });
});
