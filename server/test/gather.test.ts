import type {
  CalendarView,
  ItemView,
  OccurrenceView,
  Preview,
  SourceView,
  SplitRequest,
} from '@zephyrfield/core/api/schemas';
import { MOST } from '../src/limits';
import { FLAG, FeedServer, Installation, START, calendarText, event } from './harness';

let feed: FeedServer;
let installation: Installation;
let agent: Awaited<ReturnType<Installation['person']>>['agent'];
let learnerId: string;
/** What the feed server has at each path. */
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

const address = (path: string) => `http://${feed.host}${path}`;
const follow = async (path: string, more: object = {}) =>
  (
    await agent
      .post(`/api/learners/${learnerId}/sources`)
      .send({ address: address(path), zone: 'Europe/Dublin', name: 'All', kind: 'course', ...FLAG, ...more })
      .expect(200)
  ).body.source as SourceView;
const check = (id: string) => agent.post(`/api/sources/${id}/reading`).send({}).expect(200);
const calendars = async () =>
  (await agent.get(`/api/learners/${learnerId}/calendars`)).body as CalendarView[];
const sources = async () => (await agent.get(`/api/learners/${learnerId}/sources`)).body as SourceView[];
const occurrences = async () =>
  (
    await agent
      .get(`/api/learners/${learnerId}/occurrences`)
      .query({ from: '2026-09-01T00:00:00Z', to: '2026-12-01T00:00:00Z' })
      .expect(200)
  ).body as OccurrenceView[];
const changes = async () =>
  ((await agent.get(`/api/learners/${learnerId}/changes`)).body as { kind: string; title: string }[]).map(
    (c) => `${c.kind} ${c.title}`,
  );
const item = async (o: OccurrenceView) =>
  (await agent.get(`/api/items/${o.itemId}`).query({ recurrenceId: o.recurrenceId }).expect(200))
    .body as ItemView;
const finish = (o: OccurrenceView) =>
  agent
    .patch(`/api/items/${o.itemId}/layer`)
    .send({ recurrenceId: o.recurrenceId, finished: true, version: o.version })
    .expect(200);
/** `Letter 1 (Norwegian)` for every title with its calendar's name */
const placed = async () => {
  const names = new Map((await calendars()).map((c) => [c.id, c.name]));
  return (await occurrences())
    .map((o) => `${o.title} (${[o.calendarId, ...o.alsoIn].map((id) => names.get(id)).join(' + ')})`)
    .sort();
};

const due = (uid: string, title: string, date: string, ...more: string[]) =>
  event(uid, title, `DTSTART:${date}T225900Z`, ...more);
const THREE = [
  due('n1', 'Letter 1 [Norwegian]', '20261009'),
  due('n2', 'Letter 2 [Norwegian]', '20261016'),
  due('s1', 'Mixdown [Sound]', '20261011'),
  due('s2', 'Mixdown 2 [Sound]', '20261018'),
];
const SPLIT: SplitRequest = {
  rule: { by: 'endTag' },
  sections: [
    { section: 'Norwegian', name: 'Norwegian' },
    { section: 'Sound', name: 'Sound Design' },
  ],
};

