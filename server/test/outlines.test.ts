import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdtemp, readFile, readdir } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { deflateSync } from 'node:zlib';
import type { OutlineHead, OutlineView } from '@zephyrfield/core/api/outlines';
import yazl from 'yazl';
import { ESSAY, FLAG, Installation, type Agent } from './harness';

// Course outlines: given as files of each kind, read in a thread, looked through, kept and read again.

const ZONE = 'Europe/Dublin';
const TERM = { from: '2026-08-31', to: '2026-12-18' };
const SAMPLES = join(__dirname, '../../demo/outlines');
let w: Installation;
let agent: Agent;
let learner: string;
let calendar: string;

const reply = async <T>(asking: ReturnType<Agent['get']>) => (await asking.expect(200)).body as T;
const sending = (bytes: Buffer | string, name: string, more: object = {}) =>
  agent
    .post(`/api/learners/${learner}/outlines`)
    .query({ name, ...TERM, ...more })
    .set('content-type', 'application/octet-stream')
    .send(Buffer.from(bytes));
const send = (bytes: Buffer | string, name: string, more: object = {}) =>
  reply<OutlineView>(sending(bytes, name, more));
const told = ({ rows }: OutlineView) =>
  rows
    .filter((r) => !r.isTopic)
    .map((r) =>
      [r.dates.length ? `${r.dates[0]} and ${r.dates.length - 1} more` : r.date, r.endDate, r.minute, r.title]
        .filter((x) => x !== null)
        .join(' '),
    );

