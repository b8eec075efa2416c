import type { Locator } from '@playwright/test';
import { expect, test } from './fixtures';

test.use({ serviceWorkers: 'allow', ownDemo: 'offline' });

test(
  'without a connection: the page comes up with what was last seen, a tick, a note and a new item are kept over closing it, and sent once there is one',
  { tag: '@phone' },
  async ({ page, demo }) => {
    await page.goto('/today');
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await page.evaluate(() => navigator.serviceWorker.ready);
    // What every place begins with is kept a moment after the page stands.
    const kept = () =>
      page.evaluate(async () =>
        (await (await caches.open('zephyrfield-said')).keys()).map(
          (request) => new URL(request.url).pathname,
        ),
      );
    await expect.poll(kept).toContain('/api/learners/juno/sources');
    const finish = page.getByRole('button', { name: /^Finish / }).first();
    await expect(finish).toBeVisible();
    const nameOf = async (button: Locator) =>
      (await button.getAttribute('aria-label'))!.replace(/^Finish /, '');
    const name = await nameOf(finish);
    // A sheet that was looked at is there without a connection.
    const other = await nameOf(page.getByRole('button', { name: /^Finish / }).nth(1));
    const sheet = async () => {
      await page
        .getByRole('button', { name: new RegExp(`^${other},`) })
        .first()
        .click();
      await expect(note).toBeVisible();
    };
    const note = page.getByLabel('Your note');
    const close = () => page.getByRole('button', { name: 'Close' }).click();
    await sheet();
    await close();
    await demo.kill();

    await finish.click();
    const status = page.getByRole('status', { name: 'Not saved yet' });
    await expect(status).toContainText(`Not saved yet: ${name}`);
    await sheet();
    await note.fill('Two more curves');
    await close();
    await expect(status).toContainText('2 changes');
    await page.goto('/todo');
    await page.getByRole('button', { name: 'Add an item' }).click();
    await page.getByLabel('In one line').fill('ceramics pinch pots fri 16:00 45min');
    await page.getByRole('button', { name: 'Add to Ceramics Studio' }).click();
    await expect(status).toContainText('3 changes, the last one Pinch pots');
    await page.goto('/today');
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(status).toContainText('Kept on this device');
    await sheet();
    await expect(note).toHaveValue('Two more curves');
    await close();
    await expect(page.getByRole('button', { name: `Finish ${name}`, exact: true })).toHaveCount(0);

    await demo.up();
    await page.evaluate(() => window.dispatchEvent(new Event('online')));
    await expect(status).toHaveCount(0);
    await page.reload();
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(page.getByRole('button', { name: `Finish ${name}`, exact: true })).toHaveCount(0);
    await sheet();
    await expect(note).toHaveValue('Two more curves');
    await page.goto('/todo');
    await expect(page.getByRole('button', { name: /^Pinch pots, Ceramics Studio/ })).toHaveCount(1);
  },
);

test(
  'what the server does not take stays with why: it is looked at, tried again, and let go',
  { tag: '@phone' },
  async ({ page, accessible }) => {
    await page.goto('/today');
    const finish = page.getByRole('button', { name: /^Finish / }).first();
    const name = (await finish.getAttribute('aria-label'))!.replace(/^Finish /, '');
    const marks = /\/api\/items\/[^/]+\/layer$/;
    await page.route(marks, (route) => route.abort());
    await finish.click();
    const status = page.getByRole('status', { name: 'Not saved yet' });
    await expect(status).toContainText(`Not saved yet: ${name}`);
    // It takes the place of the one above: there is no moment in which a mark gets through.
    await page.route(marks, (route) =>
      route.fulfill({
        status: 403,
        contentType: 'application/problem+json',
        body: JSON.stringify({
          ...{ type: 'urn:zephyrfield:not-allowed', title: 'You may not tick this off.', status: 403 },
          remedy: 'Ask somebody who may edit this schedule.',
        }),
      }),
    );
    await page.evaluate(() => window.dispatchEvent(new Event('online')));
    await expect(status).toContainText('One of them could not be saved');
    await status.getByRole('button', { name: 'Look at it' }).click();
    const list = page.getByRole('dialog', { name: 'Not saved yet' });
    await expect(list.getByText('You may not tick this off.')).toBeVisible();
    await accessible();
    // It is not shown as done.
    await list.getByRole('button', { name: 'Close' }).click();
    await expect(page.getByRole('button', { name: `Finish ${name}`, exact: true })).toBeVisible();
    await page.unroute(marks);
    await status.getByRole('button', { name: 'Look at it' }).click();
    await list.getByRole('button', { name: `Try again: ${name}: finished` }).click();
    await expect(list.getByText('Everything is saved.')).toBeVisible();
    await list.getByRole('button', { name: 'Close' }).click();
    await expect(status).toHaveCount(0);
    await expect(page.getByRole('button', { name: `Finish ${name}`, exact: true })).toHaveCount(0);
  },
);
