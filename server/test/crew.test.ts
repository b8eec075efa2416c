import type { AddressInfo } from 'node:net';
import type { CrewView } from '@zephyrfield/core/api/crew';
import type { CalendarView, ChangeView, OccurrenceView, Session } from '@zephyrfield/core/api/schemas';
import { SEE_AS_HEADER } from '@zephyrfield/core/api/paths';
import { readCode } from '@zephyrfield/core/item/crew';
import { DEFAULT_NOTICE_SETTINGS } from '@zephyrfield/core/notify/settings';
import type { NoticeSettingsView } from '@zephyrfield/core/api/notify';
import type { LearnersTable } from '@zephyrfield/core/api/table';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import { ESSAY, FLAG, FeedServer, Installation, PASSWORD, event, type Agent } from './harness';

const ZONE = 'Europe/Dublin';
const DAY = 86_400_000;
const postbox = createPostbox();
let w: Installation;
let feed: FeedServer;
/** Keeps a schedule, which begins anew for each test. */
let maren: Agent;
let learnerId: string;
let n = 0;

beforeAll(async () => {
  const listening = postbox.smtp.listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  feed = await FeedServer.start();
  w = await Installation.start(feed.host, {
    ZEPHYRFIELD_SMTP_URL: `smtp://127.0.0.1:${(listening.address() as AddressInfo).port}`,
  });
  maren = await w.account('Maren Lindqvist', 'maren@skerrow.example');
  w.confirm('maren@skerrow.example');
});
afterAll(async () => {
  await w.stop();
  await feed.stop();
  await new Promise<void>((done) => postbox.smtp.close(() => done()));
});
beforeEach(async () => {
  // More accounts are made here, from one address, than a stranger may make.
  for (const from of ['127.0.0.1', '::ffff:127.0.0.1']) await w.services.limits.forget('signUp', from);
  learnerId = (
    (await maren.post('/api/learners').send({ name: 'Juno', zone: ZONE }).expect(200)).body as { id: string }
  ).id;
});

const invite = async (more: object = {}) =>
  (
    (
      await maren
        .post('/api/invitations')
        .send({ learnerIds: [learnerId], way: 'code', access: 'look', days: 7, uses: 1, ...more })
        .expect(200)
    ).body as { secret: string }
  ).secret;
/** Makes an account by an invitation, in an installation that is closed to strangers. */
async function comer(secret: string, email = `comer${n++}@skerrow.example`, name = 'Anselm Okonjo') {
  const agent = w.caller();
  await agent
    .post('/api/auth/sign-up/email')
    .send({ name, email, password: PASSWORD, invitation: secret })
    .expect(200);
  return agent;
}
const accept = (agent: Agent, secret: string) => agent.post('/api/invitation/accepted').send({ secret });
const crewOf = async (agent = maren) =>
  (await agent.get(`/api/learners/${learnerId}/crew`).expect(200)).body as CrewView;
const learnersOf = async (agent: Agent) => ((await agent.get('/api/session')).body as Session).learners;
async function joined(access: string) {
  const secret = await invite({ access });
  const agent = await comer(secret);
  await accept(agent, secret).expect(200);
  const { person } = (await agent.get('/api/session')).body as Session;
  const member = (await crewOf()).members.find((m) => m.personId === person!.id)!;
  return { agent, member };
}

