import type { BodyOf, ParamsOf, QueryOf, ReplyOf, Route } from '@zephyrfield/core/api/routes';
import { raw, type Request, type RequestHandler, type Response, type Router } from 'express';
import type { z } from 'zod';
import { ProblemError, signInFirst } from './problem.ts';

export interface Caller {
  personId: string;
}

export interface Call<R, C> {
  params: ParamsOf<R>;
  query: QueryOf<R>;
  body: BodyOf<R>;
  /** Who asks */
  caller: C;
  req: Request;
  res: Response;
}

export type Authenticate = (req: Request) => Promise<Caller | null>;

function parse<T extends z.ZodType>(type: T, value: unknown): z.output<T> {
  const result = type.safeParse(value ?? {});
  if (result.success) return result.data;
  const fields = result.error.issues.map((i) => ({ path: i.path.join('.'), message: i.message }));
  throw new ProblemError(422, 'invalid', 'Something in what was sent is not right.', { detail: fields[0] && `${fields[0].path}: ${fields[0].message}`, remedy: 'Correct it and try again.', fields });
}

type Handler<R, C> = (call: Call<R, C>) => ReplyOf<R> | Promise<ReplyOf<R>>;

/** Puts lines of the contract on a router: what comes in is checked against the contract, what goes out is typed by it. */
export interface Mount {
  /** For a signed-in person */
  <R extends Route>(route: R, handle: Handler<R, Caller>): void;
  /** For anybody */
  open<R extends Route>(route: R, handle: Handler<R, Caller | null>): void;
}

export function mounter(router: Router, authenticate: Authenticate, { maxFileBytes }: { maxFileBytes: number }): Mount {
  const file = raw({ type: () => true, limit: maxFileBytes });
  const none: RequestHandler = (_req, _res, next) => next();
  const put = <R extends Route, C>(route: R, admit: (caller: Caller | null) => C, handle: Handler<R, C>) => {
    const method = route.method.toLowerCase() as 'get' | 'post' | 'patch' | 'put' | 'delete';
    // Who asks is known before a file is taken in.
    const know: RequestHandler = async (req, res, next) => {
      res.locals['caller'] = admit(await authenticate(req));
      next();
    };
    router[method](route.path, know, route.raw ? file : none, async (req: Request, res: Response) => {
      const caller = res.locals['caller'] as C;
      const call = { params: parse(route.params, req.params), query: parse(route.query, req.query), body: parse(route.body, req.body), caller, req, res };
      res.set('Cache-Control', 'no-store').json(await handle(call as Call<R, C>));
    });
  };
  const mount = <R extends Route>(route: R, handle: Handler<R, Caller>) => put(route, signedIn, handle);
  return Object.assign(mount, { open: <R extends Route>(route: R, handle: Handler<R, Caller | null>) => put(route, (c) => c, handle) });
}

function signedIn(caller: Caller | null): Caller {
  if (!caller) throw signInFirst();
  return caller;
}
