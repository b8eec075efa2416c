import { readFileSync, statSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import type { NoticeSettingsView } from '@zephyrfield/core/api/notify';
import type { Session } from '@zephyrfield/core/api/schemas';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import { hashPassword as formerHash } from 'better-auth/crypto';
import { ATTEMPTS } from '../src/people/attempts';
import { isOldHash, passwordFault } from '../src/accounts/passwords';
import { isSetUpWord, newSetUpWord } from '../src/accounts/set-up-word';
import { Installation, PASSWORD, eventually, type Agent } from './harness';

const EMAIL = 'juno@skerrow.example';
const DAY = 86_400_000;
const postbox = createPostbox();
let w: Installation;
let agent: Agent;

beforeAll(async () => {
  const listening = postbox.smtp.listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  w = await Installation.start('', {
    ZEPHYRFIELD_SMTP_URL: `smtp://127.0.0.1:${(listening.address() as AddressInfo).port}`,
    ZEPHYRFIELD_OPEN_SIGN_UP: '1',
  });
  ({ agent } = await w.person());
});
afterAll(async () => {
  await w.stop();
  await new Promise<void>((done) => postbox.smtp.close(() => done()));
});

const whoIs = async (who: Agent) =>
  ((await who.get('/api/session').expect(200)).body as Session).person?.name ?? null;
const signIn = (who: Agent, email = EMAIL, password = PASSWORD) =>
  who.post('/api/auth/sign-in/email').send({ email, password });
const events = () =>
  readFileSync(join(w.data, 'security.log'), 'utf8')
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as Record<string, string>);

describe('the first account', () => {
  test('needs the word the server printed, however it is typed; a closed installation tells nobody who has an account', async () => {
    const closed = await Installation.start();
    try {
      const word = closed.services.setUpWord!;
      const make = (setUpWord: string | undefined, email = EMAIL) =>
        closed
          .caller()
          .post('/api/auth/sign-up/email')
          .send({ name: 'Juno', email, password: PASSWORD, setUpWord });
      expect((await make(undefined).expect(403)).body).toMatchObject({ title: 'Type the set-up word.' });
      expect((await make(newSetUpWord()).expect(403)).body).toMatchObject({
        title: 'That is not the set-up word.',
        fields: [{ path: 'setUpWord' }],
      });
      await make(` ${word.toLowerCase().replaceAll('-', ' ')} `).expect(200);
      const known = await make(word).expect(403);
      const unknown = await make(word, 'nobody@skerrow.example').expect(403);
      expect(known.text).toBe(unknown.text);
      // It is made anew at each start, and not at all once there is an account.
      await closed.restart();
      expect(closed.services.setUpWord).toBeNull();
    } finally {
      await closed.stop();
    }
  });
  test('a word is new each time, and nothing like it will do', () => {
    const [a, b] = [newSetUpWord(), newSetUpWord()];
    expect(a).toMatch(/^([A-Z2-9]{4}-){3}[A-Z2-9]{4}$/);
    expect(a).not.toBe(b);
    expect(isSetUpWord(a.replace('-', ''), a)).toBe(true);
    expect(isSetUpWord('', a) || isSetUpWord(b, a)).toBe(false);
  });
});

