import { expect, test } from './fixtures';

test.use({ serviceWorkers: 'allow', ownDemo: 'offline' });

test(
  'without a connection: the page comes up with what was last seen, a tick is kept over closing it, and sent once there is one',
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
    const name = (await finish.getAttribute('aria-label'))!.replace(/^Finish /, '');
    await demo.kill();

    await finish.click();
    const status = page.getByRole('status', { name: 'Not saved yet' });
    await expect(status).toContainText(`Not saved yet: ${name}`);
    await page.reload();
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(status).toContainText('Kept on this device');
    await expect(page.getByRole('button', { name: `Finish ${name}`, exact: true })).toHaveCount(0);

    await demo.up();
    await page.evaluate(() => window.dispatchEvent(new Event('online')));
    await expect(status).toHaveCount(0);
    await page.reload();
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(page.getByRole('button', { name: `Finish ${name}`, exact: true })).toHaveCount(0);
  },
);
