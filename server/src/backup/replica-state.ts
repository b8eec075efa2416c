import { statSync } from 'node:fs';

/** Seconds without a success, while there is something to replicate, from which on replicating counts as failing. */
const TOO_LONG = 60;

/** Words of the program, and of stores, that tell why something could not be written; nothing else of a line is told. */
const CAUSES = [
  ['ENOSPC', /no space left|quota exceeded/i],
  ['EACCES', /permission denied|access ?denied|forbidden|signature/i],
  ['EROFS', /read-only file system/i],
  ['ENOENT', /no such file|no such bucket|not a directory/i],
  ['ECONNREFUSED', /connection refused|no such host|unreachable/i],
  ['ETIMEDOUT', /timeout|timed out|deadline exceeded/i],
] as const;

/** Standing of the replication, for whoever runs the server. */
export interface ReplicaState {
  /** Instant of the last piece that was written, in milliseconds; null before the first */
  lastSuccess(): number | null;
  /** Seconds for which what was written here has not reached the replica; 0 where all of it has */
  lagSeconds(): number;
  isWell(): boolean;
}

/**
 * Follows what Litestream says of itself. Its lines name the store, which may have a secret in it: of what fails only a
 * code is told, once for as long as it lasts.
 * @param now instants, in milliseconds
 * @param failed told when replicating begins to fail, and why
 * @param goesOn told when it goes on
 */
export function replicaState(
  file: string,
  now: () => number,
  { failed, goesOn }: { failed(code: string): void; goesOn(): void },
) {
  const began = now();
  let lastSuccess: number | null = null;
  let failing: string | null = null;
  const changedAt = () =>
    Math.max(...[file, `${file}-wal`].map((each) => statSync(each, { throwIfNoEntry: false })?.mtimeMs ?? 0));
  const lag = () => {
    const since = lastSuccess ?? began;
    return failing !== null || changedAt() > since ? Math.max(0, now() - since) / 1_000 : 0;
  };
  const fails = (code: string) => {
    if (failing === null) failed(code);
    failing = code;
  };
  return {
    lastSuccess: () => lastSuccess,
    lagSeconds: lag,
    isWell: () => failing === null && lag() < TOO_LONG,
    /** Takes one line of what the program says. */
    says(line: string): void {
      if (/ (?:wal segment|snapshot) written /.test(line)) {
        if (failing !== null) goesOn();
        failing = null;
        lastSuccess = now();
      } else if (/ ERROR /.test(line)) fails(CAUSES.find(([, words]) => words.test(line))?.[0] ?? 'EIO');
    },
    /** Takes note that the program has ended by itself. */
    ended: () => fails('ended'),
  };
}