describe('where anybody may make an account', () => {
  const ask = (email: string, who = w.caller()) =>
    who.post('/api/auth/sign-up/email').send({ name: 'Tova', email, password: PASSWORD });
  const begin = (token: string, password = PASSWORD, who = w.caller()) =>
    who.post('/api/auth/sign-up/begun').send({ token, password });
  const mailTo = (email: string, subject: string) =>
    eventually(() => postbox.mails.filter((m) => m.to.includes(email) && m.subject === subject).at(-1));
  const tokenIn = (text: string) => /#(\S+)/.exec(text)![1]!;

  test('a known address is answered like an unknown one, in time as well as in words, and is told by mail', async () => {
    const known = await ask(EMAIL).expect(200);
    const unknown = await ask('tova@skerrow.example').expect(200);
    expect([known.text, unknown.text]).toEqual(['{"waits":true}', '{"waits":true}']);
    expect([known.headers['set-cookie'], unknown.headers['set-cookie']]).toEqual([undefined, undefined]);
    // Nor by signing in with what was chosen: an account that waits for its link is none yet.
    const wrong = [
      await signIn(w.caller(), EMAIL, 'tide table lantern'),
      await signIn(w.caller(), 'tova@skerrow.example'),
    ];
    expect(wrong.map((r) => [r.status, r.body.title])).toEqual(wrong.map(() => [401, wrong[0]!.body.title]));
    const told = await mailTo(EMAIL, 'You have an account already');
    expect(told.text).toContain('/forgotten');
  });

  test('the link makes the account by the password that was chosen, once; the address is confirmed by it', async () => {
    const mail = await mailTo('tova@skerrow.example', 'Begin your account');
    expect(mail.text).not.toContain('Tova');
    const token = tokenIn(mail.text);
    await begin('none').expect(410);
    await begin(token, 'not the one I chose').expect(422);
    const wren = w.caller();
    await begin(token, PASSWORD, wren).expect(200);
    expect(await whoIs(wren)).toBe('Tova');
    expect(w.services.people.person(w.services.people.byEmail('tova@skerrow.example')!.id)!.confirmed).toBe(
      true,
    );
    await begin(token).expect(410);
    await signIn(w.caller(), 'tova@skerrow.example').expect(200);
  });

  test('a link is good for an hour, and for an address that has no account yet', async () => {
    const [late, twice] = ['late@skerrow.example', 'twice@skerrow.example'];
    await ask(late).expect(200);
    const lateToken = tokenIn((await mailTo(late, 'Begin your account')).text);
    w.now += 3_600_001;
    await begin(lateToken).expect(410);
    await ask(twice).expect(200);
    const first = tokenIn((await mailTo(twice, 'Begin your account')).text);
    await w.account('Other', twice, 'tide table lantern');
    await begin(first).expect(422);
    for (let n = 0; n < ATTEMPTS.signUpMail.points; n++) await ask('many@skerrow.example').expect(200);
    await ask('many@skerrow.example').expect(429);
  });
});

describe('passwords', () => {
  test.each([
    ['password12', 'common'],
    ['Password123!', 'common'],
    ['12football34', 'common'],
    ['aaaaaaaaaaaa', 'pattern'],
    ['abcabcabcabc', 'pattern'],
    ['abcdefghijkl', 'pattern'],
    ['poiuytrewq', 'pattern'],
    ['juno@skerrow.example', 'yours'],
    ['zephyrfield', 'yours'],
    ['JunoLindqvist', null],
    ['tide table lantern', null],
    ['I love my football', null],
  ] as const)('%s: %s', (password, fault) => expect(passwordFault(password, ['Juno', EMAIL])).toBe(fault));

  test('are refused in words by their length and by being common, and names by their length', async () => {
    const make = (more: object) =>
      w
        .caller()
        .post('/api/auth/sign-up/email')
        .send({ name: 'Wren', email: 'wren@skerrow.example', password: PASSWORD, ...more });
    expect((await make({ password: 'password12' }).expect(422)).body).toMatchObject({
      title: expect.stringContaining('one of the first that are tried'),
      fields: [{ path: 'password' }],
    });
    await make({ password: 'short' }).expect(422);
    await make({ password: 'x y'.repeat(43) }).expect(422);
    await make({ name: 'N'.repeat(121) }).expect(422);
    await make({ email: `${'a'.repeat(250)}@skerrow.example` }).expect(422);
    await make({ name: 'N'.repeat(20 * 2 ** 20) }).expect(413);
    expect(w.services.people.byEmail('wren@skerrow.example')).toBeUndefined();
  });

  test('of the former cost are hashed again at the next sign-in', async () => {
    const former = await formerHash(PASSWORD);
    const { id } = w.services.people.byEmail(EMAIL)!;
    w.services.people.savePassword(id, former);
    await signIn(w.caller()).expect(200);
    const now = w.services.people.passwordOf(id)!;
    expect(isOldHash(former)).toBe(true);
    expect(isOldHash(now)).toBe(false);
    await signIn(w.caller()).expect(200);
    await signIn(w.caller(), EMAIL, 'another long password').expect(401);
  });

  test('changing one wants the old one, and ends all other sessions', async () => {
    const [here, there] = [w.caller(), w.caller()];
    await signIn(here).expect(200);
    await signIn(there).expect(200);
    const change = (body: object) => here.post('/api/auth/change-password').send(body);
    await change({ currentPassword: 'not the password', newPassword: 'tide table lantern' }).expect(422);
    await change({ currentPassword: PASSWORD, newPassword: 'password12' }).expect(422);
    await change({ currentPassword: PASSWORD, newPassword: 'tide table lantern' }).expect(200);
    expect([await whoIs(here), await whoIs(there)]).toEqual(['Juno', null]);
    await signIn(w.caller()).expect(401);
    await change({ currentPassword: 'tide table lantern', newPassword: PASSWORD }).expect(200);
    await signIn(agent).expect(200);
  });
});

