import { SEE_AS_HEADER } from '@zephyrfield/core/api/paths';
import type { Route } from '@zephyrfield/core/api/route';
import { routes, type Routes } from '@zephyrfield/core/api/routes';
import type { OccurrenceView, OwnWritten } from '@zephyrfield/core/api/schemas';
import { DEFAULT_NOTICE_SETTINGS } from '@zephyrfield/core/notify/settings';
import { DEFAULT_SHARE } from '@zephyrfield/core/out/share';
import { DEFAULT_PLAN } from '@zephyrfield/core/plan/evenings';
import type { AccountView } from '@zephyrfield/core/api/account-view';
import type { CrewView } from '@zephyrfield/core/api/crew';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';
import { randomUUID } from 'node:crypto';
import type { ThreadView } from '@zephyrfield/core/api/notes';
import { ESSAY, FLAG, PASSWORD, PNG, RUN_UP, event } from './harness';
import type { Agent, FeedServer, Installation } from './harness';

// A family in which every kind of thing stands once, and a right request for each route: for the walks over all routes.

export const ZONE = 'Europe/Dublin';
export const BRIEF = {
  aim: 'See the tide turn',
  steps: '',
  time: '',
  help: '',
  adjustments: '',
  good: '',
  ask: '',
  questions: '',
};
/** One thing of each kind that a family has, by the kind of its id. */
export interface Family {
  agent: Agent;
  personId: string;
  ids: Record<
    | 'learner'
    | 'calendar'
    | 'source'
    | 'fileSource'
    | 'waitingFile'
    | 'item'
    | 'otherItem'
    | 'gathered'
    | 'otherGathered'
    | 'briefFile'
    | 'recordPhoto'
    | 'briefText'
    | 'keptBrief'
    | 'notice'
    | 'member'
    | 'invitation'
    | 'session'
    | 'share'
    | 'passkey'
    | 'offer'
    | 'openTime'
    | 'openSlot'
    | 'booking'
    | 'thread'
    | 'note'
    | 'noteFile'
    | 'outline',
    string
  >;
}

export const ok = async (asking: ReturnType<Agent['get']>) => (await asking.expect(200)).body as never;

export const invitationTo = (learner: string, email: string) => ({
  learnerIds: [learner],
  way: 'mail',
  email,
  access: 'look',
  days: 7,
  uses: 1,
});

/** Two servers that a family is made with: ours, and the one its feed comes from. */
export interface World {
  w: Installation;
  feed: FeedServer;
}

/** Adds the calendar that families are offered, in a schedule of its own. */
export function addDesk({ services, now }: Installation): void {
  services.people.addLearner({ id: 'desk', name: 'Desk', zone: ZONE, createdAt: now });
  services.calendars.add({
    ...{ id: 'desk-calendar', learnerId: 'desk', name: 'Study Hour', kind: 'group', category: '' },
    ...{ ...FLAG, zone: ZONE, position: 1, createdAt: now },
  });
}

