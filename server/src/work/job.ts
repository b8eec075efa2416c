import type { NotACalendar } from '@zephyrfield/core/ical/reading';

/**
 * A kind of work that is done beside the server's own thread: its name, and its bounds. Whoever asks for it knows this
 * much, and only the thread loads what does it (`thread/worker.ts`).
 */
export interface Job<In, Out> {
  name: string;
  /** Longest time it may go on, in seconds of a processor */
  seconds: number;
  /** Number of MB by which the process may grow meanwhile, where not as usual */
  growsMb?: number;
  /** It has a thread of its own, so that nothing small waits behind it */
  isBig?: true;
  /** Words for input that is no calendar, by what it looks like */
  refused?(looksLike: LooksLike): Error;
  /** Never set: it ties input and result to the name */
  readonly types?: (input: In) => Out;
}
type LooksLike = NotACalendar['looksLike'];
