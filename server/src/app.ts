import { openApi } from '@zephyrfield/core/api/openapi';
import { DAY } from '@zephyrfield/core/time/civil';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { withoutMail } from '@zephyrfield/core/remind/telling';
import type { Viewer } from '@zephyrfield/core/view/words';
import { toNodeHandler } from 'better-auth/node';
import compression from 'compression';
import express, { Router, type Express } from 'express';
import { rateLimit } from 'express-rate-limit';
import type { FileFolder } from './briefs/folder.ts';
import { mountBriefBytes, mountBriefs } from './briefs/routes.ts';
import { briefService, type BriefService } from './briefs/service.ts';
import { briefStore } from './briefs/store.ts';
import { calendarsOf, mountCalendars } from './calendars/routes.ts';
import { calendarStore } from './calendars/store.ts';
import type { Clock } from './clock.ts';
import type { Config } from './config.ts';
import type { Db } from './db/open.ts';
import { fileService } from './gather/files.ts';
import { removalService } from './gather/removal.ts';
import { mountGather } from './gather/routes.ts';
import type { Reader } from './gather/reader.ts';
import { gatherService } from './gather/service.ts';
import { checkSchedule, type CheckSchedule } from './gather/schedule.ts';
import { changeView, gatherStore } from './gather/store.ts';
import { Turns } from './gather/turns.ts';
import { orderedId } from './db/ids.ts';
import { briefMaker } from './telling/brief.ts';
import { collector, type Listener } from './telling/collect.ts';
import { composeBrief, composeNotices } from './telling/compose.ts';
import { tellingEngine, type TellingEngine } from './telling/engine.ts';
import { postOffice, type Transport } from './telling/post.ts';
import { mountMailStop, mountTelling } from './telling/routes.ts';
import { tellingService } from './telling/service.ts';
import { tellingStore } from './telling/store.ts';
import { understandingService, type UnderstandingService } from './gather/understanding.ts';
import { firstView } from './http/first-view.ts';
import { liveUpdates, mountLive } from './http/live.ts';
import { ProblemError, notFound, problemHandler, sendProblem } from './http/problem.ts';
import { mounter, type Mount } from './http/mount.ts';
import { sameSite, securityHeaders } from './http/security.ts';
import { serveWeb } from './http/web.ts';
import { ownService, type OwnService } from './items/own-service.ts';
import { ownStore } from './items/own-store.ts';
import { mountItems, occurrenceView, occurrencesBetween } from './items/routes.ts';
import { itemStore } from './items/store.ts';
import { admission } from './people/access.ts';
import { authenticator, makeAuth, type Auth } from './people/auth.ts';
import { mountPeople, sessionView } from './people/routes.ts';
import { peopleStore, type PeopleStore } from './people/store.ts';
import type { GatherService } from './gather/service.ts';
import type { Secrets } from './secrets.ts';

export interface AppDeps {
  config: Config;
  db: Db;
  clock: Clock;
  secrets: Secrets;
  reader: Reader;
  /** Where files of briefs lie */
  folder: FileFolder;
  /** Hands mail to a mail server; null where none is set up */
  mail: Transport | null;
  /** Where people reach this server */
  address(): string;
  log(message: string): void;
  /** Adds routes of its own before the rest, for the demo world */
  demo?: (mount: Mount, parts: AppParts) => void;
}

export interface AppParts {
  auth: Auth;
  people: PeopleStore;
  gather: GatherService;
  understanding: UnderstandingService;
  schedule: CheckSchedule;
  own: OwnService;
  briefs: BriefService;
  engine: TellingEngine;
}