/** Makes a family in which every kind of thing stands once, with a word in each. */
export async function family({ w, feed }: World, name: string, word: string): Promise<Family> {
  const email = `${word.toLowerCase()}@skerrow.example`;
  const agent = await w.account(name, email);
  w.confirm(email);
  const { person } = (await ok(agent.get('/api/session'))) as { person: { id: string } };
  const { id: learner } = (await ok(agent.post('/api/learners').send({ name, zone: ZONE }))) as {
    id: string;
  };
  const path = `/api/learners/${learner}`;
  const { id: calendar } = (await ok(
    agent.post(`${path}/calendars`).send({ name: `${word} home`, kind: 'home', zone: ZONE, ...FLAG }),
  )) as { id: string };
  feed.calendar(
    event(`${word}-1`, `${word} log 1`, 'DTSTART;VALUE=DATE:20261012', 'CATEGORIES:Assignment'),
    event(`${word}-2`, `${word} log 2`, 'DTSTART;VALUE=DATE:20261019'),
  );
  const { source } = (await ok(
    agent.post(`${path}/sources`).send({
      address: `http://${feed.host}/${word}.ics`,
      zone: ZONE,
      name: `${word} course`,
      kind: 'course',
      ...FLAG,
    }),
  )) as {
    source: { id: string };
  };
  const ics = (n: number) =>
    Buffer.from(
      [
        'BEGIN:VCALENDAR',
        'VERSION:2.0',
        event(`${word}-f${n}`, `${word} file ${n}`, 'DTSTART;VALUE=DATE:20261102'),
        'END:VCALENDAR',
        '',
      ].join('\r\n'),
    );
  const send = async (n: number) =>
    (
      (await ok(
        agent
          .post(`${path}/files`)
          .query({ name: `${word}${n}.ics`, zone: ZONE })
          .set('content-type', 'text/calendar')
          .send(ics(n)),
      )) as { file: { id: string } }
    ).file.id;
  const taken = (await ok(
    agent
      .post(`/api/files/${await send(1)}`)
      .send({ zone: ZONE, name: `${word} file`, kind: 'course', ...FLAG }),
  )) as { source: { id: string } };
  const waitingFile = await send(2);
  const write = async (title: string) =>
    (
      (await ok(
        agent
          .post(`${path}/own`)
          .send({ writes: [{ id: null, calendarId: calendar, item: { ...ESSAY, title }, version: 0 }] }),
      )) as { written: OwnWritten[] }
    ).written[0]!.id;
  const item = await write(`${word} essay`);
  const otherItem = await write(`${word} reading`);
  const occurrences = (await ok(
    agent.get(`${path}/occurrences`).query({ from: '2026-10-01T00:00:00Z', to: '2026-12-01T00:00:00Z' }),
  )) as OccurrenceView[];
  const gathered = occurrences.find((o) => o.title === `${word} log 1`)!.itemId;
  const otherGathered = occurrences.find((o) => o.title === `${word} log 2`)!.itemId;
  await agent
    .patch(`/api/items/${item}/layer`)
    .send({
      version: 0,
      handedIn: { way: 'paper', note: `${word} record` },
      finished: true,
    })
    .expect(200);
  await agent
    .patch(`/api/items/${item}/person-layer`)
    .send({ version: 0, note: `${word} note` })
    .expect(200);
  await agent
    .put(`/api/items/${item}/brief`)
    .send({ brief: { ...BRIEF, aim: `${word} aim` } })
    .expect(200);
  const parts = [{ name: `${word} outline`, share: 1 }];
  await agent
    .post(`${path}/plan/run-ups`)
    .send({ writes: [{ itemId: item, version: 0, runUp: { ...RUN_UP, parts } }] })
    .expect(200);
  const { before } = (await ok(
    agent.put(`/api/items/${item}/brief`).send({ brief: { ...BRIEF, aim: `${word} aim again` } }),
  )) as { before: { textId: string }[] };
  const briefFile = (await ok(
    agent
      .post(`/api/items/${item}/files`)
      .query({ name: `${word}.png` })
      .set('content-type', 'image/png')
      .send(PNG),
  )) as { id: string };
  const recordPhoto = (await ok(
    agent
      .post(`/api/items/${item}/record-photos`)
      .query({ name: `${word} handed in.png` })
      .set('content-type', 'image/png')
      .send(PNG),
  )) as { id: string };
  const kept = (await ok(agent.post('/api/briefs').send({ name: `${word} kept`, brief: BRIEF }))) as {
    id: string;
  };
  const notice = w.services.deliveries.add({
    cause: 'test',
    causeId: word,
    personId: person.id,
    learnerId: learner,
    channel: 'app',
    kind: 'newWork',
    title: `${word} notice`,
    line: '',
    at: w.now,
    notBefore: w.now,
    useBy: w.now + 1e9,
    state: 'sent',
  });
  expect(notice).toBe(true);
  await agent
    .post('/api/invitations')
    .send(invitationTo(learner, `${word}@aunt.example`))
    .expect(200);
  const crew = (await ok(agent.get(`${path}/crew`))) as CrewView;
  const { share } = (await ok(agent.post(`${path}/shares`).send(sharing(`${word} link`, [calendar])))) as {
    share: { id: string };
  };
  const { id: outline } = (await ok(
    agent
      .post(`${path}/outlines`)
      .query({ name: `${word} plan.txt`, ...AUTUMN })
      .set('content-type', 'application/octet-stream')
      .send(`${word} essay: 9 October`),
  )) as { id: string };
  await ok(
    agent.put(`/api/outlines/${outline}/kept`).send({
      calendarId: calendar,
      rows: [{ item, title: `${word} essay`, date: '2026-10-09', minute: null, last: null, at: PLACE }],
    }),
  );
  const noteFile = (await ok(
    agent
      .post('/api/note-files')
      .query({ name: `${word} note.png` })
      .set('content-type', 'image/png')
      .send(PNG),
  )) as { id: string };
  const { threads } = (await ok(
    agent.post('/api/notes').send({
      ...{ learnerIds: [learner], item, text: `${word} said so` },
      key: randomUUID(),
    }),
  )) as { threads: string[] };
  const threadView = (await ok(agent.get(`/api/notes/${threads[0]}`))) as ThreadView;
  // Something that waits for an answer: a calendar of somebody else’s that is offered.
  const offer = `${word.toLowerCase()}-offer`;
  w.db((db) =>
    db
      .prepare(
        'INSERT INTO offer (id, calendar_id, learner_id, offered_by, created_at) VALUES (?, ?, ?, ?, 0)',
      )
      .run(offer, 'desk-calendar', learner, person.id),
  );
  // Times that somebody else offers, one of which is taken.
  const low = word.toLowerCase();
  const [openTime, openSlot, booking] = [`${low}-open-time`, `${low}-open-slot`, `${low}-booking`];
  w.db((db) => {
    const put = (id: string, learnerId: string) => {
      db.prepare(
        `INSERT INTO open_time (id, person_id, learner_id, title, zone, places, each, names_shown, until, created_at)
          VALUES (?, ?, ?, 'A talk', ?, 1, 1, 0, 0, 0)`,
      ).run(id, person.id, learnerId, ZONE);
      db.prepare('INSERT INTO open_time_for (open_time_id, learner_id) VALUES (?, ?)').run(id, learner);
      db.prepare('INSERT INTO open_slot (id, open_time_id, start_at, end_at) VALUES (?, ?, ?, ?)').run(
        ...[`${id}-slot`, id, w.now + 9e7, w.now + 9.1e7],
      );
    };
    put(openTime, learner);
    db.prepare('UPDATE open_slot SET id = ? WHERE open_time_id = ?').run(openSlot, openTime);
    db.prepare('INSERT INTO booking (id, slot_id, learner_id, at) VALUES (?, ?, ?, 0)').run(
      ...[booking, openSlot, learner],
    );
  });
  const passkey = `${word.toLowerCase()}-passkey`;
  w.db((db) =>
    db
      .prepare(
        `INSERT INTO passkey (id, name, public_key, user_id, credential_id, counter, device_type, backed_up)
          VALUES (?, ?, 'k', ?, ?, 0, 'singleDevice', 0)`,
      )
      .run(passkey, `${word} passkey`, person.id, passkey),
  );
  const { notices } = (await ok(agent.get('/api/notices'))) as { notices: { id: number; title: string }[] };
  return {
    agent,
    personId: person.id,
    ids: {
      learner,
      calendar,
      source: source.id,
      fileSource: taken.source.id,
      waitingFile,
      item,
      otherItem,
      gathered,
      otherGathered,
      briefFile: briefFile.id,
      recordPhoto: recordPhoto.id,
      briefText: before[0]!.textId,
      keptBrief: kept.id,
      notice: String(notices.find((n) => n.title === `${word} notice`)!.id),
      member: crew.members[0]!.id,
      invitation: crew.invitations[0]!.id,
      passkey,
      share: share.id,
      offer,
      openTime,
      openSlot,
      booking,
      thread: threads[0]!,
      note: String(threadView.notes[0]!.id),
      noteFile: noteFile.id,
      outline,
      session: ((await ok(agent.get('/api/account'))) as AccountView).sessions[0]!.id,
    },
  };
}

