import { betterAuth } from 'better-auth';
import { APIError } from 'better-auth/api';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { passkey } from '@better-auth/passkey';
import { twoFactor } from 'better-auth/plugins';
import { fromNodeHeaders } from 'better-auth/node';
import type { Request } from 'express';
import type { Authenticate } from '../http/caller.ts';
import type { Db } from '../db/open.ts';
import * as schema from '../db/schema.ts';
import { PASSWORD_LENGTH } from '@zephyrfield/core/api/account';
import { hashPassword, isPassword } from './passwords.ts';
import type { PeopleStore } from '../people/store.ts';

const DAY_SECONDS = 86_400;
/** A session ends when it was not used for so long, and after so long whatever happens. In days. */
export const SESSION_DAYS = { unused: 7, most: 30 } as const;

/** A session that was prolonged longer ago than so many seconds is prolonged when it is used. */
const UPDATE_AGE = DAY_SECONDS / 4;

/** The header by which the server tells better-auth where a request comes from; nobody else can set it. */
const ADDRESS_HEADER = 'x-zephyrfield-address';

export interface AuthOptions {
  secret: string;
  /** Address people reach the server at; found from each request where it is not given */
  publicUrl?: string | undefined;
}

/**
 * Accounts and sessions by mail address and password. Only its functions are used, from our own routes: none
 * of its own addresses are mounted, so that everything that comes in is checked like everything else.
 */
export function makeAuth(db: Db, { secret, publicUrl }: AuthOptions) {
  const isSecure = publicUrl?.startsWith('https:') ?? false;
  return betterAuth({
    ...(publicUrl ? { baseURL: publicUrl } : {}),
    basePath: '/api/auth',
    secret,
    database: drizzleAdapter(db, { provider: 'sqlite', schema }),
    emailAndPassword: {
      enabled: true,
      minPasswordLength: PASSWORD_LENGTH.least,
      maxPasswordLength: PASSWORD_LENGTH.most,
      password: { hash: hashPassword, verify: isPassword },
    },
    session: {
      expiresIn: SESSION_DAYS.unused * DAY_SECONDS,
      updateAge: UPDATE_AGE,
      // What is not done in an old session is not done without the password here.
      freshAge: 0,
    },
    appName: 'Zephyrfield',
    plugins: [
      twoFactor({ issuer: 'Zephyrfield', skipVerificationOnEnable: false }),
      passkey({
        rpName: 'Zephyrfield',
        rpID: publicUrl ? new URL(publicUrl).hostname : 'localhost',
        ...(publicUrl ? { origin: new URL(publicUrl).origin } : {}),
        authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
        // A passkey stands for both steps: it has to be unlocked. The plugin alone would take one that was only touched.
        registration: {
          afterVerification: ({ verification: { registrationInfo } }) =>
            requireUnlocked(registrationInfo?.userVerified),
        },
        authentication: {
          afterVerification: ({ verification: { authenticationInfo } }) =>
            requireUnlocked(authenticationInfo.userVerified),
        },
      }),
    ],
    telemetry: { enabled: false },
    // The server limits how often anybody may try; see `attempts`.
    rateLimit: { enabled: false },
    advanced: {
      cookiePrefix: 'zephyrfield',
      ipAddress: { ipAddressHeaders: [ADDRESS_HEADER] },
      // `__Host-`: set by this host alone, over https alone (RFC 6265bis 4.1.3.2). better-auth's own prefix
      // is a weaker one.
      useSecureCookies: false,
      ...(isSecure
        ? {
            cookies: {
              session_token: { name: '__Host-zephyrfield.session_token', attributes: { secure: true } },
            },
            defaultCookieAttributes: { secure: true },
          }
        : {}),
    },
    logger: { disabled: true },
  });
}
export type Auth = ReturnType<typeof makeAuth>;

