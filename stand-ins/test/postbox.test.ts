import { createConnection, type AddressInfo } from 'node:net';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createPostbox, type Postbox } from '../src/postbox/index';

let postbox: Postbox;
let port: number;
const folder = mkdtempSync(join(tmpdir(), 'zephyrfield-post-'));
const file = join(folder, 'post.jsonl');

async function open(): Promise<void> {
  postbox = createPostbox(file);
  const listening = postbox.smtp.listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  port = (listening.address() as AddressInfo).port;
}
const close = () => new Promise<void>((done) => postbox.smtp.close(done));
beforeEach(open);
afterEach(close);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Speaks SMTP (RFC 5321) by hand; gives the code each line was answered with. */
function say(...lines: string[]): Promise<number[]> {
  return new Promise((done, fail) => {
    const socket = createConnection(port, '127.0.0.1');
    const codes: number[] = [];
    const left = [...lines];
    let seen = '';
    socket.on('data', (chunk: Buffer) => {
      seen += chunk.toString();
      for (let end = seen.indexOf('\r\n'); end >= 0; end = seen.indexOf('\r\n')) {
        const reply = seen.slice(0, end);
        seen = seen.slice(end + 2);
        // An answer of several lines ends with the one without a dash.
        if (reply[3] === '-') continue;
        codes.push(Number(reply.slice(0, 3)));
        const next = left.shift();
        if (next === undefined) return void (socket.end(), done(codes));
        socket.write(next + '\r\n');
      }
    });
    socket.on('error', fail);
  });
}
const mail = (to: string, id: string, subject = 'Keel plan') => [
  'EHLO me',
  'MAIL FROM:<zephyrfield@localhost>',
  `RCPT TO:<${to}>`,
  'DATA',
  `Message-ID: <${id}>\r\nFrom: Zephyrfield <zephyrfield@localhost>\r\nTo: ${to}\r\nSubject: ${subject}\r\n\r\nDue tomorrow\r\n.`,
  'QUIT',
];

test('takes mail for anybody, keeps it over a restart, and keeps one of a Message-ID once', async () => {
  expect(await say(...mail('juno@skerrow.example', 'a@x'))).toEqual([220, 250, 250, 250, 354, 250, 221]);
  await say(...mail('juno@skerrow.example', 'a@x'));
  await say(...mail('maren@skerrow.example', 'b@x'));
  expect(postbox.mails.map((m) => [m.to, m.subject, m.text.trim(), m.times])).toEqual([
    ['juno@skerrow.example', 'Keel plan', 'Due tomorrow', 2],
    ['maren@skerrow.example', 'Keel plan', 'Due tomorrow', 1],
  ]);
  await close();
  await open();
  expect(postbox.mails.map((m) => m.times)).toEqual([2, 1]);
});

test('an address that does not exist is refused for good, as RFC 5321 4.2.3 has it, and its page lets it exist again', async () => {
  const http = postbox.app.listen(0, '127.0.0.1');
  await new Promise((done) => http.once('listening', done));
  const base = `http://127.0.0.1:${(http.address() as AddressInfo).port}`;
  const post = (body: string) =>
    fetch(`${base}/refuse`, {
      method: 'POST',
      body,
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
      redirect: 'manual',
    });
  await post('address=Gone@skerrow.example');
  expect((await say('EHLO me', 'MAIL FROM:<a@b>', 'RCPT TO:<gone@skerrow.example>', 'QUIT'))[3]).toBe(550);
  expect(await (await fetch(base)).text()).toContain('gone@skerrow.example does not exist.');
  await post('action=take&address=gone@skerrow.example');
  expect((await say('EHLO me', 'MAIL FROM:<a@b>', 'RCPT TO:<gone@skerrow.example>', 'QUIT'))[3]).toBe(250);
  http.close();
});

test('a sender cut off in the middle of a mail leaves nothing behind, and the next one is served', async () => {
  const before = postbox.mails.length;
  const lines = [
    'EHLO cut.example',
    'MAIL FROM:<a@skerrow.example>',
    'RCPT TO:<b@skerrow.example>',
    'DATA',
    'Subject: half of',
    '',
  ];
  await new Promise<void>((done) => {
    const socket = createConnection(port, '127.0.0.1');
    socket.on('data', () => {
      const next = lines.shift();
      if (next?.startsWith('Subject')) socket.write(`${next}\r\n\r\n`, () => socket.resetAndDestroy());
      else socket.write(`${next ?? ''}\r\n`);
    });
    socket.on('close', () => done());
  });
  expect(await say('EHLO next.example', 'QUIT')).toEqual([220, 250, 221]);
  expect(postbox.mails).toHaveLength(before);
  // As the machine tells of it where it tells the other side too; what keeps the postbox from working is not
  // kept quiet.
  const told = (code: string) => () =>
    postbox.smtp.emit('error', Object.assign(new Error(`read ${code}`), { code }));
  expect(told('ECONNRESET')).not.toThrow();
  expect(told('EADDRINUSE')).toThrow('EADDRINUSE');
});

test('what a mail carries is shown as text or in a frame where nothing runs', async () => {
  await say(...mail('juno@skerrow.example', 'c@x', '<script>alert(1)</script>'));
  const http = postbox.app.listen(0, '127.0.0.1');
  await new Promise((done) => http.once('listening', done));
  const base = `http://127.0.0.1:${(http.address() as AddressInfo).port}`;
  expect(await (await fetch(base)).text()).not.toContain('<script>alert');
  const page = await fetch(`${base}/mails/${postbox.mails.length - 1}`);
  expect(page.headers.get('content-security-policy')).toContain("default-src 'none'");
  expect(await page.text()).toContain('sandbox srcdoc=');
  expect((await fetch(`${base}/mails/999`)).status).toBe(404);
  http.close();
});
