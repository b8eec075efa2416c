import type { Job } from '../work/job.ts';
import type { Derived, ReadJob, ReadResult, RederiveJob } from './read-bytes.ts';
import { FeedTrouble } from './trouble.ts';

const NO_CALENDAR = { webPage: 'webPage', nothing: 'empty', 'something else': 'notCalendar' } as const;

/** Reads a feed's bytes as entries. */
export const READ: Job<ReadJob, ReadResult> = {
  name: 'read',
  seconds: 20,
  refused: (looksLike) => new FeedTrouble(NO_CALENDAR[looksLike]),
};
/** Works out stored entries anew under other rules. */
export const REDERIVE: Job<RederiveJob, Derived> = { name: 'rederive', seconds: 20 };
