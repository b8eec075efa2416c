import { createServer, type Server } from 'node:http';
import { statSync } from 'node:fs';
import type { RequestHandler } from 'express';
import { Counter, Gauge, Histogram, Registry, collectDefaultMetrics } from 'prom-client';
import { routeOf } from './http/problem.ts';

/** Way in which a check of a link ended, as far as whoever runs the server wants to know. */
export type Outcome = 'nothing new' | 'changed' | 'fault' | (string & {});

/** Numbers that are looked up when somebody asks for them. */
export interface Watched {
  checksRunning(): number;
  /** Links whose time to be checked has come */
  checksOverdue(): number;
  /** Pieces of work that wait for a thread */
  workWaiting(): number;
  /** Notices that wait to be sent, by mail and otherwise */
  noticesWaiting(): number;
  /** Seconds since when no mail goes out; 0 while it does */
  mailStoppedSeconds(): number;
  databaseFile: string;
  /** Replication of the database; null where there is none */
  replica: { lagSeconds(): number; lastSuccess(): number | null } | null;
}

/**
 * What an operator watches, in the text format of Prometheus. It holds counts and times alone: nobody's name, link or
 * id is ever a label.
 */
export function makeMetrics() {
  const registers = [new Registry()];
  const [registry] = registers as [Registry];
  collectDefaultMetrics({ register: registry });
  const checks = new Counter({
    name: 'zephyrfield_checks_total',
    help: 'Checks of followed links, by how they ended: a trouble’s code, or none',
    labelNames: ['outcome'],
    registers,
  });
  const checkSeconds = new Histogram({
    name: 'zephyrfield_check_seconds',
    help: 'How long a check of a followed link takes',
    buckets: [0.01, 0.05, 0.1, 0.5, 1, 5, 15, 30],
    registers,
  });
  const requests = new Histogram({
    name: 'zephyrfield_request_seconds',
    help: 'How long a request takes, by the pattern of its path and its status',
    labelNames: ['route', 'status'],
    buckets: [0.005, 0.02, 0.05, 0.15, 0.5, 2, 10],
    registers,
  });
  const gauge = (name: string, help: string, read: () => number) =>
    new Gauge({
      name: `zephyrfield_${name}`,
      help,
      registers,
      collect() {
        this.set(read());
      },
    });
  return {
    checked(outcome: Outcome, seconds: number): void {
      checks.inc({ outcome });
      checkSeconds.observe(seconds);
    },
    /** Times requests: event streams, which last as long as a page is open, are left out. */
    requests: ((req, res, next) => {
      const began = performance.now();
      res.once('finish', () => {
        if (String(res.getHeader('Content-Type')).includes('event-stream')) return;
        requests.observe(
          { route: routeOf(req), status: res.statusCode },
          (performance.now() - began) / 1_000,
        );
      });
      next();
    }) satisfies RequestHandler,
    watch(of: Watched): void {
      gauge('checks_running', 'Checks under way', of.checksRunning);
      gauge('checks_overdue', 'Links whose time to be checked has come', of.checksOverdue);
      gauge('work_waiting', 'Pieces of work that wait for a thread', of.workWaiting);
      gauge('notices_waiting', 'Notices that wait to be sent', of.noticesWaiting);
      gauge('mail_stopped_seconds', 'Since when no mail goes out; 0 while it does', of.mailStoppedSeconds);
      const { replica } = of;
      if (replica) {
        gauge('replica_lag_seconds', 'Since when writes do not reach the replica; 0 while they do', () =>
          replica.lagSeconds(),
        );
        gauge(
          'replica_last_success_timestamp_seconds',
          'When the replica was last written to; 0 before',
          () => (replica.lastSuccess() ?? 0) / 1_000,
        );
      }
      gauge('database_bytes', 'Size of the database, with its write-ahead log', () =>
        sizeOf(of.databaseFile),
      );
    },
    text: () => registry.metrics(),
    type: registry.contentType,
  };
}
export type Metrics = ReturnType<typeof makeMetrics>;

const sizeOf = (file: string): number =>
  [file, `${file}-wal`].reduce(
    (sum, each) => sum + (statSync(each, { throwIfNoEntry: false })?.size ?? 0),
    0,
  );

/** Gives metrics on a port of their own, on this machine alone. */
export async function serveMetrics(metrics: Metrics, port: number): Promise<Server> {
  const server = createServer((req, res) => {
    if (req.method !== 'GET' || req.url !== '/metrics') return void res.writeHead(404).end();
    void metrics.text().then((text) => res.writeHead(200, { 'content-type': metrics.type }).end(text));
  });
  await new Promise<void>((done, fail) => {
    server.once('error', fail);
    server.listen(port, '127.0.0.1', done);
  });
  return server;
}