describe('sessions', () => {
  afterEach(() => {
    w.wall = () => Date.now();
  });

  test('end after seven days unused and after thirty whatever happens; one that goes on has its cookie go on', async () => {
    const who = w.caller();
    await signIn(who).expect(200);
    const { id } = w.services.people.byEmail(EMAIL)!;
    const shift = (days: number) =>
      w.db((db) =>
        db
          .prepare(
            'UPDATE session SET created_at = created_at - @s, updated_at = updated_at - @s, expires_at = expires_at - @s WHERE user_id = @id',
          )
          .run({ s: (days * DAY) / 1000, id }),
      );
    shift(6);
    const again = await who.get('/api/session').expect(200);
    expect(again.headers['set-cookie']?.[0]).toMatch(/Max-Age=604800/);
    expect(await whoIs(who)).toBe('Juno');
    shift(8);
    expect(await whoIs(who)).toBeNull();

    await signIn(who).expect(200);
    for (let week = 0; week < 4; week++) {
      shift(6);
      expect(await whoIs(who)).toBe('Juno');
    }
    shift(6.5);
    expect(await whoIs(who)).toBeNull();
    await signIn(agent).expect(200);
  });

  test('signing out has the browser forget what it kept, and ends the event streams of that session alone', async () => {
    const learnerId = ((await agent.get('/api/session')).body as Session).learners[0]!.id;
    const begin = async () => {
      const signedIn = await signIn(w.caller()).expect(200);
      const cookie = (signedIn.headers['set-cookie'] as unknown as string[])
        .map((c) => c.split(';')[0])
        .join('; ');
      const { body } = await fetch(`${w.address}/api/learners/${learnerId}/live`, { headers: { cookie } });
      const reader = body!.getReader();
      await reader.read();
      return { cookie, reader };
    };
    const [one, other] = [await begin(), await begin()];
    const out = await w.caller().post('/api/auth/sign-out').set('cookie', one.cookie).send({}).expect(200);
    expect(out.headers['clear-site-data']).toBe('"cache", "cookies", "storage"');
    expect((await one.reader.read()).done).toBe(true);
    w.services.live.tell(learnerId);
    expect(new TextDecoder().decode((await other.reader.read()).value)).toContain('changed');
    await other.reader.cancel();
    await w.caller().get(`/api/learners/${learnerId}/calendars`).set('cookie', one.cookie).expect(401);
  });
});

describe('a mail address', () => {
  test('gets no mail before it is confirmed; the link is good once, for an hour, and its mail says nothing that was typed', async () => {
    postbox.mails.length = 0;
    const name = 'Buy lanterns now at lanterns.example';
    const who = await w.account(name, 'idris@skerrow.example');
    await w.learner(who, 'Idris');
    const view = async () =>
      ((await who.get('/api/notice-settings').expect(200)).body as NoticeSettingsView).mail;
    expect(await view()).toMatchObject({ ready: true, confirmed: false });
    expect((await who.post('/api/notice-settings/mail').expect(409)).body).toMatchObject({
      title: 'Your mail address is not confirmed yet.',
    });
    await who.post('/api/account/confirmation').expect(200);
    const first = await eventually(() => postbox.mails.at(-1));
    expect(first).toMatchObject({ to: 'idris@skerrow.example', subject: 'Confirm your mail address' });
    expect(first.text + first.html + first.subject).not.toContain('lanterns');
    const tokenOf = (text: string) => /confirm#([\w-]{32})/.exec(text)![1]!;
    const confirm = (token: string) => w.caller().post('/api/account/confirmed').send({ token });

    w.now += 3_600_001;
    await confirm(tokenOf(first.text)).expect(410);
    await who.post('/api/account/confirmation').expect(200);
    const second = tokenOf(postbox.mails.at(-1)!.text);
    w.db((db) =>
      expect(JSON.stringify(db.prepare('SELECT * FROM confirmation').all())).not.toContain(second),
    );
    await confirm(second).expect(200);
    await confirm(second).expect(410);
    expect(await view()).toMatchObject({ confirmed: true });
    await who.post('/api/notice-settings/mail').expect(200);
    await who.post('/api/account/confirmation').expect(409);
  });

  test('links and mails to try are sent a few times an hour', async () => {
    const who = await w.account('Solveig', 'solveig@skerrow.example');
    await w.learner(who, 'Solveig');
    const statuses = async (path: string, times: number) => {
      const all: number[] = [];
      for (let i = 0; i < times; i++) all.push((await who.post(path)).status);
      return all;
    };
    const most = (n: number) => [...Array<number>(n).fill(200), 429];
    expect(await statuses('/api/account/confirmation', ATTEMPTS.confirmation.points + 1)).toEqual(
      most(ATTEMPTS.confirmation.points),
    );
    w.confirm('solveig@skerrow.example');
    expect(await statuses('/api/notice-settings/mail', ATTEMPTS.tryMail.points + 1)).toEqual(
      most(ATTEMPTS.tryMail.points),
    );
  });
});

