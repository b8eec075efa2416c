// How much memory the server may take: its live data is some 230 MB with hundreds of people, and without a bound Node lets
// garbage lie for as long as the machine has room.
import { totalmem } from 'node:os';

const MB = 2 ** 20;
/** The heap of the server's own thread, in MB: an eighth of what there is, which a unit may limit as well. */
const heapMb = () => {
  const limit = Math.min(process.constrainedMemory?.() || Infinity, totalmem());
  return Math.round(Math.min(512, Math.max(256, limit / MB / 8)));
};

/** Gives the flags that Node is started with so that its memory stays bounded. */
export const memoryFlags = () => [`--max-old-space-size=${heapMb()}`];
/** Number of arenas of the C library: each thread with its own keeps what the others could use. */
export const MEMORY_ENV = { MALLOC_ARENA_MAX: '2' };
