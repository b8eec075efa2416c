import { pino } from 'pino';

/** Writes the server's log to standard error: a line of words, or a JSON object a line with its time. */
export function makeLog(form: 'text' | 'json'): (message: string) => void {
  if (form === 'text') return console.error;
  const logger = pino(
    { base: null, timestamp: pino.stdTimeFunctions.isoTime },
    pino.destination({ dest: 2, sync: true }),
  );
  return (message) => logger.info(message);
}
