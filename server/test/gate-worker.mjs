// A worker that waits or grows as a test tells it to, in place of the one that does real work.
import { Buffer } from 'node:buffer';
import { readlinkSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';

const kept = [];
parentPort.on('message', ({ job: { tries, grow, waits } }) => {
  const times = Atomics.add(tries, 0, 1) + 1;
  if (grow) kept.push(Buffer.alloc(grow, 1));
  // For ever, but for what is done at its second try.
  if (waits === 'always' || (waits === 'first' && times === 1))
    Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0);
  parentPort.postMessage({ result: times });
});
parentPort.postMessage({ ready: true, thread: readlinkSync('/proc/thread-self').split('/').at(-1) });
