// `npm run rotate-key`: seals all links of an installation with a new key. The server must not run meanwhile.
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readConfig } from '../config.ts';
import { CannotStart, lockFolder } from '../data-folder.ts';
import { openDatabase } from '../db/open.ts';
import { rotateKey } from '../key.ts';
import { answerVersion } from './answer-version.ts';

answerVersion();

const data = resolve(readConfig(process.env).DATA);
const file = join(data, 'zephyrfield.sqlite');
if (!existsSync(file)) {
  console.error(`There is no installation in ${data}. Say where it is with ZEPHYRFIELD_DATA.`);
  process.exit(1);
}
try {
  lockFolder(data);
  const db = openDatabase(file, fileURLToPath(new URL('../migrations', import.meta.url)));
  const count = await rotateKey(db, join(data, 'key'));
  db.$client.close();
  console.error(
    `${count === 1 ? 'One link is' : `${count} links are`} sealed with a new key. Everybody has to sign in again. Keep a new backup of the key file.`,
  );
} catch (error) {
  if (!(error instanceof CannotStart)) throw error;
  console.error(`Nothing was changed: ${error.message}`);
  process.exit(1);
}
