// Starts a built server as a child and waits until it has said where it is.
import { spawn } from 'node:child_process';
import { MEMORY_ENV, memoryFlags } from './memory.mjs';
import { root } from './setup.mjs';

/** Runs a built script until it is stopped, with its output on ours. */
export function serve(script, env) {
  const child = spawn(process.execPath, [...memoryFlags(), '--enable-source-maps', `${root}/${script}`], {
    cwd: process.cwd(),
    stdio: 'inherit',
    env: { ...MEMORY_ENV, ...process.env, ...env },
  });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
  child.on('exit', (code, signal) => process.exit(signal ? 0 : (code ?? 1)));
}
