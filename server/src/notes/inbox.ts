import { SMTPServer, type SMTPServerSession } from 'smtp-server';
import { NOTE_FILES } from '@zephyrfield/core/api/notes';
import { ProblemError, placeOf } from '../http/problem.ts';
import type { Log } from '../log.ts';
import type { Attempts } from '../people/attempts.ts';
import type { SecurityLog } from '../security-log.ts';
import type { Pool } from '../work/pool.ts';
import { READ_MAIL } from './jobs.ts';
import { digestOf } from './mail.ts';
import type { NoteService } from './service.ts';

export interface InboxDeps {
  notes: NoteService;
  attempts: Attempts;
  pool: Pool;
  /** The address somebody has confirmed; null where there is none */
  addressOf(personId: string): string | null;
  /** What stands behind the @ of addresses to answer to */
  domain: string;
  port: number;
  host: string;
  /** Key and certificate (PEM) by which connections are encrypted where the sender wants it (RFC 3207) */
  tls?: { key: Buffer; cert: Buffer } | undefined;
  /** Longest time of a connection, in milliseconds */
  longestMs?: number;
  security: SecurityLog;
  log: Log;
}

/** The largest mail that is taken in, in bytes; files are a third larger on their way. */
const LARGEST = 15 * 2 ** 20;
/** Connections at once, and of one address. */
const MOST_CONNECTIONS = 100;
const MOST_FROM_ADDRESS = 8;
/** Time a connection may be silent, and how long it may last whatever is said on it, in milliseconds. */
const SILENT = 60_000;
const LONGEST = 180_000;
const BEGINS = 'note.';

/** Gives what stands before the @ of the address by which one person answers in one thread. */
export const localPart = (token: string): string => `${BEGINS}${token}`;

const refused = (code: number, words: string) => Object.assign(new Error(words), { responseCode: code });

/**
 * Takes answers to notes in by mail, on a port of its own. Each address is good for one person in one thread; what comes
 * has to be from that person’s confirmed address. Nothing else is taken, and nothing is passed on.
 */
