import type { Page } from '@playwright/test';
import { expect, test } from './fixtures';
import type { AddressInfo } from 'node:net';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import { ServerProcess } from './servers';

test(
  'an empty installation: the first page makes the first account, and then gathers',
  { tag: '@phone' },
  async ({ page, accessible }) => {
    const postbox = createPostbox();
    const listening = postbox.smtp.listen(0, '127.0.0.1');
    await new Promise((done) => listening.once('listening', done));
    const server = await ServerProcess.start('main.js', {
      ZEPHYRFIELD_SMTP_URL: `smtp://127.0.0.1:${(listening.address() as AddressInfo).port}`,
    });
    try {
      await page.goto(server.address);
      await expect(page.getByText('Create the first account')).toBeVisible();
      await accessible();
      await page.getByRole('button', { name: 'Create account' }).click();
      await expect(page.getByText('Type the set-up word.')).toBeVisible();
      await expect(page.getByText('Give it a name.')).toBeVisible();
      await page.getByLabel('Set-up word').fill('ABCD-EFGH-JKMN-PQRS');
      await page.getByLabel('Your name').fill('Maren Lindqvist');
      await page.getByLabel('E-mail').fill('maren@skerrow.example');
      await page.getByLabel('Password').fill('harbour and field');
      await page.getByRole('button', { name: 'Create account' }).click();
      await expect(page.getByRole('alert')).toContainText('That is not the set-up word.');
      await page.getByLabel('Set-up word').fill(server.setUpWord.toLowerCase());
      await page.getByRole('button', { name: 'Create account' }).click();
      await expect(page.getByRole('heading', { name: 'Whose schedule?' })).toBeVisible();
      await accessible();
      await page.getByLabel('The learner’s name').fill('Juno');
      await expect(page.getByRole('button', { name: 'Time zone' })).toContainText('Dublin');
      await page.getByRole('button', { name: 'Start' }).click();
      await expect(page.getByText('No calendars yet. Follow a link to see what is due.')).toBeVisible();
      await page.getByRole('button', { name: 'Follow a link' }).click();
      await expect(page.getByLabel('The calendar’s link')).toBeVisible();
      await expect(page.getByLabel('Demo', { exact: true })).toHaveCount(0);

      // Mail comes only to an address that is shown to be one's own.
      await page.goto(`${server.address}/notice-settings`);
      await expect(page.getByText('Nothing is sent to maren@skerrow.example yet.')).toBeVisible();
      await accessible();
      await expect(async () => expect(postbox.mails).toHaveLength(1)).toPass();
      await page.goto(/https?:\S+confirm#\S+/.exec(postbox.mails[0]!.text)![0]);
      await expect(page.getByRole('heading', { name: 'Confirm your mail address' })).toBeVisible();
      expect(new URL(page.url()).hash).toBe('');
      await accessible();
      await page.getByRole('button', { name: 'Confirm my address' }).click();
      await expect(page.getByText('Your address is confirmed.')).toBeVisible();
      await page.getByRole('link', { name: 'Go to Today' }).click();
      await page.goto(`${server.address}/notice-settings`);
      await expect(page.getByRole('button', { name: 'Send a test mail' })).toBeVisible();

      // What is being written is gone for who comes next, and so is all else the device kept.
      await page.goto(`${server.address}/todo`);
      await page.getByRole('button', { name: 'Add an item' }).click();
      await page.getByLabel('What', { exact: true }).fill('A letter nobody else may read');
      await expect(async () => expect(await kept(page)).toContain('A letter nobody else may read')).toPass();
      await page.getByRole('button', { name: 'Close' }).first().click();
      // Not by one accidental tap: it is asked.
      await page.goto(`${server.address}/you`);
      await page.getByRole('button', { name: 'Sign out' }).click();
      await page.getByRole('button', { name: 'Yes, sign out' }).click();
      await expect(page.getByLabel('E-mail')).toBeVisible();
      expect(await kept(page)).not.toContain('letter');
      await page.getByLabel('E-mail').fill('maren@skerrow.example');
      await page.getByLabel('Password').fill('harbour and wrong');
      await page.getByRole('button', { name: 'Sign in', exact: true }).click();
      await expect(page.getByRole('alert')).toContainText('do not belong together');
      await page.getByLabel('Password').fill('harbour and field');
      await page.getByRole('button', { name: 'Sign in', exact: true }).click();
      await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible();
      // Another learner is added where it was said that one can.
      await page.goto(`${server.address}/you`);
      await page.getByRole('button', { name: 'Add a learner' }).click();
      await page.getByLabel('The learner’s name').fill('Tobias');
      await page.getByRole('button', { name: 'Add this learner' }).click();
      await expect(page.getByText('Juno, Tobias')).toBeVisible();
      await page.goto(`${server.address}/todo`);
      await expect(page.getByRole('radio', { name: 'Tobias' })).toBeVisible();

      // A session that ends by itself, and somebody else at the same browser.
      await page.getByRole('button', { name: 'Add an item' }).click();
      await page.getByLabel('What', { exact: true }).fill('Another letter');
      await expect(async () => expect(await kept(page)).toContain('Another letter')).toPass();
      await page.evaluate(() => localStorage.setItem('zephyrfield-person', 'somebody else'));
      await page.reload();
      await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible();
      expect(await kept(page)).not.toContain('Another letter');
    } finally {
      await server.stop();
      await new Promise<void>((done) => postbox.smtp.close(() => done()));
    }
  },
);

/** All that the device keeps of whoever uses it. */
const kept = (page: Page) =>
  page.evaluate(() => JSON.stringify({ ...localStorage, ...sessionStorage }) + document.cookie);
