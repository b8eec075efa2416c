// `npm run check`: what concerns the files that were changed since the last commit (or since a branch: `-- main`): types,
// lint, boundaries, and the unit and API tests that use them.
import { execFileSync, spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { ensureInstalled, root } from './lib/setup.mjs';

await ensureInstalled();
const git = (...args) =>
  execFileSync('git', args, { cwd: root, encoding: 'utf8' })
    .split('\n')
    .filter((file) => file && existsSync(`${root}/${file}`));
const files = [
  ...new Set([
    ...git('diff', '--name-only', process.argv[2] ?? 'HEAD'),
    ...git('ls-files', '--others', '--exclude-standard'),
  ]),
].filter((file) => /\.(ts|tsx|js|mjs|cjs)$/.test(file));
if (!files.length) {
  console.log('No code was changed.');
  process.exit(0);
}
const runs = (command, args) =>
  new Promise((done) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] });
    child.on('error', () => done(false)).on('exit', (code) => done(code === 0));
  });
const bin = (name) => `${root}/node_modules/.bin/${name}`;
const node = (script, ...args) => runs(process.execPath, [`scripts/${script}`, ...args]);
const results = await Promise.all([node('lint.mjs', ...files), node('types.mjs')]);
const sources = files.filter((file) => /^[\w-]+\/src\//.test(file));
if (sources.length)
  results.push(await runs(bin('depcruise'), ['--config', '.dependency-cruiser.cjs', ...sources]));
results.push(await runs(bin('jest'), ['--findRelatedTests', '--passWithNoTests', ...files]));
const isWell = !results.includes(false);
console.log(isWell ? `${files.length} changed files: all is well.` : 'Something is not well; see above.');
process.exit(isWell ? 0 : 1);
