import { inWords } from '../src/log';
import { createHmac, randomUUID } from 'node:crypto';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { OwnItem } from '@zephyrfield/core/item/own';
import Database from 'better-sqlite3';
import type { Express } from 'express';
import request from 'supertest';
import type { Services } from '../src/app';
import { readConfig } from '../src/config';
import { hashPassword } from '../src/accounts/passwords';
import { putAccount } from '../src/accounts/put-account';
import { startServer, type Running } from '../src/server';

export const START = Date.parse('2026-10-06T15:10:00Z');

/** Waits for what comes by itself, as mails do: however long that takes on a busy machine. */
export async function eventually<T>(find: () => T | undefined | Promise<T | undefined>): Promise<T> {
  for (;;) {
    const found = await find();
    if (found !== undefined) return found;
    await new Promise((done) => setImmediate(done));
  }
}

/** A calendar of these lines, as a feed has it. */
export const calendarText = (...lines: string[]): string =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//T//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n');

/** Something of one's own to hand in. */
/** A run-up of two sittings. */
export const RUN_UP = {
  minutes: 60,
  saidBy: 'own',
  firstDay: '2026-10-06',
  perDay: 1,
  polish: true,
  shortest: null,
  longest: null,
  parts: [],
  sittings: [
    { key: 'first', day: '2026-10-06', from: 1020, minutes: 30, state: 'planned', took: null, pinned: false },
    {
      key: 'second',
      day: '2026-10-07',
      from: 1020,
      minutes: 30,
      state: 'planned',
      took: null,
      pinned: false,
    },
  ],
};

export const ESSAY: OwnItem = {
  kind: 'assignment',
  handIn: 'paper',
  title: 'Essay',
  place: '',
  details: '',
  when: { kind: 'date', date: '2026-10-05' },
  end: null,
  repeat: null,
  changes: [],
};

/** A feed server whose answer each test decides. */
export class FeedServer {
  answer: RequestListener = (_req, res) => res.writeHead(404).end();
  readonly requests: { url: string; headers: Record<string, string | string[] | undefined> }[] = [];
  private constructor(private readonly server: Server) {}

  static async start(): Promise<FeedServer> {
    const holder: { feed?: FeedServer } = {};
    const server = createServer((req, res) => {
      holder.feed!.requests.push({ url: req.url ?? '', headers: req.headers });
      holder.feed!.answer(req, res);
    });
    holder.feed = new FeedServer(server);
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    return holder.feed;
  }

  get host(): string {
    return `localhost:${(this.server.address() as AddressInfo).port}`;
  }

  /** Answers with a calendar of these lines. */
  calendar(...lines: string[]): void {
    this.answer = (_req, res) =>
      void res.writeHead(200, { 'content-type': 'text/calendar; charset=utf-8' }).end(calendarText(...lines));
  }

  /** Answers at each path with a calendar of the lines that stand there then, and with 404 elsewhere. */
  calendars(feeds: Readonly<Record<string, readonly string[]>>): void {
    this.answer = (req, res) => {
      const lines = feeds[req.url!.split('?')[0]!];
      if (!lines) return void res.writeHead(404).end();
      res.writeHead(200, { 'content-type': 'text/calendar' }).end(calendarText(...lines));
    };
  }

  stop(): Promise<void> {
    this.server.closeAllConnections();
    return new Promise((done) => this.server.close(() => done()));
  }
}

export const event = (uid: string, title: string, start: string, ...more: string[]) =>
  [
    'BEGIN:VEVENT',
    `UID:${uid}`,
    'DTSTAMP:20260701T120000Z',
    `SUMMARY:${title}`,
    start,
    ...more,
    'END:VEVENT',
  ].join('\r\n');

/**
 * A real file, in memory where the machine has such a place: a hundred full syncs to a slow disk would be
 * most of the time.
 */
export const FOLDER = existsSync('/dev/shm') ? '/dev/shm' : tmpdir();

export type Agent = ReturnType<typeof request.agent>;
export const PASSWORD = 'a good long password';
const hashes: Record<string, Promise<string>> = {};

/** A running installation over a database file of its own, with a clock the test moves. */
export class Installation {
  now = START;
  /** The time sessions are counted in */
  wall = () => Date.now();
  readonly logged: string[] = [];
  private running!: Running;
  private port = '0';
  private constructor(
    readonly data: string,
    private readonly allow: string,
  ) {}

  static async start(allow = '', env: Record<string, string> = {}, folder = FOLDER): Promise<Installation> {
    const installation = new Installation(mkdtempSync(join(folder, 'zephyrfield-')), allow);
    await installation.up(env);
    return installation;
  }

