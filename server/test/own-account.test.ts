import { spawnSync } from 'node:child_process';
import type { AddressInfo } from 'node:net';
import { resolve } from 'node:path';
import type { AccountView } from '@zephyrfield/core/api/account-view';
import type { Session } from '@zephyrfield/core/api/schemas';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import { deviceWords } from '../src/accounts/device';
import { GRACE } from '../src/accounts/own-account';
import { codeAt } from './totp';
import { FLAG, Installation, PASSWORD, type Agent, eventually } from './harness';

const postbox = createPostbox();
let w: Installation;
let n = 0;
let email: string;
let agent: Agent;

beforeAll(async () => {
  const listening = postbox.smtp.listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  w = await Installation.start('', {
    ZEPHYRFIELD_SMTP_URL: `smtp://127.0.0.1:${(listening.address() as AddressInfo).port}`,
    ZEPHYRFIELD_OPEN_SIGN_UP: '1',
  });
});
afterAll(async () => {
  await w.stop();
  await new Promise<void>((done) => postbox.smtp.close(() => done()));
});
beforeEach(async () => {
  email = `person${n++}@skerrow.example`;
  agent = await w.account('Maren Lindqvist', email);
  for (const kind of ['forgottenFrom', 'wrongFromHere', 'wrongCode', 'signUp'] as const)
    for (const key of ['127.0.0.1', '::ffff:127.0.0.1', '::1']) await w.services.limits.forget(kind, key);
});

const whoIs = async (who: Agent) =>
  ((await who.get('/api/session').expect(200)).body as Session).person?.name ?? null;
const signIn = (who: Agent, address = email, password = PASSWORD) =>
  who.post('/api/auth/sign-in/email').send({ email: address, password });
const account = async () => (await agent.get('/api/account').expect(200)).body as AccountView;
const mailsTo = (address: string, subject: string) =>
  postbox.mails.filter((m) => m.to.includes(address) && m.subject === subject);
/** The link in the so-manieth mail to an address whose subject says this. */
async function linkTo(address: string, subject: string, nth = 0): Promise<string> {
  const { text } = await eventually(() => mailsTo(address, subject)[nth]);
  return /#(\S+)/.exec(text)![1]!;
}

/**
 * Gives the code of the next step of thirty seconds: each is good once. The time that codes are counted in stands still
 * in the middle of a step otherwise, so that none runs out between being made and being looked at.
 */
let codesAt = 0;
const nextCode = (secret: string) => codeAt(secret, (codesAt += 30_000));
beforeEach(() => {
  codesAt = Math.floor(Date.now() / 30_000) * 30_000 + 15_000;
  w.wall = () => codesAt;
  jest.spyOn(Date, 'now').mockImplementation(() => codesAt);
});
afterEach(() => void jest.restoreAllMocks());

test('one sees where one is signed in, ends one of them, or all others', async () => {
  const phone = w
    .caller()
    .set('user-agent', 'Mozilla/5.0 (Android 14; Mobile; rv:130.0) Gecko/130.0 Firefox/130.0');
  await signIn(phone).expect(200);
  const { sessions } = await account();
  expect(sessions.map((s) => [s.here, s.device])).toEqual(
    expect.arrayContaining([
      [false, 'Firefox on Android'],
      [true, 'A device that does not say what it is'],
    ]),
  );
  await agent
    .delete(`/api/account/sessions/${sessions.find((s) => !s.here)!.id}`)
    .send({})
    .expect(200);
  expect(await whoIs(phone)).toBeNull();
  await signIn(phone).expect(200);
  await agent.post('/api/account/sessions/others-ended').send({}).expect(200);
  expect([await whoIs(phone), await whoIs(agent)]).toEqual([null, 'Maren Lindqvist']);
  expect(deviceWords('x'.repeat(10_000))).toBe('A browser');
});

