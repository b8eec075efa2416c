// `npm test`: installs what is missing, then types, lint, boundaries, unit and API tests, and the browser
// tests. Ends with "N passed, N failed" alone on a line; exits with 1 where anything failed.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { ensureChromium, ensureInstalled, root } from './lib/setup.mjs';

const results = `${root}/test-results`;
const count = { passed: 0, failed: 0 };

/** Runs a step; resolves to whether it went well. */
function step(name, command, args, env = {}) {
  console.log(`\n── ${name}`);
  const began = Date.now();
  return new Promise((done) => {
    const child = spawn(command, args, {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env },
    });
    child.on('error', () => done(false));
    child.on('exit', (code) => {
      console.log(
        `── ${name}: ${code === 0 ? 'passed' : 'FAILED'} after ${Math.round((Date.now() - began) / 1000)} s`,
      );
      done(code === 0);
    });
  });
}

const tally = (ok) => (ok ? count.passed++ : count.failed++);
const report = (file) =>
  existsSync(`${results}/${file}`) ? JSON.parse(readFileSync(`${results}/${file}`, 'utf8')) : null;

const chromium = ensureChromium();
await ensureInstalled();
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
const bin = (name) => `${root}/node_modules/.bin/${name}`;

// The web export takes longest and needs one core; the checks go on beside it.
const build = step('build', process.execPath, ['scripts/build.mjs']);
tally(await step('types', process.execPath, ['scripts/types.mjs']));
tally(await step('lint', bin('eslint'), ['.', '--max-warnings', '0']));
tally(
  await step('boundaries', bin('depcruise'), [
    '--config',
    '.dependency-cruiser.cjs',
    'core/src',
    'server/src',
    'app/src',
    'stand-ins/src',
    'demo/src',
  ]),
);
const built = await build;
tally(built);

const unit = await step('unit and API tests', bin('jest'), [
  '--ci',
  '--json',
  `--outputFile=${results}/unit.json`,
]);
const unitReport = report('unit.json');
count.passed += unitReport?.numPassedTests ?? 0;
count.failed +=
  (unitReport?.numFailedTests ?? 0) +
  (unitReport?.testResults.filter((r) => r.status === 'failed' && r.assertionResults.length === 0).length ??
    0);
if (!unit && !(unitReport?.numFailedTests > 0)) count.failed++;

if (built) {
  await chromium;
  const browser = await step('browser tests', bin('playwright'), [
    'test',
    '--config',
    'e2e/playwright.config.ts',
  ]);
  const browserReport = report('e2e.json');
  count.passed += (browserReport?.stats.expected ?? 0) + (browserReport?.stats.flaky ?? 0);
  count.failed += browserReport?.stats.unexpected ?? 0;
  if (!browser && !(browserReport?.stats.unexpected > 0)) count.failed++;
}

console.log(`\n${count.passed} passed, ${count.failed} failed`);
process.exit(count.failed ? 1 : 0);