describe('an invitation', () => {
  test('by a code says who asks and what one may do, lets a stranger make an account, and is used once', async () => {
    const code = await invite({ access: 'tick' });
    expect(readCode(code)).toBe(code);
    const typed = ` ${code.slice(0, 4).toLowerCase()}-${code.slice(4)} `;
    const look = await w.caller().post('/api/invitation/look').send({ secret: typed }).expect(200);
    expect(look.body).toMatchObject({
      by: 'Maren Lindqvist',
      learners: ['Juno'],
      access: 'tick',
      email: null,
    });
    const anselm = await comer(typed);
    expect(await learnersOf(anselm)).toEqual([]);
    await accept(anselm, typed).expect(200);
    expect(await learnersOf(anselm)).toMatchObject([{ id: learnerId, access: 'tick', isSelf: false }]);
    const { members, invitations, history } = await crewOf();
    expect(members.map((m) => [m.name, m.access])).toEqual([
      ['Maren Lindqvist', 'keep'],
      ['Anselm Okonjo', 'tick'],
    ]);
    expect(invitations).toMatchObject([{ way: 'code', state: 'used', used: 1 }]);
    expect(history.map((h) => [h.kind, h.by])).toEqual([
      ['came', 'Anselm Okonjo'],
      ['invited', 'Maren Lindqvist'],
    ]);
    // Nobody but who keeps it is told of these.
    expect(await crewOf(anselm)).toMatchObject({ invitations: [], history: [] });
  });

  test('for one makes one account, however many are asked for by it, and that one may accept it', async () => {
    const secret = await invite({ way: 'link', uses: 1 });
    const signUp = (n: number, password = PASSWORD) =>
      w
        .caller()
        .post('/api/auth/sign-up/email')
        .send({
          ...{ name: 'X', email: `many${n}-${learnerId}@skerrow.example` },
          password,
          invitation: secret,
        });
    // What comes to nothing uses nothing.
    await signUp(0, 'aaaaaaaaaaaa').expect(422);
    const replies = await Promise.all([1, 2, 3, 4, 5].map((n) => signUp(n)));
    expect(replies.map((reply) => reply.status).sort()).toEqual([200, 403, 403, 403, 403]);
    const [mine] = replies.flatMap((reply, n) => (reply.status === 200 ? [n + 1] : []));
    const agent = w.caller();
    await agent
      .post('/api/auth/sign-in/email')
      .send({ email: `many${mine}-${learnerId}@skerrow.example`, password: PASSWORD })
      .expect(200);
    await agent.post('/api/invitation/look').send({ secret }).expect(200);
    await accept(agent, secret).expect(200);
    await accept(agent, secret).expect(410);
    expect((await crewOf()).invitations).toMatchObject([{ state: 'used', used: 1 }]);
  });

  test('by mail asks for a confirmed address of one’s own, and only some go out an hour', async () => {
    const { agent } = await joined('keep');
    const byMail = (n: number) =>
      agent.post('/api/invitations').send({
        ...{ learnerIds: [learnerId], way: 'mail', email: `stranger${n}@skerrow.example` },
        ...{ access: 'look', days: 7, uses: 1 },
      });
    expect((await byMail(0).expect(409)).body).toMatchObject({ type: 'urn:zephyrfield:unconfirmed' });
    const { person } = (await agent.get('/api/session')).body as Session;
    w.confirm(w.services.people.person(person!.id)!.email);
    for (let n = 1; n <= 8; n++) await byMail(n).expect(200);
    await byMail(9).expect(429);
  });

  test('used twice at once lets one in, and the other is told', async () => {
    const secret = await invite({ way: 'link', uses: 1 });
    const spare = await invite({ uses: 2 });
    const both = [await comer(spare), await comer(spare)];
    const replies = await Promise.all(both.map((agent) => accept(agent, secret)));
    expect(replies.map((r) => r.status).sort()).toEqual([200, 410]);
    expect((await crewOf()).members).toHaveLength(2);
  });

  test('taken back, run out, or guessed opens nothing, and many wrong ones are stopped', async () => {
    const [back, late] = [await invite(), await invite({ days: 1 })];
    const { invitations } = await crewOf();
    await maren
      .delete(`/api/invitations/${invitations.find((i) => Date.parse(i.expires) > w.now + 2 * DAY)!.id}`)
      .send({})
      .expect(200);
    const now = w.now;
    w.now += 2 * DAY;
    for (const secret of [back, late, 'AAAA2222'])
      await w.caller().post('/api/invitation/look').send({ secret }).expect(410);
    expect((await crewOf()).invitations.map((i) => i.state).sort()).toEqual(['runOut', 'takenBack']);
    w.now = now;
    let stopped = 0;
    for (let i = 0; i < 25; i++)
      if (
        (
          await w
            .caller()
            .post('/api/invitation/look')
            .send({ secret: `X${i}` })
        ).status === 429
      )
        stopped++;
    expect(stopped).toBeGreaterThan(2);
    await w.services.limits.forget('wrongInvitation', '127.0.0.1');
    await w.services.limits.forget('wrongInvitation', '::ffff:127.0.0.1');
  });

  test('by mail is for that address alone, which it confirms', async () => {
    const at = `aunt${n++}@skerrow.example`;
    const none = await maren
      .post('/api/invitations')
      .send({ learnerIds: [learnerId], way: 'mail', email: at, access: 'look', days: 7, uses: 9 })
      .expect(200);
    expect(none.body).toEqual({ secret: null });
    const mail = postbox.mails.find((l) => l.to.includes(at))!;
    expect(mail.subject).toBe('Maren Lindqvist invites you to a school schedule');
    const secret = /\/join#(\S+)/.exec(mail.text)![1]!;
    // Somebody else who got hold of it comes in neither by an account of theirs, nor by a new one.
    const other = await comer(await invite());
    expect((await accept(other, secret).expect(403)).body).toMatchObject({
      type: expect.stringContaining('other-address'),
    });
    await w
      .caller()
      .post('/api/auth/sign-up/email')
      .send({ name: 'X', email: 'x@skerrow.example', password: PASSWORD, invitation: secret })
      .expect(403);
    const aunt = await comer(secret, at);
    await accept(aunt, secret).expect(200);
    expect(w.services.people.person(w.services.people.byEmail(at)!.id)!.confirmed).toBe(true);
    expect((await crewOf()).members).toHaveLength(2);
  });

  test('to several schedules is refused as a whole where one of them is not kept by who invites', async () => {
    const { agent } = await joined('edit');
    const own = (await agent.post('/api/learners').send({ name: 'Own', zone: ZONE }).expect(200)).body as {
      id: string;
    };
    const both = { learnerIds: [own.id, learnerId], way: 'link', access: 'look', days: 7, uses: 1 };
    await agent.post('/api/invitations').send(both).expect(403);
    const second = (await maren.post('/api/learners').send({ name: 'Tobias', zone: ZONE }).expect(200))
      .body as { id: string };
    const secret = await invite({ learnerIds: [learnerId, second.id] });
    await accept(agent, secret).expect(200);
    expect((await learnersOf(agent)).map((l) => [l.name, l.access]).sort()).toEqual([
      ['Juno', 'edit'],
      ['Own', 'keep'],
      ['Tobias', 'look'],
    ]);
  });

  test('for the learner themself makes the schedule theirs, once', async () => {
    const secret = await invite({ asLearner: true, access: 'edit', uses: 5 });
    const juno = await comer(secret, undefined, 'Juno');
    await accept(juno, secret).expect(200);
    expect(await learnersOf(juno)).toMatchObject([{ id: learnerId, access: 'edit', isSelf: true }]);
    const again = await invite({ asLearner: true, access: 'edit' });
    await accept(await comer(again), again).expect(409);
  });
});

