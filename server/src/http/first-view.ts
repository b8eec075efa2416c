import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { CheckedLook, type RenderToday, type RenderInput } from '@zephyrfield/core/api/server-render';
import { LOOK_COOKIE, type DeviceLook } from '@zephyrfield/core/api/look';
import type { Session } from '@zephyrfield/core/api/schemas';
import { lookedAt, nearDays } from '@zephyrfield/core/view/near';
import compression from 'compression';
import { parseCookie } from 'cookie';
import { Router, type Request } from 'express';
import type { Authenticate } from './mount.ts';

export interface FirstViewDeps {
  /** Folder of the built web app */
  web: string;
  authenticate: Authenticate;
  /** Whether one more page is drawn for somebody just now */
  mayDraw(personId: string): Promise<boolean>;
  session(personId: string): Session;
  calendars(learnerId: string): RenderInput['calendars'];
  /** Between two day numbers, the second not included */
  occurrences(learnerId: string, personId: string, first: number, last: number): RenderInput['occurrences'];
  /** Counts what has changed in a learner's schedule */
  versionOf(learnerId: string): number;
  log(message: string): void;
}

/** Where it stands in the page: see `app/public/index.html`. */
const [BEGINS, ENDS] = ['<!--first view-->', '<!--/first view-->'];

/** What draws Today, where the build made it. */
function drawer(web: string): RenderToday | null {
  const built = join(web, '.server-render/today.cjs');
  return existsSync(built) ? (createRequire(built)(built) as { drawToday: RenderToday }).drawToday : null;
}

/**
 * Answers for Today with a page that has it in it already, as this person sees it on this device, and what it
 * was drawn from: it can be read before any script is there. The page's scripts then draw the same anew, and
 * it is alive. Whatever is in the way of it (nobody signed in, nothing known of the device's flags, too many
 * just now, a fault) leads to the page as it is for everybody.
 */
export function firstView({
  web,
  authenticate,
  mayDraw,
  session: sessionOf,
  calendars,
  occurrences,
  versionOf,
  log,
}: FirstViewDeps): Router {
  const router = Router();
  const draw = drawer(web);
  if (!draw) return router;
  const whole = readFileSync(join(web, 'index.html'), 'utf8');
  const [before, after] = [
    whole.slice(0, whole.indexOf(BEGINS)),
    whole.slice(whole.indexOf(ENDS) + ENDS.length),
  ];
  const kept = new Drawings();
  const drawn = async (req: Request): Promise<{ session: Session; drawing: Drawing } | null> => {
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
    if (!(await mayDraw(caller.personId))) return null;
    const { first, last } = nearDays(now);
    const { html, css, replies } = draw({
      session,
      learnerId: learner.id,
      calendars: calendars(learner.id),
      occurrences: occurrences(learner.id, caller.personId, first, last),
      look,
    });
    const drawing: Drawing = {
      html,
      css,
      digest: createHash('sha256').update(css).digest('base64'),
      // The session tells the time, and is put in anew each time.
      replies: replies.map(([path, reply]) => [path, reply === session ? null : inPage(reply)]),
    };
    kept.put(key, drawing);
    return { session, drawing };
  };
  router.get(['/', '/today'], compression({ level: 4 }), async (req, res, next) => {
    const found = await drawn(req).catch((error: unknown) => {
      // Neither the text of the error nor what was to be drawn: both may hold what is a person's own.
      log(
        `Today could not be drawn: ${error instanceof Error ? `${error.name} at ${error.stack?.split('\n')[1]?.trim() ?? '?'}` : typeof error}`,
      );
      return null;
    });
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

/** JSON as it may stand in a page: nothing in it ends the script it stands in. */
const inPage = (value: unknown): string => JSON.stringify(value).replaceAll('<', '\\u003c');

/** Today as it was drawn, as text. */
interface Drawing {
  html: string;
  css: string;
  /** SHA-256 of its rules, for the policy that lets them count */
  digest: string;
  /** What it was drawn from, as JSON; null for the session */
  replies: (readonly [path: string, reply: string | null])[];
}

/** So many characters of drawings are kept: those of a hundred families, more or less. */
const MOST_KEPT = 32 * 2 ** 20;

/** Drawings by all that they were drawn from; what was drawn longest ago goes first. */
class Drawings {
  private readonly kept = new Map<string, Drawing>();
  private size = 0;

  get = (key: string): Drawing | undefined => this.kept.get(key);

  put(key: string, drawing: Drawing): void {
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

const sizeOf = ({ html, css, replies }: Drawing): number =>
  replies.reduce((sum, [, reply]) => sum + (reply?.length ?? 0), html.length + css.length);

/** How the page is looked at on this device, from what it said at its last visit. */
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