describe('who tries to get in', () => {
  test('is told to wait after ten wrong passwords for an account from an address, whatever comes then; others are not', async () => {
    await w.account('Wren', 'castellane@skerrow.example');
    const wrong = () => signIn(w.caller(), 'castellane@skerrow.example', 'not the password');
    for (let i = 0; i < ATTEMPTS.wrongFromHere.points; i++) await wrong().expect(401);
    const late = await signIn(w.caller(), 'Castellane@skerrow.example').expect(429);
    expect(Number(late.headers['retry-after'])).toBeGreaterThan(60);
    expect(late.body).toMatchObject({ remedy: 'Wait 15 minutes and try again.' });
    await signIn(w.caller()).expect(200);
  });

  test('an unknown address and a wrong password are told alike', async () => {
    const [a, b] = [
      await signIn(w.caller(), 'nobody@skerrow.example').expect(401),
      await signIn(w.caller(), EMAIL, 'not the password').expect(401),
    ];
    expect(a.text).toBe(b.text);
  });

  test('leaves a line in the security log, which only its owner may read and which holds nothing secret', async () => {
    const token = 'a-made-up-token';
    await w.caller().post('/api/account/confirmed').send({ token }).expect(410);
    await agent.get('/api/items/nothing-of-mine').expect(404);
    await w.caller().get('/api/notices').expect(401);
    await agent
      .post('/api/learners')
      .set('Origin', 'https://evil.example')
      .send({ name: 'X', zone: 'UTC' })
      .expect(403);
    const text = readFileSync(join(w.data, 'security.log'), 'utf8');
    const kinds = new Set(events().map((e) => e['event']));
    for (const kind of ['wrong-password', 'too-often', 'link-used', 'sign-in', 'other-site', 'not-found'])
      expect(kinds).toContain(kind);
    const { account, from, route } = events().find((e) => e['event'] === 'wrong-password')!;
    expect(account).toMatch(/^[0-9a-f]{16}$/);
    expect(from).toMatch(/127\.0\.0\.1$/);
    expect(route).toBe('POST /api/auth/sign-in/email');
    for (const secret of [token, EMAIL, 'nothing-of-mine', PASSWORD, 'not the password', 'castellane'])
      expect(text).not.toContain(secret);
    expect(statSync(join(w.data, 'security.log')).mode & 0o777).toBe(0o600);
    expect(statSync(join(w.data, 'zephyrfield.sqlite')).mode & 0o777).toBe(0o600);
  });
});

test('an address that tries to sign in too often in a minute is told to wait', async () => {
  const small = await Installation.start('', { ZEPHYRFIELD_SIGN_INS_PER_MINUTE: '2' });
  const tries = [];
  for (let i = 0; i < 3; i++) tries.push((await signIn(small.caller(), `nobody${i}@skerrow.example`)).status);
  expect(tries).toEqual([401, 401, 429]);
  await small.stop();
});

test('nobody asks without end: a person has a limit of their own, wherever they ask from', async () => {
  const small = await Installation.start('', { ZEPHYRFIELD_REQUESTS_PER_MINUTE: '5' });
  const who = await small.account();
  const statuses: number[] = [];
  for (let i = 0; i < 7; i++) statuses.push((await who.get('/api/notices')).status);
  expect(statuses.filter((s) => s === 200)).toHaveLength(5);
  expect(statuses.at(-1)).toBe(429);
  // Somebody who is not signed in is counted by their address.
  expect((await small.caller().get('/api/session')).status).toBe(200);
  await small.stop();
});

