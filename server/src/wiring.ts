import type { Log } from './log.ts';
import { withoutMail } from '@zephyrfield/core/notify/settings';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { lineToday } from '@zephyrfield/core/notify/words';
import { firstName } from '@zephyrfield/core/words/text';
import { viewerOf } from '@zephyrfield/core/words/when';
import { FILE_KIND } from './briefs/jobs.ts';
import type { FileFolder } from './briefs/folder.ts';
import { briefService } from './briefs/service.ts';
import { briefStore } from './briefs/store.ts';
import { calendarStore } from './calendars/store.ts';
import type { Clock } from './clock.ts';
import type { Config } from './config.ts';
import { orderedId } from './db/ids.ts';
import type { Db } from './db/open.ts';
import { fileService } from './gather/files.ts';
import { removalService } from './gather/removal.ts';
import { checkSchedule } from './gather/schedule.ts';
import { gatherService } from './gather/service.ts';
import { gatherStore } from './gather/store.ts';
import { changeView } from './gather/views.ts';
import { Turns } from './gather/turns.ts';
import type { DrawJob } from './first-view/draw.ts';
import { DRAW } from './first-view/jobs.ts';
import type { Metrics, Outcome } from './metrics.ts';
import { Versions } from './http/replies.ts';
import { questionService } from './gather/questions.ts';
import { understandingService } from './gather/understanding.ts';
import { liveUpdates, openStreams } from './http/live.ts';
import { ownService } from './items/own-service.ts';
import { ownStore } from './items/own-store.ts';
import { occurrenceView } from './items/views.ts';
import { itemStore } from './items/store.ts';
import { accountService } from './people/account-service.ts';
import { signUpService } from './people/sign-up.ts';
import { accountStore } from './people/account-store.ts';
import { symmetricDecrypt } from 'better-auth/crypto';
import { ownAccount } from './people/own-account.ts';
import { passkeys } from './people/passkeys.ts';
import { secondStep } from './people/second-step.ts';
import { attempts } from './people/attempts.ts';
import { makeAuth } from './people/auth.ts';
import { newSetUpWord } from './people/set-up-word.ts';
import { spreading } from './publish/spread.ts';
import { localPart } from './notes/inbox.ts';
import { publishStore } from './publish/store.ts';
import { hearingIn } from './people/hearing.ts';
import { sightsIn } from './people/sights.ts';
import { peopleStore } from './people/store.ts';
import type { Secrets } from './secrets.ts';
import type { SecurityLog } from './security-log.ts';
import { sheetMaker } from './notify/sheets.ts';
import { collector, type Recipient } from './notify/collect.ts';
import { composeNote, composeSheet, composeNotices, type Names } from './notify/compose.ts';
import {
  composeAttacked,
  composeChanged,
  composeBeginning,
  composeConfirmation,
  composeKnown,
  composeInvitation,
  composeLeaving,
  composeMove,
  composeMoved,
  composeReset,
} from './people/mails.ts';
import { makeDesk, type Told } from './desk.ts';
import { crewService } from './crew/service.ts';
import { crewStore } from './crew/store.ts';
import { notifyEngine } from './notify/engine.ts';
import type { Mail } from './mail/frame.ts';
import type { Transport } from './mail/transport.ts';
import { postOffice } from './notify/post.ts';
import { notifyService } from './notify/service.ts';
import { notifyStore } from './notify/store.ts';
import { plannedFor } from './plan/sheet.ts';
import { scheduleArchives } from './backup/schedules.ts';
import { puttingBack } from './backup/put-back.ts';
import { restoreStore } from './backup/store.ts';
import { outlineService } from './outline/service.ts';
import { outlineStore } from './outline/store.ts';
import { shareService } from './out/service.ts';
import { shareStore } from './out/store.ts';
import { planStore } from './plan/store.ts';
import { sittingsAhead } from './plan/sittings.ts';
import { setBack } from './db/set-back.ts';
import type { ReplicaState } from './backup/replica-state.ts';
import { UsedUp, type Pool } from './work/pool.ts';

