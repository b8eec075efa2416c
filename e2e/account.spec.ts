import type { AddressInfo } from 'node:net';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import { codeAt } from '../server/test/totp';
import { acknowledged, expect, test } from './fixtures';
import { ServerProcess } from './servers';

test('an account: a second step, a forgotten password, other devices, and taking it away', async ({
  page,
  accessible,
}) => {
  const postbox = createPostbox();
  const listening = postbox.smtp.listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  const server = await ServerProcess.start('main.js', {
    ZEPHYRFIELD_SMTP_URL: `smtp://127.0.0.1:${(listening.address() as AddressInfo).port}`,
  });
  const mail = async (subject: string) => {
    await expect(async () => expect(postbox.mails.some((m) => m.subject === subject)).toBe(true)).toPass();
    return postbox.mails.findLast((m) => m.subject === subject)!.text;
  };
  const signIn = async (password: string) => {
    await page.getByLabel('E-mail').fill('maren@skerrow.example');
    await page.getByLabel('Password').fill(password);
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  };
  try {
    await page.goto(server.address);
    await page.getByLabel('Set-up word').fill(server.setUpWord);
    await page.getByLabel('Your name').fill('Maren');
    await page.getByLabel('E-mail').fill('maren@skerrow.example');
    await page.getByLabel('Password').fill('harbour and field');
    await page.getByRole('button', { name: 'Create account' }).click();
    await page.getByRole('button', { name: 'Start' }).click();
    await page.getByRole('link', { name: 'You, Maren' }).click();
    await page.getByRole('link', { name: 'Your account' }).click();
    await expect(page.getByRole('heading', { name: 'Your account' })).toBeVisible();
    await accessible();
    const name = page.getByLabel('Your name, as others in a crew see it');
    await name.fill('Maren Lindqvist');
    await acknowledged(page, () => name.press('Enter'));

    await page.getByRole('button', { name: 'Begin a second step' }).click();
    await page.getByLabel('Your password').fill('harbour and field');
    await page.getByRole('button', { name: 'Begin', exact: true }).click();
    await expect(
      page.getByRole('img', { name: 'The secret as a picture to scan' }).locator('path'),
    ).toBeVisible();
    const secret = (await page.getByText(/^(?:[A-Z2-7]{4} )+[A-Z2-7]{1,4}$/).textContent())!.replaceAll(
      ' ',
      '',
    );
    const [recovery] = await page
      .getByRole('list', { name: 'Recovery codes' })
      .getByRole('listitem')
      .allTextContents();
    await accessible();
    await page.getByLabel('Code', { exact: true }).fill(codeAt(secret, Date.now()));
    await page.getByRole('button', { name: 'Use it from now on' }).click();
    await expect(page.getByText('From now on a code is asked for.')).toBeVisible();

    // A passkey, on a device that the browser plays.
    const device = await page.context().newCDPSession(page);
    await device.send('WebAuthn.enable');
    const { authenticatorId } = await device.send('WebAuthn.addVirtualAuthenticator', {
      options: {
        protocol: 'ctap2',
        transport: 'internal',
        hasResidentKey: true,
        hasUserVerification: true,
        isUserVerified: true,
        automaticPresenceSimulation: true,
      },
    });
    await page.getByRole('button', { name: 'Make a passkey' }).click();
    await page.getByLabel('What you call it').fill('Kitchen tablet');
    await page.getByLabel('Your password').fill('harbour and field');
    await page.getByRole('button', { name: 'Make the passkey' }).click();
    await expect(page.getByRole('group', { name: 'Kitchen tablet' })).toBeVisible();
    await accessible();
    const signOut = async () => {
      await page.goto(`${server.address}/you`);
      await page.getByRole('button', { name: 'Sign out' }).click();
      await page.getByRole('button', { name: 'Yes, sign out' }).click();
    };
    await signOut();
    // Touched and not unlocked, it is not enough.
    const unlocked = (isUserVerified: boolean) =>
      device.send('WebAuthn.setUserVerified', { authenticatorId, isUserVerified });
    await unlocked(false);
    await page.getByRole('button', { name: 'Sign in with a passkey' }).click();
    await expect(page.getByRole('alert')).toContainText('Your device did not do it.');
    await unlocked(true);
    await page.getByRole('button', { name: 'Sign in with a passkey' }).click();
    await expect(page.getByText('No calendars yet. Follow a link to see what is due.')).toBeVisible();

    await signOut();
    await page.getByRole('link', { name: 'I forgot my password' }).click();
    await page.getByLabel('E-mail').fill('maren@skerrow.example');
    await page.getByRole('button', { name: 'Send me a link' }).click();
    await expect(page.getByText('Look into your mail.')).toBeVisible();
    await accessible();
    await page.goto(/https?:\S+reset#\S+/.exec(await mail('Set a new password'))![0]);
    await page.getByLabel('New password').fill('password1234');
    expect(new URL(page.url()).hash).toBe('');
    await page.getByRole('button', { name: 'Set it' }).click();
    await expect(page.getByRole('alert')).toContainText('one of the first that are tried');
    await page.getByLabel('New password').fill('lantern over the water');
    // What is not said to stay goes: somebody else may have added it.
    await page.getByLabel('The second step, by an app').check();
    await page.getByRole('button', { name: 'Set it' }).click();
    await expect(page.getByText('Your new password is set.')).toBeVisible();
    await accessible();
    await page.getByRole('link', { name: 'Sign in' }).click();
    await signIn('lantern over the water');
    await expect(page.getByRole('heading', { name: 'One more step' })).toBeVisible();
    await accessible();
    await page.getByLabel('Code').fill(recovery!);
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    await expect(page.getByText('No calendars yet. Follow a link to see what is due.')).toBeVisible();

    // What goes is said before it goes; signing in takes it back.
    await page.goto(`${server.address}/account`);
    await expect(page.getByLabel('Your name, as others in a crew see it')).toHaveValue('Maren Lindqvist');
    await page.getByRole('button', { name: 'Delete my account' }).click();
    await expect(page.getByText('1 schedule that nobody else keeps go with it: Maren.')).toBeVisible();
    await page.getByLabel('Your password').fill('lantern over the water');
    await page.getByRole('button', { name: 'Delete my account' }).click();
    await expect(page.getByRole('button', { name: 'Sign in', exact: true })).toBeVisible();
    expect(await mail('Your account will be deleted')).toContain('sign in before then');
  } finally {
    await server.stop();
    await new Promise<void>((done) => postbox.smtp.close(() => done()));
  }
});