describe('what a request has to be', () => {
  const learner = { name: 'X', zone: 'Europe/Dublin' };
  test.each([
    ['a page without an origin', { Origin: 'null' }],
    ['another site', { Origin: 'https://evil.example' }],
    ['another name of the same site', { 'Sec-Fetch-Site': 'same-site' }],
    ['another site that says so', { 'Sec-Fetch-Site': 'cross-site' }],
  ])(
    '%s is refused',
    async (_who, headers) => void (await agent.post('/api/learners').set(headers).send(learner).expect(403)),
  );

  test('a change says that it brings JSON, or a file', async () => {
    const [learnerId] = ((await agent.get('/api/session')).body as Session).learners.map((l) => l.id);
    await agent
      .post('/api/learners')
      .set('content-type', 'text/plain')
      .send(JSON.stringify(learner))
      .expect(415);
    await agent
      .post('/api/learners')
      .set('content-type', 'application/x-www-form-urlencoded')
      .send('name=X')
      .expect(415);
    const file = (type: string) =>
      agent
        .post(`/api/learners/${learnerId}/files`)
        .query({ name: 'a.ics', zone: 'Europe/Dublin' })
        .set('content-type', type)
        .send('BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n');
    await file('text/plain').expect(415);
    await file('multipart/form-data; boundary=x').expect(415);
    await file('text/calendar').expect(200);
  });

  test('a body of any route is bounded before it is looked at', async () => {
    const large = { email: EMAIL, password: 'x'.repeat(300_000) };
    for (const path of ['sign-in/email', 'sign-up/email', 'sign-out', 'change-password'])
      await w.caller().post(`/api/auth/${path}`).send(large).expect(413);
    // Nothing of better-auth's own addresses is there.
    for (const path of ['update-user', 'change-email', 'delete-user', 'request-password-reset'])
      await agent.post(`/api/auth/${path}`).send({}).expect(404);
  });
});

describe('behind a proxy', () => {
  const forwarded = async (env: Record<string, string>) => {
    const proxied = await Installation.start('', env);
    try {
      await proxied.account();
      const from = async (address: string) =>
        (await signIn(proxied.caller(), 'nobody@skerrow.example').set('x-forwarded-for', address)).status;
      const first: number[] = [];
      for (let i = 0; i < 11; i++) first.push(await from('203.0.113.1'));
      return [first.at(-1), await from('203.0.113.2')];
    } finally {
      await proxied.stop();
    }
  };
  test('each address has a limit of its own where the proxy is trusted; otherwise nobody can make up another one', async () => {
    expect(await forwarded({ ZEPHYRFIELD_TRUST_PROXY: '1' })).toEqual([429, 401]);
    expect(await forwarded({})).toEqual([429, 429]);
  });

  test('at a public address of https, browsers keep to it, and the cookie is that host’s alone', async () => {
    const secure = await Installation.start('', {
      ZEPHYRFIELD_PUBLIC_URL: 'https://zephyr.skerrow.example',
      ZEPHYRFIELD_TRUST_PROXY: 'loopback',
    });
    try {
      const made = await secure
        .caller()
        .post('/api/auth/sign-up/email')
        .send({ name: 'Juno', email: EMAIL, password: PASSWORD, setUpWord: secure.services.setUpWord })
        .expect(200);
      expect(made.headers['strict-transport-security']).toBe('max-age=31536000');
      expect(made.headers['permissions-policy']).toContain('camera=()');
      const [cookie] = made.headers['set-cookie'] as unknown as string[];
      expect(cookie).toMatch(/^__Host-zephyrfield\.session_token=/);
      for (const part of ['Secure', 'HttpOnly', 'Path=/', 'SameSite=Lax']) expect(cookie).toContain(part);
      expect(cookie).not.toMatch(/domain/i);
      const session = await secure
        .caller()
        .get('/api/session')
        .set('cookie', cookie!.split(';')[0]!)
        .expect(200);
      expect(session.body).toMatchObject({ person: { name: 'Juno' } });
    } finally {
      await secure.stop();
    }
  });
});