describe('one link, many courses', () => {
  test('the preview proposes calendars with counts, and they are made as the person names them', async () => {
    feeds['/all.ics'] = THREE;
    const { body } = await agent
      .post(`/api/learners/${learnerId}/preview`)
      .send({ address: address('/all.ics'), zone: 'Europe/Dublin' })
      .expect(200);
    expect((body as Preview).splits[0]).toEqual({
      rule: { by: 'endTag' },
      sections: [
        { section: 'Norwegian', count: 2 },
        { section: 'Sound', count: 2 },
      ],
    });
    const source = await follow('/all.ics', { split: SPLIT });
    expect(await placed()).toEqual([
      'Letter 1 (Norwegian)',
      'Letter 2 (Norwegian)',
      'Mixdown (Sound Design)',
      'Mixdown 2 (Sound Design)',
    ]);
    expect((await calendars()).map((c) => c.name)).toEqual(['Norwegian', 'Sound Design']);
    expect(new Set((await calendars()).map((c) => c.colour)).size).toBe(2);
    expect(source.sections.map((p) => [p.section, p.count])).toEqual([
      ['Norwegian', 2],
      ['Sound', 2],
    ]);
  });

  test('later readings follow the rule, and a tag that turns up is given a calendar and told', async () => {
    feeds['/all.ics'] = THREE;
    const { id } = await follow('/all.ics', { split: SPLIT });
    feeds['/all.ics'] = [
      ...THREE,
      due('f1', 'Lab log [Food]', '20261012'),
      due('n3', 'Letter 3 [Norwegian]', '20261023'),
      due('x', 'Whole school photo', '20261013'),
    ];
    await check(id);
    expect(await placed()).toEqual(
      expect.arrayContaining([
        'Lab log (Food)',
        'Letter 3 (Norwegian)',
        'Whole school photo (Norwegian)',
      ]) as unknown,
    );
    expect((await sources())[0]!.newSections.sort()).toEqual(['', 'Food']);
    await agent.patch(`/api/sources/${id}`).send({ sectionsSeen: true }).expect(200);
    expect((await sources())[0]!.newSections).toEqual([]);
  });

  test('a feed that names a course for every entry makes no more calendars than a schedule may have', async () => {
    feeds['/all.ics'] = THREE;
    const { id } = await follow('/all.ics', { split: SPLIT });
    feeds['/all.ics'] = [
      ...THREE,
      ...Array.from({ length: 300 }, (_, i) => due(`m${i}`, `Lab log ${i} [Course ${i}]`, '20261012')),
    ];
    await check(id);
    expect(await calendars()).toHaveLength(MOST.calendars);
    expect((await placed()).filter((line) => /^Lab log \d+ \(Norwegian\)$/.test(line))).toHaveLength(202);
    expect((await placed()).filter((line) => line.startsWith('Lab log'))).toHaveLength(300);
  });

  test('parts of one name share a calendar; a calendar with nothing left in it goes; what was ticked off stays so', async () => {
    feeds['/all.ics'] = THREE;
    const { id } = await follow('/all.ics', { split: SPLIT });
    await finish((await occurrences()).find((o) => o.title === 'Mixdown')!);
    const merged = { ...SPLIT, sections: SPLIT.sections.map((p) => ({ ...p, name: 'Languages and sound' })) };
    const { body } = await agent.put(`/api/sources/${id}/split`).send({ split: merged }).expect(200);
    expect((body as SourceView).calendarIds).toHaveLength(1);
    expect(await placed()).toEqual(
      ['Letter 1', 'Letter 2', 'Mixdown', 'Mixdown 2'].map((t) => `${t} (Languages and sound)`),
    );
    expect((await occurrences()).filter((o) => o.finished).map((o) => o.title)).toEqual(['Mixdown']);
    expect(await changes()).toEqual([]);
  });

  test('a source can be split afterwards from what is stored, and made one again', async () => {
    feeds['/all.ics'] = THREE;
    const { id } = await follow('/all.ics');
    expect(await placed()).toContain('Letter 1 [Norwegian] (All)');
    const { body } = await agent.get(`/api/sources/${id}/split`).expect(200);
    expect((body as Preview['splits'])[0]!.rule).toEqual({ by: 'endTag' });
    feeds = {};
    await agent.put(`/api/sources/${id}/split`).send({ split: SPLIT }).expect(200);
    expect(await placed()).toContain('Mixdown (Sound Design)');
    expect((await calendars()).map((c) => c.name).sort()).toEqual(['Norwegian', 'Sound Design']);
    await agent.put(`/api/sources/${id}/split`).send({ split: null }).expect(200);
    expect((await calendars()).length).toBe(1);
    expect((await occurrences()).map((o) => o.title).sort()).toEqual([
      'Letter 1 [Norwegian]',
      'Letter 2 [Norwegian]',
      'Mixdown 2 [Sound]',
      'Mixdown [Sound]',
    ]);
  });

  test('a split with a calendar without a name is told at its field', async () => {
    feeds['/all.ics'] = THREE;
    const { id } = await follow('/all.ics');
    const { body } = await agent
      .put(`/api/sources/${id}/split`)
      .send({ split: { ...SPLIT, sections: [{ section: 'Norwegian', name: ' ' }] } })
      .expect(422);
    expect(body).toMatchObject({ fields: [{ path: 'split.sections.0.name', message: 'Give it a name.' }] });
  });
});

