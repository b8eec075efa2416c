import { SEE_AS_HEADER } from '@zephyrfield/core/api/paths';
import { claimPlaces, walkCheck } from '@zephyrfield/core/api/claims';
import type { Route } from '@zephyrfield/core/api/route';
import { routes, type Routes } from '@zephyrfield/core/api/routes';
import { Id, type ItemView, type OccurrenceView, type OwnWritten } from '@zephyrfield/core/api/schemas';
import { LAYER_ACCESS, suffices, type Access, type LayerField } from '@zephyrfield/core/item/access';
import { DEFAULT_NOTICE_SETTINGS } from '@zephyrfield/core/notify/settings';
import { DEFAULT_SHARE } from '@zephyrfield/core/out/share';
import { DEFAULT_PLAN } from '@zephyrfield/core/plan/evenings';
import type { AccountView } from '@zephyrfield/core/api/account-view';
import type { CrewView } from '@zephyrfield/core/api/crew';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';
import { randomUUID } from 'node:crypto';
import type { ThreadView } from '@zephyrfield/core/api/notes';
import Database from 'better-sqlite3';
import type { Router } from 'express';
import { join } from 'node:path';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import type { AddressInfo } from 'node:net';
import { FLAG, FeedServer, Installation, PASSWORD, event, type Agent, ESSAY, PNG, RUN_UP } from './harness';

// Every route × every id in its path, query and body × every caller. Two families live in one installation;
// whoever belongs to the first asks for what is the second's, and afterwards all rows of the second are what
// they were.

const ZONE = 'Europe/Dublin';
const BRIEF = {
  aim: 'See the tide turn',
  steps: '',
  time: '',
  help: '',
  adjustments: '',
  good: '',
  ask: '',
  questions: '',
};
/** A word that stands in everything of the second family, and in nothing else. */
const THEIRS = 'Saltmarsh';
/** The same for the family that keeps its calendars from somebody. */
const HIDDEN = 'Cormorant';

const postbox = createPostbox();
let w: Installation;
let feed: FeedServer;