/** Opens an event stream; gives all that it said, once it has ended. */
async function stream(agent: Agent, path: string): Promise<{ said: Promise<string> }> {
  const jar = (agent as unknown as { jar: { getCookies(at: object): { toValueString(): string }[] } }).jar;
  const cookie = jar
    .getCookies({ domain: 'localhost', path: '/', secure: false, script: false })
    .map((c) => c.toValueString())
    .join('; ');
  const response = await fetch(`${w.address}${path}`, { headers: { cookie } });
  expect(response.status).toBe(200);
  return { said: response.text() };
}

describe('a crew', () => {
  test('is always kept by somebody: the last one can neither leave nor give it up, before another does', async () => {
    const { member } = await joined('edit');
    const own = (await crewOf()).members.find((m) => m.access === 'keep')!;
    for (const asking of [
      maren.patch(`/api/members/${own.id}`).send({ access: 'edit' }),
      maren.delete(`/api/members/${own.id}`).send({}),
    ])
      expect((await asking.expect(409)).body).toMatchObject({ title: 'Somebody has to keep this schedule.' });
    await maren.patch(`/api/members/${member.id}`).send({ access: 'keep' }).expect(200);
    await maren.delete(`/api/members/${own.id}`).send({}).expect(200);
    expect((await learnersOf(maren)).some((l) => l.id === learnerId)).toBe(false);
  });

  test('is told to its keepers when somebody joins or leaves; not to who did it, nor to the others', async () => {
    const { agent: other, member: keeper } = await joined('look');
    await maren.patch(`/api/members/${keeper.id}`).send({ access: 'keep' }).expect(200);
    const { agent: leaver, member } = await joined('edit');
    const heard = async (agent: Agent) =>
      (
        (await agent.get('/api/notices').expect(200)).body as { notices: { title: string; line: string }[] }
      ).notices
        .filter((notice) => notice.line === 'The crew around Juno')
        .map((notice) => notice.title);
    const before = await heard(maren);
    await leaver.delete(`/api/members/${member.id}`).send({}).expect(200);
    expect((await heard(maren)).slice(0, 2)).toEqual(['Anselm Okonjo left', 'Anselm Okonjo joined']);
    expect((await heard(maren)).length).toBe(before.length + 1);
    expect((await heard(other)).slice(0, 2)).toEqual(['Anselm Okonjo left', 'Anselm Okonjo joined']);
    expect(await heard(leaver)).toEqual([]);
  });

  test('lets anybody leave; whoever is removed sees nothing more at once, also on an open page', async () => {
    const { agent, member } = await joined('edit');
    const { agent: other, member: leaver } = await joined('look');
    await other.delete(`/api/members/${member.id}`).send({}).expect(403);
    await other.delete(`/api/members/${leaver.id}`).send({}).expect(200);
    expect(await learnersOf(other)).toEqual([]);
    const page = await stream(agent, `/api/learners/${learnerId}/live`);
    await maren.delete(`/api/members/${member.id}`).send({}).expect(200);
    // It is told, and ended; what changes in that very moment does no harm.
    expect(await page.said).toContain('event: access');
    await agent.get(`/api/learners/${learnerId}/calendars`).expect(404);
    await agent.post(`/api/learners/${learnerId}/own`).send({ writes: [] }).expect(422);
    await agent.get(`/api/learners/${learnerId}/live`).expect(404);
    expect((await crewOf()).history.slice(0, 2).map((h) => [h.kind, h.about])).toEqual([
      ['removed', 'Anselm Okonjo'],
      ['left', 'Anselm Okonjo'],
    ]);
  });
});

