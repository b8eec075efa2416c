import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { connect } from 'node:net';
import nodemailer from 'nodemailer';
import type { NotePerson, ThreadView, ThreadsView } from '@zephyrfield/core/api/notes';
import type { NoticeView } from '@zephyrfield/core/api/notify';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import type { AddressInfo } from 'node:net';
import { inbox } from '../src/notes/inbox';
import type { Pool } from '../src/work/pool';
import { ESSAY, FLAG, Installation, PNG, type Agent } from './harness';

// Notes between the people around a learner, and answers by mail.

const ZONE = 'Europe/Dublin';
const DOMAIN = 'notes.skerrow.example';
const postbox = createPostbox();
let w: Installation;
let smtp: string;
let maren: Agent;
let juno: Agent;
let anselm: Agent;
let learner: string;

const reply = async <T>(asking: ReturnType<Agent['get']>) => (await asking.expect(200)).body as T;
const idOf = (name: string) => w.services.people.byEmail(`${name}@skerrow.example`)!.id;
const write = async (agent: Agent, body: object) =>
  (
    await reply<{ threads: string[] }>(
      agent.post('/api/notes').send({ learnerIds: [learner], key: randomUUID(), text: '', ...body }),
    )
  ).threads[0]!;
const answer = (agent: Agent, id: string, text: string, more: object = {}) =>
  reply<ThreadView>(agent.post(`/api/notes/${id}/answers`).send({ text, key: randomUUID(), ...more }));
const list = (agent: Agent, query: object = {}) => reply<ThreadsView>(agent.get('/api/notes').query(query));
const memberOf = (name: string) => w.services.crews.memberOf(idOf(name), learner)!.id;

beforeAll(async () => {
  const listening = postbox.smtp.listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  smtp = `smtp://127.0.0.1:${(listening.address() as AddressInfo).port}`;
});
afterAll(() => new Promise<void>((done) => postbox.smtp.close(() => done())));
beforeEach(async () => {
  postbox.mails.length = 0;
  w = await Installation.start('', {
    ZEPHYRFIELD_OPEN_SIGN_UP: '1',
    ZEPHYRFIELD_SMTP_URL: smtp,
    ZEPHYRFIELD_INBOX_PORT: '0',
    ZEPHYRFIELD_INBOX_DOMAIN: DOMAIN,
  });
  const account = async (name: string) => {
    const agent = await w.account(name, `${name.toLowerCase()}@skerrow.example`);
    w.confirm(`${name.toLowerCase()}@skerrow.example`);
    return agent;
  };
  maren = await account('Maren');
  juno = await account('Juno');
  anselm = await account('Anselm');
  learner = (await reply<{ id: string }>(maren.post('/api/learners').send({ name: 'Juno', zone: ZONE }))).id;
  for (const [name, access] of [
    ['juno', 'edit'],
    ['anselm', 'look'],
  ] as const)
    w.services.people.join({ personId: idOf(name), learnerId: learner, access });
});
afterEach(() => w.stop());

/** Hands a mail to the inbox, as a mail server would. */
async function mail(message: object): Promise<unknown> {
  const transport = nodemailer.createTransport({ host: '127.0.0.1', port: w.inboxPort!, ignoreTLS: true });
  return transport.sendMail(message).finally(() => transport.close());
}
const refusal = (message: object) =>
  mail(message).then(
    () => 'taken',
    (error: { responseCode?: number }) => error.responseCode,
  );

