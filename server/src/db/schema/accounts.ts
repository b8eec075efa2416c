import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { authTime } from './columns.ts';

// Accounts, as better-auth lays them out.

export const user = sqliteTable('user', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  email: text('email').notNull().unique(),
  emailVerified: integer('email_verified', { mode: 'boolean' }).notNull().default(false),
  image: text('image'),
  twoFactorEnabled: integer('two_factor_enabled', { mode: 'boolean' }).notNull().default(false),
  createdAt: authTime('created_at').notNull(),
  updatedAt: authTime('updated_at').notNull(),
});

export const session = sqliteTable('session', {
  id: text('id').primaryKey(),
  expiresAt: authTime('expires_at').notNull(),
  token: text('token').notNull().unique(),
  createdAt: authTime('created_at').notNull(),
  updatedAt: authTime('updated_at').notNull(),
  ipAddress: text('ip_address'),
  userAgent: text('user_agent'),
  userId: text('user_id')
    .notNull()
    .references(() => user.id, { onDelete: 'cascade' }),
});

export const account = sqliteTable('account', {
  id: text('id').primaryKey(),
  accountId: text('account_id').notNull(),
  providerId: text('provider_id').notNull(),
  userId: text('user_id')
    .notNull()
    .references(() => user.id, { onDelete: 'cascade' }),
  accessToken: text('access_token'),
  refreshToken: text('refresh_token'),
  idToken: text('id_token'),
  accessTokenExpiresAt: authTime('access_token_expires_at'),
  refreshTokenExpiresAt: authTime('refresh_token_expires_at'),
  scope: text('scope'),
  password: text('password'),
  createdAt: authTime('created_at').notNull(),
  updatedAt: authTime('updated_at').notNull(),
});

/** Secrets of a second step: its secret and recovery codes, both sealed by better-auth. */
export const twoFactor = sqliteTable(
  'two_factor',
  {
    id: text('id').primaryKey(),
    secret: text('secret').notNull(),
    backupCodes: text('backup_codes').notNull(),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    verified: integer('verified', { mode: 'boolean' }).notNull().default(true),
    failedVerificationCount: integer('failed_verification_count').notNull().default(0),
    lockedUntil: authTime('locked_until'),
    /** The time step of the last code that was taken (RFC 6238 5.2: each is good once) */
    lastStep: integer('last_step'),
  },
  (t) => [index('two_factor_by_user').on(t.userId)],
);

/** Passkeys: public keys of devices that may sign in as somebody. */
export const passkey = sqliteTable(
  'passkey',
  {
    id: text('id').primaryKey(),
    name: text('name'),
    publicKey: text('public_key').notNull(),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    credentialID: text('credential_id').notNull(),
    counter: integer('counter').notNull(),
    deviceType: text('device_type').notNull(),
    backedUp: integer('backed_up', { mode: 'boolean' }).notNull(),
    transports: text('transports'),
    createdAt: authTime('created_at'),
    aaguid: text('aaguid'),
  },
  (t) => [index('passkey_by_user').on(t.userId), uniqueIndex('passkey_by_credential').on(t.credentialID)],
);

/** What holds for the whole installation, by name: which key its secrets are sealed with. */
export const installation = sqliteTable('installation', {
  name: text('name').primaryKey(),
  value: text('value').notNull(),
});

export const verification = sqliteTable('verification', {
  id: text('id').primaryKey(),
  identifier: text('identifier').notNull(),
  value: text('value').notNull(),
  expiresAt: authTime('expires_at').notNull(),
  createdAt: authTime('created_at').notNull(),
  updatedAt: authTime('updated_at').notNull(),
});