/** One thing of each kind that a family has, by the kind of its id. */
interface Family {
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

const ok = async (asking: ReturnType<Agent['get']>) => (await asking.expect(200)).body as never;

const invitationTo = (learner: string, email: string) => ({
  learnerIds: [learner],
  way: 'mail',
  email,
  access: 'look',
  days: 7,
  uses: 1,
});

async function family(name: string, word: string): Promise<Family> {
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
const sharing = (name: string, calendars: string[]) => ({
  name,
  rules: { ...DEFAULT_SHARE, calendars },
  page: false,
  until: null,
});

type Ids = Family['ids'];
/** A request that is right for a family, with an id in each place that may have one. */
interface Sample {
  params?: Record<string, string>;
  query?: Record<string, string>;
  body?: object | Buffer;
}
const calendarOf = { zone: ZONE, name: 'New', kind: 'course', ...FLAG };
const ofLearner = (i: Ids) => ({ params: { learnerId: i.learner } });
const ofItem = (i: Ids, body: object): Sample => ({ params: { id: i.item }, body });

const AUTUMN = { from: '2026-08-31', to: '2026-12-18' };
const PLACE = { block: 0, row: 0, cell: 0, from: 0, to: 5 };

/** A row for each route: a new one without its row fails below. */
const SAMPLES: Record<Exclude<keyof Routes, `demo${string}`>, (i: Ids) => Sample> = {
  session: () => ({}),
  signUp: () => ({ body: { name: 'X', email: 'x@skerrow.example', password: PASSWORD } }),
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
  daySheet: () => ({ query: { section: 'evening', day: '2026-10-06' } }),
};
const NAMES = Object.keys(SAMPLES) as (keyof typeof SAMPLES)[];
const routeOf = (name: keyof typeof SAMPLES): Route => routes[name] as unknown as Route;

const letsIdsIn = (name: keyof typeof SAMPLES) =>
  (['params', 'query', 'body'] as const).some((part) => claimPlaces(routeOf(name)[part]).length > 0);

async function ask(agent: Agent, name: keyof typeof SAMPLES, { params = {}, query = {}, body }: Sample) {
  const route = routeOf(name);
  const path = route.path.replace(/:(\w+)/g, (_, key: string) => encodeURIComponent(params[key] ?? ''));
  const method = route.method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete';
  if (name === 'live') return stream(agent, `${w.address}${path}`);
  const asking = agent[method](path).query(query);
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

/** Every place of a sample that holds an id, with the same sample where that one is another family's. */
function* swapped(
  name: keyof typeof SAMPLES,
  mine: Ids,
  theirs: Ids,
): Generator<{ place: string; lenient: boolean; sample: Sample }> {
  const other = new Map(
    Object.keys(mine).map((kind) => [mine[kind as keyof Ids], theirs[kind as keyof Ids]]),
  );
  const route = routeOf(name);
  for (const part of ['params', 'query', 'body'] as const) {
    for (const { path, lenient } of claimPlaces(route[part])) {
      const sample = SAMPLES[name](mine);
      yield {
        place: `${part}.${path}`,
        lenient,
        sample: { ...sample, [part]: swap(sample[part], path.split('.'), other, `${name} ${part}.${path}`) },
      };
    }
  }
}

/**
 * A value with the id at a place exchanged. @throws where the sample has none there: such a place would go
 * untested
 */
function swap(
  value: unknown,
  path: readonly string[],
  other: ReadonlyMap<string, string>,
  place: string,
): unknown {
  const [first, ...rest] = path;
  if (first === undefined) {
    if (typeof value === 'object' && value !== null)
      return Object.fromEntries(Object.entries(value).map(([id, v]) => [known(other, id, place), v]));
    const id = known(other, String(value), place);
    return typeof value === 'number' ? Number(id) : id;
  }
  if (first === '*' && typeof value === 'string')
    return value
      .split(',')
      .map((each) => swap(each, rest, other, place))
      .join(',');
  if (first === '*') return (value as unknown[]).map((each) => swap(each, rest, other, place));
  const object = value as Record<string, unknown>;
  if (object?.[first] === undefined) throw new Error(`${place}: the sample names nothing there`);
  return { ...object, [first]: swap(object[first], rest, other, place) };
}
function known(other: ReadonlyMap<string, string>, id: string, place: string): string {
  const found = other.get(id);
  if (!found) throw new Error(`${place}: ${id} is nothing of the family's`);
  return found;
}

/** All rows that have to do with somebody: those that name one of their ids, and what hangs on these. */
function rowsOf(start: readonly string[]): Record<string, unknown[]> {
  const db = new Database(join(w.data, 'zephyrfield.sqlite'), { readonly: true });
  try {
    const tables = (
      db
        .prepare(
          `SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND name NOT LIKE '\\_\\_%' ESCAPE '\\'`,
        )
        .pluck()
        .all() as string[]
    ).filter((t) => !IGNORED.has(t));
    const ids = new Set(start);
    const found: Record<string, unknown[]> = {};
    for (let before = -1; before !== ids.size;) {
      before = ids.size;
      for (const table of tables) {
        const rows = db.prepare(`SELECT * FROM "${table}"`).all() as Record<string, unknown>[];
        const theirs = rows.filter((row) =>
          Object.values(row).some((value) => typeof value === 'string' && ids.has(value)),
        );
        for (const { id } of theirs) if (typeof id === 'string') ids.add(id);
        found[table] = theirs;
      }
    }
    return found;
  } finally {
    db.close();
  }
}
/** Sessions and the clocks of what is told go on by themselves. */
const IGNORED = new Set(['session', 'notify_clock', 'sheet_clock', 'confirmation']);

let mine: Family;
let theirs: Family;
/** One whose calendars are kept from somebody who may edit their schedule. */
let hidden: Family;
const callers: Record<string, { agent: Agent; access: Access | null }> = {};

beforeAll(async () => {
  const listening = postbox.smtp.listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  feed = await FeedServer.start();
  const smtp = `smtp://127.0.0.1:${(listening.address() as AddressInfo).port}`;
  w = await Installation.start(feed.host, { ZEPHYRFIELD_OPEN_SIGN_UP: '1', ZEPHYRFIELD_SMTP_URL: smtp });
  w.services.people.addLearner({ id: 'desk', name: 'Desk', zone: ZONE, createdAt: w.now });
  w.services.calendars.add({
    ...{ id: 'desk-calendar', learnerId: 'desk', name: 'Study Hour', kind: 'group', category: '' },
    ...{ ...FLAG, zone: ZONE, position: 1, createdAt: w.now },
  });
  mine = await family('Juno', 'Pinnace');
  theirs = await family('Wren', THEIRS);
  const { people } = w.services;
  const member = async (name: string, access: Access | null) => {
    const agent = await w.account(name, `${name}@skerrow.example`);
    const { id } = people.byEmail(`${name}@skerrow.example`)!;
    if (access) people.join({ personId: id, learnerId: mine.ids.learner, access });
    callers[name] = { agent, access };
    return id;
  };
  callers['nobody'] = { agent: w.caller(), access: null };
  await member('stranger', null);
  const former = await member('former', 'edit');
  // Somebody who was in both crews, and is in none of them now.
  people.join({ personId: former, learnerId: theirs.ids.learner, access: 'edit' });
  for (const learnerId of [mine.ids.learner, theirs.ids.learner])
    w.services.crews.remove(w.services.crews.memberOf(former, learnerId)!.id, former, learnerId);
  callers['former']!.access = null;
  await member('look', 'look');
  await member('tick', 'tick');
  await member('edit', 'edit');
  callers['keep'] = { agent: mine.agent, access: 'keep' };
  hidden = await family('Sable', HIDDEN);
  callers['keptFrom'] = { agent: await w.account('keptFrom', 'kept@skerrow.example'), access: 'edit' };
  const keptFrom = people.byEmail('kept@skerrow.example')!.id;
  people.join({ personId: keptFrom, learnerId: hidden.ids.learner, access: 'edit' });
  for (const { id } of w.services.calendars.ofLearner(hidden.ids.learner))
    await hidden.agent
      .put(`/api/calendars/${id}/audience`)
      .send({ audience: { members: [], others: 'busy' } })
      .expect(200);
}, 120_000);
afterAll(async () => {
  await w.stop();
  await feed.stop();
  await new Promise<void>((done) => postbox.smtp.close(() => done()));
});

/** The same for people who are still in a crew, but not for who may only look at another family. */
const CALLERS = ['nobody', 'stranger', 'former', 'look', 'tick', 'edit', 'keep', 'keptFrom'] as const;
const told = (reply: { status: number; text: string }) =>
  `${reply.status} ${(reply.text ?? '').slice(0, 200)}`;

describe('another family’s things', () => {
  test.each(CALLERS)(
    '%s reaches none of them, by any id of any route, and changes none of their rows',
    async (who) => {
      const { agent } = callers[who]!;
      const before = rowsOf([theirs.personId, theirs.ids.learner]);
      expect(before['item']!.length).toBeGreaterThanOrEqual(4);
      const own = who === 'keptFrom' ? hidden.ids : mine.ids;
      for (const name of NAMES.filter(letsIdsIn)) {
        for (const { place, lenient, sample } of swapped(name, own, theirs.ids)) {
          const reply = await ask(agent, name, sample);
          const said = `${name} ${place}: ${told(reply)}`;
          // What a lenient place names is left out; everything else is not there for them.
          if (who === 'nobody') expect({ said, status: reply.status }).toEqual({ said, status: 401 });
          else if (lenient) expect({ said, isFine: reply.status < 500 }).toEqual({ said, isFine: true });
          else expect({ said, status: reply.status }).toEqual({ said, status: 404 });
          expect(reply.text).not.toContain(THEIRS);
          for (const id of Object.values(theirs.ids).filter((each) => each.length > 8))
            expect(reply.text).not.toContain(id);
        }
        // All ids of a request at once, with nothing of one's own in it.
        const reply = await ask(agent, name, SAMPLES[name](theirs.ids));
        expect(`${name}: ${reply.text}`).not.toContain(THEIRS);
      }
      expect(rowsOf([theirs.personId, theirs.ids.learner])).toEqual(before);
    },
  );
});

describe('a calendar kept from somebody who may edit the schedule', () => {
  /** Ids that name something in a calendar. */
  const IN_CALENDARS = new Set<string>([
    'calendar',
    'source',
    'item',
    'briefFile',
    'briefText',
    'thread',
    'note',
  ]);

  test('nothing in it is there for them, by any route, and no answer has a word or an id of it', async () => {
    const { agent } = callers['keptFrom']!;
    const { learner, member, invitation, waitingFile, offer, openSlot, booking, ...ids } = hidden.ids;
    const before = rowsOf([hidden.ids.item, hidden.ids.gathered, hidden.ids.source]);
    feed.calendar(event('o-1', 'Another log', 'DTSTART;VALUE=DATE:20261012'));
    for (const name of NAMES) {
      const route = routeOf(name);
      // A file that waits is in no calendar yet, nor is what is offered.
      if (route.open || name === 'takeFile') continue;
      const places = (['params', 'query', 'body'] as const).flatMap((part) => claimPlaces(route[part]));
      const isOfIt = places.some(({ kind, lenient }) => IN_CALENDARS.has(kind) && !lenient);
      const reply = await ask(agent, name, SAMPLES[name](hidden.ids));
      const said = `${name}: ${told(reply)}`;
      if (isOfIt) expect({ said, status: reply.status }).toEqual({ said, status: 404 });
      expect(said).not.toContain(HIDDEN);
      expect(reply.text).not.toContain(HIDDEN);
      for (const id of Object.values(ids).filter((each) => each.length > 8))
        expect(`${name}: ${reply.text}`).not.toContain(id);
    }
    expect(rowsOf([hidden.ids.item, hidden.ids.gathered, hidden.ids.source])).toEqual(before);
    expect([learner, member, invitation, waitingFile, offer, openSlot, booking].every(Boolean)).toBe(true);
  });
});

describe('what each may do in a schedule they are let into', () => {
  const needed = (route: Route, sample: Sample): Access | null =>
    typeof route.access === 'function'
      ? (route.access as (body: unknown) => Access)(sample.body)
      : (route.access ?? null);

  test.each(['look', 'tick', 'edit'] as const)(
    'who may only %s is refused what asks for more, and nothing changes by it',
    async (who) => {
      const { agent, access } = callers[who]!;
      const before = rowsOf([mine.ids.learner]);
      for (const name of NAMES) {
        const sample = SAMPLES[name](mine.ids);
        // Removing somebody else is for who keeps the schedule, leaving it for anybody.
        const wanted = name === 'removeMember' ? 'keep' : needed(routeOf(name), sample);
        if (!wanted || suffices(access!, wanted)) continue;
        const reply = await ask(agent, name, sample);
        expect({ said: `${name}: ${told(reply)}`, status: reply.status }).toMatchObject({ status: 403 });
      }
      const own = (rows: Record<string, unknown[]>) =>
        Object.fromEntries(Object.entries(rows).filter(([table]) => table !== 'crew'));
      expect(own(rowsOf([mine.ids.learner]))).toEqual(own(before));
    },
  );

  /** A value for each part of the own layer, to be changed to. */
  const CHANGES: Record<LayerField, unknown> = {
    finished: true,
    stillToDo: true,
    handedIn: { way: 'online', note: 'sent' },
    spent: 20,
    timer: true,
    aim: { kind: 'date', date: '2026-10-07' },
    estimate: 30,
    position: 3,
    reminders: [],
  };
  test('of the own layer, who may tick off says what was done, and no more', async () => {
    const { item, learner } = mine.ids;
    const stands = async () => (await ok(mine.agent.get(`/api/items/${item}`))) as ItemView;
    for (const [field, value] of Object.entries(CHANGES)) {
      const wanted = LAYER_ACCESS[field as LayerField];
      for (const who of ['look', 'tick', 'edit'] as const) {
        const { occurrence } = await stands();
        const reply = await callers[who]!.agent.patch(`/api/items/${item}/layer`).send({
          version: occurrence.version,
          [field]: value,
        });
        expect({ field, who, status: reply.status }).toEqual({
          field,
          who,
          status: suffices(who, wanted) ? 200 : 403,
        });
      }
    }
    // What asks for both asks for the more.
    const { occurrence } = await stands();
    await callers['tick']!.agent.patch(`/api/items/${item}/layer`)
      .send({ version: occurrence.version, finished: false, estimate: 45 })
      .expect(403);
    expect((await stands()).occurrence.finished).toBe(true);
    expect(learner).toBeTruthy();
  });

  test('what one hides, colours and notes for oneself, nobody else sees, nor has it to be allowed', async () => {
    const { item } = mine.ids;
    const seenBy = async (who: string) =>
      (await ok(callers[who]!.agent.get(`/api/items/${item}`))) as ItemView;
    const before = await seenBy('edit');
    const change = { hidden: true, colour: 'rose', note: 'For me alone' };
    const { personVersion: version } = (await seenBy('look')).occurrence;
    const send = () =>
      callers['look']!.agent.patch(`/api/items/${item}/person-layer`).send({ version, ...change });
    await send().expect(200);
    // Another window of the same person that had not heard of it is told so.
    await send().expect(409);
    const [theirs, mineStill] = [await seenBy('look'), await seenBy('edit')];
    expect(theirs.note).toBe('For me alone');
    expect(theirs.occurrence).toMatchObject({ hidden: true, colour: 'rose' });
    expect(mineStill).toEqual(before);
  });
});

describe('with somebody else’s eyes', () => {
  test('every asking has an answer, none of what is a person’s own is another’s, and nothing can be changed', async () => {
    const { agent } = callers['keep']!;
    const { members } = (await ok(agent.get(`/api/learners/${mine.ids.learner}/crew`))) as CrewView;
    const look = members.find((m) => m.access === 'look')!;
    for (const name of NAMES.filter((n) => n !== 'live')) {
      const route = routeOf(name);
      const { params = {}, query = {}, body } = SAMPLES[name](mine.ids);
      const path = route.path.replace(/:(\w+)/g, (_, key: string) => encodeURIComponent(params[key] ?? ''));
      const method = route.method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete';
      const asking = agent[method](path).query(query).set(SEE_AS_HEADER, look.id);
      if (route.raw) void asking.set('content-type', 'application/octet-stream');
      const reply = route.method === 'GET' ? await asking : await asking.send(body as object);
      const said = `${name}: ${told(reply)}`;
      if (route.method === 'GET')
        expect({ said, isFine: reply.status < 500 }).toEqual({ said, isFine: true });
      else expect({ said, status: reply.status }).toEqual({ said, status: 403 });
    }
    // What is one's own is one's own, whoever is looked through.
    const account = (await ok(agent.get('/api/account').set(SEE_AS_HEADER, look.id))) as AccountView;
    expect(account.name).toBe('Juno');
  });
});

describe('the contract', () => {
  test('every route of the server is in it, but for those that are nobody’s', () => {
    const mounted = new Set<string>();
    const visit = (router: Router) => {
      for (const layer of router.stack) {
        const { route, handle } = layer as unknown as {
          route?: { path: string | string[]; methods: Record<string, boolean> };
          handle: Router;
        };
        if (route)
          for (const path of [route.path].flat())
            for (const method of Object.keys(route.methods)) mounted.add(`${method.toUpperCase()} ${path}`);
        else if (handle?.stack) visit(handle);
      }
    };
    visit(w.app.router);
    const lines = NAMES.map((name) => `${routeOf(name).method} ${routeOf(name).path}`);
    const nobodys = [
      'GET /api/mail/stop/:token',
      'POST /api/mail/stop/:token',
      'GET /out/:secret.ics',
      'GET /open/:secret',
      'GET /api/openapi.json',
      'GET /api/health',
      'GET /healthz',
      'GET /readyz',
    ];
    expect([...mounted].sort()).toEqual([...lines, ...nobodys].sort());
  });

  test('whatever is called an id is a claim, so that no handler is given one that is not admitted', () => {
    const bare: string[] = [];
    for (const name of NAMES) {
      const route = routeOf(name);
      for (const part of ['params', 'query', 'body'] as const) {
        const claims = new Set(claimPlaces(route[part]).map((p) => p.path));
        walkCheck(route[part], (type, path) => {
          // By its name, or by being checked as the ids of replies are. RFC 5545's RECURRENCE-ID is a date
          // within an item.
          const isId = type === Id || /(^|\.)(id|ids|(?!recurrence)\w+Ids?)(\.\*)?$/.test(path);
          if (isId && ![...claims].some((c) => c === path || c.startsWith(`${path}.`)))
            bare.push(`${name} ${part}.${path}`);
          return claims.has(path);
        });
      }
    }
    expect(bare).toEqual([]);
  });
});