test('a feed that looks like one of deadlines by now is understood as one, its older entries too', async () => {
  const minute = (uid: string, title: string, day: string) =>
    event(uid, title, `DTSTART:${day}T225900Z`, `DTEND:${day}T230000Z`);
  feeds['/hull.ics'] = [minute('m1', 'Hull paint', '20261020'), minute('m2', 'Mast paint', '20261021')];
  const { id } = await follow('/hull.ics');
  const dues = async () => (await occurrences()).map((o) => [o.title, o.due?.kind === 'instant' && o.due.at]);
  expect(await dues()).toEqual([
    ['Hull paint', false],
    ['Mast paint', false],
  ]);
  feeds['/hull.ics'].push(minute('m3', 'Keel paint', '20261022'));
  // Once a month, everything is read anew.
  installation.now += 32 * 86_400_000;
  await check(id);
  expect(await dues()).toEqual([
    ['Hull paint', '2026-10-20T22:59:00Z'],
    ['Mast paint', '2026-10-21T22:59:00Z'],
    ['Keel paint', '2026-10-22T22:59:00Z'],
  ]);
});

describe('the same thing twice', () => {
  const REPORT = due('fc', 'Emulsion report', '20261016');
  const ALSO = due('sh', 'Emulsion report', '20261016');
  const both = async () => {
    feeds['/school.ics'] = [ALSO, due('sh2', 'Open evening', '20261020')];
    feeds['/food.ics'] = [REPORT];
    const school = await follow('/school.ics', { name: 'School', kind: 'school' });
    const food = await follow('/food.ics', { name: 'Food Chemistry' });
    return { school, food };
  };
  const shown = async () => (await placed()).filter((t) => t.startsWith('Emulsion'));

  test('is shown once, with where else it comes from, and can be told apart and together again', async () => {
    await both();
    expect(await shown()).toEqual(['Emulsion report (Food Chemistry + School)']);
    const report = (await occurrences()).find((o) => o.title === 'Emulsion report')!;
    const { duplicates } = await item(report);
    expect(duplicates).toMatchObject([
      { calendar: 'School', notDuplicate: false, when: { at: '2026-10-16T22:59:00Z' } },
    ]);
    // The other one leads to the same sheet.
    expect((await item({ ...report, itemId: duplicates[0]!.itemId })).occurrence.itemId).toBe(report.itemId);
    await agent
      .put(`/api/items/${report.itemId}/duplicates/${duplicates[0]!.itemId}`)
      .send({ duplicate: false })
      .expect(200);
    expect(await shown()).toEqual(['Emulsion report (Food Chemistry)', 'Emulsion report (School)']);
    expect((await item(report)).duplicates).toMatchObject([{ notDuplicate: true }]);
    await agent
      .put(`/api/items/${report.itemId}/duplicates/${duplicates[0]!.itemId}`)
      .send({ duplicate: true })
      .expect(200);
    expect(await shown()).toEqual(['Emulsion report (Food Chemistry + School)']);
  });

  test('stays one when the course moves it first, and the later news of the school is no news', async () => {
    const { school, food } = await both();
    feeds['/food.ics'] = [due('fc', 'Emulsion report', '20261019')];
    await check(food.id);
    expect(await shown()).toEqual(['Emulsion report (Food Chemistry + School)']);
    expect((await occurrences()).find((o) => o.title === 'Emulsion report')!.due).toMatchObject({
      at: '2026-10-19T22:59:00Z',
    });
    feeds['/school.ics'] = [due('sh', 'Emulsion report', '20261019'), due('sh2', 'Open evening', '20261020')];
    await check(school.id);
    expect(await changes()).toEqual(['moved Emulsion report']);
  });

  test('what was ticked off goes on where the other feed still has it', async () => {
    const { school, food } = await both();
    await finish((await occurrences()).find((o) => o.title === 'Emulsion report')!);
    feeds['/food.ics'] = [due('fc2', 'Something else', '20261030')];
    await check(food.id);
    expect(await shown()).toEqual(['Emulsion report (School)']);
    expect((await occurrences()).find((o) => o.title === 'Emulsion report')!.finished).toBe(true);
    feeds['/food.ics'] = [REPORT];
    await check(food.id);
    expect(await shown()).toEqual(['Emulsion report (Food Chemistry + School)']);
    expect((await occurrences()).find((o) => o.title === 'Emulsion report')!.finished).toBe(true);
    await agent.delete(`/api/sources/${food.id}`).expect(200);
    expect((await occurrences()).find((o) => o.title === 'Emulsion report')).toMatchObject({
      finished: true,
    });
    expect((await sources()).map((s) => s.id)).toEqual([school.id]);
  });
});

