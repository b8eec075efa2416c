import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { APIError } from 'better-auth/api';
import { fromNodeHeaders } from 'better-auth/node';
import type { Authenticate } from '../http/mount.ts';
import type { Db } from '../db/open.ts';
import * as schema from '../db/schema.ts';
import type { PeopleStore } from './store.ts';

export interface AuthOptions {
  secret: string;
  /** Whether anybody may make an account, or only the first person */
  openSignUp: boolean;
  /** Address people reach the server at; found from each request where it is not given */
  publicUrl?: string | undefined;
}

/** Accounts and sessions by e-mail and password. */
export function makeAuth(db: Db, people: PeopleStore, options: AuthOptions) {
  return betterAuth({
    ...(options.publicUrl ? { baseURL: options.publicUrl } : {}),
    basePath: '/api/auth',
    secret: options.secret,
    database: drizzleAdapter(db, { provider: 'sqlite', schema }),
    emailAndPassword: { enabled: true, minPasswordLength: 10, maxPasswordLength: 200 },
    telemetry: { enabled: false },
    // The server limits how often anybody may try; see app.ts.
    rateLimit: { enabled: false },
    advanced: { cookiePrefix: 'zephyrfield' },
    logger: { disabled: true },
    databaseHooks: {
      user: {
        create: {
          before: async () => {
            if (!options.openSignUp && people.count() > 0) throw new APIError('FORBIDDEN', { message: 'This installation has its first account already. Ask its owner to let you in.' });
          },
        },
      },
    },
  });
}
export type Auth = ReturnType<typeof makeAuth>;

export function authenticator(auth: Auth): Authenticate {
  return async (req) => {
    if (!req.headers.cookie) return null;
    const found = await auth.api.getSession({ headers: fromNodeHeaders(req.headers) });
    return found ? { personId: found.user.id } : null;
  };
}