/** Puts the parts together. Opens nothing and listens to nothing. */
export function createApp({ config, db, clock, secrets, reader, folder, mail, address, log, demo }: AppDeps): { app: Express; parts: AppParts } {
  const people = peopleStore(db);
  const calendars = calendarStore(db);
  const gathered = gatherStore(db);
  const items = itemStore(db);
  const briefRows = briefStore(db);
  const auth = makeAuth(db, people, { secret: secrets.sessionSecret, openSignUp: config.OPEN_SIGN_UP, publicUrl: config.PUBLIC_URL });
  const admit = admission(people);
  const live = liveUpdates();
  // Whatever changes a schedule may make something due; who looks at it is told at once.
  const changed = (learnerId: string) => {
    live.tell(learnerId);
    engine.wake(learnerId);
  };
  const maxBytes = config.FETCH_MEGABYTES * 2 ** 20;
  const common = { store: gathered, calendars, reader, secrets, clock, changed, checked: live.tellChecked, turns: new Turns() };
  const gather = gatherService({ ...common, chance: Math.random, fetch: { allowedHosts: config.ALLOW_HOSTS, timeoutMs: config.FETCH_SECONDS * 1000, maxBytes } });
  const files = fileService({ ...common, gather });
  const understanding = understandingService(common);
  const removal = removalService(common);
  const own = ownService({ store: ownStore(db), calendars, briefs: briefRows, clock, changed });
  const briefs = briefService({ store: briefRows, folder, clock, changed });

  const told = tellingStore(db);
  const collecting = collector(told, items);
  const listener = (personId: string): Listener | null => {
    const [first] = people.learnersOf(personId);
    const { zone, hours } = people.settings(personId);
    return first ? { personId, telling: mail ? told.telling(personId) : withoutMail(told.telling(personId)), viewer: viewerOf(zone ?? first.zone, hours) } : null;
  };
  const dayBriefs = briefMaker({
    store: told,
    learnersOf: people.learnersOf,
    occurrences: (learnerId, from, to) => items.between(learnerId, from, to).map((row) => occurrenceView(row)),
    changes: (learnerId) => gathered.changesOf(learnerId).map((row) => changeView(row, 0)),
  });
  const addressOf = (personId: string) => people.person(personId)?.email ?? null;
  const stopToken = (personId: string) => `${personId}.${secrets.digest(`mail stop ${personId}`)}`;
  const base = () => config.PUBLIC_URL ?? address();
  const telling = tellingService({
    store: told,
    items,
    collector: collecting,
    briefs: dayBriefs,
    clock,
    listener,
    addressOf,
    mailReady: mail !== null,
    wake: () => void engine.run(),
    told: live.tellPerson,
  });
  const post = postOffice({
    store: told,
    transport: mail,
    clock,
    chance: Math.random,
    addressOf,
    write(rows, personId) {
      const brief = rows[0]?.brief;
      if (brief) return composeBrief(telling.brief(personId, brief.part, brief.day), base());
      const learners = people.learnersOf(personId);
      return composeNotices(rows, (id) => (learners.length > 1 ? (learners.find((l) => l.id === id)?.name.split(' ')[0] ?? null) : null), base());
    },
    unsubscribe: (personId) => `${base()}/api/mail/stop/${stopToken(personId)}`,
    newId: orderedId,
    host: new URL(config.PUBLIC_URL ?? 'http://zephyrfield.invalid').hostname,
    log,
  });
  const engine = tellingEngine({
    store: told,
    collector: collecting,
    briefs: dayBriefs,
    clock,
    listener,
    stillTrue: telling.stillTrue,
    returned: telling.returned,
    post,
    told: live.tellPerson,
    mailReady: mail !== null,
    log,
  });

  const schedule = checkSchedule({ due: (limit) => gathered.dueForCheck(clock.now(), limit), check: (id) => gather.readSource(id), log });

  const app = express();
  app.disable('x-powered-by');
  app.use(securityHeaders(config.WEB));
  app.use('/api', sameSite(config.PUBLIC_URL));
  // Guessing passwords, and fetching for others, are what could be turned against somebody.
  app.post('/api/auth/{*any}', atMost(30));
  app.post(
    ['/api/learners/:learnerId/preview', '/api/learners/:learnerId/sources', '/api/learners/:learnerId/files', '/api/sources/:id/reading', '/api/items/:id/files'],
    atMost(config.CHECKS_PER_MINUTE),
  );
  app.all('/api/auth/{*any}', toNodeHandler(auth));
  // Not the live updates: a compressor would keep them back until it has enough.
  app.use('/api', compression({ filter: (req, res) => !/event-stream/.test(String(res.getHeader('Content-Type'))) && compression.filter(req, res) }));
  app.use('/api', express.json({ limit: '256kb', type: 'application/json' }));
  const api = Router();
  const authenticate = authenticator(auth);
  const mount = mounter(api, authenticate, { maxFileBytes: maxBytes });
  const parts = { auth, people, gather, understanding, schedule, own, briefs, engine };
  demo?.(mount, parts);
  mountPeople(mount, { people, clock, demo: Boolean(demo), admit, changed, settingsChanged: told.wakePerson });
  mountCalendars(mount, { calendars, clock, admit, changed, whenChanged: understanding.calendarChanged, forget: removal.forget });
  mountGather(mount, { gather, files, understanding, removal, store: gathered, admit });
  mountItems(mount, { store: items, own, briefs, admit, clock, understanding, telling, historyOf: (id) => gathered.changesOfItem(id).map((row) => changeView(row, 0)), changed });
  mountBriefs(mount, { briefs, admit });
  mountBriefBytes(api, authenticate, { briefs, admit });
  mountTelling(mount, { telling, store: told, admit, changed });
  mountLive(api, authenticate, live, admit);
  app.use(api);
  mountMailStop(app, { personOf: (token) => (stopToken(token.split('.')[0]!) === token ? token.split('.')[0]! : null), stop: telling.stopMail });
  const contract = openApi('0.1.0');
  app.get('/api/openapi.json', (_req, res) => void res.json(contract));
  app.get('/api/health', (_req, res) => void res.json({ ok: true }));
  app.use('/api', () => {
    throw notFound('address in the API');
  });
  if (config.WEB) {
    const session = (personId: string) => sessionView(people, clock, Boolean(demo), personId);
    const occurrences = (learnerId: string, first: number, last: number) => occurrencesBetween(items, learnerId, first * DAY, last * DAY);
    app.use(firstView({ web: config.WEB, authenticate, session, calendars: (id) => calendarsOf(calendars, id), occurrences, log }));
    app.use(serveWeb(config.WEB));
  }
  app.use(problemHandler(log));
  return { app, parts };
}

/** Somebody's wall clock, and how they like hours written. */
function viewerOf(name: string, hours: 12 | 24): Viewer {
  const zone = ianaZone(name) ?? UTC;
  return { id: zone.id, hours, offsetAt: (t) => zone.offsetAt(t), toInstant: (l) => zone.toInstant(l), exists: (l) => zone.exists(l) };
}

/** Limits how often one address may ask, per minute. */
function atMost(limit: number) {
  const problem = new ProblemError(429, 'too-often', 'That was a lot in one minute.', { remedy: 'Wait a minute and go on.' }).problem;
  return rateLimit({ windowMs: 60_000, limit, standardHeaders: 'draft-8', legacyHeaders: false, handler: (_req, res) => sendProblem(res, problem) });
}