describe('whoever is let go', () => {
  const remove = (id: string) => maren.delete(`/api/members/${id}`).send({}).expect(200);
  const invites = async (agent: Agent, more: object = {}) =>
    (
      (
        await agent
          .post('/api/invitations')
          .send({ learnerIds: [learnerId], way: 'link', access: 'keep', days: 90, uses: 500, ...more })
          .expect(200)
      ).body as { secret: string }
    ).secret;

  test('takes no invitation along: neither by one they made, nor after they are invited anew', async () => {
    const { agent, member } = await joined('keep');
    const secret = await invites(agent);
    await remove(member.id);
    await accept(agent, secret).expect(410);
    await w.caller().post('/api/invitation/look').send({ secret }).expect(410);
    const again = await invite({ access: 'keep' });
    await accept(agent, again).expect(200);
    await accept(await comer(await invite({ uses: 2 })), secret).expect(410);
    const { members, invitations, history } = await crewOf();
    expect(members.map((m) => m.name)).toContain('Maren Lindqvist');
    expect(invitations.filter((i) => i.access === 'keep').map((i) => i.state)).toContain('takenBack');
    expect(history.map((h) => h.kind)).toContain('takenBack');
  });

  test('or may do less, gives no more than they may by what they have given before', async () => {
    const { agent, member } = await joined('keep');
    const secret = await invites(agent);
    await maren.patch(`/api/members/${member.id}`).send({ access: 'edit' }).expect(200);
    await accept(await comer(await invite()), secret).expect(410);
    await maren.patch(`/api/members/${member.id}`).send({ access: 'keep' }).expect(200);
    await accept(await comer(await invite()), secret).expect(410);
  });

  test('is in no audience, group or question, and mutes nothing any more', async () => {
    const { agent, member } = await joined('edit');
    const { id: calendarId } = (
      await maren
        .post(`/api/learners/${learnerId}/calendars`)
        .send({ name: 'Diary', kind: 'home', zone: ZONE, ...FLAG })
        .expect(200)
    ).body as { id: string };
    const written = async (who: Agent, title: string) =>
      (
        (
          await who
            .post(`/api/learners/${learnerId}/own`)
            .send({ writes: [{ id: null, calendarId, item: { ...ESSAY, title }, version: 0 }] })
            .expect(200)
        ).body as { written: { id: string }[] }
      ).written[0]!.id;
    const item = await written(agent, 'Picnic');
    await agent.put(`/api/items/${item}/question`).send({ asks: true }).expect(200);
    await agent
      .put('/api/groups')
      .send({ groups: [{ name: 'Tuesday', learnerIds: [learnerId] }] })
      .expect(200);
    await agent
      .put('/api/notice-settings')
      .send({ ...DEFAULT_NOTICE_SETTINGS, muted: { items: [item], calendars: [calendarId] } })
      .expect(200);
    await maren
      .put(`/api/calendars/${calendarId}/audience`)
      .send({ audience: { members: [member.id], others: 'nothing' } })
      .expect(200);
    await remove(member.id);
    await maren.put(`/api/items/${item}/reply`).send({ answer: 'yes' }).expect(404);
    const settings = (await agent.get('/api/notice-settings')).body as NoticeSettingsView;
    expect(settings.noticeSettings.muted).toEqual({ items: [], calendars: [] });
    const { groups } = (await agent.get('/api/learners-table')).body as LearnersTable;
    expect(groups).toEqual([{ name: 'Tuesday', learnerIds: [] }]);
    // Invited anew, they see what is for everybody, and nothing that was once for them by name.
    await accept(agent, await invite({ access: 'edit' })).expect(200);
    expect((await agent.get(`/api/learners/${learnerId}/calendars`)).body).toEqual([]);
  });

  test('keeps what is for them alone, should they come back', async () => {
    const { agent, member } = await joined('edit');
    const { id } = (
      await agent
        .post(`/api/learners/${learnerId}/calendars`)
        .send({ name: 'Just mine', kind: 'home', zone: ZONE, ...FLAG })
        .expect(200)
    ).body as { id: string };
    await agent
      .put(`/api/calendars/${id}/audience`)
      .send({ audience: { members: [], others: 'nothing' } })
      .expect(200);
    await remove(member.id);
    await accept(agent, await invite({ access: 'edit' })).expect(200);
    expect((await agent.get(`/api/learners/${learnerId}/calendars`)).body).toMatchObject([{ id }]);
  });
});

