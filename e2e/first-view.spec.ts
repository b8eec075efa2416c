import type { Page } from '@playwright/test';
import { expect, test } from './fixtures';

/** Keeps the app's script back until it is let go. */
async function holdScript(page: Page): Promise<() => void> {
  let letGo = () => {};
  const held = new Promise<void>((done) => (letGo = done));
  await page.route(/\/entry-\w+\.js/, async (route) => {
    await held;
    await route.continue();
  });
  return letGo;
}

/**
 * Opens Today as the server has drawn it. A page goes out without that where it takes long; it is there for the next one.
 * @param before is done before each try
 */
async function openDrawn(page: Page, before = () => {}): Promise<void> {
  await expect(async () => {
    before();
    await page.goto('/today', { waitUntil: 'commit' });
    await expect(page.locator('html')).toHaveAttribute('data-server-rendered', { timeout: 3_000 });
  }).toPass();
}

const title = (page: Page) => page.getByRole('heading', { level: 1 });
const PARTS = ['Tonight', 'Past due'];
const part = (page: Page, name: string) => page.getByRole('group', { name, exact: true });
/**
 * What stands where, in the parts of Today that are for now, once the page has its styles: a browser lays it
 * out before.
 */
const standing = async (page: Page) => {
  await page.waitForFunction(() =>
    [...document.querySelectorAll<HTMLLinkElement>('link[rel=stylesheet]')].every((link) => link.sheet),
  );
  return Promise.all(
    PARTS.map(async (name) => ({
      name,
      words: await part(page, name).innerText(),
      at: await part(page, name).boundingBox(),
    })),
  );
};

test('Today can be read before the scripts are there, and stays as it is when they come', async ({
  page,
  accessible,
}) => {
  await page.request.post('/api/demo/people/juno/session', { data: {} });
  const letGo = await holdScript(page);
  await openDrawn(page);
  await expect(title(page)).toHaveText('Tuesday');
  await expect(part(page, 'Tonight').getByRole('button', { name: /^Tide table exercise 11/ })).toBeVisible();
  await page.evaluate(() => document.fonts.ready);
  const drawn = await standing(page);
  await accessible();
  letGo();
  await expect(page.locator('html')).not.toHaveAttribute('data-server-rendered');
  await expect(page.getByRole('group', { name: 'Next up' })).toBeVisible();
  expect(await standing(page)).toEqual(drawn);
});

test(
  'where scripts are turned off, Today can be read all the same, and that nothing can be pressed is said',
  { tag: '@phone' },
  async ({ browser, baseURL, viewport }) => {
    const context = await browser.newContext({
      javaScriptEnabled: false,
      baseURL: baseURL!,
      viewport: viewport!,
      isMobile: true,
    });
    await context.request.post('/api/demo/people/juno/session', { data: {} });
    const page = await context.newPage();
    await openDrawn(page);
    await expect(page.locator('noscript')).toBeVisible();
    await expect(title(page)).toHaveText('Tuesday');
    await expect(part(page, 'Tonight')).toContainText('Tide table exercise 11');
    await context.close();
  },
);

test(
  'what is hidden here is not drawn, though the server has never been told',
  { tag: '@wide' },
  async ({ page }) => {
    await page.request.post('/api/demo/people/juno/session', { data: {} });
    await page.goto('/calendar?view=agenda');
    await page.getByRole('switch', { name: /^Ocean Navigation/ }).click();
    await expect(page.getByRole('switch', { name: /^Ocean Navigation.*hidden/ })).toBeVisible();
    const letGo = await holdScript(page);
    await openDrawn(page);
    await expect(part(page, 'Tonight').getByRole('button', { name: /^Glaze test tiles/ })).toBeVisible();
    await expect(page.getByText('Tide table exercise 11')).toHaveCount(0);
    letGo();
  },
);

