import type { Page } from '@playwright/test';
import { acknowledged, expect, previewLink, test } from './fixtures';

test.use({ ownDemo: 'people' });

const title = (page: Page) => page.getByRole('heading', { level: 1 });

test(
  'what one hides is hidden for oneself alone, counted where it would stand, listed and brought back',
  { tag: '@phone' },
  async ({ page, browser, baseURL, accessible }) => {
    await page.request.post('/api/demo/people/anselm/session', { data: {} });
    await page.goto('/today');
    const exercise = /^Tide table exercise 11/;
    const due = page.getByRole('group', { name: 'Due by tonight' });
    await due.getByRole('button', { name: exercise }).click();
    await acknowledged(page, () => page.getByRole('button', { name: 'Hide it' }).click());
    await page.goto('/today');
    await expect(page.getByText('1 single item is hidden here')).toBeVisible();
    await expect(due.getByRole('button', { name: exercise })).toHaveCount(0);
    await accessible();
    await page.goto('/todo');
    await expect(page.getByText('1 single item is hidden here')).toBeVisible();

    // Juno sees it as before.
    const other = await browser.newContext({ baseURL: baseURL! });
    await other.request.post('/api/demo/people/juno/session', { data: {} });
    const juno = await other.newPage();
    await juno.goto('/today');
    await expect(
      juno.getByRole('group', { name: 'Due by tonight' }).getByRole('button', { name: exercise }),
    ).toBeVisible();
    await expect(juno.getByText(/hidden here/)).toHaveCount(0);
    await other.close();

    await page.getByRole('link', { name: 'show', exact: true }).click();
    await expect(title(page)).toHaveText('Hidden');
    await accessible();
    await page.getByRole('button', { name: 'Show Tide table exercise 11 again' }).click();
    await expect(page.getByText('Nothing is hidden.')).toBeVisible();
  },
);

test(
  'who comes in the middle of a term is asked once about what is past, and can take the answer back',
  { tag: '@wide' },
  async ({ page, demo, accessible }) => {
    await page.request.post('/api/demo/people/tobias/session', { data: {} });
    await previewLink(page, `${demo.campus}/feeds/statistics-workshop.ics`);
    await page.getByLabel('Name').fill('Statistics');
    await page.getByRole('button', { name: 'Follow this calendar' }).click();
    const asked = page.getByRole('group', { name: 'What is past' });
    await expect(asked).toContainText('Is everything before today done?');
    await accessible();
    await asked.getByRole('button', { name: /^Yes, all \d+/ }).click();
    const bar = page.getByLabel('Last change');
    await expect(bar).toContainText(/\d+ past items finished/);
    await expect(asked).toHaveCount(0);
    await acknowledged(page, () => bar.getByRole('button', { name: 'Undo' }).click());
    await page.goto('/today');
    await expect(page.getByRole('group', { name: 'Past due' })).toBeVisible();
  },
);

test('one clock runs, is seen wherever one is, and is stopped there', { tag: '@wide' }, async ({ page }) => {
  await page.goto('/today');
  await page
    .getByRole('group', { name: 'Due by tonight' })
    .getByRole('button', { name: /^Tide table exercise 11/ })
    .click();
  await page.getByRole('button', { name: 'Start the timer' }).click();
  const timer = page.getByRole('group', { name: 'The timer' });
  await expect(timer).toContainText('Tide table exercise 11');
  await page.goto('/todo');
  await timer.getByRole('button', { name: 'Stop the timer of Tide table exercise 11' }).click();
  await expect(timer).toHaveCount(0);
});
