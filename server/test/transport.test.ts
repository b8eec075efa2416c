import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';
import { smtpTransport } from '../src/mail/transport';

/**
 * A mail server that offers encryption (with a certificate of its own making) or not, and what arrived how.
 */
async function mailServer(offers: boolean) {
  const arrived: boolean[] = [];
  const server = new SMTPServer({
    authOptional: true,
    ...(offers ? {} : { disabledCommands: ['STARTTLS'] }),
    onData(stream, session, done) {
      stream.resume().on('end', () => {
        arrived.push(session.secure);
        done();
      });
    },
  });
  const listening = server.listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  return {
    arrived,
    url: `smtp://127.0.0.1:${(listening.address() as AddressInfo).port}`,
    stop: () => new Promise<void>((done) => server.close(() => done())),
  };
}
const mail = {
  to: 'juno@skerrow.example',
  subject: 'Tides',
  text: 'x',
  html: '<p>x</p>',
  messageId: '<1@skerrow.example>',
  unsubscribe: null,
};

test.each([
  ['offered', true, [true]],
  ['offered', false, [false]],
  ['required', false, []],
] as const)('mail by smtp, encryption %s, the mail server offers it: %s', async (tls, offers, wanted) => {
  const server = await mailServer(offers);
  const { send, close } = smtpTransport(server.url, 'Zephyrfield <z@skerrow.example>', tls);
  const sent = await send(mail).then(
    () => true,
    () => false,
  );
  expect(sent).toBe(wanted.length > 0);
  expect(server.arrived).toEqual(wanted);
  close();
  await server.stop();
});

test('who insists on encryption wants a certificate that is somebody’s', async () => {
  const server = await mailServer(true);
  const { send, close } = smtpTransport(server.url, 'Zephyrfield <z@skerrow.example>', 'required');
  await expect(send(mail)).rejects.toThrow();
  expect(server.arrived).toEqual([]);
  close();
  await server.stop();
});
