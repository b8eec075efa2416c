import { SEE_AS_HEADER } from '@zephyrfield/core/api/paths';
import { claimPlaces, walkCheck } from '@zephyrfield/core/api/claims';
import type { Route } from '@zephyrfield/core/api/route';
import { routes, type Routes } from '@zephyrfield/core/api/routes';
import { Id, type ItemView } from '@zephyrfield/core/api/schemas';
import { LAYER_ACCESS, suffices, type Access, type LayerField } from '@zephyrfield/core/item/access';
import type { AccountView } from '@zephyrfield/core/api/account-view';
import type { CrewView } from '@zephyrfield/core/api/crew';
import Database from 'better-sqlite3';
import type { Router } from 'express';
import { join } from 'node:path';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import type { AddressInfo } from 'node:net';
import {
  addDesk,
  ask,
  family,
  ok,
  routeOf,
  samples,
  type Family,
  type Ids,
  type RouteName,
  type Sample,
} from './family';
import { FeedServer, Installation, event, type Agent } from './harness';

// Every route × every id in its path, query and body × every caller. Two families live in one installation;
// whoever belongs to the first asks for what is the second's, and afterwards all rows of the second are what
// they were.

/** A word that stands in everything of the second family, and in nothing else. */
const THEIRS = 'Saltmarsh';
/** The same for the family that keeps its calendars from somebody. */
const HIDDEN = 'Cormorant';

const postbox = createPostbox();
let w: Installation;
let feed: FeedServer;
/** A row for each route: a new one without its row fails below. */
let SAMPLES: ReturnType<typeof samples>;
const NAMES = (Object.keys(routes) as (keyof Routes)[]).filter((n): n is RouteName => !n.startsWith('demo'));

const letsIdsIn = (name: RouteName) =>
  (['params', 'query', 'body'] as const).some((part) => claimPlaces(routeOf(name)[part]).length > 0);

/** Every place of a sample that holds an id, with the same sample where that one is another family's. */
function* swapped(
  name: RouteName,
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
  addDesk(w);
  SAMPLES = samples({ w, feed });
  mine = await family({ w, feed }, 'Juno', 'Pinnace');
  theirs = await family({ w, feed }, 'Wren', THEIRS);
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
  hidden = await family({ w, feed }, 'Sable', HIDDEN);
  callers['keptFrom'] = { agent: await w.account('keptFrom', 'kept@skerrow.example'), access: 'edit' };
  const keptFrom = people.byEmail('kept@skerrow.example')!.id;
  people.join({ personId: keptFrom, learnerId: hidden.ids.learner, access: 'edit' });
  for (const { id } of w.services.calendars.ofLearner(hidden.ids.learner))
    await hidden.agent
      .put(`/api/calendars/${id}/audience`)
      .send({ audience: { members: [], others: 'busy' } })
      .expect(200);
});
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
          const reply = await ask({ w, feed }, agent, name, sample);
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
        const reply = await ask({ w, feed }, agent, name, SAMPLES[name](theirs.ids));
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
      const reply = await ask({ w, feed }, agent, name, SAMPLES[name](hidden.ids));
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
        const reply = await ask({ w, feed }, agent, name, sample);
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
