import { createHash } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import express, { type Express, type Request, type Response } from 'express';
import { deskPage, standsAt } from './desk.ts';
import { MODES, type CampusDate, type CampusEntry, type CampusFeed, type Mode } from './feed.ts';
import { CampusState, type FeedState } from './state.ts';
import { writeFeed } from './write.ts';

export type { CampusDate, CampusEntry, CampusFeed, Mode } from './feed.ts';

export interface CampusOptions {
  feeds: readonly CampusFeed[];
  /** Place where the desk's changes are kept; only in memory without it */
  stateFile?: string;
  /** Milliseconds the mode "slow" waits */
  slowMs?: number;
}

/**
 * A stand-in for a course server: feeds over HTTP with validators and compression, a page that links to them,
 * and a teacher's desk to change them. Not the product: nothing in it is meant to face the internet.
 */
export function createCampus({ feeds, stateFile, slowMs = 8000 }: CampusOptions): {
  app: Express;
  state: CampusState;
} {
  const state = new CampusState(feeds, stateFile ?? null);
  const app = express();
  app.disable('x-powered-by');
  app.disable('etag');
  app.use(express.urlencoded({ extended: false, limit: '64kb' }));

  app.get('/feeds/:name', async (req, res) => {
    const found = state.find(req.params.name.replace(/\.ics$/, ''));
    if (!found || (found.feed.key && req.query['key'] !== found.feed.key))
      return void res.status(404).type('text/plain').send('Not found\n');
    await answer(found, req, res, slowMs);
  });
  app.get(
    '/pages/{*rest}',
    (req, res) =>
      void res
        .type('html')
        .send(
          `<!doctype html><html lang="en"><meta charset="utf-8"><title>Course page</title><h1>Course page</h1><p>This is where ${req.path.replace(/[^\w/-]/g, '')} would be on a real course server.</p></html>`,
        ),
  );
  app.get('/', (req, res) => res.redirect('/desk'));
  app.get(
    '/desk',
    (req, res) =>
      void res
        .type('html')
        .send(
          deskPage(
            state.feeds,
            `${req.protocol}://${req.headers.host}`,
            String(req.query['said'] ?? ''),
            String(req.query['open'] ?? ''),
          ),
        ),
  );
  app.post('/desk/:path/:action', (req, res) => {
    const found = state.find(req.params.path);
    const action = DEEDS[req.params.action];
    if (!found || !action) return void res.status(404).type('text/plain').send('Not found\n');
    let said = '';
    state.change(found, (s) => (said = action(s, req.body as Record<string, string>)));
    res.redirect(303, `/desk?said=${encodeURIComponent(said)}&open=${found.feed.path}`);
  });
  return { app, state };
}

const STATUS: Partial<Record<Mode, number>> = {
  unauthorised: 401,
  missing: 404,
  gone: 410,
  busy: 429,
  fault: 500,
};
const SIGN_IN =
  '<!DOCTYPE html><html><head><title>Sign in</title></head><body><form><input name="user"><input name="password" type="password"></form></body></html>';