  /** Starts one over a folder that is there already, at an instant. */
  static async over(data: string, now: number, env: Record<string, string> = {}): Promise<Installation> {
    const installation = new Installation(data, '');
    installation.now = now;
    await installation.up(env);
    return installation;
  }

  async up(env: Record<string, string> = {}): Promise<void> {
    this.running = await startServer({
      config: readConfig({
        ZEPHYRFIELD_PORT: this.port,
        ZEPHYRFIELD_DATA: this.data,
        ZEPHYRFIELD_ALLOW_HOSTS: this.allow,
        ZEPHYRFIELD_CHECKS_PER_MINUTE: '10000',
        ZEPHYRFIELD_REQUESTS_PER_MINUTE: '100000',
        ZEPHYRFIELD_SIGN_INS_PER_MINUTE: '10000',
        ...env,
      }),
      clock: { now: () => this.now },
      wallClock: { now: () => this.wall() },
      migrations: resolve(__dirname, '../migrations'),
      workerScript: resolve(__dirname, '../dist/worker.js'),
      // However busy the machine is, it is waited for.
      patience: { drawing: 120_000, thread: 1_000 },
      log: (message, fields = {}) => this.logged.push(inWords(message, fields)),
    });
    this.port = new URL(this.running.address).port;
  }

  /** Looks into the database itself, beside the server. */
  db<T>(work: (db: Database.Database) => T): T {
    const db = new Database(join(this.data, 'zephyrfield.sqlite'));
    try {
      return work(db);
    } finally {
      db.close();
    }
  }

  get services(): Services {
    return this.running.services;
  }

  get app(): Express {
    return this.running.app;
  }

  get inboxPort(): number | null {
    return this.running.inboxPort;
  }
  get metricsPort(): number | null {
    return this.running.metricsPort;
  }
  get address(): string {
    return this.running.address;
  }

  /** Stops it; its data stay. */
  async down(): Promise<void> {
    await this.running.close();
  }

  async restart(env: Record<string, string> = {}): Promise<void> {
    await this.down();
    await this.up(env);
  }

  async stop(): Promise<void> {
    await this.running.close();
    rmSync(this.data, { recursive: true, force: true });
  }

  /** Somebody who asks, with what a page of ours says at each change: that it brings JSON. */
  caller(): Agent {
    return request.agent(this.address).set('content-type', 'application/json');
  }

  /**
   * Puts an account into the database, as signing up does, and gives an agent that is signed in. A password is worked out
   * once for all accounts that have it: half a second each would be most of the time.
   */
  async account(name = 'Juno', email = 'juno@skerrow.example', password = PASSWORD): Promise<Agent> {
    const { auth } = this.services;
    const { internalAdapter, secret, authCookies } = await auth.$context;
    const passwordHash = await (hashes[password] ??= hashPassword(password));
    const id = await putAccount(auth, { name, email, passwordHash });
    const { token } = await internalAdapter.createSession(id);
    const signature = createHmac('sha256', secret).update(token).digest('base64');
    const agent = this.caller();
    agent.jar.setCookie(
      `${authCookies.sessionToken.name}=${encodeURIComponent(`${token}.${signature}`)}; Path=/`,
      new URL(this.address).hostname,
    );
    return agent;
  }

  /** Makes an account and a learner, and gives an agent that is signed in. */
  async person(name = 'Juno', email = 'juno@skerrow.example') {
    const agent = await this.account(name, email);
    return { agent, learnerId: await this.learner(agent, name) };
  }

  /** Has a person's mail address count as confirmed. */
  confirm(email = 'juno@skerrow.example'): void {
    const { id } = this.services.people.byEmail(email)!;
    this.services.people.confirm(id, email);
  }

  /**
   * Begins one more schedule: an empty one for each test, in an installation they share. More than one person
   * may by themselves.
   */
  async learner(agent: Agent, name = 'Juno'): Promise<string> {
    const { person } = (await agent.get('/api/session').expect(200)).body as { person: { id: string } };
    const { people } = this.services;
    const id = randomUUID();
    people.transaction(() => {
      people.addLearner({ id, name, zone: 'Europe/Dublin', createdAt: this.now });
      people.join({ personId: person.id, learnerId: id, access: 'edit' });
    });
    return id;
  }
}

export const FLAG = { colour: 'deep', flag: { shape: 'pennon', pattern: 'bar', letters: 'ON' } } as const;

/** A picture, as small as one is. */
export const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);