/** What lets some calendars go out by a link. */
export const sharing = (name: string, calendars: string[]) => ({
  name,
  rules: { ...DEFAULT_SHARE, calendars },
  page: false,
  until: null,
});

export type Ids = Family['ids'];
/** A request that is right for a family, with an id in each place that may have one. */
export interface Sample {
  params?: Record<string, string>;
  query?: Record<string, string>;
  body?: object | Buffer;
}
const calendarOf = { zone: ZONE, name: 'New', kind: 'course', ...FLAG };
const ofLearner = (i: Ids) => ({ params: { learnerId: i.learner } });
const ofItem = (i: Ids, body: object): Sample => ({ params: { id: i.item }, body });

const AUTUMN = { from: '2026-08-31', to: '2026-12-18' };
const PLACE = { block: 0, row: 0, cell: 0, from: 0, to: 5 };

export type RouteName = Exclude<keyof Routes, `demo${string}`>;
/** Gives a row for each route. */
export const samples = ({ feed }: World): Record<RouteName, (i: Ids) => Sample> => ({
  session: () => ({}),
  signUp: () => ({ body: { name: 'X', email: 'x@skerrow.example', password: PASSWORD } }),
  beginAccount: () => ({ body: { token: 'none', password: PASSWORD } }),
  signIn: () => ({ body: { email: 'nobody@skerrow.example', password: PASSWORD } }),
  signOut: () => ({ body: {} }),
  changePassword: () => ({
    body: { currentPassword: 'not the password', newPassword: 'another long password' },
  }),
  sendConfirmation: () => ({ body: {} }),
  confirmAddress: () => ({ body: { token: 'none' } }),
  addLearner: () => ({ body: { name: 'New', zone: ZONE } }),
  changeSettings: () => ({ body: DEFAULT_SETTINGS }),
  changeTerm: (i) => ({ ...ofLearner(i), body: { term: null, version: null } }),
  texts: ofLearner,
  calendars: ofLearner,
  changeCalendar: (i) => ({ params: { id: i.calendar }, body: { name: 'Changed' } }),
  forgetCalendar: (i) => ({ params: { id: i.calendar } }),
  sources: ofLearner,
  preview: (i) => ({ ...ofLearner(i), body: { address: `http://${feed.host}/p.ics`, zone: ZONE } }),
  follow: (i) => ({ ...ofLearner(i), body: { ...calendarOf, address: `http://${feed.host}/another.ics` } }),
  readSource: (i) => ({ params: { id: i.source }, body: {} }),
  sendFile: (i) => ({
    ...ofLearner(i),
    query: { name: 'a.ics', zone: ZONE },
    body: Buffer.from('BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n'),
  }),
  takeFile: (i) => ({ params: { id: i.waitingFile }, body: calendarOf }),
  takeFileInto: (i) => ({ params: { id: i.fileSource }, body: { fileId: i.waitingFile } }),
  splits: (i) => ({ params: { id: i.source } }),
  changeSplit: (i) => ({ params: { id: i.source }, body: { split: null } }),
  changeSource: (i) => ({ params: { id: i.source }, body: { paused: true } }),
  changeAddress: (i) => ({
    params: { id: i.source },
    body: { address: `http://${feed.host}/moved.ics` },
  }),
  removeSource: (i) => ({ params: { id: i.source } }),
  changes: ofLearner,
  seeChanges: (i) => ({ ...ofLearner(i), body: { upTo: 1 } }),
  occurrences: (i) => ({
    ...ofLearner(i),
    query: { from: '2026-10-01T00:00:00Z', to: '2026-11-01T00:00:00Z' },
  }),
  item: (i) => ({ params: { id: i.item } }),
  changeLayer: (i) => ofItem(i, { version: 1, estimate: 45 }),
  timer: ofLearner,
  plan: ofLearner,
  changePlanSettings: (i) => ({
    ...ofLearner(i),
    body: { settings: { ...DEFAULT_PLAN, travel: { [i.calendar]: { before: 15, after: 15 } } }, version: 0 },
  }),
  writeRunUps: (i) => ({
    ...ofLearner(i),
    body: { writes: [{ itemId: i.item, version: 1, runUp: RUN_UP }] },
  }),
  tellSitting: (i) => ofItem(i, { sitting: 'first', state: 'done', took: 30, version: 1 }),
  finishAll: (i) => ({
    ...ofLearner(i),
    body: { items: [{ itemId: i.item, version: 1 }], finished: true },
  }),
  changePersonLayer: (i) => ofItem(i, { version: 1, note: 'Mine now' }),
  correctItem: (i) => ({ params: { id: i.gathered }, body: { kind: 'project' } }),
  joinWindow: (i) => ({ params: { id: i.gathered }, body: { joined: false } }),
  setDuplicate: (i) => ({ params: { id: i.gathered, otherId: i.otherGathered }, body: { duplicate: false } }),
  questions: ofLearner,
  matchItem: (i) => ({ params: { id: i.gathered }, body: { to: i.otherGathered } }),
  live: ofLearner,
  briefFileBytes: (i) => ({ params: { id: i.briefFile } }),
  addCalendar: (i) => ({ ...ofLearner(i), body: { name: 'Home', kind: 'home', zone: ZONE, ...FLAG } }),
  writeOwn: (i) => ({
    ...ofLearner(i),
    body: { writes: [{ id: i.otherItem, calendarId: i.calendar, item: ESSAY, version: 1, from: i.item }] },
  }),
  undated: ofLearner,
  changeBrief: (i) => ofItem(i, { brief: BRIEF }),
  putBriefs: (i) => ({ ...ofLearner(i), body: { writes: [{ itemId: i.item, textId: i.briefText }] } }),
  sendBriefFile: (i) => ({ params: { id: i.item }, query: { name: 'a.png' }, body: PNG }),
  sendRecordPhoto: (i) => ({ params: { id: i.item }, query: { name: 'a.png' }, body: PNG }),
  changeRecordPhoto: (i) => ({ params: { id: i.recordPhoto }, body: { removed: true } }),
  changeBriefFile: (i) => ({ params: { id: i.briefFile }, body: { removed: true } }),
  keptBriefs: () => ({}),
  keepBrief: () => ({ body: { name: 'Kept', brief: BRIEF } }),
  forgetBrief: (i) => ({ params: { id: i.keptBrief } }),
  changeReminders: (i) => ({ ...ofLearner(i), body: { reminders: null, version: null } }),
  notices: () => ({}),
  seeNotices: (i) => ({ body: { ids: [Number(i.notice)] } }),
  seeNews: () => ({ body: { upTo: '2026-10-06T12:00:00Z' } }),
  takeNotices: () => ({ body: {} }),
  snoozeNotice: (i) => ({ params: { id: i.notice }, body: { until: '2026-10-07T12:00:00Z' } }),
  noticeSettings: () => ({}),
  changeNoticeSettings: (i) => ({
    body: {
      ...DEFAULT_NOTICE_SETTINGS,
      learners: { [i.learner]: DEFAULT_NOTICE_SETTINGS.all },
      muted: { items: [i.item], calendars: [i.calendar] },
    },
  }),
  tryMail: () => ({ body: {} }),
  account: () => ({}),
  endSession: (i) => ({ params: { id: i.session } }),
  endOtherSessions: () => ({ body: {} }),
  changeName: () => ({ body: { name: 'Another name' } }),
  changeEmail: () => ({ body: { email: 'new@skerrow.example', password: 'not the password' } }),
  forgotPassword: () => ({ body: { email: 'nobody@skerrow.example' } }),
  lookAtReset: () => ({ body: { token: 'none' } }),
  resetPassword: () => ({ body: { token: 'none', newPassword: 'another long password' } }),
  leaveForGood: () => ({ body: { password: 'not the password' } }),
  accountArchive: () => ({}),
  beginSecondStep: () => ({ body: { password: 'not the password' } }),
  confirmSecondStep: () => ({ body: { code: '000000' } }),
  endSecondStep: () => ({ body: { password: 'not the password' } }),
  beginPasskey: () => ({ body: { password: 'not the password' } }),
  keepPasskey: () => ({ body: { response: {}, name: 'Key' } }),
  removePasskey: (i) => ({ params: { id: i.passkey } }),
  passkeyChallenge: () => ({ body: {} }),
  passkeySignIn: () => ({ body: { response: {} } }),
  takeSecondStep: () => ({ body: { code: '000000' } }),
  crew: ofLearner,
  changeMember: (i) => ({ params: { id: i.member }, body: { access: 'keep' } }),
  removeMember: (i) => ({ params: { id: i.member } }),
  invite: (i) => ({ body: invitationTo(i.learner, 'aunt@skerrow.example') }),
  takeBackInvitation: (i) => ({ params: { id: i.invitation } }),
  lookAtInvitation: () => ({ body: { secret: 'none' } }),
  acceptInvitation: () => ({ body: { secret: 'none' } }),
  changeAudience: (i) => ({
    params: { id: i.calendar },
    body: { audience: { members: [i.member], others: 'busy' } },
  }),
  shares: ofLearner,
  addShare: (i) => ({ ...ofLearner(i), body: sharing('Out', [i.calendar]) }),
  lookAtShare: (i) => ({ ...ofLearner(i), body: { ...DEFAULT_SHARE, calendars: [i.calendar] } }),
  changeShare: (i) => ({
    params: { id: i.share },
    body: { rules: { ...DEFAULT_SHARE, calendars: [i.calendar] } },
  }),
  renewShare: (i) => ({ params: { id: i.share }, body: {} }),
  takeBackShare: (i) => ({ params: { id: i.share } }),
  calendarFile: (i) => ({ ...ofLearner(i), query: { calendars: i.calendar } }),
  archiveSchedule: ofLearner,
  lookAtArchive: (i) => ({ query: { compareWith: i.learner }, body: Buffer.from('no archive') }),
  restoreSchedule: (i) => ({ query: { inPlaceOf: i.learner }, body: Buffer.from('no archive') }),
  paper: (i) => ({
    ...ofLearner(i),
    query: { of: 'week', size: 'a4', turn: 'portrait', others: i.learner },
  }),
  table: (i) => ({ ...ofLearner(i), query: { calendars: i.calendar, of: 'items' } }),
  outlines: ofLearner,
  sendOutline: (i) => ({
    ...ofLearner(i),
    query: { name: 'plan.txt', ...AUTUMN },
    body: Buffer.from('Essay: 9 October'),
  }),
  outline: (i) => ({ params: { id: i.outline }, query: AUTUMN }),
  keepOutline: (i) => ({
    params: { id: i.outline },
    body: {
      ...{ calendarId: i.calendar, replaces: i.outline },
      rows: [{ item: i.item, title: 'Essay', date: null, minute: null, last: null, at: PLACE }],
    },
  }),
  forgetOutline: (i) => ({ params: { id: i.outline } }),
  openTimes: () => ({}),
  offerTimes: (i) => ({
    body: {
      ...{
        title: 'A talk',
        firstDay: '2026-10-08',
        lastDay: '2026-10-08',
        weekdays: [4],
        from: 930,
        to: 1020,
      },
      ...{ length: 15, pause: 0, places: 1, each: 1, namesShown: false, until: 0, learnerIds: [i.learner] },
      key: '9b0f0e0a-4c8e-4b7c-9a3b-0d6f5f0c1a2b',
    },
  }),
  endTimes: (i) => ({ params: { id: i.openTime }, body: {} }),
  openSlots: ofLearner,
  takeSlot: (i) => ({ params: { id: i.openSlot }, body: { learner: i.learner } }),
  giveBack: (i) => ({ params: { id: i.booking }, body: { to: i.openSlot } }),
  replies: (i) => ({ params: { id: i.item } }),
  askToCome: (i) => ofItem(i, { asks: true }),
  sayComing: (i) => ofItem(i, { answer: 'yes' }),
  remindToAnswer: (i) => ofItem(i, {}),
  noteThreads: (i) => ({ query: { learner: i.learner } }),
  noteThread: (i) => ({ params: { id: i.thread } }),
  itemThreads: (i) => ({ params: { id: i.item } }),
  notePeople: (i) => ({ ...ofLearner(i), query: { item: i.item } }),
  writeNote: (i) => ({
    body: {
      ...{ learnerIds: [i.learner], members: [i.member], item: i.item },
      ...{ text: 'A note', fileIds: [i.noteFile], key: '7b0f0e0a-4c8e-4b7c-9a3b-0d6f5f0c1a2b' },
    },
  }),
  answerNote: (i) => ({
    params: { id: i.thread },
    body: { text: 'An answer', fileIds: [i.noteFile], key: '8b0f0e0a-4c8e-4b7c-9a3b-0d6f5f0c1a2b' },
  }),
  changeNote: (i) => ({ params: { id: i.note }, body: { text: 'Otherwise' } }),
  markThread: (i) => ({ params: { id: i.thread }, body: { starred: true } }),
  sendNoteFile: () => ({ query: { name: 'a.png' }, body: PNG }),
  noteFileBytes: (i) => ({ params: { id: i.noteFile } }),
  learnersTable: () => ({}),
  learnersDays: (i) => ({ query: { learnerIds: i.learner, from: '2026-10-12', count: '5' } }),
  changeGroups: (i) => ({ body: { groups: [{ name: 'Tuesday', learnerIds: [i.learner] }] } }),
  publications: ofLearner,
  publish: (i) => ({ params: { id: i.calendar }, body: { learnerIds: [i.learner] } }),
  offers: ofLearner,
  answerOffer: (i) => ({ params: { id: i.offer }, body: { take: false } }),
  openItem: (i) => ({ params: { id: i.item }, body: {} }),
  ownItems: (i) => ({ params: { id: i.calendar } }),
  carryForward: (i) => ({
    params: { id: i.calendar },
    body: {
      calendar: { name: 'Spring', kind: 'home', zone: ZONE, ...FLAG },
      items: [{ from: i.item, item: ESSAY, dates: [] }],
    },
  }),
  daySheet: () => ({ query: { edition: 'evening', day: '2026-10-06' } }),
});
export const routeOf = (name: RouteName): Route => routes[name] as unknown as Route;