describe('what an entry is, corrected', () => {
  const LOGS = [1, 2, 3].map((n) => due(`l${n}`, `Lab log ${n}`, `2026101${n}`));
  const kinds = async () => (await occurrences()).map((o) => `${o.title}: ${o.kind}, ${o.handIn}`).sort();

  test('for all of its kind, and for those still to come; for one by itself', async () => {
    feeds['/fc.ics'] = [...LOGS, due('q', 'Quiz', '20261014')];
    const { id } = await follow('/fc.ics');
    const [log] = (await occurrences()).filter((o) => o.title === 'Lab log 1');
    expect((await item(log!)).alike).toEqual({ count: 3, words: 'lab log' });
    expect(
      (
        await agent
          .patch(`/api/items/${log!.itemId}/understanding`)
          .send({ kind: 'practice', handIn: 'paper', all: true })
          .expect(200)
      ).body,
    ).toEqual({ corrected: 3 });
    await agent
      .patch(`/api/items/${log!.itemId}/understanding`)
      .send({ kind: 'test', all: false })
      .expect(200);
    expect(await kinds()).toEqual([
      'Lab log 1: test, paper',
      'Lab log 2: practice, paper',
      'Lab log 3: practice, paper',
      'Quiz: test, unknown',
    ]);
    feeds['/fc.ics'] = [...LOGS, due('l4', 'Lab log 4', '20261018')];
    await check(id);
    expect(await kinds()).toContain('Lab log 4: practice, paper');
    expect(await changes()).toEqual(expect.arrayContaining(['added Lab log 4']) as unknown);
  });

  test('nothing said is told, and somebody who may only look may not', async () => {
    feeds['/fc.ics'] = LOGS;
    await follow('/fc.ics');
    const [log] = await occurrences();
    expect(
      (await agent.patch(`/api/items/${log!.itemId}/understanding`).send({ all: true }).expect(422)).body,
    ).toMatchObject({ fields: [{ message: 'Say what it is or how it is handed in.' }] });
    await agent.patch('/api/items/nothing/understanding').send({ kind: 'test' }).expect(404);
  });

  test('an opening and a closing are told apart and joined again, and what was ticked off stays', async () => {
    feeds['/sw.ics'] = [
      event('o', 'Quiz opens', 'DTSTART:20261012T070000Z'),
      event('c', 'Quiz closes', 'DTSTART:20261012T190000Z'),
      due('z', 'Sheet', '20261013'),
    ];
    const { id } = await follow('/sw.ics');
    const [quiz] = (await occurrences()).filter((o) => o.title === 'Quiz');
    expect((await item(quiz!)).window).toEqual({ joined: true, opens: 'Quiz opens', closes: 'Quiz closes' });
    await finish(quiz!);
    await agent.put(`/api/items/${quiz!.itemId}/window`).send({ joined: false }).expect(200);
    const apart = async () => (await occurrences()).map((o) => `${o.title} ${o.finished}`).sort();
    expect(await apart()).toEqual(['Quiz closes true', 'Quiz opens false', 'Sheet false']);
    await check(id);
    expect(await apart()).toEqual(['Quiz closes true', 'Quiz opens false', 'Sheet false']);
    expect((await item(quiz!)).window).toMatchObject({ joined: false });
    await agent.put(`/api/items/${quiz!.itemId}/window`).send({ joined: true }).expect(200);
    expect(await apart()).toEqual(['Quiz true', 'Sheet false']);
    feeds['/sw.ics'] = [...feeds['/sw.ics'], due('y', 'Sheet 2', '20261014')];
    await check(id);
    expect(await apart()).toEqual(['Quiz true', 'Sheet 2 false', 'Sheet false']);
    expect(await changes()).toEqual(['added Sheet 2']);
  });

  test('an opening that turns up later is joined with a closing that has not changed', async () => {
    const close = event('c', 'Quiz closes', 'DTSTART:20261012T190000Z');
    feeds['/sw.ics'] = [close, due('z', 'Sheet', '20261013')];
    const { id } = await follow('/sw.ics');
    feeds['/sw.ics'] = [
      event('o', 'Quiz opens', 'DTSTART:20261012T070000Z'),
      close,
      due('z', 'Sheet', '20261013'),
    ];
    await check(id);
    expect((await occurrences()).map((o) => o.title).sort()).toEqual(['Quiz', 'Sheet']);
  });
});

