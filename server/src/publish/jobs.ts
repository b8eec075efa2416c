import type { Job } from '../work/job.ts';
import type { Published, PublishedJob } from './entries.ts';

/** Collects the entries of a calendar that others follow. */
export const PUBLISHED: Job<PublishedJob, Published> = { name: 'published', seconds: 10 };
