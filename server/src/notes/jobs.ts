import type { Job } from '../work/job.ts';
import type { MailJob, ReadMail } from './read-mail.ts';

/** Reads a mail that answers a note. */
export const READ_MAIL: Job<MailJob, ReadMail> = { name: 'mail', seconds: 10 };