beforeAll(async () => {
  w = await Installation.start('', { ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
  agent = await w.account('Maren', 'maren@skerrow.example');
  learner = (await reply<{ id: string }>(agent.post('/api/learners').send({ name: 'Juno', zone: ZONE }))).id;
  calendar = (
    await reply<{ id: string }>(
      agent
        .post(`/api/learners/${learner}/calendars`)
        .send({ name: 'Cranes', kind: 'course', zone: ZONE, ...FLAG }),
    )
  ).id;
});
afterAll(() => w.stop());

describe('each kind of file', () => {
  test('the sample outlines of one course say the same, whatever they are', async () => {
    const names = (await readdir(SAMPLES)).filter((n) => n.startsWith('cranes-and-bridges.'));
    expect(names.map((n) => n.split('.').at(-1)).sort()).toEqual([
      'csv',
      'docx',
      'eml',
      'html',
      'md',
      'pdf',
      'txt',
      'xlsx',
    ]);
    const all = await Promise.all(
      names.map(async (name) => {
        const view = await send(await readFile(join(SAMPLES, name)), name).catch((error: Error) => {
          throw new Error(`${name}: ${error.message}`);
        });
        return [name, told(view).map((line) => line.toLowerCase())] as const;
      }),
    );
    const [, first] = all.find(([name]) => name.endsWith('.docx'))!;
    expect(first).toHaveLength(14);
    // A table of dates has no room for what repeats.
    const wanted = (name: string) =>
      first.filter((l) => !/\.(?:csv|xlsx)$/.test(name) || !l.endsWith('lab log'));
    for (const [name, lines] of all) expect([name, [...lines].sort()]).toEqual([name, wanted(name).sort()]);
  });

  test('text in other encodings, and cells as they are pasted from a sheet', async () => {
    const text = 'Café plan\n\nEssay: 9 October, by 17:00\n';
    for (const bytes of [
      Buffer.from(`\ufeff${text}`, 'utf16le'),
      Buffer.from(text, 'latin1'),
      Buffer.from(text),
    ])
      expect(told(await send(bytes, 'plan.txt'))).toEqual(['2026-10-09 1020 Essay']);
    const cells = 'Date\tWhat\n7 Sep\tSketch handed in\n14 Sep\tRope quiz\n';
    expect(told(await send(cells, 'pasted'))).toEqual(['2026-09-07 Sketch', '2026-09-14 Rope quiz']);
  });

  test('markup is text: nothing in it is run, and scripts say nothing', async () => {
    const html =
      '<script>document.write("Essay 9 October")</script><p onclick="x()">Quiz: 2 October<img src="http://x.example/a"></p>';
    const view = await send(html, 'plan.html');
    expect(told(view)).toEqual(['2026-10-02 Quiz']);
    expect(JSON.stringify(view.page)).not.toMatch(/script|onclick|x\.example/);
  });
});

describe('looked through and kept', () => {
  test('it is read again for another order, kept with its calendar, and a newer one takes its place', async () => {
    const view = await send('When,What\n09/10,Sketch\n10/11,Model\n11/12,Report\n', 'plan.csv');
    expect(view).toMatchObject({ isOrderOpen: true, order: null, calendarId: null });
    expect(view.rows[0]!.doubts).toEqual(['9 Oct, or 10 Sep?']);
    const again = await reply<OutlineView>(
      agent.get(`/api/outlines/${view.id}`).query({ ...TERM, order: 'mdy' }),
    );
    expect(told(again)[0]).toBe('2026-09-10 Sketch');
    const key = randomUUID();
    const item = { ...ESSAY, title: 'Sketch' };
    await agent
      .post(`/api/learners/${learner}/own`)
      .send({ writes: [{ id: null, key, calendarId: calendar, item, version: 0 }] })
      .expect(200);
    const [row] = again.rows;
    const kept = { title: row!.title, date: row!.date, minute: null, last: null, at: row!.at };
    await agent
      .put(`/api/outlines/${view.id}/kept`)
      .send({
        calendarId: calendar,
        rows: [
          { key, ...kept },
          { key: randomUUID(), ...kept },
        ],
      })
      .expect(200);
    const list = () => reply<OutlineHead[]>(agent.get(`/api/learners/${learner}/outlines`));
    expect(await list()).toMatchObject([{ id: view.id, name: 'plan.csv', calendarId: calendar }]);
    // What never came to be is not among what was added.
    const now = await reply<OutlineView>(agent.get(`/api/outlines/${view.id}`).query(TERM));
    expect(now.items).toMatchObject([{ title: 'Sketch', date: '2026-09-10' }]);
    const newer = await send('When,What\n10/10,Sketch\n', 'plan 2.csv', { order: 'dmy' });
    await agent
      .put(`/api/outlines/${newer.id}/kept`)
      .send({ calendarId: calendar, rows: [{ item: now.items[0]!.itemId, ...kept }], replaces: view.id })
      .expect(200);
    expect(await list()).toMatchObject([{ id: newer.id, items: [{ itemId: now.items[0]!.itemId }] }]);
    await agent.get(`/api/outlines/${view.id}`).query(TERM).expect(404);
    await agent.delete(`/api/outlines/${newer.id}`).expect(200);
    expect(await list()).toEqual([]);
  });

  test('one that waits is for whoever gave it alone, and one that is kept for all who see its calendar', async () => {
    const aunt = await w.account('Wilma', 'wilma@skerrow.example');
    const { id: personId } = w.services.people.byEmail('wilma@skerrow.example')!;
    w.services.people.join({ personId, learnerId: learner, access: 'look' });
    const { id } = await send('Essay: 9 October', 'plan.txt');
    await aunt.get(`/api/outlines/${id}`).query(TERM).expect(404);
    await agent.put(`/api/outlines/${id}/kept`).send({ calendarId: calendar, rows: [] }).expect(200);
    await aunt.get(`/api/outlines/${id}`).query(TERM).expect(200);
    await aunt.delete(`/api/outlines/${id}`).expect(403);
    await agent.delete(`/api/outlines/${id}`).expect(200);
  });

  test('whoever tries many has the last ten of them', async () => {
    const all: string[] = [];
    for (let n = 0; n < 12; n++) {
      w.now += 1_000;
      all.push((await send('Essay: 9 October', `plan ${n}.txt`)).id);
    }
    for (const [n, id] of all.entries())
      await agent
        .get(`/api/outlines/${id}`)
        .query(TERM)
        .expect(n < 2 ? 404 : 200);
  });

  test('a term that goes backwards is refused, and one that waits is let go of after a day', async () => {
    await sending('Essay: 9 October', 'plan.txt', { from: '2026-12-18', to: '2026-08-31' }).expect(422);
    const { id } = await send('Essay: 9 October', 'plan.txt');
    w.now += 25 * 3_600_000;
    w.services.outlines.tidy();
    await agent.get(`/api/outlines/${id}`).query(TERM).expect(404);
  });
});

const CATALOG = '<</Type/Catalog/Pages 2 0 R>>';
const PAGES = '<</Type/Pages/Kids[3 0 R]/Count 1>>';
const PAGE = '<</Type/Page/Parent 2 0 R/MediaBox[0 0 595 842]/Contents 4 0 R>>';

/** A PDF of these objects, and of a compressed stream behind them. */
function pdf(objects: readonly string[], stream = deflateSync(Buffer.alloc(0))): Buffer {
  const parts = [Buffer.from('%PDF-1.4\n')];
  const at: number[] = [];
  const size = () => parts.reduce((sum, part) => sum + part.length, 0);
  const put = (...object: (string | Buffer)[]) => {
    at.push(size());
    parts.push(
      Buffer.from(`${at.length} 0 obj\n`),
      ...object.map((o) => Buffer.from(o as string)),
      Buffer.from('\nendobj\n'),
    );
  };
  for (const object of objects) put(object);
  put(`<</Length ${stream.length}/Filter/FlateDecode>>stream\n`, stream, '\nendstream');
  const table = at.map((from) => `${String(from).padStart(10, '0')} 00000 n \n`).join('');
  const end = `xref\n0 ${at.length + 1}\n0000000000 65535 f \n${table}trailer\n<</Size ${at.length + 1}/Root 1 0 R>>`;
  parts.push(Buffer.from(`${end}\nstartxref\n${size()}\n%%EOF\n`));
  return Buffer.concat(parts);
}

/** An archive with one file of so many zeros in it. */
async function bomb(name: string, megabytes: number): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  const zeros = Buffer.alloc(2 ** 20);
  function* all() {
    for (let n = 0; n < megabytes; n++) yield zeros;
  }
  zip.addReadStream(Readable.from(all()), name);
  zip.end();
  const file = join(await mkdtemp(join(tmpdir(), 'outline-')), 'bomb');
  await pipeline(zip.outputStream, createWriteStream(file));
  return readFile(file);
}

describe('what is broken or hostile', () => {
  const refused = async (bytes: Buffer | string, name: string): Promise<string> => {
    const asked = sending(bytes, name).expect(422);
    await agent.get('/api/session').expect(200);
    const { title } = (await asked).body as { title: string };
    return title;
  };

  test('is told apart, in words that help', async () => {
    expect(await refused('', 'plan.txt')).toBe('It is empty.');
    expect(await refused('%PDF-1.7 and no more', 'plan.pdf')).toBe('It could not be read as a PDF.');
    expect(await refused('PK\u0003\u0004word/document.xml and no more', 'plan.docx')).toBe('It is broken.');
    expect(await refused(Buffer.from('d0cf11e0a1b11ae1', 'hex'), 'plan.doc')).toBe(
      'It is of a kind from before 2007.',
    );
    expect(await refused(Buffer.concat([Buffer.from('GIF89a'), Buffer.alloc(3_000)]), 'plan')).toBe(
      'It is of a kind that cannot be read.',
    );
    const scan = pdf([CATALOG, PAGES, PAGE]);
    expect(await refused(scan, 'scan.pdf')).toBe('It is a picture of pages and has no text in it.');
  });

  test('an archive that grows without end is refused before it is unpacked', async () => {
    const bytes = await bomb('word/document.xml', 400);
    expect(bytes.length).toBeLessThan(2 ** 20);
    expect(await refused(bytes, 'plan.docx')).toBe('Unpacked, it is larger than any outline is.');
  });

  test('a million cells, endless nesting and lines without end are read as far as they go', async () => {
    const cells = `When,What\n6 October,Quiz\n${'1,2,3,4,5,6,7,8,9,10\n'.repeat(100_000)}`;
    expect(told(await send(cells, 'plan.csv'))).toEqual(['2026-10-06 Quiz']);
    const nested = `<p>Quiz: 6 October</p>${'<div>'.repeat(200_000)}`;
    expect(told(await send(nested, 'plan.html'))).toEqual(['2026-10-06 Quiz']);
    const line = `Quiz: 6 October\n\n${'6 Oct 10/12 17:00 every Friday week 7 - '.repeat(20_000)}`;
    const view = await send(line, 'plan.txt').catch(() => null);
    expect(view === null || told(view).includes('2026-10-06 Quiz')).toBe(true);
    await agent.get('/api/session').expect(200);
  });

  test('bytes that mean nothing never stop the server', async () => {
    let seed = 7;
    const random = () => (seed = (seed * 1_103_515_245 + 12_345) % 2 ** 31) / 2 ** 31;
    const samples = await Promise.all(
      ['pdf', 'docx', 'xlsx', 'eml'].map((e) => readFile(join(SAMPLES, `cranes-and-bridges.${e}`))),
    );
    for (let round = 0; round < 24; round++) {
      const bytes = Buffer.from(samples[round % samples.length]!);
      for (let n = 0; n < 40; n++) bytes[Math.floor(random() * bytes.length)] = Math.floor(random() * 256);
      const { status } = await sending(bytes, `plan.${['pdf', 'docx', 'xlsx', 'eml'][round % 4]}`);
      expect([200, 422]).toContain(status);
    }
    await agent.get('/api/session').expect(200);
  });

  test('a page that unpacks without end is stopped before it takes the memory of the server', async () => {
    // Whoever sent it waits for a while: the others of these tests do not.
    const rude = await w.account('Gale', 'gale@skerrow.example');
    const { id } = await reply<{ id: string }>(rude.post('/api/learners').send({ name: 'Gale', zone: ZONE }));
    const page = deflateSync(Buffer.alloc(900 * 2 ** 20, 32), { level: 1 });
    const bytes = pdf([CATALOG, PAGES, PAGE], page);
    const before = process.memoryUsage.rss();
    let most = before;
    const watch = setInterval(() => (most = Math.max(most, process.memoryUsage.rss())), 20);
    const { title } = (
      await rude
        .post(`/api/learners/${id}/outlines`)
        .query({ name: 'plan.pdf', ...TERM })
        .set('content-type', 'application/octet-stream')
        .send(bytes)
        .expect(422)
    ).body as { title: string };
    clearInterval(watch);
    expect(title).toBe('It takes too much to read.');
    expect((most - before) / 2 ** 20).toBeLessThan(800);
    await agent.get('/api/session').expect(200);
  });
});
