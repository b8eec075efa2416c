import { expect, test } from './fixtures';
import { ServerProcess } from './servers';

test('an empty installation: the first page makes the first account, and then gathers', { tag: '@phone' }, async ({ page, accessible }) => {
  const server = await ServerProcess.start('main.js');
  try {
    await page.goto(server.address);
    await expect(page.getByText('Make the first account')).toBeVisible();
    await accessible();
    await page.getByRole('button', { name: 'Make the account' }).click();
    await expect(page.getByText('Say what you are called.')).toBeVisible();
    await page.getByLabel('Your name').fill('Maren Lindqvist');
    await page.getByLabel('E-mail').fill('maren@skerrow.example');
    await page.getByLabel('Password').fill('harbour and field');
    await page.getByRole('button', { name: 'Make the account' }).click();
    await expect(page.getByRole('heading', { name: 'Whose schedule?' })).toBeVisible();
    await accessible();
    await page.getByLabel('The learner’s name').fill('Juno');
    await expect(page.getByLabel('Time zone they live in')).toHaveValue('Europe/Dublin');
    await page.getByRole('button', { name: 'Begin' }).click();
    await expect(page.getByText('Nothing is gathered yet, so nothing is known of today.')).toBeVisible();
    await page.getByRole('button', { name: 'Follow a link' }).click();
    await expect(page.getByLabel('The calendar’s link')).toBeVisible();
    await expect(page.getByLabel('Demo', { exact: true })).toHaveCount(0);

    await page.getByRole('button', { name: 'Sign out' }).click();
    await page.getByLabel('E-mail').fill('maren@skerrow.example');
    await page.getByLabel('Password').fill('harbour and wrong');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByRole('alert')).toContainText('do not belong together');
    await page.getByLabel('Password').fill('harbour and field');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByRole('button', { name: 'Sign out' })).toBeVisible();
  } finally {
    await server.stop();
  }
});