describe('a calendar that is kept from some', () => {
  const span = { from: '2026-10-01T00:00:00Z', to: '2026-11-01T00:00:00Z' };
  const occurrences = async (agent: Agent, as?: string) => {
    const asking = agent.get(`/api/learners/${learnerId}/occurrences`).query(span);
    if (as) void asking.set(SEE_AS_HEADER, as);
    return (await asking.expect(200)).body as OccurrenceView[];
  };
  const calendars = async (agent: Agent) =>
    (await agent.get(`/api/learners/${learnerId}/calendars`).expect(200)).body as CalendarView[];
  async function own(name: string, ...titles: [string, object][]) {
    const { id } = (
      await maren
        .post(`/api/learners/${learnerId}/calendars`)
        .send({ name, kind: 'home', zone: ZONE, ...FLAG })
        .expect(200)
    ).body as { id: string };
    const writes = titles.map(([title, more]) => ({
      id: null,
      calendarId: id,
      item: { ...ESSAY, title, ...more },
      version: 0,
    }));
    await maren.post(`/api/learners/${learnerId}/own`).send({ writes }).expect(200);
    return id;
  }
  const at = (hour: string) => ({ kind: 'instant', at: `2026-10-08T${hour}:00Z`, zone: ZONE });
  const CELLO = { kind: 'lesson', handIn: 'nothing', when: at('15:00'), end: at('16:00') };

  test('shows the others its hours without a word, or nothing, as was chosen', async () => {
    const { agent, member } = await joined('edit');
    const mine = await own('Just mine', ['Cello', CELLO], ['Diary', { kind: 'reminder', handIn: 'nothing' }]);
    const keep = (audience: object | null) =>
      maren.put(`/api/calendars/${mine}/audience`).send({ audience }).expect(200);
    expect(await occurrences(agent)).toHaveLength(2);
    await keep({ members: [], others: 'busy' });
    const [busy, ...none] = await occurrences(agent);
    expect(none).toEqual([]);
    expect(busy).toMatchObject({
      title: 'Busy',
      place: '',
      busy: true,
      start: at('15:00'),
      end: at('16:00'),
    });
    expect(await calendars(agent)).toMatchObject([{ id: busy!.calendarId, name: 'Busy', busy: true }]);
    expect(await occurrences(maren)).toHaveLength(2);
    await keep({ members: [], others: 'nothing' });
    expect(await occurrences(agent)).toEqual([]);
    expect(await calendars(agent)).toEqual([]);
    await keep({ members: [member.id], others: 'nothing' });
    expect(await occurrences(agent)).toHaveLength(2);
    await keep(null);
    expect(await calendars(agent)).toMatchObject([{ id: mine, audience: null }]);
  });

  test('is nobody’s to keep from others who neither keeps the schedule, nor made it, nor is whose it is', async () => {
    const { agent } = await joined('edit');
    const id = await own('Home', ['Cello', CELLO]);
    await agent
      .put(`/api/calendars/${id}/audience`)
      .send({ audience: { members: [], others: 'busy' } })
      .expect(403);
    const { body } = await agent
      .post(`/api/learners/${learnerId}/calendars`)
      .send({ name: 'Theirs', kind: 'own', zone: ZONE, ...FLAG })
      .expect(200);
    const theirs = (body as CalendarView).id;
    await agent
      .put(`/api/calendars/${theirs}/audience`)
      .send({ audience: { members: [], others: 'nothing' } })
      .expect(200);
    expect((await calendars(maren)).map((c) => c.name)).toEqual(['Home']);
    // Nor does what happened say so to who keeps the schedule.
    expect((await crewOf()).history.map((h) => h.kind)).not.toContain('keptFrom');
  });

  test('leaves what another calendar has as well where that is seen', async () => {
    const { agent } = await joined('look');
    const follow = async (name: string) => {
      const { body } = await maren
        .post(`/api/learners/${learnerId}/sources`)
        .send({ address: `http://${feed.host}/${name}.ics`, zone: ZONE, name, kind: 'course', ...FLAG })
        .expect(200);
      return (body as { calendar: { id: string } }).calendar.id;
    };
    const report = event('r1@school', 'Food report', 'DTSTART:20261012T220000Z', 'CATEGORIES:Assignment');
    feed.calendars({ '/a.ics': [report], '/b.ics': [report] });
    const [a, b] = [await follow('a'), await follow('b')];
    const shown = await occurrences(agent);
    expect(shown).toHaveLength(1);
    const [first, second] = shown[0]!.calendarId === a ? [a, b] : [b, a];
    await maren
      .put(`/api/calendars/${first}/audience`)
      .send({ audience: { members: [], others: 'nothing' } })
      .expect(200);
    expect(await occurrences(agent)).toMatchObject([
      { title: 'Food report', calendarId: second, alsoIn: [] },
    ]);
    expect(await occurrences(maren)).toMatchObject([{ calendarId: first, alsoIn: [second] }]);
    // Ticked off where it stands for itself, it stays ticked off.
    const ticker = await joined('tick');
    const [own] = await occurrences(ticker.agent);
    await ticker.agent
      .patch(`/api/items/${own!.itemId}/layer`)
      .send({ version: own!.version, finished: true })
      .expect(200);
    expect(await occurrences(ticker.agent)).toMatchObject([{ finished: true, version: own!.version + 1 }]);
  });

  test('is in no change, notice, plan or search of theirs; what they write beside it leaves it as it is', async () => {
    const { agent, member } = await joined('edit');
    feed.calendar(event('x1', 'Secret club', 'DTSTART:20261012T160000Z'));
    const { body } = await maren
      .post(`/api/learners/${learnerId}/sources`)
      .send({ address: `http://${feed.host}/club.ics`, zone: ZONE, name: 'Club', kind: 'group', ...FLAG })
      .expect(200);
    const { source, calendar } = body as { source: { id: string }; calendar: { id: string } };
    await maren
      .put(`/api/calendars/${calendar.id}/audience`)
      .send({ audience: { members: [], others: 'nothing' } })
      .expect(200);
    const plan = `/api/learners/${learnerId}/plan`;
    const { settings } = (await maren.get(plan).expect(200)).body as { settings: object };
    const travel = { [calendar.id]: { before: 10, after: 10 } };
    await maren
      .put(`${plan}/settings`)
      .send({ settings: { ...settings, travel }, version: 0 })
      .expect(200);
    feed.calendar(
      event('x1', 'Secret club', 'DTSTART:20261013T160000Z'),
      event('x2', 'Secret feast', 'DTSTART:20261014T160000Z'),
    );
    await maren.post(`/api/sources/${source.id}/reading`).send({}).expect(200);
    await w.services.engine.run();
    // Who happens to have the same link is not told the name it has there.
    const twice = await agent
      .post(`/api/learners/${learnerId}/sources`)
      .send({ address: `http://${feed.host}/club.ics`, zone: ZONE, name: 'Mine', kind: 'group', ...FLAG })
      .expect(409);
    expect(twice.text).not.toMatch(/“/);
    for (const path of ['changes', 'sources', 'texts', 'undated', 'questions', 'plan'])
      expect((await agent.get(`/api/learners/${learnerId}/${path}`).expect(200)).text).not.toMatch(
        /Secret|Club/,
      );
    expect((await agent.get('/api/notices').expect(200)).text).not.toContain('Secret');
    const day = { edition: 'evening', day: '2026-10-12' };
    expect((await agent.get('/api/day-sheets').query(day).expect(200)).text).not.toContain('Secret');
    expect(
      (await maren.get(`/api/learners/${learnerId}/changes`).expect(200)).body as ChangeView[],
    ).not.toEqual([]);
    const seen = (await agent.get(plan).expect(200)).body as {
      settings: { travel: object };
      version: number;
    };
    expect(seen.settings.travel).toEqual({});
    await agent.put(`${plan}/settings`).send(seen).expect(200);
    expect((await maren.get(plan).expect(200)).body).toMatchObject({ settings: { travel } });
    expect(member.access).toBe('edit');
  });

  test('and the rest of a schedule is seen as somebody else sees it: with their rights, and only to look at', async () => {
    const { agent, member } = await joined('edit');
    const mine = await own('Just mine', ['Cello', CELLO]);
    await own('Home', ['Dentist', CELLO]);
    await maren
      .put(`/api/calendars/${mine}/audience`)
      .send({ audience: { members: [], others: 'busy' } })
      .expect(200);
    expect((await occurrences(maren, member.id)).map((o) => o.title).sort()).toEqual(['Busy', 'Dentist']);
    const session = await maren.get('/api/session').set(SEE_AS_HEADER, member.id).expect(200);
    expect(session.body).toMatchObject({
      person: { name: 'Maren Lindqvist' },
      learners: [{ id: learnerId, access: 'look' }],
    });
    // Nothing that person has for themselves is seen.
    const dentist = (await occurrences(agent)).find((o) => o.title === 'Dentist')!;
    await agent
      .patch(`/api/items/${dentist.itemId}/person-layer`)
      .send({ version: 0, note: 'Theirs alone', hidden: true })
      .expect(200);
    const item = await maren.get(`/api/items/${dentist.itemId}`).set(SEE_AS_HEADER, member.id).expect(200);
    expect(item.body).toMatchObject({ note: '', occurrence: { hidden: false } });
    // Nothing can be changed, and nobody else may look so.
    await maren
      .patch(`/api/items/${dentist.itemId}/layer`)
      .set(SEE_AS_HEADER, member.id)
      .send({ version: 0, finished: true })
      .expect(403);
    const own1 = (await crewOf()).members.find((m) => m.access === 'keep')!;
    await agent.get('/api/session').set(SEE_AS_HEADER, own1.id).expect(403);
    await (await comer(await invite())).get('/api/session').set(SEE_AS_HEADER, member.id).expect(404);
  });
});
