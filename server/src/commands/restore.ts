// `npm run restore -- FILE`: brings an installation back from a backup. With `--replica URL --key FILE` and, where it is
// wanted, `--at 2026-11-28T21:00:00Z`, its database comes from where it was replicated to, as of that moment.
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { plural } from '@zephyrfield/core/words/text';
import { readConfig } from '../config.ts';
import { faultWords } from '../backup/fault-words.ts';
import { restore, restoreReplica } from '../backup/installation.ts';
import { litestream } from '../backup/replica.ts';
import { answerVersion } from './answer-version.ts';

answerVersion();

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { replica: { type: 'string' }, key: { type: 'string' }, at: { type: 'string' } },
});
const [from] = positionals;
const { DATA, BACKUP_PASSPHRASE: passphrase } = readConfig(process.env);
const data = resolve(DATA);
const how = { migrations: fileURLToPath(new URL('../migrations', import.meta.url)), now: Date.now() };
const fail = (words: string): never => {
  console.error(words);
  process.exit(1);
};
if (values.replica ? !values.key : !from)
  fail(
    'Say what from: npm run restore -- /backups/zephyrfield.zip\nor: npm run restore -- --replica URL --key FILE [--at 2026-11-28T21:00:00Z]',
  );
if (values.at && Number.isNaN(Date.parse(values.at))) fail('Write the moment as 2026-11-28T21:00:00Z.');
try {
  const { report, before } = values.replica
    ? await restoreReplica(values.replica, data, {
        ...how,
        program: litestream(import.meta.url),
        key: resolve(values.key!),
        at: values.at,
      })
    : await restore(resolve(from!), data, { ...how, passphrase });
  const { people, schedules, files, missing, asOf } = report;
  process.stdout.write(
    `${data} holds ${plural(people, 'account')}, ${plural(schedules, 'schedule')} and ${plural(files, 'file')} again.\n`,
  );
  if (asOf !== null)
    console.error(`The last change in it is of ${new Date(asOf).toISOString().slice(0, 19)}Z.`);
  if (missing) console.error(`${plural(missing, 'file')} of briefs and notes are missing or damaged in it.`);
  if (before) console.error(`What was there before lies in ${before}.`);
} catch (error) {
  fail(`Nothing was changed. ${faultWords(error)}`);
}
