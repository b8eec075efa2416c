// `npm run lint`: how the code is written (ESLint), and whether every promise is waited for (oxlint, which knows types).
// Files may be named, to look at those alone.
import { readFileSync, writeFileSync } from 'node:fs';
import { spawn } from 'node:child_process';
import { root } from './lib/setup.mjs';

const named = process.argv.slice(2);
const typed = named.filter((file) => /\.tsx?$/.test(file));
const bin = (name) => `${root}/node_modules/.bin/${name}`;
const parts = ['core', 'server', 'stand-ins', 'demo', 'app', 'e2e', 'bench'];

/** Runs a program beside others. @returns whether it found nothing */
const finds = (name, args) =>
  new Promise((done) => {
    const child = spawn(bin(name), args, { cwd: root, stdio: ['ignore', 2, 2] });
    child.on('error', () => done(false)).on('exit', (code) => done(code === 0));
  });
const found = await Promise.all([
  finds('eslint', ['--max-warnings', '0', ...(named.length ? named : ['.'])]),
  !named.length || typed.length
    ? finds('oxlint', ['--type-aware', '--deny-warnings', ...(named.length ? typed : parts)])
    : true,
]);
if (found.includes(false)) process.exitCode = 1;

// Verdicts on patterns stand one a line and in order, so that a change shows which is new.
const file = `${root}/scripts/patterns.json`;
const { settings, results } = JSON.parse(readFileSync(file, 'utf8'));
const lines = Object.keys(results)
  .sort()
  .map((pattern) => `    ${JSON.stringify(pattern)}: ${JSON.stringify(results[pattern])}`);
const text = `{\n  "settings": ${JSON.stringify(settings)},\n  "results": {\n${lines.join(',\n')}\n  }\n}\n`;
if (text !== readFileSync(file, 'utf8')) writeFileSync(file, text);