describe('what a feed says of itself', () => {
  test('one that breaks off in the middle takes nothing away, changes nothing behind the cut, and says so', async () => {
    const [one, two, three] = [
      due('a', 'Keel plan', '20261009'),
      due('b', 'Lofting', '20261012'),
      due('c', 'Regatta', '20261016'),
    ];
    feeds['/cut.ics'] = [one, two, three];
    const source = await follow('/cut.ics');
    const whole = await occurrences();
    const text = calendarText(one.replace('20261009', '20261010'), two, three);
    const { answer } = feed;
    feed.answer = (_req, res) =>
      void res
        .writeHead(200, { 'content-type': 'text/calendar' })
        .end(text.slice(0, text.indexOf('SUMMARY:Lofting')));
    await check(source.id);
    const after = await occurrences();
    expect(after.map((o) => o.title).sort()).toEqual(whole.map((o) => o.title).sort());
    expect(after.find((o) => o.title === 'Keel plan')!.due).toMatchObject({ at: '2026-10-10T22:59:00Z' });
    expect((await changes()).filter((c) => !c.startsWith('added'))).toEqual(['moved Keel plan']);
    expect((await sources())[0]!.warnings.map((w) => w.message)).toContainEqual(
      'the feed ends in the middle; what came before is shown',
    );
    feed.answer = answer;
  });

  test('a new link takes the place of a dead one, and all that was ticked off stays', async () => {
    feeds['/old.ics'] = [due('a', 'Keel plan', '20261009'), due('b', 'Lofting', '20261012')];
    const source = await follow('/old.ics');
    await finish((await occurrences()).find((o) => o.title === 'Keel plan')!);
    delete feeds['/old.ics'];
    await check(source.id);
    expect((await sources())[0]!.trouble).toMatchObject({ code: 'notFound' });
    const move = (path: string) =>
      agent.put(`/api/sources/${source.id}/address`).send({ address: address(path) });
    // What cannot be read takes no place.
    await move('/nothing.ics').expect(422);
    expect((await sources())[0]!.trouble).toMatchObject({ code: 'notFound' });
    feeds['/new.ics'] = [due('x', 'Keel plan', '20261009'), due('y', 'Lofting', '20261012')];
    await move('/new.ics').expect(200);
    expect((await sources())[0]).toMatchObject({ trouble: null, id: source.id, entries: 2 });
    expect((await occurrences()).map((o) => [o.title, o.finished])).toEqual([
      ['Keel plan', true],
      ['Lofting', false],
    ]);
    feeds['/other.ics'] = [due('z', 'Regatta', '20261016')];
    await follow('/other.ics');
    await move('/other.ics').expect(409);
  });

  test('many are finished at once and opened again, those changed or gone meanwhile left out', async () => {
    feeds['/many.ics'] = [
      due('a', 'One', '20261009'),
      due('b', 'Two', '20261012'),
      due('c', 'Three', '20261013'),
    ];
    await follow('/many.ics');
    const all = await occurrences();
    await finish(all[2]!);
    const items = all.map(({ itemId, recurrenceId, version }) => ({ itemId, recurrenceId, version }));
    const send = (body: object) => agent.post(`/api/learners/${learnerId}/finished`).send(body).expect(200);
    items.push({ ...items[0]!, recurrenceId: '20200101' }); // a date that is gone, or never was
    const saved = (await send({ items, finished: true })).body as OccurrenceView[];
    expect(saved.map((o) => [o.title, o.finished, o.version])).toEqual([
      ['One', true, 1],
      ['Two', true, 1],
    ]);
    expect((await item(all[0]!)).records.map((r) => r.kind)).toEqual(['finished']);
    await send({ items: saved.map(({ itemId, version }) => ({ itemId, version })), finished: false });
    expect((await occurrences()).map((o) => o.finished)).toEqual([false, false, true]);
  });

  test('done in the course is finished without a tick, and can be contradicted', async () => {
    const task = (more: string) =>
      ['BEGIN:VTODO', 'UID:t', 'SUMMARY:Shed log', 'DUE:20261009T150000Z', more, 'END:VTODO'].join('\r\n');
    feeds['/done.ics'] = [task('PERCENT-COMPLETE:40')];
    const source = await follow('/done.ics');
    expect(await occurrences()).toMatchObject([{ finished: false, doneInCourse: false }]);
    feeds['/done.ics'] = [task('COMPLETED:20261006T100000Z')];
    await check(source.id);
    const [o] = await occurrences();
    expect(o).toMatchObject({ finished: true, finishedAt: null, doneInCourse: true });
    expect((await item(o!)).reminders.moments).toEqual([]);
    await agent.patch(`/api/items/${o!.itemId}/layer`).send({ finished: false, version: 0 }).expect(200);
    expect(await occurrences()).toMatchObject([{ finished: false, stillToDo: true }]);
    expect((await item(o!)).records.map((r) => r.kind)).toEqual(['reopened']);
    await finish((await occurrences())[0]!);
    expect(await occurrences()).toMatchObject([{ finished: true, stillToDo: false }]);
  });
});

