// `npm run keep-release`: keeps an installation as this version writes it (the demo's data, as a backup) and all that
// people see in it, for the tests of every later version. Done once for each release, with the very code of it.
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, mkdirSync, readFileSync, rmSync, writeFileSync, existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { ensureInstalled, root } from './lib/setup.mjs';

await ensureInstalled();
const { buildServer } = await import('./build.mjs');
await buildServer();
const { version } = JSON.parse(readFileSync(`${root}/package.json`, 'utf8'));
const to = `${root}/server/test/releases/${version}`;
if (existsSync(to)) {
  console.error(`${version} is kept already: what it wrote does not change any more.`);
  process.exit(1);
}
const data = mkdtempSync(join(tmpdir(), 'zephyrfield-release-'));
const env = {
  ...process.env,
  ZEPHYRFIELD_PORT: '8441',
  ZEPHYRFIELD_CAMPUS_PORT: '8442',
  ZEPHYRFIELD_DATA: data,
};
const demo = spawn(process.execPath, [`${root}/server/dist/demo.js`], {
  env,
  stdio: ['ignore', 'pipe', 'inherit'],
});
try {
  const said = await new Promise((ready) => {
    let text = '';
    demo.stdout.on('data', (chunk) => {
      text += chunk;
      if (/ready/.test(text)) ready(text);
    });
  });
  const [, password] = /everybody's is (\S+?)\. /.exec(said);
  const base = 'http://localhost:8441';
  const { tsImport } = await import('tsx/esm/api');
  const { everyView } = await tsImport('../server/test/every-view.ts', import.meta.url);
  const json = (path, init) => fetch(`${base}${path}`, init).then((reply) => reply.json());
  const people = [];
  for (const { id } of await json('/api/demo/people')) {
    const entered = await fetch(`${base}/api/demo/people/${id}/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{}',
    });
    const headers = { cookie: entered.headers.getSetCookie()[0].split(';')[0] };
    const ask = async (path) => {
      const reply = await fetch(`${base}${path}`, { headers });
      return { status: reply.status, body: await reply.json() };
    };
    const { body } = await ask('/api/session');
    people.push({ email: body.person.email, views: await everyView(ask) });
  }
  const { now } = await json('/api/session');
  mkdirSync(to, { recursive: true });
  const backup = spawnSync(process.execPath, [`${root}/server/dist/backup.js`, `${to}/installation.zip`], {
    env,
    stdio: 'inherit',
  });
  if (backup.status !== 0) throw new Error('the backup failed');
  writeFileSync(`${to}/views.json.gz`, gzipSync(JSON.stringify({ now, password, people }), { level: 9 }));
  console.log(`Kept in server/test/releases/${version}. Commit it.`);
} catch (error) {
  rmSync(to, { recursive: true, force: true });
  throw error;
} finally {
  demo.kill();
  rmSync(data, { recursive: true, force: true });
}
