import { CHROMIUM, launchOptions } from './browsers';
import { expect, hoursAhead, test } from './fixtures';

// The light browser of the other tests has no notices; the whole one has.
test.use({
  serviceWorkers: 'allow',
  ownDemo: 'browser notices',
  launchOptions: { ...launchOptions, executablePath: CHROMIUM },
});

test(
  'this browser tells while it is open, and leads to what it tells of',
  { tag: '@wide' },
  async ({ page, context, demo }) => {
    await context.grantPermissions(['notifications'], { origin: demo.address });
    await page.goto('/notice-settings');
    await expect(page.getByText('Notifications appear while Zephyrfield is open')).toBeVisible();
    const shown = () =>
      page.evaluate(
        async () =>
          (
            await (await navigator.serviceWorker.getRegistration('/service-worker.js'))?.getNotifications()
          )?.map((n) => [n.title, (n.data as { path: string }).path]) ?? [],
      );
    await hoursAhead(page, 15);
    await expect.poll(async () => (await shown()).length, { timeout: 60_000 }).toBeGreaterThan(0);
    for (const [, path] of await shown()) expect(path).toMatch(/^\/(calendar\?item=|news|day-sheet)/);
  },
);
