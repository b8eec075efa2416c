// `npm test`: installs what is missing, then types, lint, boundaries, unit and API tests, and the browser tests. `npm test --
// PART` runs one of them, `-- --help` says which there are. Says how long each took, and ends with "N passed, N failed" alone
// on a line; exits with 1 where anything failed.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { ensureChromium, ensureInstalled, root } from './lib/setup.mjs';

const results = `${root}/test-results`;
const count = { passed: 0, failed: 0 };
const bin = (name) => `${root}/node_modules/.bin/${name}`;
const node = (script) => [process.execPath, [`scripts/${script}`]];
const report = (file) =>
  existsSync(`${results}/${file}`) ? JSON.parse(readFileSync(`${results}/${file}`, 'utf8')) : null;

/** A step that passes or fails as a whole. */
const whole = (ok) => {
  if (ok) count.passed++;
  else count.failed++;
};

/** The parts in the order they run: what each is, what it runs, and how what it found is counted. */
const PARTS = {
  build: { what: 'the server and the web app, as they are served', run: node('build.mjs'), tally: whole },
  types: { what: 'the types of every part', run: node('types.mjs'), tally: whole },
  lint: { what: 'how the code is written, slow patterns, promises', run: node('lint.mjs'), tally: whole },
  comments: { what: 'how the code is explained', run: node('comments.mjs'), tally: whole },
  boundaries: {
    what: 'which room may use which',
    run: [
      bin('depcruise'),
      [
        '--config',
        '.dependency-cruiser.cjs',
        'core/src',
        'server/src',
        'app/src',
        'stand-ins/src',
        'demo/src',
      ],
    ],
    tally: whole,
  },
  unit: {
    what: 'unit and API tests (one project: npx jest --selectProjects core)',
    run: [bin('jest'), ['--ci', '--json', `--outputFile=${results}/unit.json`]],
    tally: (ok) => {
      const found = report('unit.json');
      const broken =
        found?.testResults.filter((r) => r.status === 'failed' && r.assertionResults.length === 0) ?? [];
      count.passed += found?.numPassedTests ?? 0;
      count.failed += (found?.numFailedTests ?? 0) + broken.length;
      if (!ok && !found?.numFailedTests && !broken.length) count.failed++;
    },
  },
  browser: {
    what: 'the real interface in Chromium (one test: npm run test:e2e -- -g "words of its name")',
    run: [bin('playwright'), ['test', '--config', 'e2e/playwright.config.ts']],
    needs: ['build'],
    tally: (ok) => {
      const stats = report('e2e.json')?.stats;
      // What passes only at the second try, which is there for its trace, has failed.
      const failed = (stats?.unexpected ?? 0) + (stats?.flaky ?? 0);
      count.passed += stats?.expected ?? 0;
      count.failed += failed;
      if (!ok && !failed) count.failed++;
      if (failed)
        console.log('Pictures and traces lie in test-results/e2e, a folder for each test that failed.');
    },
  },
  bench: {
    what: 'each part of the bench for a moment; its figures are not judged',
    run: [process.execPath, ['scripts/bench.mjs', '--brief']],
    tally: whole,
  },
};

/**
 * The share of the whole that each part may take, some more than it does: where one takes twice as much, something in it
 * has become slow. A ratio, so that it holds on a slow machine.
 */
const SHARES = {
  types: 0.05,
  lint: 0.1,
  comments: 0.01,
  boundaries: 0.02,
  build: 0.25,
  unit: 0.5,
  browser: 0.45,
  bench: 0.06,
};

const [only] = process.argv.slice(2);
if (only !== undefined && !(only in PARTS)) {
  const list = Object.entries(PARTS).map(([name, { what }]) => `  npm test -- ${name.padEnd(11)} ${what}`);
  console.log(`All parts: npm test. One of them:\n${list.join('\n')}`);
  process.exit(only === '--help' ? 0 : 2);
}

const took = {};
/** Runs a part. @returns whether it went well */
async function runPart(name) {
  const [command, args] = PARTS[name].run;
  console.log(`\n── ${name}`);
  const began = Date.now();
  const ok = await new Promise((done) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] });
    child.on('error', () => done(false)).on('exit', (code) => done(code === 0));
  });
  took[name] = (Date.now() - began) / 1000;
  console.log(`── ${name}: ${ok ? 'passed' : 'FAILED'} after ${Math.round(took[name])} s`);
  PARTS[name].tally(ok);
  return ok;
}

const began = Date.now();
const chromium = only === undefined || only === 'browser' ? ensureChromium() : null;
await ensureInstalled();
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

if (only === undefined) {
  // The web export takes longest and needs one core; the checks go on beside it.
  const build = runPart('build');
  for (const name of ['types', 'lint', 'comments', 'boundaries']) await runPart(name);
  const isBuilt = await build;
  await runPart('unit');
  await chromium;
  if (isBuilt) for (const name of ['browser', 'bench']) await runPart(name);
} else {
  await chromium;
  const parts = [...(PARTS[only].needs ?? []), only];
  for (const name of parts) if (!(await runPart(name))) break;
}

const total = (Date.now() - began) / 1000;
console.log(`\nAll of it took ${Math.round(total)} s:`);
for (const [name, seconds] of Object.entries(took)) {
  const share = seconds / total;
  const isSlow = only === undefined && share > 2 * SHARES[name];
  console.log(
    `  ${name.padEnd(11)} ${String(Math.round(seconds)).padStart(5)} s  ${Math.round(share * 100)} % of it${isSlow ? `, twice the ${Math.round(SHARES[name] * 100)} % it may take` : ''}`,
  );
  if (isSlow && process.env.CI) count.failed++;
}
console.log(`\n${count.passed} passed, ${count.failed} failed`);
process.exit(count.failed ? 1 : 0);
