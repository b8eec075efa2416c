import type { ItemView, OccurrenceView, Questions, SourceView } from '@zephyrfield/core/api/schemas';
import { FLAG, FeedServer, Installation, START, event } from './harness';

let feed: FeedServer;
let installation: Installation;
let agent: Awaited<ReturnType<Installation['person']>>['agent'];
let learnerId: string;
let feeds: Record<string, string[]>;

beforeAll(async () => {
  feed = await FeedServer.start();
  installation = await Installation.start(feed.host);
  ({ agent } = await installation.person());
});
beforeEach(async () => {
  installation.now = START;
  learnerId = await installation.learner(agent);
  feeds = {};
  feed.calendars(feeds);
});
afterAll(async () => {
  await installation.stop();
  await feed.stop();
});

const due = (uid: string, title: string, day: string) =>
  event(uid, title, `DUE:${day}T225900Z`).replace(/VEVENT/g, 'VTODO');
const follow = async (path: string, more: object) =>
  (
    await agent
      .post(`/api/learners/${learnerId}/sources`)
      .send({ address: `http://${feed.host}${path}`, zone: 'Europe/Dublin', ...FLAG, ...more })
      .expect(200)
  ).body.source as SourceView;
const check = (id: string, confirm = false) =>
  agent.post(`/api/sources/${id}/reading`).send({ confirm }).expect(200);
const questions = async () =>
  (await agent.get(`/api/learners/${learnerId}/questions`).expect(200)).body as Questions;
const occurrences = async () =>
  (
    await agent
      .get(`/api/learners/${learnerId}/occurrences`)
      .query({ from: '2026-09-01T00:00:00Z', to: '2027-02-01T00:00:00Z' })
      .expect(200)
  ).body as OccurrenceView[];
const titled = async (title: string) => (await occurrences()).find((o) => o.title === title)!;
const shown = async () => (await occurrences()).map((o) => o.title).sort();
const say = (a: string, b: string, duplicate: boolean | null, status = 200) =>
  agent.put(`/api/items/${a}/duplicates/${b}`).send({ duplicate }).expect(status);

describe('what may be the same thing', () => {
  const both = async () => {
    feeds['/biology.ics'] = [due('b1', 'Leaf lab report', '20261016')];
    feeds['/school.ics'] = [
      due('s1', 'Biology: Leaf lab report', '20261016'),
      due('s2', 'Norwegian: Leaf lab report', '20261016'),
    ];
    await follow('/biology.ics', { name: 'Biology', kind: 'course' });
    await follow('/school.ics', { name: 'School', kind: 'school' });
  };

  test('is asked about, joined by a word with what was added to it, and taken back', async () => {
    await both();
    const [pair, ...others] = (await questions()).maybeSame;
    expect(others).toEqual([]);
    expect([pair!.a.title, pair!.b.title]).toEqual(['Leaf lab report', 'Biology: Leaf lab report']);
    const theirs = await titled('Biology: Leaf lab report');
    await agent
      .patch(`/api/items/${theirs.itemId}/layer`)
      .send({ recurrenceId: '', version: 0, finished: true })
      .expect(200);
    await say(pair!.a.itemId, pair!.b.itemId, true);
    expect(await shown()).toEqual(['Leaf lab report', 'Norwegian: Leaf lab report']);
    expect((await titled('Leaf lab report')).finished).toBe(true);
    expect((await questions()).maybeSame).toEqual([]);
    // Taken back, each has again what it had.
    await say(pair!.a.itemId, pair!.b.itemId, null);
    expect(await shown()).toHaveLength(3);
    expect((await titled('Leaf lab report')).finished).toBe(false);
    expect((await titled('Biology: Leaf lab report')).finished).toBe(true);
    await say(pair!.a.itemId, pair!.b.itemId, false);
    expect((await questions()).maybeSame).toEqual([]);
  });

  test('two of one feed can be joined by hand; a series and a single date cannot, and it says why', async () => {
    feeds['/biology.ics'] = [
      due('b1', 'Leaf lab report', '20261016'),
      due('b2', 'Report on leaves', '20261017'),
      event('b3', 'Lab', 'DTSTART:20261012T090000Z', 'DTEND:20261012T100000Z', 'RRULE:FREQ=WEEKLY;COUNT=4'),
    ];
    const { id } = await follow('/biology.ics', { name: 'Biology', kind: 'course' });
    const [report, leaves, lab] = [
      await titled('Leaf lab report'),
      await titled('Report on leaves'),
      await titled('Lab'),
    ];
    await say(report.itemId, leaves.itemId, true);
    expect(new Set(await shown())).toEqual(new Set(['Lab', 'Leaf lab report']));
    // It stays so when their feed is read again, and when one of them is moved.
    feeds['/biology.ics']![1] = due('b2', 'Report on leaves', '20261024');
    await check(id);
    expect(new Set(await shown())).toEqual(new Set(['Lab', 'Leaf lab report']));
    expect((await say(report.itemId, lab.itemId, true, 422)).body).toMatchObject({
      title: 'These two cannot be shown as one.',
      remedy: expect.stringContaining('One repeats'),
    });
  });
});

