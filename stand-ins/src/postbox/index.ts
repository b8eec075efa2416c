import { appendFileSync, existsSync, readFileSync } from 'node:fs';
import express, { type Express } from 'express';
import PostalMime from 'postal-mime';
import { SMTPServer } from 'smtp-server';
import { sendAnswer } from './answer.ts';
import type { PostedMail } from './mail.ts';
import { mailPage, postPage } from './page.ts';

export type { PostedMail } from './mail.ts';

export interface Postbox {
  smtp: SMTPServer;
  app: Express;
  mails: PostedMail[];
  /** Addresses that do not exist here */
  refused: Set<string>;
}

/** The largest mail taken, in bytes. */
const LARGEST = 2 * 2 ** 20;

const CUT_OFF = new Set(['ECONNRESET', 'EPIPE', 'ETIMEDOUT']);

const PAGE_POLICY = "default-src 'none'; style-src 'unsafe-inline'; img-src data:";

/**
 * A stand-in for a mail server: takes mail over SMTP for anybody, sends it nowhere, and shows it on a page.
 * Not the product: nothing in it is meant to face the internet.
 * @param file where mail is kept; only in memory without it
 * @param answers the port at which answers to mails are taken in; none can be written without it
 */
export function createPostbox(file: string | null = null, answers?: () => number | null): Postbox {
  const mails: PostedMail[] = [];
  const byId = new Map<string, PostedMail>();
  const refused = new Set<string>();
  const keep = (mail: PostedMail): void => {
    const known = byId.get(`${mail.messageId} ${mail.to}`);
    if (known) return void known.times++;
    byId.set(`${mail.messageId} ${mail.to}`, mail);
    mails.push(mail);
  };
  if (file && existsSync(file))
    for (const line of readFileSync(file, 'utf8').split('\n').filter(Boolean))
      keep(JSON.parse(line) as PostedMail);

  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    size: LARGEST,
    logger: false,
    // Those who keep their connections are not waited for.
    closeTimeout: 200,
    onRcptTo({ address }, _session, done) {
      if (!refused.has(address.toLowerCase())) return done();
      done(Object.assign(new Error('5.1.1 No such mailbox here'), { responseCode: 550 }));
    },
    onData(stream, session, done) {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('end', () => {
        void PostalMime.parse(Buffer.concat(chunks)).then((parsed) => {
          for (const { address } of session.envelope.rcptTo) {
            const mail: PostedMail = {
              messageId: parsed.messageId ?? '',
              to: address,
              from: parsed.from?.address ?? '',
              subject: parsed.subject ?? '',
              text: parsed.text ?? '',
              html: parsed.html ?? '',
              headers: Object.fromEntries(parsed.headers.map((h) => [h.key, h.value])),
              times: 1,
            };
            // Kept before it is acknowledged.
            if (file) appendFileSync(file, JSON.stringify(mail) + '\n');
            keep(mail);
          }
          done();
        }, done);
      });
    },
  });
  // A sender that is cut off in the middle of a mail ends its connection, and nothing else.
  smtp.on('error', (error: NodeJS.ErrnoException) => {
    if (!CUT_OFF.has(error.code ?? '')) throw error;
  });

  const app = express();
  app.disable('x-powered-by');
  app.use(express.urlencoded({ extended: false, limit: '16kb' }));
  app.get(
    '/',
    (req, res) => void res.type('html').send(postPage(mails, refused, String(req.query['to'] ?? ''))),
  );
  app.get('/mails', (_req, res) => void res.json(mails));
  app.get('/mails/:index', (req, res) => {
    const mail = mails[Number(req.params.index)];
    if (!mail) return void res.status(404).type('text/plain').send('Not found\n');
    // What a mail carries cannot run here either.
    res
      .set('Content-Security-Policy', PAGE_POLICY)
      .type('html')
      .send(mailPage(mail, Number(req.params.index), canBeAnswered(mail), ''));
  });
  const canBeAnswered = (mail: PostedMail) => Boolean(mail.headers['reply-to'] && answers?.());
  app.post('/mails/:index/answer', (req, res) => {
    const mail = mails[Number(req.params.index)];
    const port = answers?.();
    if (!mail || !port) return void res.status(404).type('text/plain').send('Not found\n');
    const { answer = '' } = req.body as Record<string, string>;
    const page = (said: string) =>
      void res
        .set('Content-Security-Policy', PAGE_POLICY)
        .type('html')
        .send(mailPage(mail, Number(req.params.index), true, said));
    sendAnswer(mail, answer, port).then(
      () => page('Your answer has been taken.'),
      (error: Error) => page(`It was not taken: ${error.message}`),
    );
  });
  app.post('/refuse', (req, res) => {
    const { address = '', action = '' } = req.body as Record<string, string>;
    if (action === 'take') refused.delete(address.toLowerCase());
    else if (address) refused.add(address.toLowerCase());
    res.redirect(303, '/');
  });
  return { smtp, app, mails, refused };
}
