import type { Job } from '../work/job.ts';
import type { GoingOut } from './make.ts';

/** Makes what goes out by a link or as a file. */
export const GO_OUT: Job<GoingOut, string> = { name: 'goOut', seconds: 10 };