test('a name is changed; an address once the link at the new one was opened, and the former one is told', async () => {
  await agent.put('/api/account/name').send({ name: 'Maren L.' }).expect(200);
  expect(await whoIs(agent)).toBe('Maren L.');
  const next = `new${n++}@skerrow.example`;
  await agent.put('/api/account/email').send({ email: next, password: 'not the password' }).expect(422);
  const { body } = await agent
    .put('/api/account/email')
    .send({ email: next, password: PASSWORD })
    .expect(200);
  expect(body).toEqual({ waits: true });
  expect(await account()).toMatchObject({ email });
  const token = await linkTo(next, 'Confirm your new mail address');
  await w.caller().post('/api/account/confirmed').send({ token }).expect(200);
  expect(await account()).toMatchObject({ email: next, confirmed: true });
  await w.caller().post('/api/account/confirmed').send({ token }).expect(410);
  await eventually(() => mailsTo(email, 'Your mail address was changed')[0]);
});

test('somebody else’s address gets no link, and the answer does not say so', async () => {
  const other = `other${n++}@skerrow.example`;
  await w.account('Juno', other);
  const before = postbox.mails.length;
  const { body } = await agent
    .put('/api/account/email')
    .send({ email: other, password: PASSWORD })
    .expect(200);
  expect(body).toEqual({ waits: true });
  expect(postbox.mails.slice(before).filter((m) => m.subject === 'Confirm your new mail address')).toEqual(
    [],
  );
});

test('a forgotten password is set anew by a link that is good once, for an hour, and ends all sessions', async () => {
  const forgot = (address: string) =>
    w.caller().post('/api/account/forgotten').send({ email: address }).expect(200);
  expect((await forgot('nobody@skerrow.example')).body).toEqual((await forgot(email)).body);
  const first = await linkTo(email, 'Set a new password');
  const reset = (token: string, newPassword = 'lantern over the water') =>
    w.caller().post('/api/account/password').send({ token, newPassword });
  // A second one takes the place of the first.
  await forgot(email);
  const second = await linkTo(email, 'Set a new password', 1);
  await reset(first).expect(410);
  expect((await reset(second, 'password1234').expect(422)).body).toMatchObject({
    fields: [{ path: 'newPassword' }],
  });
  const both = await Promise.all([reset(second), reset(second)]);
  expect(both.map((r) => r.status).sort()).toEqual([200, 410]);
  expect(await whoIs(agent)).toBeNull();
  await signIn(agent).expect(401);
  await signIn(agent, email, 'lantern over the water').expect(200);
  await forgot(email);
  const late = await linkTo(email, 'Set a new password', 2);
  w.now += 3_600_001;
  await reset(late).expect(410);
});

test('a link for a password that was sent to an address which is not theirs any more opens nothing', async () => {
  await w.caller().post('/api/account/forgotten').send({ email }).expect(200);
  const token = await linkTo(email, 'Set a new password');
  const next = `moved${n++}@skerrow.example`;
  await agent.put('/api/account/email').send({ email: next, password: PASSWORD }).expect(200);
  await w
    .caller()
    .post('/api/account/confirmed')
    .send({ token: await linkTo(next, 'Confirm your new mail address') })
    .expect(200);
  await w
    .caller()
    .post('/api/account/password')
    .send({ token, newPassword: 'lantern over the water' })
    .expect(410);
});