describe('writing and reading', () => {
  test('a note to the whole crew is there for all of it, told, read, answered, starred, put away and found', async () => {
    const id = await write(anselm, { text: 'Can Juno stay until **five** on Thursday?' });
    expect((await list(maren)).threads[0]).toMatchObject({
      id,
      learner: 'Juno',
      forAll: true,
      unread: 1,
      last: { by: 'Anselm', isOwn: false },
    });
    const { notices } = await reply<{ notices: NoticeView[] }>(maren.get('/api/notices'));
    expect(notices[0]).toMatchObject({ title: 'Anselm wrote', leads: `/notes?thread=${id}` });
    expect((await list(anselm, { box: 'unread' })).threads).toEqual([]);
    const { notes } = await reply<ThreadView>(maren.get(`/api/notes/${id}`));
    await maren.patch(`/api/notes/${id}`).send({ readTo: notes[0]!.id, starred: true }).expect(200);
    expect(await list(maren, { box: 'unread' })).toMatchObject({ threads: [], unread: 0 });
    expect((await list(maren, { box: 'starred' })).threads).toHaveLength(1);
    // What one keeps of it is one’s own.
    expect((await list(juno, { box: 'starred' })).threads).toEqual([]);
    await maren.patch(`/api/notes/${id}`).send({ done: true }).expect(200);
    expect((await list(maren)).threads).toEqual([]);
    expect((await list(maren, { box: 'done' })).threads).toHaveLength(1);
    w.now += 60_000;
    await answer(juno, id, 'Yes, after the boat shed.');
    // What comes later brings it back.
    expect((await list(maren)).threads[0]).toMatchObject({ id, unread: 1 });
    expect((await list(maren, { text: 'BOAT SHED' })).threads).toHaveLength(1);
    expect((await list(maren, { text: 'kiln' })).threads).toEqual([]);
    expect((await list(maren, { person: 'ans' })).threads).toHaveLength(1);
    expect((await list(maren, { box: 'sent' })).threads).toEqual([]);
  });

  test('seen is one thing: in the news, in the thread, for oneself alone', async () => {
    type News = { notices: NoticeView[]; unseen: number };
    const news = (agent: Agent) => reply<News>(agent.get('/api/notices'));
    const unread = async (agent: Agent) => (await list(agent)).unread;
    const id = await write(anselm, { text: 'Can Juno stay until five?' });
    await answer(anselm, id, 'Or until six?');
    // Two notes of one thread are one piece of news.
    expect([(await news(maren)).unseen, await unread(maren)]).toEqual([1, 2]);
    expect((await news(maren)).notices[0]).toMatchObject({ sort: 'note', offerId: null });
    // Whoever reads the thread has seen its news.
    const { notes } = await reply<ThreadView>(maren.get(`/api/notes/${id}`));
    await maren
      .patch(`/api/notes/${id}`)
      .send({ readTo: notes.at(-1)!.id })
      .expect(200);
    expect([(await news(maren)).unseen, await unread(maren)]).toEqual([0, 0]);
    // Whoever has seen its news has read the thread up to that note.
    const last = (await news(juno)).notices[0]!;
    await juno
      .post('/api/notices/seen')
      .send({ ids: [last.id] })
      .expect(200);
    expect([(await news(juno)).unseen, await unread(juno)]).toEqual([0, 0]);
    w.now += 60_000;
    await answer(anselm, id, 'Six it is.');
    const { at } = (await news(maren)).notices[0]!;
    w.now += 60_000;
    await answer(anselm, id, 'Half past six, sorry.');
    // All up to what was in sight; what came meanwhile stays unseen.
    await maren.post('/api/news/seen').send({ upTo: at }).expect(200);
    expect([(await news(maren)).unseen, await unread(maren)]).toEqual([1, 1]);
    await maren
      .post('/api/news/seen')
      .send({ upTo: new Date(w.now).toISOString() })
      .expect(200);
    expect([(await news(maren)).unseen, await unread(maren)]).toEqual([0, 0]);
    expect((await news(juno)).unseen).toBe(1);
    await maren.post('/api/news/seen').send({ upTo: 'yesterday' }).expect(422);
  });

  test('search knows no accents and no capitals of any language, and what is corrected is found anew', async () => {
    const id = await write(anselm, { text: 'Bring the Élan reader to Ørsta, please.' });
    const found = async (text: string) => (await list(maren, { text })).threads.length;
    for (const text of ['ørsta', 'ØRSTA', 'elan', 'ÉLAN READER'])
      expect([text, await found(text)]).toEqual([text, 1]);
    const { notes } = await reply<ThreadView>(anselm.get(`/api/notes/${id}`));
    await anselm.patch(`/api/single-notes/${notes[0]!.id}`).send({ text: 'Bring it to Łódź.' }).expect(200);
    expect([await found('ørsta'), await found('łódź'), await found('ŁODZ')]).toEqual([0, 1, 1]);
  });

  test('its beginning is read as words, however it is marked up', async () => {
    await write(anselm, { text: '<b>x</b> and **y**,\n> quoted <script>z</script>' });
    expect((await list(maren)).threads[0]!.last.words).toBe('x and y, quoted');
  });

  test('for some of the crew only, nobody else sees it, not even who keeps the schedule', async () => {
    const id = await write(juno, { text: 'It is about the lantern.', members: [memberOf('anselm')] });
    expect((await list(anselm)).threads[0]).toMatchObject({ forAll: false, others: ['Juno'] });
    expect((await list(maren)).threads).toEqual([]);
    await maren.get(`/api/notes/${id}`).expect(404);
    await maren.post(`/api/notes/${id}/answers`).send({ text: 'x', key: randomUUID() }).expect(404);
    // Nor with somebody else’s eyes.
    const eyes = { 'x-zephyrfield-see-as': memberOf('juno') };
    await maren.get(`/api/notes/${id}`).set(eyes).expect(404);
    expect((await reply<ThreadsView>(maren.get('/api/notes').set(eyes))).threads).toEqual([]);
  });

  test('one about an item is for those alone who may see it', async () => {
    const { id: calendarId } = await reply<{ id: string }>(
      juno
        .post(`/api/learners/${learner}/calendars`)
        .send({ name: 'Just mine', kind: 'own', zone: ZONE, ...FLAG }),
    );
    const { written } = await reply<{ written: { id: string }[] }>(
      juno
        .post(`/api/learners/${learner}/own`)
        .send({ writes: [{ id: null, calendarId, item: ESSAY, version: 0 }] }),
    );
    const item = written[0]!.id;
    const before = await write(juno, { text: 'Have you seen this?', item });
    expect((await reply(maren.get(`/api/items/${item}/notes`))) as unknown[]).toHaveLength(1);
    await juno
      .put(`/api/calendars/${calendarId}/audience`)
      .send({ audience: { members: [memberOf('anselm')], others: 'nothing' } })
      .expect(200);
    const people = await reply<NotePerson[]>(
      juno.get(`/api/learners/${learner}/note-people`).query({ item }),
    );
    expect(people.map((p) => p.name)).toEqual(['Anselm']);
    await juno
      .post('/api/notes')
      .send({ learnerIds: [learner], members: [memberOf('maren')], item, text: 'x', key: randomUUID() })
      .expect(404);
    // What was written before is not there for her any more either.
    expect((await list(maren)).threads).toEqual([]);
    await maren.get(`/api/notes/${before}`).expect(404);
    expect((await list(anselm, { course: 'just' })).threads).toHaveLength(1);
  });

  test('written to several crews at once, each gets it alone', async () => {
    const other = await w.account('Paolo', 'paolo@skerrow.example');
    const { id: wren } = await reply<{ id: string }>(
      other.post('/api/learners').send({ name: 'Wren', zone: ZONE }),
    );
    w.services.people.join({ personId: idOf('anselm'), learnerId: wren, access: 'look' });
    const file = await reply<{ id: string }>(
      anselm.post('/api/note-files').query({ name: 'map.png' }).set('content-type', 'image/png').send(PNG),
    );
    const key = randomUUID();
    const body = { learnerIds: [learner, wren], text: 'The trip is on Friday.', fileIds: [file.id], key };
    const { threads } = await reply<{ threads: string[] }>(anselm.post('/api/notes').send(body));
    expect(threads).toHaveLength(2);
    const theirs = await list(other);
    expect(theirs.threads[0]).toMatchObject({ learner: 'Wren', others: ['Anselm'], last: { sentAs: null } });
    // Who sent it is told that they are one.
    expect((await list(anselm)).threads.slice(0, 2).map((t) => t.last.sentAs)).toEqual([key, key]);
    const { notes } = await reply<ThreadView>(other.get(`/api/notes/${threads[1]}`));
    await other.get(`/api/note-files/${notes[0]!.files[0]!.id}/bytes`).expect(200);
    await maren.get(`/api/note-files/${notes[0]!.files[0]!.id}/bytes`).expect(404);
    // Sent again after its answer was lost, it is one.
    const again = await reply<{ threads: string[] }>(anselm.post('/api/notes').send(body));
    expect(again.threads).toEqual(threads);
    const second = await reply<{ id: string }>(
      anselm.post('/api/note-files').query({ name: 'way.png' }).set('content-type', 'image/png').send(PNG),
    );
    const more = { text: '', fileIds: [second.id], key: randomUUID() };
    for (let sent = 0; sent < 2; sent++)
      expect(
        (await reply<ThreadView>(anselm.post(`/api/notes/${threads[0]}/answers`).send(more))).notes,
      ).toHaveLength(2);
  });

  test('one’s own note can be corrected and taken back for ten minutes; later a correction is seen', async () => {
    const id = await write(anselm, { text: 'On Tursday' });
    const [note] = (await reply<ThreadView>(anselm.get(`/api/notes/${id}`))).notes;
    const change = (agent: Agent, body: object) => agent.patch(`/api/single-notes/${note!.id}`).send(body);
    await change(maren, { text: 'Mine' }).expect(404);
    await change(anselm, { text: 'On Thursday' }).expect(200);
    const shown = async () => (await reply<ThreadView>(maren.get(`/api/notes/${id}`))).notes[0]!;
    expect(await shown()).toMatchObject({ text: 'On Thursday', corrected: null });
    w.now += 11 * 60_000;
    await change(anselm, { text: null }).expect(409);
    await change(anselm, { text: 'On Friday' }).expect(200);
    expect((await shown()).corrected).not.toBeNull();
    const other = await write(anselm, { text: 'Never mind' });
    const [fresh] = (await reply<ThreadView>(anselm.get(`/api/notes/${other}`))).notes;
    await anselm.patch(`/api/single-notes/${fresh!.id}`).send({ text: null }).expect(200);
    expect((await reply<ThreadView>(maren.get(`/api/notes/${other}`))).notes[0]).toMatchObject({
      text: '',
      takenBack: true,
    });
    expect((await list(maren, { box: 'unread', text: 'mind' })).threads).toEqual([]);
  });

  test('nothing is said by an empty note, an empty file, or a spoken note of nothing', async () => {
    await anselm
      .post('/api/notes')
      .send({ learnerIds: [learner], text: ' ', key: randomUUID() })
      .expect(422);
    const spoken = (seconds: string, bytes: Buffer) =>
      anselm
        .post('/api/note-files')
        .query({ name: 'spoken.wav', seconds })
        .set('content-type', 'audio/wav')
        .send(bytes);
    await spoken('0', PNG).expect(422);
    await spoken('400', PNG).expect(422);
    await spoken('3', Buffer.alloc(0)).expect(415);
    await spoken('3', PNG).expect(415);
    const wav = Buffer.concat([
      Buffer.from('RIFF\x24\x00\x00\x00WAVEfmt \x10\x00\x00\x00\x01\x00\x01\x00', 'latin1'),
      Buffer.alloc(60),
    ]);
    const file = await reply<{ id: string; seconds: number }>(spoken('3', wav));
    expect(file.seconds).toBe(3);
    const id = await write(anselm, { fileIds: [file.id] });
    expect((await list(maren)).threads[0]!.last.words).toBe('a spoken note');
    // A file goes along once, and is nobody else’s to send.
    await anselm
      .post(`/api/notes/${id}/answers`)
      .send({ text: 'again', fileIds: [file.id], key: randomUUID() })
      .expect(404);
  });

  test('whoever is let go from a crew reads no more of it, and is not told', async () => {
    const id = await write(maren, { text: 'Dinner at six.' });
    w.services.crews.remove(memberOf('anselm'), idOf('anselm'), learner);
    await anselm.get(`/api/notes/${id}`).expect(404);
    expect((await list(anselm)).threads).toEqual([]);
    await anselm.post(`/api/notes/${id}/answers`).send({ text: 'Still here', key: randomUUID() }).expect(404);
    await answer(juno, id, 'Fine.');
    const { notices } = await reply<{ notices: NoticeView[] }>(anselm.get('/api/notices'));
    expect(notices).toEqual([]);
  });

  test('five thousand notes: a list is a page, and what is asked of it is answered', async () => {
    const threads = Array.from({ length: 250 }, (_, n) => `many-${n}`);
    const by = idOf('maren');
    w.db((db) => {
      const put = db.transaction(() => {
        const thread = db.prepare(
          "INSERT INTO thread (id, learner_id, recurrence_id, for_all, created_at, last_at) VALUES (?, ?, '', 1, ?, ?)",
        );
        const note = db.prepare(
          'INSERT INTO note (thread_id, person_id, text, plain, at) VALUES (?, ?, ?, ?, ?)',
        );
        threads.forEach((id, n) => {
          thread.run(id, learner, w.now + n, w.now + n);
          for (let i = 0; i < 20; i++) note.run(id, by, `Word ${n} of ${i}`, `word ${n} of ${i}`, w.now + n);
        });
      });
      put();
    });
    const first = await list(anselm);
    expect(first.threads).toHaveLength(50);
    expect(first.unread).toBe(5_000);
    const second = await list(anselm, { before: first.next });
    expect(second.threads[0]!.id).not.toBe(first.threads[0]!.id);
    expect((await list(anselm, { text: 'word 17 of' })).threads).toHaveLength(1);
  });
});

