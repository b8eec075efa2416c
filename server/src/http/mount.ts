import { PAGE_HEADER, SEE_AS_HEADER } from '@zephyrfield/core/api/paths';
import { claimPlaces, claimsIn, withIds, type ClaimKind } from '@zephyrfield/core/api/claims';
import type { Needed, Route } from '@zephyrfield/core/api/route';
import type { BodyOf, ParamsOf, QueryOf, ReplyOf } from '@zephyrfield/core/api/routes';
import type { Access, Learner } from '@zephyrfield/core/api/schemas';
import {
  json as jsonBody,
  raw,
  type Request,
  type RequestHandler,
  type Response,
  type Router,
} from 'express';
import type { z } from 'zod';
import type { Admission, Admit, SeeAs } from './admit.ts';
import { MOST } from '../limits.ts';
import type { SecurityLog } from '../security-log.ts';
import { whoAsks, type Authenticate, type Caller } from './caller.ts';
import { answering } from './page.ts';
import { ProblemError, signInFirst, tooLarge } from './problem.ts';
import { eventOf } from './security-events.ts';
import { keyOfReply, type MadeJson, type Replies, type Versions } from './replies.ts';

/** The schedule a route is about, for one that says what has to be allowed in it. */
type LearnerOf<R> = R extends { access: Needed<never> } ? Learner : null;

export interface Call<R, C> {
  params: ParamsOf<R>;
  query: QueryOf<R>;
  body: BodyOf<R>;
  /** Who asks */
  caller: C;
  learner: LearnerOf<R>;
  req: Request;
  res: Response;
}

function parse<T extends z.ZodType>(type: T, value: unknown): z.output<T> {
  const result = type.safeParse(value ?? {});
  if (result.success) return result.data;
  const fields = result.error.issues
    .slice(0, 20)
    .map((i) => ({ path: i.path.join('.'), message: i.message }));
  throw new ProblemError(422, 'invalid', 'Something is not right.', {
    detail: fields[0] && `${fields[0].path}: ${fields[0].message}`,
    remedy: 'Correct it and try again.',
    fields,
  });
}

type Handler<R, C> = (call: Call<R, C>) => ReplyOf<R> | Promise<ReplyOf<R>>;
type StreamHandler<R> = (call: Call<R, Caller>) => void | Promise<void>;

/**
 * Puts lines of the contract on a router: what comes in is checked against the contract, its ids are
 * admitted, what goes out is typed by it. A handler is given ids of what whoever asks may have to do with,
 * and no others.
 */
export interface Mount {
  /** For a signed-in person */
  <R extends Route>(route: R, handle: Handler<R, Caller>): void;
  /** For anybody */
  open<R extends Route>(route: R, handle: Handler<R, Caller | null>): void;
  /**
   * For a signed-in person, about a schedule: what is made once stands until that schedule changes, for this query and
   * all who have nothing of their own in it. Nothing else may bear on it, and nothing may be written.
   */
  kept<R extends Route>(route: R, make: (call: Call<R, Caller>) => ReplyOf<R> | Promise<MadeJson>): void;
  /** For a signed-in person, answered otherwise than with JSON */
  stream<R extends Route>(route: R, handle: StreamHandler<R>): void;
}

export interface MountOptions {
  authenticate: Authenticate;
  admit: Admit;
  maxFileBytes: number;
  replies: Replies;
  versions: Pick<Versions, 'of'> & {
    /** Tells whether a person has anything for themselves in a schedule: else they see what all see who have nothing */
    hasOwn(personId: string, learnerId: string): boolean;
  };
  /** Who asks, with the eyes of somebody in a crew */
  seeAs: SeeAs;
  security: SecurityLog;
  /** Asked before anything is taken in: refuses who asks too much */
  limit?: RequestHandler;
}

const OF_PERSON: ReadonlySet<ClaimKind> = new Set(['keptBrief', 'notice', 'session', 'passkey', 'openTime']);
const NOBODY: Admission = { learner: null, isAdmitted: () => false };