test('what is pressed before the scripts are there is done when they are; what else they need is asked for meanwhile', async ({
  page,
}) => {
  await page.request.post('/api/demo/people/juno/session', { data: {} });
  const letGo = await holdScript(page);
  const asked: string[] = [];
  page.on('request', (request) => void asked.push(new URL(request.url()).pathname));
  await openDrawn(page, () => (asked.length = 0));
  await expect
    .poll(() => ['/api/learners/juno/changes', '/api/notices'].filter((path) => !asked.includes(path)))
    .toEqual([]);
  await part(page, 'Tonight')
    .getByRole('button', { name: /^Tide table exercise 11/ })
    .click();
  await expect(page.locator('[data-pressed]')).toHaveCount(1);
  letGo();
  await expect(page.getByText('Due Tuesday 6 October, 23:59')).toBeVisible();
  await expect(page).toHaveURL(/\/calendar\?.*item=/);
  // What it was drawn from came with it.
  expect(asked).not.toContain('/api/session');
});

test('what stands there is never taken away again, not even for a moment', async ({ page }) => {
  await page.request.post('/api/demo/people/juno/session', { data: {} });
  // However late the rest of it comes.
  await page.route('**/api/learners/**', (route) => route.abort());
  const letGo = await holdScript(page);
  await openDrawn(page);
  const due = part(page, 'Tonight');
  await expect(due).toBeVisible();
  await page.evaluate(() => {
    const seen = { gone: 0 };
    Object.assign(window, { seen });
    new MutationObserver(
      () => (seen.gone += Number(!document.querySelector('[aria-label="Tonight"]'))),
    ).observe(document, { childList: true, subtree: true });
  });
  letGo();
  await expect(page.locator('html')).not.toHaveAttribute('data-server-rendered');
  await expect(page.getByRole('group', { name: 'Next up' })).toBeVisible();
  expect(await page.evaluate(() => (window as unknown as { seen: { gone: number } }).seen.gone)).toBe(0);
});

test('whoever is not known yet sees the shape of what comes', { tag: '@phone' }, async ({ page }) => {
  const letGo = await holdScript(page);
  await page.goto('/today', { waitUntil: 'commit' });
  await expect(page.getByRole('status', { name: 'Loading the page' })).toBeVisible();
  letGo();
  await expect(part(page, 'Tonight').getByRole('button').first()).toBeVisible();
});

test(
  'a page whose scripts cannot be had says so and can be loaded again; a place, too',
  { tag: '@phone' },
  async ({ page, accessible }) => {
    await page.request.post('/api/demo/people/juno/session', { data: {} });
    const gone = ['**/entry-*.js', '**/forms-*.js'] as const;
    for (const script of gone) await page.route(script, (route) => route.abort());
    await page.goto('/today');
    const said = page.getByRole('alert');
    await expect(said).toContainText('Part of this page could not be loaded');
    await accessible();
    await page.unroute(gone[0]);
    await said.getByRole('link', { name: 'Load it again' }).click();
    await expect(page.locator('html')).not.toHaveAttribute('data-server-rendered');

    const places = page.getByRole('navigation', { name: 'Places' });
    await places.getByRole('link', { name: 'Crew' }).click();
    const missing = page.getByText('This part could not be shown.');
    await expect(missing).toBeVisible();
    await accessible();
    await places.getByRole('link', { name: 'To-do' }).click();
    await expect(title(page)).toHaveText('To-do');
    await places.getByRole('link', { name: 'Crew' }).click();
    await expect(missing).toBeVisible();
    await page.unroute(gone[1]);
    await page.getByRole('button', { name: 'Try again' }).click();
    await expect(page.getByRole('button', { name: 'Leave this crew' })).toBeVisible();
  },
);

test('what must be there before the page is alive stays small', { tag: '@phone' }, async ({ page }) => {
  const html = await (await page.request.get('/today')).text();
  const scripts = [...html.matchAll(/<script src="([^"]+)"/g)].map((m) => m[1]!);
  expect(scripts.length).toBeGreaterThan(2);
  let bytes = 0;
  for (const path of scripts)
    bytes += Number((await page.request.get(`${path}.gz`)).headers()['content-length']);
  // A module that two parts share which come later is put in front by the bundler, and whatever asks for all
  // of a package (`app/metro.config.js` says what is left out) brings it along: it is easily done.
  expect(bytes).toBeLessThan(290_000);
});