export interface Storage {
  /** Whether it is where it was opened */
  isThere(): boolean;
  /** Whether all of it was sound when it was last looked through */
  readonly isSound: boolean;
  /** Tells whether something can be written just now */
  canWrite(): boolean;
}

export interface Deps {
  config: Config;
  db: Db;
  clock: Clock;
  /** The time sessions are counted in: never the demo's */
  wallClock: Clock;
  secrets: Secrets;
  pool: Pool;
  security: SecurityLog;
  /** Where files of briefs lie */
  folder: FileFolder;
  /** Hands mail to a mail server; null where none is set up */
  mail: Transport | null;
  /** What an operator watches */
  metrics: Metrics;
  /** When it was brought back from a backup, an instant in milliseconds; 0 where it never was */
  restoredAt: number;
  /** How the database stands */
  storage: Storage;
  /** Replication of the database; null where there is none */
  replica: ReplicaState | null;
  /** Where people reach this server */
  address(): string;
  log: Log;
  /** Whether it is the demo, where the first account needs no set-up word */
  isDemo: boolean;
}

/** Puts the services of the server together. Opens nothing and listens to nothing. */
export function makeServices(deps: Deps) {
  const { config, db, clock, wallClock, secrets, pool, folder, mail, metrics, address, log, isDemo } = deps;
  const people = peopleStore(db);
  const calendars = calendarStore(db);
  const gathered = gatherStore(db);
  const sights = sightsIn(db);
  const mayHear = hearingIn(db, sights);
  const items = itemStore(db, sights);
  const briefRows = briefStore(db);
  const plans = planStore(db);
  const deliveries = notifyStore(db);
  const auth = makeAuth(db, { secret: secrets.sessionSecret, publicUrl: config.PUBLIC_URL });
  const live = liveUpdates();
  const streams = openStreams();
  const limits = attempts();
  // Whatever changes a schedule may make something due; who looks at it is told at once.
  const versions = new Versions();
  const changed = (learnerId: string) => {
    versions.changed(learnerId);
    live.tell(learnerId);
    engine.wake(learnerId);
    spread.wake(learnerId);
  };
  const base = () => config.PUBLIC_URL ?? address();

  const fetch = {
    allowedHosts: config.ALLOW_HOSTS,
    // A link that goes out of here may be followed here.
    isOwn: (url: URL) => url.host === new URL(base()).host && url.pathname.startsWith('/out/'),
    timeoutMs: config.FETCH_SECONDS * 1000,
    maxBytes: config.FETCH_MEGABYTES * 2 ** 20,
  };
  const common = {
    store: gathered,
    calendars,
    pool,
    secrets,
    clock,
    changed,
    checked: live.tellChecked,
    turns: new Turns(),
    sights,
  };
  const gather = gatherService({ ...common, chance: Math.random, fetch });
  const files = fileService({ ...common, gather });
  const understanding = understandingService(common);
  const questions = questionService({ store: gathered, calendars, sights, clock, changed });
  const published = publishStore(db);
  const removal = removalService({
    ...common,
    left(calendarId, learnerId) {
      const offered = published.offersOf(calendarId).find((o) => o.learnerId === learnerId);
      if (offered) published.setOffer(offered.id, 'declined');
    },
  });
  const ownRows = ownStore(db);
  const own = ownService({ store: ownRows, calendars, briefs: briefRows, pool, clock, changed, log });
  const kindOf = (personId: string, bytes: Uint8Array, name: string) =>
    pool.run(FILE_KIND, { bytes, name }, personId).catch((error: unknown) => {
      if (error instanceof UsedUp) return { ok: false as const, why: 'unknown' as const, says: '', is: '' };
      throw error;
    });
  const briefs = briefService({ store: briefRows, folder, clock, kindOf, changed });

  const spread = spreading({
    store: published,
    gathered,
    calendars,
    briefs: briefRows,
    pool,
    turns: common.turns,
    clock,
    file: db.$client.name,
    changed,
    log,
  });

  const sittingsOf = (learnerId: string) => sittingsAhead(plans, learnerId);
  const collecting = collector(deliveries, items, sittingsOf, mayHear, published.authoredIn, deps.restoredAt);
  const recipient = (personId: string): Recipient | null => {
    const [first] = people.learnersOf(personId);
    if (!first) return null;
    const settings = people.settings(personId);
    const wanted = deliveries.noticeSettings(personId);
    // Nothing goes to an address that nobody has confirmed.
    const noticeSettings = mail && people.person(personId)?.confirmed ? wanted : withoutMail(wanted);
    return {
      personId,
      noticeSettings,
      viewer: viewerOf(ianaZone(settings.zone ?? first.zone) ?? UTC, settings),
    };
  };
  const daySheets = sheetMaker({
    store: deliveries,
    restoredAt: deps.restoredAt,
    learnersOf: people.learnersOf,
    occurrences: (learnerId, personId, from, to) =>
      items.between(learnerId, personId, from, to).map((row) => occurrenceView(row)),
    changes: (learnerId, personId) => {
      const kept = sights(personId, learnerId);
      return gathered
        .changesOf(learnerId)
        .filter((row) => !kept.has(row.calendarId))
        .map((row) => changeView(row, 0));
    },
    plan: (learnerId, personId, at) =>
      plannedFor({ plans, items, sights, settingsOf: people.settings }, learnerId, personId, at),
  });
  /** Tells some people, by the ways each has chosen, of something that others have done just now. */
  const tell = (personIds: Iterable<string>, learnerId: string, told: Told): void => {
    const now = clock.now();
    const heard = [...new Set(personIds)].filter((personId) => {
      if (!mayHear(personId, { learnerId, ...told })) return false;
      const who = recipient(personId);
      const notification = { ...NEWS, ...told, at: now, useBy: now + NEWS_USE };
      const rows = who ? collecting.rowsOf(learnerId, who, [notification], now) : [];
      return deliveries.transaction(() => rows.filter((row) => deliveries.add(row)).length > 0);
    });
    for (const personId of heard) live.tellPerson(personId);
    if (heard.length) void engine.run();
  };
  const notify = notifyService({
    store: deliveries,
    items,
    collector: collecting,
    sittingsOf,
    sheets: daySheets,
    clock,
    recipient,
    addressOf: people.person,
    mailReady: mail !== null,
    attempts: limits,
    wake: () => void engine.run(),
    noticesChanged: live.tellPerson,
    mayHear,
    noteGone: (noteId, personId) => notes.stillTrue(noteId, personId),
    notesUnread: (personId) => [...notes.unreadBy(personId).values()].reduce((sum, n) => sum + n, 0),
  });
  /** The address by which somebody answers in a thread from their mail; null where no mail is taken in. */
  const replyTo = (threadId: string, personId: string): string | null => {
    if (config.INBOX_PORT === undefined) return null;
    const token = secrets.digest(`note by mail ${threadId} ${personId}`).slice(0, 40);
    notes.setMail(threadId, personId, token);
    return `${localPart(token)}@${config.INBOX_DOMAIN}`;
  };
  const stopToken = (personId: string) => `${personId}.${secrets.digest(`mail stop ${personId}`)}`;
  const host = new URL(config.PUBLIC_URL ?? 'http://zephyrfield.invalid').hostname;
  const post = postOffice({
    store: deliveries,
    transport: mail,
    clock,
    chance: Math.random,
    addressOf: (personId) => {
      const person = people.person(personId);
      return person?.confirmed ? person.email : null;
    },
    write(rows, personId) {
      const learners = people.learnersOf(personId);
      const names: Names = {
        learner: (id) =>
          learners.length > 1 ? firstName(learners.find((l) => l.id === id)?.name ?? '') || null : null,
        line: (row) =>
          row.kind === 'dueSoon'
            ? lineToday(row.line, row.anchor, clock.now(), recipient(personId)!.viewer)
            : row.line,
        calendar: (learnerId, id) => deliveries.calendarsOf(learnerId).find((c) => c.id === id)?.name ?? '',
      };
      const [only] = rows;
      const noted = only?.cause === 'note' ? notes.asMail(Number(only.causeId), personId) : null;
      if (noted) return composeNote(noted, base(), replyTo(noted.threadId, personId));
      const latest = rows.findLast((r) => r.sheet);
      if (!latest?.sheet) return composeNotices(rows, names, base());
      const { edition, day } = latest.sheet;
      const others = rows.filter((r) => !r.sheet);
      return composeSheet(notify.sheet(personId, edition, day), others, names, base());
    },
    unsubscribe: (personId) => `${base()}/api/mail/stop/${stopToken(personId)}`,
    newId: orderedId,
    host,
    log,
  });
  const engine = notifyEngine({
    store: deliveries,
    collector: collecting,
    sheets: daySheets,
    clock,
    recipient,
    stillTrue: notify.stillTrue,
    returned: notify.returned,
    post,
    noticesChanged: live.tellPerson,
    mailReady: mail !== null,
    log,
  });

  const setUpWord = isDemo || people.count() > 0 ? null : newSetUpWord();
  const crews = crewStore(db);
  const sendOne =
    mail &&
    (async (to: string, composed: Mail) =>
      void (await mail({
        ...composed,
        to,
        messageId: `<${orderedId(clock.now())}@${host}>`,
        unsubscribe: null,
      })));
  // Open pages of theirs are told, and what they are told of is worked out anew.
  const accessChanged = (personId: string) => {
    live.tellAccess(personId);
    deliveries.wakePerson(personId);
  };
  const crew = crewService({
    store: crews,
    people,
    attempts: limits,
    clock,
    sendInvitation: sendOne && ((to, secret, about) => sendOne(to, composeInvitation(secret, about, base()))),
    changed,
    accessChanged,
    tell: (personIds, learnerId, { id, ...told }) =>
      tell(personIds, learnerId, { cause: 'crew', causeId: id, leads: '/crew', ...told }),
  });
  const { notes, openTimes, replies, publish, openings, table } = makeDesk({
    ...{ db, clock, people, calendars, gathered, gather, items, own, ownRows, briefs: briefRows, plans },
    ...{ crews, sights, published, removal, spread, folder, attempts: limits, kindOf, tell, changed },
    versionOf: versions.of,
    refreshed: live.tellPerson,
  });
  const outlines = outlineService({ store: outlineStore(db), calendars, sights, pool, clock, changed });
  const shares = shareService({
    store: shareStore(db),
    people,
    pool,
    clock,
    file: db.$client.name,
    web: config.WEB,
    base,
    versionOf: versions.of,
    sights,
    note: crew.note,
    changed,
  });
  const restored = restoreStore(db);
  const archives = scheduleArchives({
    pool,
    people,
    store: restored,
    sights,
    clock,
    openedFor: gather.openedFor,
    putBack: puttingBack({ calendars, gather, own, items, briefs, plans, store: restored, clock }),
    file: db.$client.name,
    folder: folder.path,
    changed,
    accessChanged,
  });
  const addressChanged = (personId: string) => {
    deliveries.wakePerson(personId);
    live.tellPerson(personId);
    void engine.run();
  };
  const accountRows = accountStore(db);
  const account = ownAccount({
    store: accountRows,
    people,
    attempts: limits,
    clock,
    mails: sendOne && {
      reset: (to, token) => sendOne(to, composeReset(token, base())),
      move: (to, token) => sendOne(to, composeMove(token, base())),
      moved: (to) => sendOne(to, composeMoved(base())),
      leaving: (to, at) => sendOne(to, composeLeaving(at, base())),
      attacked: (to) => sendOne(to, composeAttacked(base())),
      changed: (to, change) => sendOne(to, composeChanged(change, base())),
    },
    endStreams: streams.end,
    addressChanged,
    changed,
    log,
  });
  const accountDigest = (text: string) => secrets.digest(`account ${text}`).slice(0, 16);
  const accounts = accountService({
    auth,
    people,
    attempts: limits,
    clock,
    digest: accountDigest,
    sendLink: sendOne && ((to, token) => sendOne(to, composeConfirmation(token, base()))),
    endStreams: streams.end,
    confirmed: addressChanged,
    attacked: account.attacked,
    move: account.move,
    came: account.came,
    tellOfChange: account.tellOfChange,
    log,
  });
  const signingUp = signUpService({
    auth,
    people,
    attempts: limits,
    clock,
    openSignUp: config.OPEN_SIGN_UP,
    setUpWord,
    asksForWord: !isDemo,
    digest: accountDigest,
    mails: sendOne && {
      begin: (to, token) => sendOne(to, composeBeginning(token, base())),
      known: (to) => sendOne(to, composeKnown(base())),
    },
    sendLink: accounts.sendFirstConfirmation,
    takeInvitation: crew.use,
    log,
  });
  const schedule = checkSchedule({
    due: (limit, busy) => gathered.dueForCheck(clock.now(), limit, busy),
    check: async (id) => {
      const began = performance.now();
      const done = (outcome: Outcome) => metrics.checked(outcome, (performance.now() - began) / 1_000);
      const { source, unchanged } = await gather.readSource(id).catch((error: unknown) => {
        done('fault');
        throw error;
      });
      done(source.trouble?.code ?? (unchanged ? 'nothing new' : 'changed'));
      return { isBusy: source.trouble !== null && BUSY.has(source.trouble.code) };
    },
    now: () => performance.now(),
    log,
  });

  return {
    /** After the clock was set back: what was planned under a wrong time is planned anew */
    setBack(now: number): void {
      setBack(db, now, Math.random);
      void engine.run();
    },
    sights,
    crew,
    crews,
    published,
    publish,
    notes,
    openTimes,
    replies,
    spread,
    table,
    outlines,
    openings,
    tell,
    shares,
    archives,
    auth,
    people,
    limits,
    accounts,
    signingUp,
    ownAccount: account,
    passkeys: passkeys({
      auth,
      requirePassword: account.requirePassword,
      came: account.came,
      tellOfChange: account.tellOfChange,
    }),
    secondStep: secondStep({
      auth,
      attempts: limits,
      requirePassword: account.requirePassword,
      came: account.came,
      tellOfChange: account.tellOfChange,
      secretOf: async (personId) => {
        const data = accountRows.sealedSecret(personId);
        if (data === undefined) return null;
        return Buffer.from(await symmetricDecrypt({ key: secrets.sessionSecret, data }));
      },
      takeStep: accountRows.takeStep,
      endByToken: accountRows.endByToken,
      now: wallClock.now,
    }),
    setUpWord,
    calendars,
    gathered,
    gather,
    files,
    understanding,
    questions,
    removal,
    items,
    own,
    briefs,
    plans,
    deliveries,
    notify,
    engine,
    post,
    schedule,
    live,
    streams,
    changed,
    versions,
    draw: (job: DrawJob, owner: string) => pool.run(DRAW, job, owner),
    /** Whose mail a token stops; null where it is none of ours */
    personOfStop: (token: string) =>
      stopToken(token.split('.')[0]!) === token ? token.split('.')[0]! : null,
  };
}
/** What says that a server needs rest. */
const BUSY: ReadonlySet<string> = new Set(['busy', 'serverFault', 'timeout', 'unreachable']);

const NEWS = { kind: 'fromCrew', itemId: null, recurrenceId: '', calendarId: null, anchor: null } as const;
/** How long news of others is of use, in milliseconds. */
const NEWS_USE = 14 * 86_400_000;

export type Services = ReturnType<typeof makeServices>;