/** @throws APIError where a device was used that did not ask who holds it (Web Authentication 6.1, flag UV) */
function requireUnlocked(userVerified: boolean | undefined): void {
  if (!userVerified) throw new APIError('UNAUTHORIZED', { message: 'the passkey was not unlocked' });
}

/** A request's headers as better-auth is told them: with the address it came from, as the server knows it. */
export function headersFor(req: Request): Headers {
  const headers = fromNodeHeaders(req.headers);
  headers.set(ADDRESS_HEADER, req.ip ?? '');
  // It is stored with the session.
  headers.set('user-agent', (req.headers['user-agent'] ?? '').slice(0, 200));
  return headers;
}

/** Notes with a request whom it has signed in, for the security log. */
export function noteCame(req: Request, personId: string): void {
  if (req.res) req.res.locals['came'] = personId;
}

/** Passes cookies that better-auth has set on to who asked. */
export function passCookies(from: Headers, req: Request): void {
  for (const cookie of from.getSetCookie()) req.res?.append('Set-Cookie', cookie);
}

/** Number of sessions that are known by their cookie at once; the one that was used last the longest time ago goes. */
const MOST_KNOWN = 10_000;

/**
 * Finds who asks. better-auth checks a cookie once: its signature, and that its session stands. From then on the
 * session is looked up by its id, one prepared query, so that one which has ended is refused at once; better-auth is
 * asked again where the session is to be prolonged. A session that is too old is ended.
 * @param now the time sessions are counted in, an instant in milliseconds: never the demo's
 */
export function authenticator(auth: Auth, people: PeopleStore, now: () => number): Authenticate {
  const known = new Map<string, string>();
  const ask = async (req: Request, cookie: string | undefined) => {
    if (cookie !== undefined) known.delete(cookie);
    const { response: found, headers } = await auth.api.getSession({
      headers: headersFor(req),
      returnHeaders: true,
    });
    if (!found) return null;
    const { id, createdAt, expiresAt } = found.session;
    const until = endOf(createdAt, expiresAt);
    if (until <= now()) {
      people.endSession(id);
      return null;
    }
    // A session that goes on has its cookie go on as well.
    passCookies(headers, req);
    if (cookie !== undefined) known.set(cookie, id);
    if (known.size > MOST_KNOWN) known.delete(known.keys().next().value!);
    return { personId: found.user.id, sessionId: id, until };
  };
  return async (req) => {
    if (!req.headers.cookie) return null;
    const cookie = sessionCookie(req.headers.cookie);
    const id = cookie === undefined ? undefined : known.get(cookie);
    const row = id === undefined ? undefined : people.session(id);
    if (!row || cookie === undefined) return ask(req, cookie);
    const until = endOf(row.createdAt, row.expiresAt);
    const found = { personId: row.userId, sessionId: row.id, until };
    // It is due to be prolonged, or over. Where that cannot be written (the disk is full), it stands as it is: who can
    // read goes on reading.
    if (until <= now()) return ask(req, cookie);
    if (row.updatedAt.getTime() + UPDATE_AGE * 1000 <= now())
      return ask(req, cookie).catch(() => {
        known.set(cookie, row.id);
        return found;
      });
    known.delete(cookie);
    known.set(cookie, row.id);
    return found;
  };
}

/** Tells when a session ends at the latest: unused for so long, or after so long whatever happens. */
const endOf = (createdAt: Date, expiresAt: Date): number =>
  Math.min(expiresAt.getTime(), createdAt.getTime() + SESSION_DAYS.most * DAY_SECONDS * 1000);

/**
 * The cookie that names a session, its signature and all. Undefined where none is sent, and where several are: which of
 * them counts is better-auth's to say, and what is known by one must never be reached by another.
 */
function sessionCookie(header: string | undefined): string | undefined {
  const all = [...(header ?? '').matchAll(/(?:^|;)\s*((?:__Host-)?zephyrfield\.session_token=[^;]*)/g)];
  return all.length === 1 ? all[0]![1] : undefined;
}
