import nodemailer from 'nodemailer';
import type { PostedMail } from './mail.ts';

/** Answers a mail as whoever it went to would from their own program: quoted below, to where it asks to be answered. */
export async function sendAnswer(mail: PostedMail, words: string, port: number): Promise<void> {
  const transport = nodemailer.createTransport({ host: '127.0.0.1', port, ignoreTLS: true });
  try {
    await transport.sendMail({
      from: mail.to,
      to: mail.headers['reply-to'],
      subject: `Re: ${mail.subject}`,
      inReplyTo: mail.messageId,
      text: `${words}\n\nOn ${mail.headers['date'] ?? 'that day'}, ${mail.from} wrote:\n${mail.text.replace(/^/gm, '> ')}`,
    });
  } finally {
    transport.close();
  }
}
