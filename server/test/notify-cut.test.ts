import { mkdtempSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import type { NoticeView } from '@zephyrfield/core/api/notify';
import type { OwnWritten } from '@zephyrfield/core/api/schemas';
import { DEFAULT_NOTICE_SETTINGS } from '@zephyrfield/core/notify/settings';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import Database from 'better-sqlite3';
import { FLAG, FOLDER, eventually } from './harness';
import { Process, chance } from './process';

const CUTS = 20;
/** So many things begin each second, for so long: the machine is killed while it tells of them. */
const EACH_SECOND = 4;
const SECONDS = 34;
// Cuts come at drawn moments of real time, in which reminders come due; nothing passes or fails by them.
// eslint-disable-next-line no-restricted-syntax
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

test('power cuts in the middle of telling people: everything is told by each channel, and nothing twice', async () => {
  const postbox = createPostbox();
  const listening = postbox.smtp.listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  const data = mkdtempSync(join(FOLDER, 'zephyrfield-told-'));
  const server = new Process(data, {
    ZEPHYRFIELD_SMTP_URL: `smtp://127.0.0.1:${(listening.address() as AddressInfo).port}`,
  });
  await server.up();
  try {
    const email = 'juno@skerrow.example';
    const password = 'a good long password';
    let agent = server.caller();
    await agent
      .post('/api/auth/sign-up/email')
      .send({ name: 'Juno', email, password, setUpWord: server.setUpWord })
      .expect(200);
    await eventually(() => postbox.mails.at(0));
    const token = /#(\S+)/.exec(postbox.mails[0]!.text)![1];
    await agent.post('/api/account/confirmed').send({ token }).expect(200);
    postbox.mails.length = 0;
    const learnerId = (
      (await agent.post('/api/learners').send({ name: 'Juno', zone: 'Europe/Dublin' }).expect(200)).body as {
        id: string;
      }
    ).id;
    const made = await agent
      .post(`/api/learners/${learnerId}/calendars`)
      .send({ name: 'Home', kind: 'home', zone: 'Europe/Dublin', ...FLAG })
      .expect(200);
    const calendarId = (made.body as { id: string }).id;
    const channels = ['app', 'mail'] as const;
    await agent
      .put('/api/notice-settings')
      .send({
        ...DEFAULT_NOTICE_SETTINGS,
        all: { ...DEFAULT_NOTICE_SETTINGS.all, dueSoon: channels },
        quiet: null,
        sheets: { morning: null, evening: null, week: null },
      })
      .expect(200);
    await agent
      .put(`/api/learners/${learnerId}/reminders`)
      .send({ reminders: { place: [{ kind: 'ahead', minutes: 0 }] }, version: null })
      .expect(200);

    const begin = Date.now() + 4_000;
    const titles = Array.from({ length: SECONDS * EACH_SECOND }, (_, i) => `Thing ${i}`);
    for (let i = 0; i < titles.length; i += 40) {
      const writes = titles.slice(i, i + 40).map((title, n) => {
        const second = Math.floor((i + n) / EACH_SECOND) * 1000;
        const at = (ms: number) => ({
          kind: 'instant',
          at: new Date(ms).toISOString().slice(0, 19) + 'Z',
          zone: 'Europe/Dublin',
        });
        return {
          id: null,
          calendarId,
          version: 0,
          item: {
            kind: 'meeting',
            handIn: 'nothing',
            title,
            place: '',
            details: '',
            when: at(begin + second),
            end: at(begin + second + 7_200_000),
            repeat: null,
            changes: [],
          },
        };
      });
      expect(
        (
          (await agent.post(`/api/learners/${learnerId}/own`).send({ writes }).expect(200)).body as {
            written: OwnWritten[];
          }
        ).written,
      ).toHaveLength(writes.length);
    }

    const numbers = chance(20261008);
    for (let cut = 0; cut < CUTS; cut++) {
      // The moments of the cuts are drawn; a mail that is just arriving is the most telling one.
      const next = numbers.next().value!;
      const had = postbox.mails.length;
      const until = Date.now() + 300 + next(900);
      while (Date.now() < until && !(cut % 2 && postbox.mails.length > had)) await wait(1);
      await server.kill();
      await server.up();
    }
    agent = server.caller();
    await agent.post('/api/auth/sign-in/email').send({ email, password }).expect(200);
    const all = async () =>
      ((await agent.get('/api/notices').expect(200)).body as { notices: NoticeView[] }).notices;
    // A mail goes along with what comes within the hour; in the app each comes at its second.
    const mailed = () => postbox.mails.flatMap((m) => m.text.match(/Thing \d+/g) ?? []);
    const isTold = async () =>
      new Set(mailed()).size === titles.length && (await all()).length >= titles.length;
    await eventually(async () => ((await isTold()) ? true : undefined));

    expect((await all()).map((n) => n.title).sort()).toEqual([...titles].sort());
    expect([...mailed()].sort()).toEqual([...titles].sort());
    const db = new Database(join(data, 'zephyrfield.sqlite'), { readonly: true });
    expect(db.prepare(`SELECT state, count(*) AS n FROM delivery GROUP BY state`).all()).toEqual([
      { state: 'sent', n: titles.length * 2 },
    ]);
    expect(db.pragma('integrity_check', { simple: true })).toBe('ok');
    db.close();
  } finally {
    await server.kill();
    await new Promise<void>((done) => postbox.smtp.close(done));
    rmSync(data, { recursive: true, force: true });
  }
}, 300_000);
