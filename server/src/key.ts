import { CannotStart } from './data-folder.ts';
import { existsSync, renameSync, rmSync } from 'node:fs';
import { eq } from 'drizzle-orm';
import type { Db } from './db/open.ts';
import { installation, source, twoFactor } from './db/schema.ts';
import { symmetricDecrypt, symmetricEncrypt } from 'better-auth/crypto';
import { storedAddress } from './gather/address.ts';
import { Secrets } from './secrets.ts';

const NAME = 'key';

/** Which key a database's secrets are sealed with, by its name; undefined for one that was never asked. */
const keyNameOf = (db: Db) => db.select().from(installation).where(eq(installation.name, NAME)).get()?.value;
const noteKey = (db: Db, value: string) =>
  db
    .insert(installation)
    .values({ name: NAME, value })
    .onConflictDoUpdate({ target: installation.name, set: { value } })
    .run();

/** Finds where a key lies that is to take the place of another. */
const nextFile = (file: string) => `${file}.next`;

/**
 * The key a database is sealed with. Where changing it was cut off, it is brought to its end: which of the
 * two keys counts is what the database says.
 * @param takesAnother the operator says that the old key is lost: all that was sealed with it stays unreadable
 * @throws CannotStart where the key is missing, or another one than the database was sealed with
 */
export function keyFor(db: Db, file: string, takesAnother = false): Secrets {
  const known = keyNameOf(db);
  const next = nextFile(file);
  if (existsSync(next)) {
    if (Secrets.fromFile(next).name === known) renameSync(next, file);
    else rmSync(next);
  }
  const isMissing = !existsSync(file);
  if (known !== undefined && isMissing && !takesAnother) throw lost(`the key file ${file} is missing`);
  const secrets = Secrets.fromFile(file);
  if (known !== undefined && known !== secrets.name && !takesAnother)
    throw lost(`${file} holds another key than the database was sealed with`);
  if (known !== secrets.name) {
    // A second step whose secret nobody can read any more would let nobody in.
    if (known !== undefined)
      db.$client.exec('DELETE FROM two_factor; UPDATE "user" SET two_factor_enabled = 0');
    noteKey(db, secrets.name);
  }
  return secrets;
}

const lost = (what: string) =>
  new CannotStart(
    `${what}. Bring the key back from a backup. If it is lost for good, start once with ZEPHYRFIELD_NEW_KEY=1: everything else is kept, but each followed link has to be entered again, second steps at signing in end, and everybody has to sign in again.`,
  );

/**
 * Seals all secrets of a database with a new key, while no server runs on it. All sessions end, and the links
 * that stop mail in mails sent before are good no more. Cut off at any moment, the next start has either the
 * old key or the new one, whole.
 * @returns how many links were sealed anew
 */
export async function rotateKey(db: Db, file: string): Promise<number> {
  const old = keyFor(db, file);
  const next = Secrets.fromFile(nextFile(file));
  const anew = async (data: string) =>
    symmetricEncrypt({
      key: next.sessionSecret,
      data: await symmetricDecrypt({ key: old.sessionSecret, data }),
    });
  const steps = await Promise.all(
    db
      .select()
      .from(twoFactor)
      .all()
      .map(async ({ id, secret, backupCodes }) => ({
        id,
        secret: await anew(secret),
        backupCodes: await anew(backupCodes),
      })),
  );
  const count = db.transaction(() => {
    const rows = db.select({ id: source.id, addressSealed: source.addressSealed }).from(source).all();
    const sealed = rows.filter((row) => row.addressSealed !== '');
    for (const { id, addressSealed } of sealed) {
      const address = old.open(addressSealed);
      db.update(source)
        .set(storedAddress(new URL(address), next))
        .where(eq(source.id, id))
        .run();
    }
    for (const { id, ...sealedAnew } of steps)
      db.update(twoFactor).set(sealedAnew).where(eq(twoFactor.id, id)).run();
    db.$client.exec('DELETE FROM session');
    noteKey(db, next.name);
    return sealed.length;
  });
  renameSync(nextFile(file), file);
  return count;
}
