import type { Job } from '../work/job.ts';
import type { BetweenJob } from './between.ts';
import type { OwnDates, OwnDatesJob } from './own-dates.ts';

/** Works out the dates of items made by hand. */
export const OWN_DATES: Job<OwnDatesJob, OwnDates[]> = { name: 'ownDates', seconds: 10 };
/** Makes a reply for a span of time that holds very much. */
export const BETWEEN: Job<BetweenJob, string> = { name: 'between', seconds: 20 };