test('who sets a password anew sees what else signs in, says what stays, and ends what is under way', async () => {
  w.confirm(email);
  const { id } = w.services.people.byEmail(email)!;
  w.db((db) =>
    ['theirs', 'not-theirs'].forEach((name) =>
      db
        .prepare(
          `INSERT INTO passkey (id, name, public_key, user_id, credential_id, counter, device_type, backed_up)
            VALUES (?, ?, 'k', ?, ?, 0, 'singleDevice', 0)`,
        )
        .run(...[`${name} ${email}`, name, id, `${name} ${email}`]),
    ),
  );
  const { body } = await agent.post('/api/account/second-step').send({ password: PASSWORD }).expect(200);
  const secret = new URL((body as { address: string }).address).searchParams.get('secret')!;
  await agent
    .post('/api/account/second-step/confirmed')
    .send({ code: nextCode(secret) })
    .expect(200);
  await eventually(() => mailsTo(email, 'A second step was added')[0]);
  // Somebody who had the account for an hour asked for another address.
  const other = `other-${email}`;
  await agent.put('/api/account/email').send({ email: other, password: PASSWORD }).expect(200);
  await eventually(() => mailsTo(email, 'A new mail address was asked for')[0]);
  const move = await linkTo(other, 'Confirm your new mail address');
  await w.caller().post('/api/account/forgotten').send({ email }).expect(200);
  const token = await linkTo(email, 'Set a new password');
  const look = await w.caller().post('/api/account/reset-look').send({ token }).expect(200);
  expect(look.body).toMatchObject({
    passkeys: [{ name: 'theirs' }, { name: 'not-theirs' }],
    secondStep: true,
  });
  const newPassword = 'lantern over the water';
  const passkeys = [`theirs ${email}`];
  await w.caller().post('/api/account/password').send({ token, newPassword, passkeys }).expect(200);
  await eventually(() => mailsTo(email, 'Your password was set anew')[0]);
  await w.caller().post('/api/account/confirmed').send({ token: move }).expect(410);
  const again = w.caller();
  expect((await signIn(again, email, newPassword).expect(200)).body).toEqual({ secondStep: false });
  const view = (await again.get('/api/account').expect(200)).body as AccountView;
  expect(view).toMatchObject({ email, secondStep: false, passkeys: [{ name: 'theirs' }] });
});

test('of many wrong passwords at once no more are tried than one after the other', async () => {
  const replies = await Promise.all(
    Array.from({ length: 40 }, (_, n) => signIn(w.caller(), email, `wrong password ${n}`)),
  );
  const tried = replies.filter((reply) => reply.status === 401);
  expect(tried).toHaveLength(10);
  expect(replies.filter((reply) => reply.status === 429)).toHaveLength(30);
});

