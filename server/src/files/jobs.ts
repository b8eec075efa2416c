import type { Job } from '../work/job.ts';
import type { FileKind } from './kind.ts';

/** Tells the kind of a file by its content. */
export const FILE_KIND: Job<{ bytes: Uint8Array; name: string }, FileKind> = { name: 'fileKind', seconds: 5 };
