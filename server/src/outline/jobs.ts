import type { OutlineJob, OutlineRead } from './job.ts';
import type { Job } from '../work/job.ts';

/** Reads a course outline; what its readers unpack lies beside the thread's own memory. */
export const READ_OUTLINE: Job<OutlineJob, OutlineRead> = { name: 'outline', seconds: 10, growsMb: 400 };