/** Asks by a route; `as` names somebody in a crew whose eyes are borrowed. */
export async function ask(
  { w }: World,
  agent: Agent,
  name: RouteName,
  { params = {}, query = {}, body }: Sample,
  as?: string,
) {
  const route = routeOf(name);
  const path = route.path.replace(/:(\w+)/g, (_, key: string) => encodeURIComponent(params[key] ?? ''));
  const method = route.method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete';
  if (name === 'live') return stream(agent, `${w.address}${path}`);
  const asking = agent[method](path).query(query);
  if (as !== undefined) void asking.set(SEE_AS_HEADER, as);
  if (route.raw ?? route.upload) void asking.set('content-type', 'application/octet-stream');
  return route.method === 'GET' ? asking : asking.send(body as object);
}

/** What an event stream begins with; it would never end by itself. */
async function stream(agent: Agent, url: string) {
  const jar = (agent as unknown as { jar: { getCookies(at: object): { toValueString(): string }[] } }).jar;
  const cookie = jar
    .getCookies({ domain: 'localhost', path: '/', secure: false, script: false })
    .map((c) => c.toValueString())
    .join('; ');
  const abort = new AbortController();
  const { status } = await fetch(url, { headers: { cookie }, signal: abort.signal });
  abort.abort();
  return { status, text: '' };
}
