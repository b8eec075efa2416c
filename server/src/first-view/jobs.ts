import type { Job } from '../work/job.ts';
import type { DrawJob, Drawing } from './draw.ts';

/** Draws Today as a page has it. */
export const DRAW: Job<DrawJob, Drawing> = { name: 'draw', seconds: 5 };
