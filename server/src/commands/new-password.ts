// `npm run new-password -- MAIL`: a link by which somebody sets a new password, where no mail goes out. It may run beside
// the server. With `--end-second-step`, for who has lost the app and the recovery codes, that is no longer asked for.
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { eq } from 'drizzle-orm';
import { readConfig } from '../config.ts';
import { openDatabase } from '../db/open.ts';
import { twoFactor, user } from '../db/schema.ts';
import { accountStore } from '../accounts/account-store.ts';
import { newLink } from '../accounts/links.ts';
import { peopleStore } from '../people/store.ts';
import { answerVersion } from './answer-version.ts';

answerVersion();

const config = readConfig(process.env);
const email = process.argv.slice(2).find((arg) => !arg.startsWith('--'));
const file = join(resolve(config.DATA), 'zephyrfield.sqlite');
const fail = (words: string): never => {
  console.error(words);
  process.exit(1);
};
if (!email) fail('Say whose: npm run new-password -- maren@skerrow.example');
if (!existsSync(file))
  fail(`There is no installation in ${config.DATA}. Say where it is with ZEPHYRFIELD_DATA.`);

const db = openDatabase(file, fileURLToPath(new URL('../migrations', import.meta.url)));
const people = peopleStore(db);
const found = people.byEmail(email!.toLowerCase());
if (!found) fail('Nobody has an account with that mail address.');
const personId = found!.id;
const token = newLink(
  { people, store: accountStore(db) },
  { personId, email: email!.toLowerCase(), kind: 'reset' },
  Date.now(),
);
if (process.argv.includes('--end-second-step'))
  people.transaction(() => {
    db.delete(twoFactor).where(eq(twoFactor.userId, personId)).run();
    db.update(user).set({ twoFactorEnabled: false }).where(eq(user.id, personId)).run();
  });
db.$client.close();
const base = config.PUBLIC_URL ?? `http://localhost:${config.PORT}`;
process.stdout.write(`${base}/reset#${token}\n`);
console.error('It is good once, for an hour. Give it to nobody else.');
