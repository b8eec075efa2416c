import { spawn, type ChildProcess } from 'node:child_process';
import { createRequire } from 'node:module';
import { createInterface } from 'node:readline';
import { CannotStart } from '../data-folder.ts';
import type { Log } from '../log.ts';
import { replicaState, type ReplicaState } from './replica-state.ts';

// Continuous replication, by Litestream: what is written reaches a folder or an S3-like store within some seconds.

const PACKAGE = '@flydotio/litestream';

/** The program that its package brings along for this machine. @throws CannotStart where there is none */
export function litestream(from: string): string {
  try {
    return createRequire(from).resolve(`${PACKAGE}-${process.platform}-${process.arch}/litestream`);
  } catch {
    throw new CannotStart(`${PACKAGE} is not installed for this machine, so that nothing can be replicated.`);
  }
}

/** Waits before it is started again, in milliseconds: longer each time, and anew once it ran for a while. */
const WAITS = [1_000, 5_000, 30_000, 120_000];
const LONG = 60_000;
/**
 * Runs a program for as long as its own input is open, so that it ends with the server, however that ends. A program in the
 * background has no input, which is why the pipe gets another number. Where it does not end when it is asked to, it is ended.
 */
const WHILE_OPEN = `exec 3<&0
"$@" 3<&- &
child=$!
( cat <&3 >/dev/null; kill -INT $child; sleep 4; kill -KILL $child ) &
watcher=$!
wait $child
code=$?
kill $watcher 2>/dev/null
exit $code`;

/** Time it may take to send what is left, at the stop. */
const STOP = 5_000;

export interface Replica extends ReplicaState {
  /** Sends what is left, and ends */
  stop(): Promise<void>;
}

/**
 * Replicates a database for as long as the server runs. Where that fails, it is begun again, and told in the log; people
 * are served all the same.
 */
export function replicate(program: string, file: string, url: string, log: Log): Replica {
  const state = replicaState(file, Date.now, {
    failed: (code) => log('replicating the database fails', { code }),
    goesOn: () => log('replicating the database goes on', {}),
  });
  let child: ChildProcess | null = null;
  let timer: NodeJS.Timeout | null = null;
  let isStopping = false;
  let failures = 0;
  const begin = () => {
    const began = performance.now();
    child = spawn('/bin/sh', ['-c', WHILE_OPEN, 'replicate', program, 'replicate', file, url], {
      stdio: ['pipe', 'pipe', 'pipe'],
    });
    for (const said of [child.stdout, child.stderr])
      if (said) createInterface({ input: said }).on('line', state.says);
    child.stdin?.on('error', () => {});
    const ended = (code: number | string) => {
      child = null;
      if (isStopping) return;
      failures = performance.now() - began > LONG ? 0 : failures + 1;
      state.ended();
      log('replicating the database ended, and is begun again', { code });
      timer = setTimeout(begin, WAITS[Math.min(failures, WAITS.length) - 1] ?? WAITS[0]);
      timer.unref();
    };
    child.once('error', (error) => ended(error.message));
    child.once('exit', (code, signal) => ended(code ?? signal ?? 0));
  };
  begin();
  return {
    ...state,
    async stop() {
      isStopping = true;
      if (timer) clearTimeout(timer);
      const running = child;
      if (!running) return;
      const ended = new Promise<void>((done) => running.once('exit', () => done()));
      running.stdin?.end();
      const late = setTimeout(() => running.kill('SIGKILL'), STOP);
      await ended;
      clearTimeout(late);
    },
  };
}