describe('a calendar’s zone and category', () => {
  test('times of no known zone move with the calendar’s; a category of one’s own is kept', async () => {
    feeds['/home.ics'] = [
      event('d', 'Dentist', 'DTSTART;TZID=Nowhere Time:20261008T100000', 'DURATION:PT1H'),
    ];
    const { id, calendarIds } = await follow('/home.ics', { kind: 'own', category: 'Errands' });
    expect((await calendars())[0]).toMatchObject({ kind: 'own', category: 'Errands', zone: 'Europe/Dublin' });
    await agent.patch(`/api/calendars/${calendarIds[0]}`).send({ zone: 'Asia/Tokyo' }).expect(200);
    await check(id);
    expect((await occurrences())[0]!.start).toMatchObject({ at: '2026-10-08T01:00:00Z' });
    await agent.patch(`/api/calendars/${calendarIds[0]}`).send({ zone: 'Middle/Earth' }).expect(422);
  });
  test('what a calendar is of decides what its entries are', async () => {
    feeds['/x.ics'] = [event('d', 'Cousin Pip', 'DTSTART;VALUE=DATE:20261008')];
    const { calendarIds } = await follow('/x.ics');
    expect((await occurrences())[0]!.kind).toBe('assignment');
    await agent.patch(`/api/calendars/${calendarIds[0]}`).send({ kind: 'home' }).expect(200);
    expect((await occurrences())[0]!.kind).toBe('reminder');
  });
});

