import { readFileSync, readlinkSync } from 'node:fs';

/** Linux counts a thread's processor time in hundredths of a second (proc(5), `/proc/pid/task/tid/stat`). */
const TICK_MS = 10;
/** Places of user time and system time in that file, counted from behind the program's name. */
const [USER, SYSTEM] = [11, 12];

/** Gives the name of the thread that this runs in, as the system knows it; null where it tells none. */
export function threadName(): string | null {
  try {
    return readlinkSync('/proc/thread-self').split('/').at(-1) ?? null;
  } catch {
    return null;
  }
}

/** Gives for how long a thread of this process has worked, in milliseconds of a processor; null where nobody tells. */
export function workedMs(thread: string | null): number | null {
  if (thread === null) return null;
  try {
    const stat = readFileSync(`/proc/self/task/${thread}/stat`, 'latin1');
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    return (Number(fields[USER]) + Number(fields[SYSTEM])) * TICK_MS;
  } catch {
    return null;
  }
}
