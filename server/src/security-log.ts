import { existsSync, renameSync, statSync } from 'node:fs';
import { pino } from 'pino';

/** Something that whoever looks after an installation may want to know when somebody tries to get in. */
export interface SecurityEvent {
  /** What happened, as the last part of a problem's type: `wrong-password`, `not-allowed`, `too-often` … */
  event: string;
  /** The address it was asked from */
  from?: string | undefined;
  /** Who was signed in, by id */
  person?: string | undefined;
  /**
   * Which account was meant, as a keyed digest of its mail address: the same one is known again, and nobody
   * can read it
   */
  account?: string | undefined;
  /** The method and the path's pattern, never its parameters: they may hold what is secret */
  route?: string | undefined;
}

export interface SecurityLog {
  note(event: SecurityEvent): void;
  close(): void;
}

/** Moment when a log has grown to this many bytes it is put aside; the one put aside before goes. */
const MOST_BYTES = 8 * 2 ** 20;
/** A line is some 200 bytes: how many are written between two looks at the size. */
const LOOK_EVERY = 1000;

/**
 * Writes security events to a file of their own, a JSON object a line, apart from the general log. Only its
 * owner may read it. It holds no password, token, link or mail address.
 */
export function securityLog(file: string, now: () => number): SecurityLog {
  const destination = pino.destination({ dest: file, sync: true, mkdir: true, mode: 0o600 });
  const logger = pino(
    { base: null, timestamp: () => `,"time":"${new Date(now()).toISOString()}"` },
    destination,
  );
  let written = 0;
  return {
    note(event) {
      if (written++ % LOOK_EVERY === 0 && existsSync(file) && statSync(file).size > MOST_BYTES) {
        renameSync(file, `${file}.1`);
        destination.reopen();
      }
      logger.warn(event);
    },
    close: () => destination.end(),
  };
}