test('whoever runs the server gets a link for who has neither mail nor the app any more', async () => {
  const { body } = await agent.post('/api/account/second-step').send({ password: PASSWORD }).expect(200);
  const secret = new URL((body as { address: string }).address).searchParams.get('secret')!;
  const code = nextCode(secret);
  await agent.post('/api/account/second-step/confirmed').send({ code }).expect(200);
  const run = (...args: string[]) =>
    spawnSync(process.execPath, [resolve(__dirname, '../dist/new-password.js'), ...args], {
      env: { ...process.env, ZEPHYRFIELD_DATA: w.data, ZEPHYRFIELD_PUBLIC_URL: 'https://school.example' },
      encoding: 'utf8',
    });
  expect(run('nobody@skerrow.example')).toMatchObject({
    status: 1,
    stderr: 'Nobody has an account with that mail address.\n',
  });
  const { status, stdout } = run('--end-second-step', email.toUpperCase());
  expect({ status, stdout }).toEqual({
    status: 0,
    stdout: expect.stringMatching(/^https:\/\/school\.example\/reset#\S{32}\n$/),
  });
  // The demo's clock is not the real one, by which the command goes.
  w.now = Date.now();
  const token = stdout.trim().split('#')[1];
  const newPassword = 'lantern over the water';
  await w.caller().post('/api/account/password').send({ token, newPassword }).expect(200);
  expect((await signIn(w.caller(), email, newPassword).expect(200)).body).toEqual({ secondStep: false });
});

test('an account’s owner is told once when many wrong passwords were tried', async () => {
  for (let i = 0; i < 14; i++) {
    await signIn(w.caller(), email, `wrong password ${i}`);
    await w.services.limits.forget('wrongFromHere', `${email} 127.0.0.1`);
    await w.services.limits.forget('wrongFromHere', `${email} ::ffff:127.0.0.1`);
  }
  const subject = 'Many wrong passwords for your account';
  await eventually(() => mailsTo(email, subject)[0]);
  expect(mailsTo(email, subject)).toHaveLength(1);
});

describe('an account that is to be deleted', () => {
  const leave = () => agent.post('/api/account/leaving').send({ password: PASSWORD });
  async function learner(name: string): Promise<string> {
    const { body } = await agent.post('/api/learners').send({ name, zone: 'Europe/Dublin' }).expect(200);
    return (body as { id: string }).id;
  }

  test('says what goes and what stays, and signing in within seven days takes it back', async () => {
    await learner('Juno');
    expect(await account()).toMatchObject({ goes: ['Juno'], stays: [] });
    await agent.post('/api/account/leaving').send({ password: 'not the password' }).expect(422);
    await leave().expect(200);
    expect(await whoIs(agent)).toBeNull();
    w.now += GRACE - 60_000;
    await signIn(agent).expect(200);
    w.now += 120_000;
    w.services.ownAccount.tidy();
    expect(await whoIs(agent)).toBe('Maren Lindqvist');
  });

  test('is taken back as well by who has a second step, once that is taken and not before', async () => {
    const { body } = await agent.post('/api/account/second-step').send({ password: PASSWORD }).expect(200);
    const secret = new URL((body as { address: string }).address).searchParams.get('secret')!;
    const code = () => nextCode(secret);
    await agent.post('/api/account/second-step/confirmed').send({ code: code() }).expect(200);
    await leave().expect(200);
    const isLeaving = () => w.db((db) => db.prepare('SELECT count(*) FROM leaving').pluck().get()) === 1;
    await signIn(agent).expect(200);
    expect([await whoIs(agent), isLeaving()]).toEqual([null, true]);
    await agent.post('/api/auth/second-step').send({ code: code() }).expect(200);
    expect([await whoIs(agent), isLeaving()]).toEqual(['Maren Lindqvist', false]);
  });

  test('leaves an installation that asks for its set-up word again, where it was the last one', async () => {
    const alone = await Installation.start();
    try {
      const only = await alone.account('Maren', email);
      await only.post('/api/account/leaving').send({ password: PASSWORD }).expect(200);
      alone.now += GRACE + 1;
      alone.services.ownAccount.tidy();
      const next = { name: 'Stranger', email: 'stranger@skerrow.example', password: PASSWORD };
      await alone.caller().post('/api/auth/sign-up/email').send(next).expect(403);
      await alone.restart();
      await alone.caller().post('/api/auth/sign-up/email').send(next).expect(403);
      await alone.account('Maren', email);
    } finally {
      await alone.stop();
    }
  });

  test('goes after that with what is theirs alone; what another keeps, and what its learner can keep, stays', async () => {
    const { people, calendars } = w.services;
    const mine = people.byEmail(email)!.id;
    const [alone, kept, hers] = [await learner('Alone'), await learner('Kept'), await learner('Hers')];
    const [anselm, juno] = [`a${n++}@skerrow.example`, `j${n++}@skerrow.example`];
    await w.account('Anselm', anselm);
    const junos = await w.account('Juno', juno);
    people.join({ personId: people.byEmail(anselm)!.id, learnerId: kept, access: 'keep' });
    people.join({ personId: people.byEmail(juno)!.id, learnerId: hers, access: 'edit' });
    w.services.crews.setOwn(hers, people.byEmail(juno)!.id);
    const { body } = await agent
      .post(`/api/learners/${hers}/calendars`)
      .send({ name: 'Only mine', kind: 'own', zone: 'Europe/Dublin', ...FLAG })
      .expect(200);
    const { id } = body as { id: string };
    await agent
      .put(`/api/calendars/${id}/audience`)
      .send({ audience: { members: [], others: 'nothing' } })
      .expect(200);
    expect(await account()).toMatchObject({ goes: ['Alone'], stays: ['Hers', 'Kept'] });
    await leave().expect(200);
    w.now += GRACE + 1;
    w.services.ownAccount.tidy();
    expect(people.person(mine)).toBeUndefined();
    await signIn(agent).expect(401);
    expect(
      w.db((db) =>
        db
          .prepare('SELECT name FROM learner WHERE id IN (?, ?, ?) ORDER BY name')
          .pluck()
          .all(alone, kept, hers),
      ),
    ).toEqual(['Hers', 'Kept']);
    expect(((await junos.get('/api/session')).body as Session).learners).toMatchObject([
      { id: hers, access: 'keep' },
    ]);
    expect(calendars.byId(id)).toBeUndefined();
  });

  test('can be taken along before: all that is stored about oneself', async () => {
    await learner('Juno');
    const { text, headers } = await agent.get('/api/account/archive').expect(200);
    expect(headers['content-disposition']).toContain('zephyrfield-account.json');
    expect(JSON.parse(text)).toMatchObject({
      account: { email },
      schedules: [{ name: 'Juno', access: 'keep' }],
    });
    expect(text).not.toMatch(/argon|scrypt|"password"|token/i);
  });
});

describe('a second step', () => {
  async function begin() {
    const { body } = await agent.post('/api/account/second-step').send({ password: PASSWORD }).expect(200);
    const { address, codes } = body as { address: string; codes: string[] };
    const secret = new URL(address).searchParams.get('secret')!;
    return { secret, codes };
  }
  const step = (who: Agent, code: string) => who.post('/api/auth/second-step').send({ code });

  test('is asked for once the app has shown that it gives the right code; before, nobody is signed in', async () => {
    await agent.post('/api/account/second-step').send({ password: 'not the password' }).expect(422);
    const { secret, codes } = await begin();
    expect(codes).toHaveLength(10);
    // Begun alone, it asks for nothing yet.
    expect((await signIn(w.caller()).expect(200)).body).toEqual({ secondStep: false });
    await agent.post('/api/account/second-step/confirmed').send({ code: '000000' }).expect(422);
    await agent
      .post('/api/account/second-step/confirmed')
      .send({ code: nextCode(secret) })
      .expect(200);
    expect(await account()).toMatchObject({ secondStep: true });

    const phone = w.caller();
    expect((await signIn(phone).expect(200)).body).toEqual({ secondStep: true });
    expect(await whoIs(phone)).toBeNull();
    await step(phone, '000000').expect(422);
    await step(w.caller(), nextCode(secret)).expect(422);
    await step(phone, nextCode(secret)).expect(200);
    expect(await whoIs(phone)).toBe('Maren Lindqvist');
  });

  test('takes each code once, and none from before one that was taken, however many come at once', async () => {
    const { secret } = await begin();
    const code = nextCode(secret);
    await agent.post('/api/account/second-step/confirmed').send({ code }).expect(200);
    const device = async () => {
      const made = w.caller();
      await signIn(made).expect(200);
      return made;
    };
    await step(await device(), code).expect(422);
    const [before, next] = [nextCode(secret), nextCode(secret)];
    const both = await Promise.all([await device(), await device()].map((each) => step(each, next)));
    expect(both.map((reply) => reply.status).sort()).toEqual([200, 422]);
    const late = await device();
    await step(late, before).expect(422);
    expect(await whoIs(late)).toBeNull();
    const sessions = w.db((db) =>
      db
        .prepare('SELECT count(*) FROM session s JOIN user u ON u.id = s.user_id WHERE u.email = ?')
        .pluck()
        .get(email),
    );
    // The one that signed up, and the one that took the code.
    expect(sessions).toBe(2);
  });

  test('is taken by a recovery code as well, each of them once; and is ended with the password', async () => {
    const { secret, codes } = await begin();
    await agent
      .post('/api/account/second-step/confirmed')
      .send({ code: nextCode(secret) })
      .expect(200);
    for (const [code, status] of [
      [codes[0]!, 200],
      [codes[0]!, 422],
      [codes[1]!, 200],
    ] as const) {
      const device = w.caller();
      await signIn(device).expect(200);
      await step(device, code).expect(status);
      expect(await whoIs(device)).toBe(status === 200 ? 'Maren Lindqvist' : null);
    }
    await agent.post('/api/account/second-step/ended').send({ password: PASSWORD }).expect(200);
    expect((await signIn(w.caller()).expect(200)).body).toEqual({ secondStep: false });
  });
});
