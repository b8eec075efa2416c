// `npm run migration`: makes the one migration anew from the schema (docs/decisions/42), and appends what a schema
// cannot say.
import { execFileSync } from 'node:child_process';
import { appendFileSync, readFileSync, rmSync } from 'node:fs';
import { root } from './lib/setup.mjs';

const migrations = `${root}/server/migrations`;
rmSync(migrations, { recursive: true, force: true });
execFileSync(
  `${root}/node_modules/.bin/drizzle-kit`,
  ['generate', '--config', 'server/drizzle.config.ts', '--name', 'foundation'],
  { cwd: root, stdio: 'inherit' },
);
const byHand = readFileSync(`${root}/server/src/db/by-hand.sql`, 'utf8');
appendFileSync(`${migrations}/0000_foundation.sql`, `--> statement-breakpoint\n${byHand}`);
