import { createHash } from 'node:crypto';
import { simpleParser } from 'mailparser';
import { answerIn } from '@zephyrfield/core/notify/mail-answer';

/** A mail as it came in. */
export interface MailJob {
  bytes: Uint8Array;
  /** Number of files of it that are looked at, the first ones */
  mostFiles: number;
}

/** What of a mail matters to a note. */
export interface ReadMail {
  /** Its Message-ID (RFC 5322 3.6.4), or the digest of its bytes where it has none */
  id: string;
  from: string;
  text: string;
  /** A program has sent it, and nobody (RFC 3834): answering it could go on for ever */
  isAutomatic: boolean;
  files: { name: string; bytes: Uint8Array }[];
}

/** Fields that programs put into what they send, whatever stands in them. */
const OF_PROGRAMS = [
  'x-autoreply',
  'x-autorespond',
  'x-auto-response-suppress',
  'list-id',
  'list',
  'feedback-id',
];
/** Matches the subject of a program's answer while somebody is away. */
const AWAY =
  /^(?:out of (?:the )?office|automatic reply|auto(?:matic)?[- ]?(?:reply|response)|away from|abwesen|abwesenheit|automatische antwort|réponse automatique|respuesta automática|automatisk svar|fraværende)/i;

/**
 * Tells whether a program has sent a mail, and nobody (RFC 3834 2): an answer to it could go on for ever.
 * @param header gives a field's value, empty where there is none
 */
function isAutomatic(header: (name: string) => string, subject: string): boolean {
  const automatic = header('auto-submitted').trim().toLowerCase();
  if (automatic !== '' && !automatic.startsWith('no')) return true;
  if (/^(?:bulk|junk|list|auto_reply)$/i.test(header('precedence').trim())) return true;
  return OF_PROGRAMS.some((name) => header(name) !== '') || AWAY.test(subject.trim());
}

/** Reads a mail (RFC 5322, MIME). Runs in a worker thread, in bounded time and memory. */
export async function readMail({ bytes, mostFiles }: MailJob): Promise<ReadMail> {
  const mail = await simpleParser(Buffer.from(bytes), {
    skipImageLinks: true,
    skipTextToHtml: true,
    maxHtmlLengthToParse: 500_000,
  });
  const senders = mail.from?.value ?? [];
  const header = (name: string) => {
    const value = mail.headers.get(name);
    return value === undefined ? '' : typeof value === 'string' ? value : JSON.stringify(value);
  };
  return {
    id: mail.messageId || createHash('sha256').update(bytes).digest('hex'),
    // Of two senders nobody knows whose answer it is (RFC 5322 3.6.2).
    from: senders.length === 1 ? (senders[0]!.address ?? '').toLowerCase() : '',
    text: answerIn(mail.text ?? ''),
    isAutomatic: isAutomatic(header, mail.subject ?? ''),
    files: mail.attachments
      // What is shown inside a quoted mail is no file of the answer.
      .filter((a) => !a.related && a.content.length > 0)
      .slice(0, mostFiles)
      .map((a, n) => ({
        name: (a.filename ?? `file ${n + 1}`).replace(/[\\/\u0000-\u001f]/g, ' ').slice(0, 255),
        bytes: new Uint8Array(a.content),
      })),
  };
}
