import type { Job } from '../work/job.ts';
import type { PackJob } from './pack.ts';
import type { UnpackJob, Unpacked } from './unpack.ts';

/** Looks a database through, page by page. */
export const IS_SOUND: Job<{ file: string }, boolean> = { name: 'isSound', seconds: 600, isBig: true };
/** Packs a schedule into an archive; gives where it lies. */
export const PACK: Job<PackJob, string> = { name: 'pack', seconds: 120, isBig: true };
/** Unpacks an archive, as far as it is one. */
export const UNPACK: Job<UnpackJob, Unpacked | { why: string }> = {
  name: 'unpack',
  seconds: 120,
  isBig: true,
};
