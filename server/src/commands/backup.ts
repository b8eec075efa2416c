// `npm run backup -- FILE`: an installation as one file, while it is used or not.
import { resolve } from 'node:path';
import { plural } from '@zephyrfield/core/words/text';
import { readConfig } from '../config.ts';
import { faultWords } from '../backup/fault-words.ts';
import { backUp } from '../backup/installation.ts';
import { answerVersion } from './answer-version.ts';

answerVersion();

const [to] = process.argv.slice(2);
if (!to) {
  console.error('Say where to: npm run backup -- /backups/zephyrfield.zip');
  process.exit(1);
}
const { DATA, BACKUP_PASSPHRASE } = readConfig(process.env);
try {
  const { people, schedules, files, missing, damaged } = await backUp(
    resolve(DATA),
    resolve(to),
    Date.now(),
    BACKUP_PASSPHRASE,
  );
  process.stdout.write(
    `${resolve(to)} holds ${plural(people, 'account')}, ${plural(schedules, 'schedule')} and ${plural(files, 'file')}. It was read again and is sound.\n`,
  );
  if (missing)
    console.error(`${plural(missing, 'file')} of briefs and notes could not be found on the disk.`);
  if (damaged)
    console.error(
      `${plural(damaged, 'file')} of briefs and notes are damaged on the disk, and were left out.`,
    );
  console.error(
    BACKUP_PASSPHRASE === undefined
      ? 'It holds the key as well: whoever has it can read everything. Keep it where nobody else can, ' +
          'or set ZEPHYRFIELD_BACKUP_PASSPHRASE to seal it.'
      : 'It is sealed with the passphrase: without that, nobody can open it, and nobody can help.',
  );
} catch (error) {
  console.error(`No backup was made. ${faultWords(error)}`);
  process.exit(1);
}