export function mounter(
  router: Router,
  { authenticate, admit, seeAs, maxFileBytes, limit, replies, versions, security }: MountOptions,
): Mount {
  const file = raw({ type: () => true, limit: maxFileBytes, inflate: false });
  const json = jsonBody({ type: 'application/json', limit: MOST.bodyBytes, inflate: false });
  const none: RequestHandler = (_req, _res, next) => next();

  /**
   * Who asks; with another's eyes where the page says so, and then nothing can be changed. What is a person's own
   * (their account, what they are told) is nobody else's to see.
   */
  const throughEyes = (caller: Caller | null, req: Request, { access, seenAs }: Route): Caller | null => {
    const memberId = req.headers[SEE_AS_HEADER];
    if (!caller || typeof memberId !== 'string') return caller;
    if (req.method !== 'GET') throw onlyLooking();
    return access || seenAs ? seeAs(caller, memberId) : caller;
  };

  const put = <R extends Route, C>(
    route: R,
    identify: (caller: Caller | null) => C,
    reply: (call: Call<R, C>) => void | Promise<void>,
  ) => {
    refuseUnguarded(route);
    const method = route.method.toLowerCase() as 'get' | 'post' | 'patch' | 'put' | 'delete';
    const { access } = route;
    const event = eventOf(route);
    const admitted = (caller: Caller | null, wanted: Access, claims: ReturnType<typeof claimsIn>) =>
      caller ? admit(caller.personId, wanted, claims, route.several) : NOBODY;
    // Who asks, and about what, is known before a file is taken in.
    const know: RequestHandler = async (req, res, next) => {
      if (route.method !== 'GET') {
        const isFile = Boolean(route.raw ?? route.upload);
        requireType(req, isFile);
        requireLength(req, res, route.upload ? MOST.archiveBytes : isFile ? maxFileBytes : MOST.bodyBytes);
      }
      const caller = throughEyes(await authenticate(req), req, route);
      res.locals['caller'] = caller;
      identify(caller);
      next();
    };
    const beforeFile: RequestHandler = (req, res, next) => {
      const wanted = typeof access === 'string' ? access : 'look';
      const claims = claimsIn({
        params: parse(route.params, req.params),
        query: parse(route.query, req.query),
      });
      admitted(res.locals['caller'] as Caller | null, wanted, claims);
      next();
    };
    const takeBody =
      route.method === 'GET' ? [none] : route.upload ? [beforeFile] : route.raw ? [beforeFile, file] : [json];
    router[method](route.path, know, limit ?? none, ...takeBody, async (req: Request, res: Response) => {
      const known = res.locals['caller'] as Caller | null;
      const came = {
        params: parse(route.params, req.params),
        query: parse(route.query, req.query),
        body: parse(route.body, req.body),
      };
      const wanted =
        typeof access === 'function' ? (access as (body: unknown) => Access)(came.body) : (access ?? 'look');
      const { learner, isAdmitted } = admitted(known, wanted, claimsIn(came));
      const checked = withIds(came, isAdmitted);
      const page = String(req.headers[PAGE_HEADER] ?? '') || undefined;
      const call = { ...checked, caller: identify(known), learner, req, res } as unknown as Call<R, C>;
      const asker = known ? whoAsks(known) : `from ${req.ip ?? ''}`;
      await answering({ page, asker }, () => reply(call));
      if (event) {
        // Who has signed in just now was nobody when they asked.
        const person = (res.locals['came'] as string | undefined) ?? (known ? whoAsks(known) : undefined);
        if (person) security.note({ event, from: req.ip, person, route: `${route.method} ${route.path}` });
      }
    });
  };

  const answer =
    <R extends Route, C>(handle: Handler<R, C>) =>
    async (call: Call<R, C>) => {
      const reply = await handle(call);
      call.res.set('Cache-Control', 'no-store').json(reply);
    };
  const mount = <R extends Route>(route: R, handle: Handler<R, Caller>) =>
    put(route, signedIn, answer(handle));
  return Object.assign(mount, {
    open: <R extends Route>(route: R, handle: Handler<R, Caller | null>) =>
      put(route, (c) => c, answer(handle)),
    kept: <R extends Route>(route: R, make: (call: Call<R, Caller>) => ReplyOf<R> | Promise<MadeJson>) =>
      put(route, signedIn, (call) => {
        const { caller, learner, params, query, req, res } = call;
        const { id } = learner as unknown as Learner;
        const who = versions.hasOwn(caller.personId, id) ? caller.personId : '';
        const key = keyOfReply(route.path, id, versions.of(id), who, params, query);
        return replies.send(req, res, key, () => make(call));
      }),
    stream: <R extends Route>(route: R, handle: StreamHandler<R>) => put(route, signedIn, handle),
  });
}

const onlyLooking = () =>
  new ProblemError(403, 'only-looking', 'You are looking with somebody else’s eyes.', {
    remedy: 'Go back to your own view to change something.',
  });

function signedIn(caller: Caller | null): Caller {
  if (!caller) throw signInFirst();
  return caller;
}

/** What a page may send anywhere without asking first (the Fetch standard's "CORS-safelisted" types). */
const SIMPLE: ReadonlySet<string> = new Set([
  'text/plain',
  'multipart/form-data',
  'application/x-www-form-urlencoded',
]);

/**
 * Requires of every change that it says what it brings: JSON, or a file. A page of another site cannot say
 * either without asking first (CORS), whatever a browser makes of its cookies.
 */
function requireType(req: Request, isFile: boolean): void {
  const type = (req.headers['content-type'] ?? '').split(';')[0]!.trim().toLowerCase();
  if (isFile ? type !== '' && !SIMPLE.has(type) : type === 'application/json') return;
  const remedy = isFile ? 'Send the file as application/octet-stream.' : 'Send it as application/json.';
  throw new ProblemError(415, 'content-type', 'The request does not say what it brings.', { remedy });
}

/**
 * Refuses a body that is too large, or that does not say how large it is, before any of it is read; the
 * connection is closed, since what is left of it would have to be read otherwise.
 */
function requireLength(req: Request, res: Response, most: number): void {
  const length = req.headers['content-length'];
  const isFine =
    length === undefined ? req.headers['transfer-encoding'] === undefined : Number(length) <= most;
  if (isFine) return;
  res.set('Connection', 'close');
  res.once('finish', () => req.socket.destroySoon());
  throw length === undefined
    ? new ProblemError(411, 'length', 'The request does not say how large it is.', {
        remedy: 'Send it with its length.',
      })
    : tooLarge();
}

/**
 * A route that lets ids of a schedule in has to say what has to be allowed there, and needs somebody who
 * asks.
 */
function refuseUnguarded({ method, path, params, query, body, access, open }: Route): void {
  const places = [params, query, body].flatMap((type) => claimPlaces(type));
  if (places.length && open) throw new Error(`${method} ${path} lets ids in and is open to anybody`);
  const isOfSchedule = places.some(({ kind, lenient }) => !lenient && !OF_PERSON.has(kind));
  if (isOfSchedule && !access)
    throw new Error(`${method} ${path} lets ids in and does not say what has to be allowed`);
}
