// A browser spoken to over its debugging pipe, and nothing attached to its pages but what is asked for: a
// test tool would have an inspector in them, with which V8 works out where everything on the stack stands at
// every error made (React alone makes five when it is read; 0.3 s on a processor slowed four times, which
// nobody else waits for).
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { launchOptions } from '../e2e/browsers.ts';

/** One browser; `page()` gives a blank page of its own, `close()` ends all. */
export async function launch() {
  const profile = mkdtempSync(join(tmpdir(), 'zephyrfield-bench-'));
  const child = spawn(
    launchOptions.executablePath,
    [...launchOptions.args, '--remote-debugging-pipe', `--user-data-dir=${profile}`],
    { stdio: ['ignore', 'ignore', 'ignore', 'pipe', 'pipe'] },
  );
  const [, , , write, read] = child.stdio;
  const waiting = new Map();
  const listeners = new Set();
  let count = 0;
  let rest = '';
  read.setEncoding('utf8').on('data', (chunk) => {
    const messages = (rest + chunk).split('\0');
    rest = messages.pop();
    for (const message of messages.map((text) => JSON.parse(text))) {
      const { done, fail } = waiting.get(message.id) ?? {};
      waiting.delete(message.id);
      if (message.error) fail?.(new Error(message.error.message));
      else if (done) done(message.result);
      else for (const listener of listeners) listener(message);
    }
  });
  child.once('exit', (code) => {
    for (const { fail } of waiting.values()) fail(new Error(`the browser ended with ${code}`));
  });
  const send = (method, params = {}, sessionId) =>
    new Promise((done, fail) => {
      waiting.set(++count, { done, fail });
      write.write(`${JSON.stringify({ id: count, method, params, sessionId })}\0`);
    });
  return {
    async page() {
      const { targetId } = await send('Target.createTarget', { url: 'about:blank' });
      const { sessionId } = await send('Target.attachToTarget', { targetId, flatten: true });
      return {
        send: (method, params) => send(method, params, sessionId),
        /** The next event of that name */
        next: (method) =>
          new Promise((done) => {
            const listener = (message) =>
              message.sessionId === sessionId &&
              message.method === method &&
              (listeners.delete(listener), done(message.params));
            listeners.add(listener);
          }),
        on: (method, act) =>
          listeners.add(
            (message) => message.sessionId === sessionId && message.method === method && act(message.params),
          ),
        close: () => send('Target.closeTarget', { targetId }),
      };
    },
    async close() {
      const ended = new Promise((done) => child.once('exit', done));
      // It may be gone before it can answer.
      await send('Browser.close').catch(() => {});
      await ended;
      // What it had begun to write may still be written for a moment.
      rmSync(profile, { recursive: true, force: true, maxRetries: 10, retryDelay: 100 });
    },
  };
}