describe('one-time files', () => {
  const send = (text: string, name = 'ceramics.ics') =>
    agent
      .post(`/api/learners/${learnerId}/files`)
      .query({ name, zone: 'Europe/Dublin' })
      .set('content-type', 'application/octet-stream')
      .send(Buffer.from(text));
  const take = (id: string, more: object = {}) =>
    agent
      .post(`/api/files/${id}`)
      .send({ zone: 'Europe/Dublin', name: 'Ceramics', kind: 'course', ...FLAG, ...more });
  const SHEETS = [due('a', 'Sketchbook 1', '20261009'), due('b', 'Sketchbook 2', '20261016')];

  test('is looked at, read in, and marked as a copy of that day that nothing checks', async () => {
    const { body } = await send(calendarText('X-WR-CALNAME:Ceramics Studio', ...SHEETS)).expect(200);
    expect(body).toMatchObject({
      name: 'Ceramics Studio',
      entries: 2,
      file: { name: 'ceramics.ics', copyOf: null },
    });
    expect(await occurrences()).toEqual([]);
    const { body: taken } = await take((body as Preview).file!.id).expect(200);
    expect(taken).toMatchObject({
      source: {
        kind: 'oneTimeFile',
        address: 'ceramics.ics',
        entries: 2,
        nextCheck: null,
        lastGood: new Date(START).toISOString(),
      },
    });
    await check((taken as { source: SourceView }).source.id).catch(() => {});
    await agent
      .post(`/api/sources/${(taken as { source: SourceView }).source.id}/reading`)
      .send({})
      .expect(422);
    await take((body as Preview).file!.id).expect(404);
  });

  test('a newer copy updates instead of doubling, whatever the browser calls it, and what changed is news', async () => {
    const first = (await send(calendarText(...SHEETS)).expect(200)).body as Preview;
    const { source } = (await take(first.file!.id).expect(200)).body as { source: SourceView };
    await finish((await occurrences())[0]!);
    installation.now += 86_400_000;
    const next = (
      await send(
        calendarText(due('a', 'Sketchbook 1', '20261009'), due('b', 'Sketchbook 2', '20261017')),
        'ceramics (1).ics',
      ).expect(200)
    ).body as Preview;
    expect(next.file!.copyOf).toMatchObject({ sourceId: source.id, calendar: 'Ceramics' });
    const { body } = await agent
      .post(`/api/sources/${source.id}/file`)
      .send({ fileId: next.file!.id })
      .expect(200);
    expect(body).toMatchObject({
      added: 0,
      changed: 1,
      gone: 0,
      source: { address: 'ceramics (1).ics', lastGood: new Date(installation.now).toISOString() },
    });
    expect((await occurrences()).map((o) => [o.title, o.finished])).toEqual([
      ['Sketchbook 1', true],
      ['Sketchbook 2', false],
    ]);
    expect(await changes()).toEqual(['moved Sketchbook 2']);
    expect((await send(calendarText(due('z', 'Else', '20261009'))).expect(200)).body).toMatchObject({
      file: { copyOf: null },
    });
  });

  test('a newer copy that has lost most is held back until the person says so', async () => {
    const many = [1, 2, 3, 4, 5].map((n) => due(`m${n}`, `Sheet ${n}`, `2026102${n}`));
    const first = (await send(calendarText(...many)).expect(200)).body as Preview;
    const { source } = (await take(first.file!.id).expect(200)).body as { source: SourceView };
    const next = (await send(calendarText(many[0]!)).expect(200)).body as Preview;
    const into = (confirm: boolean) =>
      agent.post(`/api/sources/${source.id}/file`).send({ fileId: next.file!.id, confirm }).expect(200);
    expect((await into(false)).body).toMatchObject({ source: { heldBack: { missing: 4, of: 5 } } });
    expect(await occurrences()).toHaveLength(5);
    expect((await into(true)).body).toMatchObject({ gone: 4, source: { heldBack: null } });
  });

  test.each([
    ['a web page', '<!doctype html><html></html>', 'feed-webPage'],
    ['nothing', '', 'feed-empty'],
    ['a picture', '\u0089PNG\r\n', 'feed-notCalendar'],
  ])('%s is refused in plain words', async (_what, text, type) => {
    const { body } = await send(text).expect(422);
    expect((body as { type: string }).type).toContain(type);
    expect(await sources()).toEqual([]);
  });

  test('one that is too large is refused, and a stranger’s is not there', async () => {
    await send('x'.repeat(21 * 2 ** 20)).expect(413);
    const { file } = (await send(calendarText(...SHEETS)).expect(200)).body as Preview;
    await agent.post(`/api/sources/none/file`).send({ fileId: file!.id }).expect(404);
    await agent
      .post(`/api/learners/none/files`)
      .query({ name: 'x', zone: 'Europe/Dublin' })
      .set('content-type', 'application/octet-stream')
      .send(Buffer.from('x'))
      .expect(404);
  });
});

