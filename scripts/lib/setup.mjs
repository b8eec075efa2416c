// What every script needs first: the packages, from the lockfile alone.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('../..', import.meta.url)).replace(/\/$/, '');

/**
 * Runs a command in the project's root and ends the script where it fails. Its output goes to standard error.
 */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: ['ignore', 2, 2], ...options });
  if (status !== 0) {
    console.error(`${command} ${args.join(' ')} failed${error ? `: ${error.message}` : ''}`);
    process.exit(status || 1);
  }
}

/**
 * Installs packages where they are missing or the lockfile has changed since.
 * @param what  `run`: what building and running it takes, four fifths of the whole; `all`: what tests and checks take as well
 */
export async function ensureInstalled(what = 'all') {
  const major = Number(process.versions.node.split('.')[0]);
  if (major < 20) {
    console.error(`Zephyrfield needs Node 20 or newer; this is ${process.version}.`);
    process.exit(1);
  }
  const stamp = `${root}/node_modules/.zephyrfield-lock`;
  const lock = createHash('sha256')
    .update(readFileSync(`${root}/package-lock.json`))
    .digest('hex');
  const [kept, keptWhat] = existsSync(stamp) ? readFileSync(stamp, 'utf8').split(' ') : [];
  if (kept === lock && (what === 'run' || keptWhat === 'all')) return;
  console.error('Installing packages: some minutes on a new machine …');
  // Not waited for in one piece: Chromium is installed beside it.
  const code = await new Promise((done) => {
    const less = what === 'run' ? ['--omit=dev'] : [];
    const child = spawn('npm', ['ci', ...less, '--no-audit', '--no-fund', '--loglevel=error'], {
      cwd: root,
      stdio: ['ignore', 2, 2],
    });
    child.on('error', () => done(1));
    child.on('exit', done);
  });
  if (code !== 0) {
    console.error('npm ci failed.');
    process.exit(code || 1);
  }
  writeFileSync(stamp, `${lock} ${what}`);
}

/**
 * Debian's packages of the browsers, by their programs. Most tests run in the light one; a few need the
 * whole.
 */
const BROWSERS = {
  '/usr/bin/chromium': 'chromium',
  '/usr/bin/chromium-headless-shell': 'chromium-headless-shell',
};

/**
 * Installs Debian's Chromium through apt where it is missing and that is allowed; says what to do where it is
 * not. Begun at once and beside what else there is to do, waited for where it is needed.
 */
export async function ensureChromium() {
  const missing = () =>
    Object.entries(BROWSERS).flatMap(([program, name]) => (existsSync(program) ? [] : [name]));
  if (!missing().length) return;
  console.error('Installing Chromium …');
  const apt = (...args) =>
    new Promise((done) => {
      const child = spawn('apt-get', args, {
        stdio: ['ignore', 2, 2],
        env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
      });
      child.on('error', () => done(false));
      child.on('exit', (code) => done(code === 0));
    });
  if (
    process.getuid?.() === 0 &&
    (await apt('update')) &&
    (await apt('install', '-y', '--no-install-recommends', ...missing())) &&
    !missing().length
  )
    return;
  console.error(
    `The browser tests need Chromium. Install it, on Debian with: sudo apt-get install ${missing().join(' ')}`,
  );
  process.exit(1);
}
