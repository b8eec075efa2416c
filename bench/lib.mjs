// What the benches that measure the server as it runs have in common.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { root } from '../scripts/lib/setup.mjs';

/** Starts a built server as a process of its own, and waits until it says where it is ready. */
export async function startServer(script, env, nodeOptions = []) {
  const child = spawn(process.execPath, [...nodeOptions, join(root, 'server/dist', script)], {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  // Whatever ends this ends it as well.
  process.once('exit', () => child.kill('SIGKILL'));
  let said = '';
  const address = await new Promise((ready, fail) => {
    child.once('exit', (code) => fail(new Error(`the server ended with ${code}`)));
    child.stdout.on('data', (chunk) => {
      said += chunk;
      const at = /ready(?: at|:) +(\S+)\n/.exec(said)?.[1];
      if (at) ready(at);
    });
  });
  return {
    address,
    pid: child.pid,
    setUpWord: /set-up word[^:]*: (\S+)/.exec(said)?.[1],
    stop: () => new Promise((done) => (child.once('exit', done), child.kill('SIGTERM'))),
    /** Asks for a change, as somebody by their cookie. */
    post: (path, body, cookie = '') =>
      fetch(address + path, {
        method: 'POST',
        headers: { 'content-type': 'application/json', origin: address, cookie },
        body: JSON.stringify(body),
      }),
  };
}

/** The cookies that a reply sets, as a request sends them. */
export const cookieOf = (reply) =>
  reply.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ');

/** Puts rows into a database's tables as they are given. */
export function putter(db) {
  const statements = new Map();
  return (table, row) => {
    const names = Object.keys(row);
    const key = `${table} ${names.join()}`;
    let statement = statements.get(key);
    if (!statement) {
      const columns = names.map((n) => `"${n}"`).join(', ');
      statement = db.prepare(`INSERT INTO ${table} (${columns}) VALUES (${names.map(() => '?').join(', ')})`);
      statements.set(key, statement);
    }
    statement.run(...Object.values(row));
  };
}
