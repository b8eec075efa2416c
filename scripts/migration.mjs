// `npm run migration -- --name what_it_does`: makes the next migration from what the schema has more than the last one.
// `--custom` begins an empty one, to be written by hand. Whatever a migration says is recorded by its digest once it is
// whole (`--record` does it after writing by hand), and never changes again: installations have applied it.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { root } from './lib/setup.mjs';

const folder = `${root}/server/migrations`;
const recordFile = `${folder}/digests.json`;
const fail = (message) => {
  console.error(message);
  process.exit(1);
};

/** Gives the digest of each migration, by its name. */
function digests() {
  const { entries } = JSON.parse(readFileSync(`${folder}/meta/_journal.json`, 'utf8'));
  return Object.fromEntries(
    entries.map(({ tag }) => [
      tag,
      createHash('sha256')
        .update(readFileSync(`${folder}/${tag}.sql`))
        .digest('hex'),
    ]),
  );
}
const recorded = existsSync(recordFile) ? JSON.parse(readFileSync(recordFile, 'utf8')) : {};

/** Ends where a recorded migration says something else now. */
function refuseRewritten(now) {
  for (const [name, digest] of Object.entries(recorded))
    if (now[name] !== digest)
      fail(
        `${name} was changed or removed, but installations have applied it. Bring it back (git checkout), and make a new one.`,
      );
}

const { values } = parseArgs({
  options: { name: { type: 'string' }, custom: { type: 'boolean' }, record: { type: 'boolean' } },
});
const before = digests();
refuseRewritten(before);
if (!values.record) {
  if (!/^[a-z][a-z0-9_]{2,50}$/.test(values.name ?? ''))
    fail('Say what it does: npm run migration -- --name two_or_three_words');
  const unrecorded = Object.keys(before).filter((name) => !(name in recorded));
  if (unrecorded.length) fail(`Record ${unrecorded.join(', ')} first: npm run migration -- --record`);
  execFileSync(
    `${root}/node_modules/.bin/drizzle-kit`,
    [
      'generate',
      '--config',
      'server/drizzle.config.ts',
      '--name',
      values.name,
      ...(values.custom ? ['--custom'] : []),
    ],
    { cwd: root, stdio: 'inherit' },
  );
}
const after = digests();
refuseRewritten(after);
const made = Object.keys(after).filter((name) => !(name in recorded));
if (!made.length) fail('There is nothing to do: the schema is as the last migration left it.');
if (values.custom) {
  console.log(`Write server/migrations/${made[0]}.sql, then: npm run migration -- --record`);
} else {
  writeFileSync(recordFile, `${JSON.stringify(after, null, 2)}\n`);
  console.log(`Recorded: ${made.join(', ')}. Commit it as it is.`);
}
