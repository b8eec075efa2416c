import type { Log } from '../log.ts';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { CheckedLook, type RenderInput } from '@zephyrfield/core/api/server-render';
import { LOOK_COOKIE, type DeviceLook } from '@zephyrfield/core/api/look';
import type { Session } from '@zephyrfield/core/api/schemas';
import { lookedAt, nearDays } from '@zephyrfield/core/view/near';
import compression from 'compression';
import { parseCookie } from 'cookie';
import { Router, type Request } from 'express';
import { drawerIn, inPage, type DrawJob, type Drawing } from './draw.ts';
import type { Authenticate } from '../http/caller.ts';
import { placeOf } from '../http/problem.ts';

export interface FirstViewDeps {
  /** Folder of the built web app */
  web: string;
  authenticate: Authenticate;
  /** Draws a page beside the server's own thread, in the turn of who asks */
  draw(job: DrawJob, owner: string): Promise<Drawing>;
  /** Tells whether one more page is drawn for somebody just now */
  mayDraw(personId: string): Promise<boolean>;
  session(personId: string): Session;
  calendars(learnerId: string, personId: string): RenderInput['calendars'];
  plan(learnerId: string, personId: string): RenderInput['plan'];
  /** Between two day numbers, the second not included; as JSON */
  occurrences(learnerId: string, personId: string, first: number, last: number): Promise<string>;
  /** Counts what has changed in a learner's schedule */
  versionOf(learnerId: string): number;
  /** Longest time a page waits for its drawing, in milliseconds; two seconds without it */
  patience?: number;
  log: Log;
}

/** Place where it stands in the page: see `app/public/index.html`. */
const [BEGINS, ENDS] = ['<!--first view-->', '<!--/first view-->'];

/** Time a page waits for its drawing, in milliseconds. */
const PATIENCE = 2_000;
const PATIENCE_BESIDE = 100;
/** Place where so many are waited for already, a page goes out without one: its own scripts draw it as soon. */
const MANY = 4;

/**
 * Answers for Today with a page that has it in it already, as this person sees it on this device, and what it
 * was drawn from: it can be read before any script is there. The page's scripts then draw the same anew, and
 * it is alive. Whatever is in the way of it (nobody signed in, nothing known of the device's flags, too many
 * just now, a fault) leads to the page as it is for everybody.
 */
export function firstView({
  web,
  authenticate,
  draw,
  mayDraw,
  session: sessionOf,
  calendars,
  plan,
  occurrences,
  versionOf,
  patience: alone = PATIENCE,
  log,
}: FirstViewDeps): Router {
  const router = Router();
  if (!existsSync(drawerIn(web))) return router;
  const whole = readFileSync(join(web, 'index.html'), 'utf8');
  const [before, after] = [
    whole.slice(0, whole.indexOf(BEGINS)),
    whole.slice(whole.indexOf(ENDS) + ENDS.length),
  ];
  /** Notes where it went wrong, without what was to be drawn: that is a person's own. */
  const fault = (error: unknown): null => {
    log('Today could not be drawn', { fault: placeOf(error) });
    return null;
  };
  const kept = new Drawings();
  let waiting = 0;
  const drawn = async (req: Request): Promise<{ session: Session; drawing: Kept } | null> => {
    const caller = await authenticate(req);
    const look = lookOf(req);
    if (!caller || !look.hidden) return null;
    const session = sessionOf(caller.personId);
    const learner = lookedAt(session.learners, look.learnerId);
    if (!learner) return null;
    const now = Date.parse(session.now);
    // All that it is drawn from: who looks and how, the schedule as it stands, and the minute.
    const { now: _exact, ...who } = session;
    const key = JSON.stringify([learner.id, versionOf(learner.id), Math.floor(now / MINUTE), look, who]);
    const known = kept.get(key);
    if (known) return { session, drawing: known };
    if (waiting >= MANY || !(await mayDraw(caller.personId))) return null;
    const { first, last } = nearDays(now);
    const input = {
      session,
      learnerId: learner.id,
      calendars: calendars(learner.id, caller.personId),
      plan: plan(learner.id, caller.personId),
      look,
    };
    // Alone, one waits as long as it takes; beside others, only where it comes at once.
    const patience = waiting ? PATIENCE_BESIDE : alone;
    waiting += 1;
    const drawing = occurrences(learner.id, caller.personId, first, last)
      .then((near) => draw({ web, input, occurrences: near }, caller.personId))
      .then((its) => {
        const drawn = { ...its, digest: createHash('sha256').update(its.css).digest('base64') };
        kept.put(key, drawn);
        return drawn;
      })
      // Said also where the page has gone out without it.
      .catch(fault)
      .finally(() => (waiting -= 1));
    // What comes too late for this page is there for the next one.
    const found = await Promise.race([drawing, pause(patience, null, { ref: false })]);
    return found && { session, drawing: found };
  };
  router.get(['/', '/today'], compression({ level: 4 }), async (req, res, next) => {
    const found = await drawn(req).catch(fault);
    if (!found) return next();
    const { theme } = found.session.settings;
    const { html: view, css, digest } = found.drawing;
    const replies = found.drawing.replies.map(
      ([path, reply]) => `[${inPage(path)},${reply ?? inPage(found.session)}]`,
    );
    const html = `${before}${view}${after}`
      .replace('<head>', () => `<head><style id="react-native-stylesheet">${css}</style>`)
      .replace('<html', `$& data-server-rendered${theme === 'system' ? '' : ` data-theme="${theme}"`}`)
      // The page begins from the same, so that it need not show anything else first. It is data: no policy
      // lets it run.
      .replace(
        '</body>',
        () => `<script type="application/json" id="replies">[${replies.join(',')}]</script></body>`,
      );
    // Its own rules are the one thing inline that this answer may have beside what all may.
    const policy = String(res.getHeader('Content-Security-Policy')).replace(
      /style-src 'self'/,
      `$& 'sha256-${digest}'`,
    );
    res.set({ 'Content-Security-Policy': policy, 'Cache-Control': 'no-store' }).type('html').send(html);
  });
  return router;
}

const MINUTE = 60_000;

/** A drawing, with the SHA-256 of its rules for the policy that lets them count. */
type Kept = Drawing & { digest: string };

/** Number of characters of drawings that are kept: those of a hundred families, more or less. */
const MOST_KEPT = 32 * 2 ** 20;

/** Drawings by all that they were drawn from; what was drawn longest ago goes first. */
class Drawings {
  private readonly kept = new Map<string, Kept>();
  private size = 0;

  get = (key: string): Kept | undefined => this.kept.get(key);

  put(key: string, drawing: Kept): void {
    // Two may have asked for the same at once.
    if (this.kept.has(key)) return;
    this.kept.set(key, drawing);
    this.size += sizeOf(drawing);
    for (const [oldest, its] of this.kept) {
      if (this.size <= MOST_KEPT) break;
      this.kept.delete(oldest);
      this.size -= sizeOf(its);
    }
  }
}

const sizeOf = ({ html, css, replies }: Kept): number =>
  replies.reduce((sum, [, reply]) => sum + (reply?.length ?? 0), html.length + css.length);

/** Tells how the page is looked at on this device, from what it said at its last visit. */
function lookOf(req: Request): DeviceLook {
  const said = parseCookie(req.headers.cookie ?? '')[LOOK_COOKIE];
  const look = said ? CheckedLook.safeParse(json(said)) : null;
  if (look?.success) return look.data;
  return { learnerId: null, hidden: [] };
}

function json(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
