import type { Page } from '@playwright/test';
import { acknowledged, expect, test } from './fixtures';

test.use({ ownDemo: 'out' });

const linkIn = async (page: Page, label: string) => page.getByRole('textbox', { name: label }).inputValue();

test('a live link is made, looked at as others see it, read as a page without scripts, and taken back', async ({
  page,
  browser,
  accessible,
  baseURL,
}) => {
  await page.request.post('/api/demo/people/maren/session', { data: {} });
  await page.goto('/sharing');
  await page.getByRole('button', { name: 'Make a live link' }).click();
  const form = page.getByRole('group', { name: 'A live link' });
  await form.getByLabel('What you call it').fill('Juno’s school weeks');
  await form.getByRole('radio', { name: 'titles and times' }).click();
  await form.getByLabel('a page to read for anyone with the link').check();
  await form.getByRole('button', { name: 'See it as they do' }).click();
  await expect(form.getByRole('region', { name: 'What they see' })).toContainText('Tide table exercise 11');
  await accessible();
  await acknowledged(page, () => form.getByRole('button', { name: 'Make the link' }).click());
  await expect(page.getByRole('img', { name: 'The address as a picture to scan' })).toBeVisible();
  await accessible();
  const address = await linkIn(page, 'For calendar programs');
  const open = await linkIn(page, 'The page, for anyone');

  const feed = await page.request.get(address);
  expect(feed.headers()['content-type']).toContain('text/calendar');
  const text = await feed.text();
  expect(text).toContain('SUMMARY:Tide table exercise 11');
  expect(text).not.toContain('DESCRIPTION');

  // Somebody without an account, in a browser that runs no scripts.
  const plain = await browser.newContext({
    javaScriptEnabled: false,
    viewport: page.viewportSize(),
    ...(baseURL && { baseURL }),
  });
  const visitor = await plain.newPage();
  await visitor.goto(open);
  await expect(visitor.getByRole('heading', { name: 'Juno’s school weeks' })).toBeVisible();
  await expect(visitor.getByText('Tide table exercise 11').last()).toBeVisible();
  await visitor.getByRole('link', { name: 'The month after' }).click();
  await expect(visitor.getByRole('heading', { name: 'November 2026' })).toBeVisible();
  // The same page, looked at for what keeps people out.
  await page.goto(open);
  await accessible();

  await page.goto('/sharing');
  const line = page.getByRole('group', { name: 'Juno’s school weeks' });
  await expect(line).toContainText('fetched');
  await line.getByRole('button', { name: 'Change Juno’s school weeks' }).click();
  await line.getByRole('button', { name: 'Take it back' }).click();
  await acknowledged(page, () => line.getByRole('button', { name: 'Yes, take it back' }).click());
  await expect(line).toHaveCount(0);
  expect((await page.request.get(address)).status()).toBe(404);
  await visitor.reload();
  await expect(visitor.getByRole('heading', { name: 'There is no such link.' })).toBeVisible();
  await plain.close();
});

test('a page leads to following its link here, and it is read like any other', async ({ page }) => {
  await page.request.post('/api/demo/people/maren/session', { data: {} });
  const made = await page.request.post('/api/learners/juno/shares', {
    data: {
      name: 'For Tobias',
      rules: {
        calendars: null,
        kinds: ['dayOff', 'place'],
        finished: true,
        detail: 'titles',
        workAs: 'todo',
        reminders: false,
        aims: false,
        sittings: false,
      },
      page: true,
      until: null,
    },
  });
  const { secret } = (await made.json()) as { secret: string };
  await page.goto(`/open/${secret}`);
  await page.getByRole('link', { name: 'Follow it in Zephyrfield' }).click();
  await expect(page.getByLabel('The calendar’s link')).toHaveValue(new RegExp(`/out/${secret}\\.ics$`));
  await page.getByRole('button', { name: 'Check what’s in it' }).click();
  await expect(page.getByRole('heading', { name: 'Found “For Tobias”' })).toBeVisible();
  await expect(page.getByRole('group', { name: 'What was found' })).toContainText('Lesson: Boatbuilding');
});

test('files are had for a span, as a calendar and as a table', async ({ page, accessible }) => {
  await page.request.post('/api/demo/people/anselm/session', { data: {} });
  await page.goto('/sharing');
  await page.getByRole('button', { name: 'Make a file' }).click();
  const form = page.getByRole('group', { name: 'A file' });
  await form.getByLabel('What it is').selectOption('records');
  await form.getByLabel('Note').uncheck();
  await accessible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    form.getByRole('button', { name: 'Make the file' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('records.csv');
});

test('all of it is taken along as an archive, and brought back as a schedule of its own', async ({
  page,
  accessible,
}) => {
  await page.request.post('/api/demo/people/maren/session', { data: {} });
  await page.goto('/sharing');
  await page.getByRole('radio', { name: 'Tobias' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Make an archive' }).click(),
  ]);
  await page.getByLabel('An archive').setInputFiles(await download.path());
  const found = page.getByRole('group', { name: 'What is in the archive' });
  await expect(found).toContainText('The schedule of Tobias Lindqvist-Amadi, as of Tuesday 6 October');
  await found.getByRole('radio', { name: 'in the place of Tobias’s' }).click();
  await expect(found).toContainText('What was made by hand is the same in both.');
  await accessible();
  await found.getByRole('radio', { name: 'as a schedule of its own' }).click();
  await found.getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Tuesday' })).toBeVisible();
  await expect(page.getByRole('radio', { name: 'Tobias' })).toHaveCount(2);

  await page.goto('/sharing');
  await page
    .getByLabel('An archive')
    .setInputFiles({ name: 'x.zip', mimeType: 'application/zip', buffer: Buffer.from('none') });
  await expect(page.getByRole('alert')).toContainText('This archive cannot be used.');
});