/** The head of a mail of several parts. */
const parts = (name: number) => `Content-Type: multipart/mixed; boundary=b${name}\r\n\r\n`;

describe('answered from the mail', () => {
  const asked = async () => {
    const id = await write(anselm, { text: 'Can she stay until five?' });
    await w.services.engine.run();
    const sent = postbox.mails.find((m) => m.to === 'maren@skerrow.example' && /Anselm/.test(m.subject))!;
    return { id, sent, to: sent.headers['reply-to']! };
  };

  test('a note is a mail of its own, and what is answered there stands in its thread', async () => {
    const { id, sent, to } = await asked();
    expect(sent.subject).toBe('Anselm, about Juno');
    expect(sent.text).toContain('Can she stay until five?');
    expect(to).toMatch(new RegExp(`^note\\.[0-9a-f]{40}@${DOMAIN}$`));
    await mail({
      from: 'Maren <maren@skerrow.example>',
      to,
      subject: `Re: ${sent.subject}`,
      text: `Yes, she can.\n\nOn Tue, 6 Oct 2026, Anselm wrote:\n> Can she stay until five?`,
      attachments: [
        { filename: 'form.png', content: PNG },
        { filename: 'run.exe', content: Buffer.from('MZ...') },
      ],
    });
    const { notes } = await reply<ThreadView>(anselm.get(`/api/notes/${id}`));
    expect(notes[1]).toMatchObject({ by: 'Maren', text: 'Yes, she can.', byMail: true });
    expect(notes[1]!.files.map((f) => f.name)).toEqual(['form.png']);
  });

  test('the same mail twice is one note, with an id and without; another one is another', async () => {
    const { id, to } = await asked();
    const from = 'maren@skerrow.example';
    const one = { from, to, messageId: '<one@skerrow.example>', text: 'Yes.', attachments: [] };
    await mail(one);
    await mail({ ...one, date: new Date('2026-10-07T10:00:00Z') });
    const raw = (text: string) =>
      `From: ${from}\r\nTo: ${to}\r\nSubject: Re\r\nDate: Tue, 06 Oct 2026 15:00:00 +0000\r\n\r\n${text}\r\n`;
    const envelope = { from, to };
    for (const text of ['No id.', 'No id.', 'No id either.']) await mail({ envelope, raw: raw(text) });
    const { notes } = await reply<ThreadView>(anselm.get(`/api/notes/${id}`));
    expect(notes.slice(1).map((each) => each.text)).toEqual(['Yes.', 'No id.', 'No id either.']);
  });

  test('a forged answer, one to nobody, an automatic one and an empty one are not taken', async () => {
    const { id, to } = await asked();
    const from = 'maren@skerrow.example';
    expect(await refusal({ from: 'rude@elsewhere.example', to, text: 'I am Maren' })).toBe(550);
    expect(await refusal({ from, to: `note.${'0'.repeat(40)}@${DOMAIN}`, text: 'Hello' })).toBe(550);
    expect(await refusal({ from, to: `maren@${DOMAIN}`, text: 'Hello' })).toBe(550);
    expect(await refusal({ from, to: to.replace(DOMAIN, 'elsewhere.example'), text: 'Hello' })).toBe(550);
    expect(await refusal({ from, to, text: '> only what was quoted' })).toBe(554);
    expect(
      await refusal({ from, to, text: 'I am away', headers: { 'Auto-Submitted': 'auto-replied' } }),
    ).toBe('taken');
    expect((await reply<ThreadView>(anselm.get(`/api/notes/${id}`))).notes).toHaveLength(1);
    // Once she is let go, her address leads nowhere.
    w.services.crews.remove(memberOf('maren'), idOf('maren'), learner);
    expect(await refusal({ from, to, text: 'Still here' })).toBe(550);
  });

  test('what a program sends never becomes a note, and two senders are nobody', async () => {
    const { id, to } = await asked();
    const from = 'maren@skerrow.example';
    const text = 'I am away until Monday.';
    for (const [name, value] of [
      ['Auto-Submitted', 'auto-replied'],
      ['X-Autoreply', 'yes'],
      ['X-Auto-Response-Suppress', 'All'],
      ['List-Id', '<families.skerrow.example>'],
      ['Precedence', 'bulk'],
    ] as const)
      expect([name, await refusal({ from, to, text, headers: { [name]: value } })]).toEqual([name, 'taken']);
    for (const subject of ['Automatic reply: note', 'Out of office', 'Abwesenheitsnotiz'])
      expect([subject, await refusal({ from, to, text, subject })]).toEqual([subject, 'taken']);
    // Without a sender, or from another one, none of it is read.
    const raw = `From: ${from}\r\nTo: ${to}\r\nSubject: Re\r\n\r\nHello`;
    expect(await refusal({ envelope: { from: '', to: [to] }, raw })).toBe(550);
    expect(await refusal({ envelope: { from: 'rude@elsewhere.example', to: [to] }, raw })).toBe(550);
    const two = `From: ${from}, rude@elsewhere.example\r\nTo: ${to}\r\nSubject: Re\r\n\r\nHello`;
    expect(await refusal({ envelope: { from, to: [to] }, raw: two })).toBe(550);
    expect((await reply<ThreadView>(anselm.get(`/api/notes/${id}`))).notes).toHaveLength(1);
  });

  test('one address that holds connections open shuts nobody else out', async () => {
    const { id, to } = await asked();
    const sockets = Array.from({ length: 40 }, () =>
      connect({ host: '127.0.0.1', port: w.inboxPort!, localAddress: '127.0.0.2' }).on('error', () => {}),
    );
    const greetings = await Promise.all(
      sockets.map((socket) => once(socket, 'data').then(([data]) => String(data).slice(0, 3))),
    );
    expect(greetings.filter((code) => code === '220')).toHaveLength(8);
    expect(greetings.filter((code) => code === '421')).toHaveLength(32);
    expect(await refusal({ from: 'maren@skerrow.example', to, text: 'Yes.' })).toBe('taken');
    expect((await reply<ThreadView>(anselm.get(`/api/notes/${id}`))).notes).toHaveLength(2);
    sockets.forEach((socket) => socket.destroy());
  });

  test('a connection on which something is said without end is ended', async () => {
    const taking = inbox({
      ...{ notes: w.services.notes, attempts: w.services.limits, pool: {} as Pool },
      ...{ addressOf: () => null, domain: DOMAIN, port: 0, host: '127.0.0.1', longestMs: 300 },
      ...{ security: { note: () => {}, close: () => {} }, log: () => {} },
    });
    const socket = connect({ host: '127.0.0.1', port: await taking.start() }).on('error', () => {});
    let said = '';
    socket.on('data', (data: Buffer) => (said += data.toString()));
    await once(socket, 'data');
    const saying = setInterval(() => socket.write('NOOP\r\n'), 20);
    await once(socket, 'close');
    clearInterval(saying);
    expect(said).toContain('421 It has taken too long');
    await taking.stop();
  });

  test('a mail that is too large is refused, many are slowed down, and the server answers meanwhile', async () => {
    const { id, to } = await asked();
    const from = 'maren@skerrow.example';
    expect(
      await refusal({
        from,
        to,
        text: 'x',
        attachments: [{ filename: 'a.txt', content: Buffer.alloc(16 * 2 ** 20, 97) }],
      }),
    ).toBe(552);
    const codes: unknown[] = [];
    for (let n = 0; n < 24; n++) codes.push(await refusal({ from, to, text: `Answer ${n}` }));
    expect(codes.filter((c) => c === 'taken')).toHaveLength(20);
    expect(codes.at(-1)).toBe(452);
    expect((await reply<ThreadView>(anselm.get(`/api/notes/${id}`))).notes).toHaveLength(21);
    // Nested parts without end are read in bounded time, or refused.
    const nested = Array.from(
      { length: 3_000 },
      (_, n) => `--b${n}\r\nContent-Type: multipart/mixed; boundary=b${n + 1}\r\n`,
    ).join('\r\n');
    const transport = nodemailer.createTransport({ host: '127.0.0.1', port: w.inboxPort!, ignoreTLS: true });
    const raw = `From: ${from}\r\nTo: ${to}\r\nContent-Type: multipart/mixed; boundary=b0\r\n\r\n${nested}`;
    await transport.sendMail({ envelope: { from, to }, raw }).catch(() => {});
    transport.close();
    await reply(anselm.get('/api/session'));
  });

  test.each([
    [
      'parts within parts, thousands deep',
      Array.from({ length: 4_000 }, (_, n) => `${parts(n)}--b${n}\r\n`).join(''),
    ],
    ['tens of thousands of parts', `${parts(0)}${'--b0\r\n\r\nx\r\n'.repeat(40_000)}--b0--\r\n`],
    ['a head of a hundred thousand lines', `${'X-A: b\r\n'.repeat(100_000)}\r\nHello`],
  ])('a mail made of %s is read or refused, and the server answers meanwhile', async (_, body) => {
    const { to } = await asked();
    const sending = refusal({
      envelope: { from: 'maren@skerrow.example', to: [to] },
      raw: `From: maren@skerrow.example\r\nTo: ${to}\r\nSubject: Re\r\n${body}`,
    });
    // Others are answered, however long it takes.
    for (let round = 0; round < 10; round++) await maren.get('/api/notes').expect(200);
    expect(['taken', 554]).toContain(await sending);
  });

  test('a note that was taken back, or is for somebody who has gone, is not mailed', async () => {
    // In the quiet hours, mail waits for the morning.
    w.now += 6.5 * 3_600_000;
    const id = await write(anselm, { text: 'Wrong crew' });
    const [note] = (await reply<ThreadView>(anselm.get(`/api/notes/${id}`))).notes;
    await anselm.patch(`/api/single-notes/${note!.id}`).send({ text: null }).expect(200);
    w.services.crews.remove(memberOf('juno'), idOf('juno'), learner);
    w.now += 9 * 3_600_000;
    await w.services.engine.run();
    expect(postbox.mails.filter((m) => /Anselm/.test(m.subject))).toEqual([]);
  });
});
