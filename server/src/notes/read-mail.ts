import { simpleParser } from 'mailparser';
import { answerIn } from '@zephyrfield/core/notify/mail-answer';

/** A mail as it came in. */
export interface MailJob {
  bytes: Uint8Array;
  /** So many files of it are looked at, the first ones */
  mostFiles: number;
}

/** What of a mail matters to a note. */
export interface ReadMail {
  from: string;
  text: string;
  /** A program has sent it, and nobody (RFC 3834): answering it could go on for ever */
  isAutomatic: boolean;
  files: { name: string; bytes: Uint8Array }[];
}

/** Reads a mail (RFC 5322, MIME). Runs in a worker thread, in bounded time and memory. */
export async function readMail({ bytes, mostFiles }: MailJob): Promise<ReadMail> {
  const mail = await simpleParser(Buffer.from(bytes), {
    skipImageLinks: true,
    skipTextToHtml: true,
    maxHtmlLengthToParse: 500_000,
  });
  const automatic = String(mail.headers.get('auto-submitted') ?? 'no');
  const precedence = String(mail.headers.get('precedence') ?? '');
  return {
    from: (mail.from?.value[0]?.address ?? '').toLowerCase(),
    text: answerIn(mail.text ?? ''),
    isAutomatic: !automatic.startsWith('no') || /^(bulk|junk|list)$/i.test(precedence),
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
