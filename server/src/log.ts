import { pino } from 'pino';

/** What a message is about, in fields of its own: never a name, an address, a link or a secret of anybody. */
export type Fields = Readonly<Record<string, string | number>>;
export type Log = (message: string, fields?: Fields) => void;

/** Writes the server's log to standard error: a line of words, or a JSON object a line with its time and fields. */
export function makeLog(form: 'text' | 'json'): Log {
  if (form === 'text') return (message, fields = {}) => console.error(inWords(message, fields));
  const logger = pino(
    { base: null, timestamp: pino.stdTimeFunctions.isoTime },
    pino.destination({ dest: 2, sync: true }),
  );
  return (message, fields = {}) => logger.info(fields, message);
}

/** A message with its fields, as one line. */
export function inWords(message: string, fields: Fields): string {
  const list = Object.entries(fields).map(([name, value]) => `${name} ${value}`);
  return list.length ? `${message} (${list.join(', ')})` : message;
}
