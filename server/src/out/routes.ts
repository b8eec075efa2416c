import { routes } from '@zephyrfield/core/api/routes';
import type { Express, Request, Response } from 'express';
import { ProblemError } from '../http/problem.ts';
import type { Mount } from '../http/mount.ts';
import type { Ready } from './ready.ts';
import type { ShareService } from './service.ts';
import { shareView } from './views.ts';

export function mountOut(mount: Mount, shares: ShareService): void {
  mount(routes.shares, ({ caller, learner }) => shares.list(learner, caller.personId).map(shareView));
  mount(routes.addShare, ({ caller, learner, body }) => {
    const { id, secret } = shares.add(learner, caller.personId, body);
    return { share: shareView(shares.one(id, learner, caller.personId)), secret };
  });
  mount(routes.lookAtShare, ({ caller, learner, body }) => shares.look(learner, caller.personId, body));
  mount(routes.changeShare, ({ caller, learner, params, body }) => {
    shares.change(params.id, learner, caller.personId, body);
    return shareView(shares.one(params.id, learner, caller.personId));
  });
  mount(routes.renewShare, ({ caller, learner, params }) => {
    const secret = shares.renew(params.id, learner, caller.personId);
    return { share: shareView(shares.one(params.id, learner, caller.personId)), secret };
  });
  mount(routes.takeBackShare, ({ caller, learner, params }) => {
    shares.takeBack(params.id, learner, caller.personId);
    return { ok: true as const };
  });
  mount.stream(routes.calendarFile, async ({ caller, learner, query, res }) => {
    const { calendars = null, from, to } = query;
    const text = await shares.file(learner.id, caller.personId, { name: learner.name, calendars, from, to });
    sendFile(res, 'text/calendar; charset=utf-8', 'schedule.ics', text);
  });
  mount.stream(routes.paper, async ({ caller, learner, query, res }) => {
    const { others = [], briefs, ...asked } = query;
    const learners = [...new Set([learner.id, ...others])];
    const { html, rule } = await shares.paper(
      learners,
      caller.personId,
      { ...asked, day: asked.day },
      briefs === '1',
    );
    res.set({
      'Cache-Control': 'no-store',
      'Content-Security-Policy': `${PAGE_POLICY.replace("style-src 'self'", `$& 'sha256-${rule}'`)}; script-src 'self'`,
    });
    res.type('html').send(html);
  });
  mount.stream(routes.table, async ({ caller, learner, query, res }) => {
    const { calendars = null, from, to, of, columns } = query;
    const asked = { name: learner.name, calendars, from, to, table: { of, columns } };
    const text = await shares.file(learner.id, caller.personId, asked);
    sendFile(res, 'text/csv; charset=utf-8; header=present', `${of}.csv`, text);
  });
}

function sendFile(res: Response, type: string, name: string, text: string): void {
  res.set({
    'Cache-Control': 'no-store',
    'Content-Type': type,
    'Content-Disposition': `attachment; filename="${name}"`,
  });
  res.send(text);
}

/** Mounts what goes out to whoever has the address: its secret is in the path, which stands in no log. */
export function mountShared(app: Express, shares: ShareService): void {
  app.get('/out/:secret.ics', async (req, res) => {
    const ready = await shares.calendar(req.params['secret'] ?? '');
    res.set({
      'Content-Type': 'text/calendar; charset=utf-8',
      'Content-Disposition': 'inline; filename="calendar.ics"',
      'X-Robots-Tag': 'noindex, nofollow',
    });
    send(req, res, ready);
  });
  app.get('/open/:secret', async (req, res) => {
    const month = typeof req.query['month'] === 'string' ? req.query['month'] : undefined;
    res.set({
      'Content-Type': 'text/html; charset=utf-8',
      'X-Robots-Tag': 'noindex, nofollow',
      'Content-Security-Policy': PAGE_POLICY,
    });
    let ready: Ready;
    try {
      ready = await shares.page(req.params['secret'] ?? '', month);
    } catch (error) {
      // People read it, and no program.
      if (!(error instanceof ProblemError)) throw error;
      const { status, title, remedy } = error.problem;
      return void res.status(status).set('Cache-Control', 'no-store').send(shares.sorry(title, remedy));
    }
    send(req, res, ready);
  });
}

/** What a page without scripts may load: our style sheet and fonts, and nothing else. */
const PAGE_POLICY = [
  "default-src 'none'",
  "style-src 'self'",
  "style-src-attr 'unsafe-inline'",
  "font-src 'self'",
  "img-src 'self'",
  "base-uri 'none'",
  "form-action 'none'",
  "frame-ancestors 'none'",
].join('; ');

/** Sends what is ready; whoever has it already is told so in a few bytes (RFC 9110 13.1.2). */
function send(req: Request, res: Response, { text, gzip, etag }: Ready): void {
  const isPacked = req.acceptsEncodings('gzip') === 'gzip';
  res.set({ ETag: etag, 'Cache-Control': 'private, no-cache', Vary: 'Accept-Encoding' });
  const known = req.headers['if-none-match']?.split(',').map((each) => each.trim().replace(/^W\//, ''));
  if (known?.includes(etag) || known?.includes('*')) return void res.status(304).end();
  if (isPacked) res.set('Content-Encoding', 'gzip');
  const body = isPacked ? gzip : text;
  res.set('Content-Length', String(body.length)).end(req.method === 'HEAD' ? undefined : body);
}