async function answer(
  { feed, mode, changedAt }: FeedState,
  req: Request,
  res: Response,
  slowMs: number,
): Promise<void> {
  const status = STATUS[mode];
  if (status)
    return void res
      .status(status)
      .set(mode === 'busy' ? { 'Retry-After': '600' } : {})
      .type('text/plain')
      .send('No\n');
  if (mode === 'signIn') return void res.type('html').send(SIGN_IN);
  if (mode === 'slow') await wait(slowMs);
  const stamp = new Date(changedAt).toISOString().slice(0, 19) + 'Z';
  const text = writeFeed(mode === 'empty' ? { ...feed, entries: [] } : feed, stamp);
  const body = Buffer.from(mode === 'broken' ? text.slice(0, Math.floor(text.length * 0.6)) : text);
  const etag = `"${createHash('sha1').update(body).digest('hex').slice(0, 20)}"`;
  res.set({
    ETag: etag,
    'Last-Modified': new Date(changedAt).toUTCString(),
    'Cache-Control': 'no-cache',
    Vary: 'Accept-Encoding',
  });
  const since = Date.parse(req.get('if-modified-since') ?? '');
  const isSame = req.get('if-none-match') ? req.get('if-none-match') === etag : since >= changedAt;
  if (isSame) return void res.status(304).end();
  const accepts = req.get('accept-encoding') ?? '';
  const encoding = /\bbr\b/.test(accepts) ? 'br' : /\bgzip\b/.test(accepts) ? 'gzip' : null;
  if (encoding) res.set('Content-Encoding', encoding);
  res
    .type('text/calendar; charset=utf-8')
    .end(encoding === 'br' ? brotliCompressSync(body) : encoding === 'gzip' ? gzipSync(body) : body);
}

const at = (like: CampusDate, date: string, time: string | undefined): CampusDate => {
  if (like.kind === 'date') return { kind: 'date', date };
  const clock = time ? `${time}:00` : (like.kind === 'utc' ? like.at : like.local).slice(11, 19);
  return like.kind === 'utc'
    ? { kind: 'utc', at: `${date}T${clock.slice(0, 8)}Z` }
    : { kind: 'zoned', local: `${date}T${clock.slice(0, 8)}`, tzid: like.tzid };
};
const text = (date: CampusDate) =>
  date.kind === 'date' ? `${date.date}T00:00:00Z` : date.kind === 'utc' ? date.at : `${date.local}Z`;
const shift = (date: CampusDate, ms: number): CampusDate => {
  const moved = new Date(Date.parse(text(date)) + ms).toISOString();
  return at(date, moved.slice(0, 10), moved.slice(11, 19).slice(0, 5));
};

function move(entry: CampusEntry, to: CampusDate): void {
  const from = standsAt(entry)!;
  const delta = Date.parse(text(to)) - Date.parse(text(from));
  for (const name of ['start', 'end', 'due'] as const)
    if (entry[name]) entry[name] = shift(entry[name], delta);
  entry.sequence = (entry.sequence ?? 0) + 1;
}

const DEEDS: Record<string, (state: FeedState, form: Record<string, string>) => string> = {
  move({ feed }, form) {
    const entry = feed.entries[Number(form['index'])];
    if (!entry || !/^\d{4}-\d\d-\d\d$/.test(form['date'] ?? '')) return 'Nothing was changed.';
    entry.title = form['title']?.trim() || entry.title;
    const from = standsAt(entry);
    if (from) move(entry, at(from, form['date']!, form['time']));
    return `Saved “${entry.title}”.`;
  },
  'call-off'({ feed }, form) {
    const entry = feed.entries[Number(form['index'])];
    if (!entry) return 'Nothing was changed.';
    entry.status = 'CANCELLED';
    entry.sequence = (entry.sequence ?? 0) + 1;
    return `Called off “${entry.title}”.`;
  },
  remove({ feed }, form) {
    const [entry] = feed.entries.splice(Number(form['index']), 1);
    return entry ? `Removed “${entry.title}”.` : 'Nothing was changed.';
  },
  add({ feed }, form) {
    if (!form['title']?.trim() || !/^\d{4}-\d\d-\d\d$/.test(form['date'] ?? '')) return 'Nothing was added.';
    feed.entries.push({
      uid: `desk-${Date.now()}-${feed.entries.length}@${feed.path}.skerrow.example`,
      component: 'event',
      title: form['title'].trim(),
      start: { kind: 'date', date: form['date']! },
    });
    return `Added “${form['title'].trim()}”.`;
  },
  mode(state, form) {
    if (form['mode'] && Object.hasOwn(MODES, form['mode'])) state.mode = form['mode'] as Mode;
    return `${state.feed.name}: ${MODES[state.mode]}.`;
  },
};