describe('what a renewed feed has lost', () => {
  const mark = async (title: string) => {
    const { itemId } = await titled(title);
    await agent
      .patch(`/api/items/${itemId}/layer`)
      .send({ recurrenceId: '', version: 0, finished: true })
      .expect(200);
    await agent
      .patch(`/api/items/${itemId}/person-layer`)
      .send({ recurrenceId: '', version: 0, note: 'Ask Anselm' })
      .expect(200);
    return itemId;
  };

  test('is matched by title where that goes; the rest is listed, matched by hand, and that is taken back', async () => {
    feeds['/biology.ics'] = ['Leaf lab report', 'Pond survey', 'Seed diary', 'Moss essay'].map((title, i) =>
      due(`a${i}`, title, `2026101${i + 2}`),
    );
    const { id } = await follow('/biology.ics', { name: 'Biology', kind: 'course' });
    const report = await mark('Leaf lab report');
    const survey = await mark('Pond survey');
    feeds['/biology.ics'] = ['Leaf lab report', 'Survey of the pond', 'Seed diary', 'Fern essay'].map(
      (title, i) => due(`b${i}`, title, `2026112${i + 2}`),
    );
    await check(id, true);
    expect(await titled('Leaf lab report')).toMatchObject({ itemId: report, finished: true });
    const { unmatched } = await questions();
    expect(unmatched).toMatchObject([{ itemId: survey, title: 'Pond survey' }]);
    expect(unmatched[0]!.offered.map((o) => o.title)).toEqual([
      'Survey of the pond',
      'Seed diary',
      'Fern essay',
    ]);
    const to = unmatched[0]!.offered[0]!.itemId;
    const match = (of: string, other: string | null, status = 200) =>
      agent.put(`/api/items/${of}/match`).send({ to: other }).expect(status);
    await match(survey, to);
    const now = await titled('Survey of the pond');
    expect(now).toMatchObject({ itemId: survey, finished: true });
    const view = (await agent.get(`/api/items/${survey}`).query({ recurrenceId: '' })).body as ItemView;
    expect(view).toMatchObject({ note: 'Ask Anselm', gone: false, records: [{ kind: 'finished' }] });
    expect((await questions()).unmatched).toEqual([]);
    // Its feed knows it as its own from now on.
    feeds['/biology.ics']![1] = due('b1', 'Survey of the pond', '20261201');
    await check(id);
    expect(await titled('Survey of the pond')).toMatchObject({ itemId: survey, finished: true });
    await match(survey, to);
    expect(await titled('Survey of the pond')).toMatchObject({ itemId: to, finished: false });
    expect((await questions()).unmatched).toMatchObject([{ itemId: survey }]);
    // Neither of two that stand, nor one of another feed.
    await match(to, report, 409);
    await match(survey, null);
    expect((await questions()).unmatched).toEqual([]);
  });

  test('what merely leaves while nothing new comes is no question', async () => {
    feeds['/biology.ics'] = [due('a1', 'Leaf lab report', '20261012'), due('a2', 'Pond survey', '20261013')];
    const { id } = await follow('/biology.ics', { name: 'Biology', kind: 'course' });
    await mark('Pond survey');
    feeds['/biology.ics'].pop();
    await check(id, true);
    expect(await shown()).toEqual(['Leaf lab report']);
    expect((await questions()).unmatched).toEqual([]);
  });
});