export function inbox(deps: InboxDeps) {
  const { notes, attempts, pool, addressOf, domain, port, host, tls, security, log } = deps;
  const { longestMs = LONGEST } = deps;
  const from = new Map<string, number>();
  const tokenOf = (address: string): string | null => {
    const [local = '', at = ''] = address.toLowerCase().split('@');
    return at === domain.toLowerCase() && local.startsWith(BEGINS) ? local.slice(BEGINS.length) : null;
  };
  const note = (event: string, session: SMTPServerSession, personId?: string) =>
    security.note({ event, from: session.remoteAddress, person: personId });

  /** Finds whose answer an address stands for. @throws an error with the code the sender is told (RFC 5321 4.2) */
  function recipient(address: string, session: SMTPServerSession) {
    const token = tokenOf(address);
    const found = token && notes.byMail(digestOf(token));
    if (!found) {
      note('mail-to-nobody', session);
      throw refused(550, 'No such address here');
    }
    return found;
  }

  /**
   * Admits a mail before any of it is read: by where it goes, and by whom its envelope says it is from. What has no
   * sender was sent by a program (RFC 3834 3.3).
   * @throws an error with the code that the sender is told
   */
  async function admit(address: string, session: SMTPServerSession): Promise<void> {
    await attempts.take('inbox', session.remoteAddress).catch(() => {
      throw refused(421, 'Too many at once, try again later');
    });
    const to = recipient(address, session);
    const { mailFrom } = session.envelope;
    const sender = mailFrom ? mailFrom.address.toLowerCase() : '';
    if (sender === '') throw refused(550, 'Nothing is taken from programs');
    if (sender !== addressOf(to.personId)?.toLowerCase()) {
      note('mail-from-another', session, to.personId);
      throw refused(550, 'Answer from the address that the note went to');
    }
  }

  /** Makes a note of a mail. */
  async function take(bytes: Uint8Array, session: SMTPServerSession): Promise<void> {
    const to = recipient(session.envelope.rcptTo[0]?.address ?? '', session);
    await attempts.take('mailed', `${to.threadId} ${to.personId}`).catch(() => {
      throw refused(452, 'Too many answers, try again in an hour');
    });
    const mail = await pool
      .run(READ_MAIL, { bytes, mostFiles: NOTE_FILES }, to.personId)
      .catch((error: unknown) => {
        // There is too much to do just now: it is sent again later.
        if (error instanceof ProblemError) throw error;
        throw refused(554, 'The mail could not be read');
      });
    if (mail.isAutomatic) return;
    if (!mail.from || mail.from !== addressOf(to.personId)?.toLowerCase()) {
      note('mail-from-another', session, to.personId);
      throw refused(550, 'Answer from the address that the note went to');
    }
    // Sent again after its answer was lost, a mail is still one note.
    const key = `mail ${digestOf(mail.id)} ${to.threadId}`;
    if (notes.isWritten(to.personId, to.threadId, key)) return;
    const fileIds: string[] = [];
    for (const file of mail.files) {
      // What is of no kind that can go along is left out; the words are what matters.
      const taken = await notes
        .takeFile(to.personId, { name: file.name }, file.bytes)
        .catch((error: unknown) => {
          if (!(error instanceof ProblemError)) throw error;
          return null;
        });
      if (taken) fileIds.push(taken.id);
    }
    if (!mail.text && !fileIds.length) throw refused(554, 'There is no answer in it');
    await notes.answer(to.threadId, to.personId, { text: mail.text, fileIds, key, byMail: true });
  }

  const answered = (error: unknown): Error => {
    if (error instanceof Error && 'responseCode' in error) return error;
    if (error instanceof ProblemError) return refused(452, 'It cannot be taken just now');
    log('taking a mail in failed', { fault: placeOf(error) });
    return refused(451, 'It could not be taken, try again later');
  };
  /** Timers that end connections, by the session's id */
  const ends = new Map<string, NodeJS.Timeout>();
  /** Ends a connection, whatever is said on it. */
  function close(id: string): void {
    const connections = server.connections as unknown as Set<{
      id: string;
      send(code: number, text: string): void;
      close(): void;
    }>;
    for (const connection of [...connections].filter((each) => each.id === id)) {
      connection.send(421, 'It has taken too long');
      connection.close();
    }
  }
  const server: SMTPServer = new SMTPServer({
    name: domain,
    authOptional: true,
    disabledCommands: tls ? ['AUTH'] : ['AUTH', 'STARTTLS'],
    ...tls,
    size: LARGEST,
    maxClients: MOST_CONNECTIONS,
    socketTimeout: SILENT,
    closeTimeout: 1_000,
    logger: false,
    disableReverseLookup: true,
    onConnect(session, done) {
      const { remoteAddress } = session;
      const count = (from.get(remoteAddress) ?? 0) + 1;
      if (count > MOST_FROM_ADDRESS) return done(refused(421, 'Too many at once, try again later'));
      from.set(remoteAddress, count);
      const over = setTimeout(() => close(session.id), longestMs).unref();
      ends.set(session.id, over);
      done();
    },
    onClose({ id, remoteAddress }) {
      const over = ends.get(id);
      // One that was refused at once was never counted.
      if (!over) return;
      clearTimeout(over);
      ends.delete(id);
      const left = (from.get(remoteAddress) ?? 1) - 1;
      if (left > 0) from.set(remoteAddress, left);
      else from.delete(remoteAddress);
    },
    onRcptTo({ address }, session, done) {
      if (session.envelope.rcptTo.length) return done(refused(452, 'One at a time'));
      admit(address, session).then(
        () => done(),
        (error: unknown) => done(answered(error)),
      );
    },
    onData(stream, session, done) {
      const chunks: Buffer[] = [];
      let size = 0;
      stream.on('data', (chunk: Buffer) => {
        size += chunk.length;
        if (size <= LARGEST) chunks.push(chunk);
      });
      stream.on('end', () => {
        if (size > LARGEST || stream.sizeExceeded) return done(refused(552, 'It is too large'));
        take(Buffer.concat(chunks), session).then(
          () => done(),
          (error: unknown) => done(answered(error)),
        );
      });
    },
  });
  // A sender that is cut off in the middle ends its connection, and nothing else.
  server.on('error', () => {});
  return {
    /** Begins to listen; gives the port. */
    start: (): Promise<number> =>
      new Promise((ready, fail) => {
        server.once('error', fail);
        const listening = server.listen(port, host, () => {
          const at = listening.address();
          ready(typeof at === 'object' && at ? at.port : port);
        });
      }),
    stop: (): Promise<void> => new Promise((done) => server.close(() => done())),
  };
}
export type Inbox = ReturnType<typeof inbox>;