describe('what stays when a link is taken away', () => {
  test('what was ticked off stays as a record, is back in its place when the link is followed again, and can be forgotten', async () => {
    feeds['/on.ics'] = [due('a', 'Exercise 1', '20261005'), due('b', 'Exercise 2', '20261012')];
    const { id } = await follow('/on.ics', { name: 'Navigation' });
    await finish((await occurrences())[0]!);
    expect((await sources())[0]).toMatchObject({ entries: 2, records: 1 });
    await agent.delete(`/api/sources/${id}`).expect(200);
    expect(await sources()).toEqual([]);
    expect((await occurrences()).map((o) => [o.title, o.finished])).toEqual([['Exercise 1', true]]);
    expect((await item((await occurrences())[0]!)).gone).toBe(true);
    const again = await follow('/on.ics', { name: 'Navigation again' });
    expect((await occurrences()).map((o) => [o.title, o.finished])).toEqual([
      ['Exercise 1', true],
      ['Exercise 2', false],
    ]);
    expect((await calendars()).map((c) => c.name)).toEqual(['Navigation again']);
    await agent.delete(`/api/calendars/${again.calendarIds[0]}`).expect(409);
    await agent.delete(`/api/sources/${again.id}`).expect(200);
    await agent.delete(`/api/calendars/${again.calendarIds[0]}`).expect(200);
    expect([await occurrences(), await calendars()]).toEqual([[], []]);
  });
  test('of a split link, the calendars with nothing to keep go', async () => {
    feeds['/all.ics'] = THREE;
    const { id } = await follow('/all.ics', { split: SPLIT });
    await finish((await occurrences()).find((o) => o.title === 'Mixdown')!);
    await agent.delete(`/api/sources/${id}`).expect(200);
    expect((await calendars()).map((c) => c.name)).toEqual(['Sound Design']);
    await agent.delete(`/api/calendars/${(await calendars())[0]!.id}`).expect(200);
    expect(await calendars()).toEqual([]);
  });
});
