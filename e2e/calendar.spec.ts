import { acknowledged, expect, openCalendar, press, reveal, test } from './fixtures';

test('Juno is signed in and sees what is past due, then today, then what comes', async ({
  page,
  accessible,
}) => {
  await openCalendar(page);
  const headings = page.getByRole('heading', { level: 2 });
  await expect(headings.nth(0)).toHaveText('Past due');
  await expect(headings.nth(1)).toHaveText('Tuesday 6 October');
  await expect(
    page.getByRole('button', {
      name: /^Glaze test tiles, Ceramics Studio, assignment, due Tuesday 6 October, hand in on paper/,
    }),
  ).toBeVisible();
  // Written in UTC on the day after; shown under the day it is due here.
  await expect(
    page.getByRole('button', {
      name: /^Tide table exercise 11, Ocean Navigation, assignment, due Tuesday 6 October, 23:59/,
    }),
  ).toBeVisible();
  await accessible();
});

test('a flag hides its calendar, what is hidden is counted in words, and that is remembered', async ({
  page,
  accessible,
}) => {
  await openCalendar(page);
  const navigation = page.getByRole('switch', { name: /^Ocean Navigation/ });
  const said = page.getByRole('status').filter({ hasText: /shown|hidden/ });
  await expect(said).toHaveText('All shown');
  const below = page.getByRole('radio', { name: 'by day' });
  const stood = await below.boundingBox();
  await navigation.click();
  await expect(said).toHaveText(/^\d+ due items hidden with Ocean Navigation/);
  await expect(page.getByRole('button', { name: /^Tide table exercise 11/ })).toHaveCount(0);
  // Nothing moves under the finger but what is hidden.
  expect(await below.boundingBox()).toEqual(stood);
  await accessible();
  await page.reload();
  await expect(navigation).toHaveAttribute('aria-checked', 'false');
  await expect(page.getByRole('button', { name: /^Glaze test tiles/ })).toBeVisible();
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(page.getByRole('button', { name: /^Tide table exercise 11/ })).toBeVisible();
});

test(
  'a double press leaves just that one, another brings back what was there',
  { tag: '@wide' },
  async ({ page }) => {
    await openCalendar(page);
    const shown = () =>
      page
        .getByRole('switch')
        .evaluateAll((list) =>
          list
            .filter((s) => s.getAttribute('aria-checked') === 'true')
            .map((s) => s.getAttribute('aria-label')?.split(',')[0]),
        );
    await page.getByRole('switch', { name: /^Boatbuilding/ }).click();
    await page.getByRole('switch', { name: /^Ceramics/ }).dblclick();
    await expect.poll(shown).toEqual(['Ceramics Studio']);
    await page.getByRole('switch', { name: /^Ceramics/ }).dblclick();
    await expect
      .poll(shown)
      .toEqual([
        'Ocean Navigation',
        'Ceramics Studio',
        'Statistics Workshop',
        'Norwegian',
        'Sound Design',
        'Food Chemistry',
        'School',
        'Home',
        'Just mine',
      ]);
    await page.getByRole('button', { name: 'Show all' }).click();
  },
);

test('an item says everything its feed said, and its links lead to the original', async ({
  page,
  wide,
  accessible,
}) => {
  await openCalendar(page);
  await page.getByRole('button', { name: /^Tide table exercise 11/ }).click();
  const sheet = wide
    ? page.getByRole('complementary', { name: 'Tide table exercise 11' })
    : page.getByRole('dialog');
  await expect(sheet.getByRole('heading', { name: 'Tide table exercise 11' })).toBeVisible();
  await expect(sheet.getByText('Due Tuesday 6 October, 23:59')).toBeVisible();
  await expect(sheet.getByText('height of tide', { exact: true })).toHaveCSS('font-weight', '700');
  const link = sheet.getByRole('link', { name: /Open the original page/ });
  await expect(link).toHaveAttribute('href', /pages\/ocean-navigation\/on-tide-6/);
  await expect(link).toHaveAttribute('rel', /noopener/);
  await accessible();
  await page.goBack();
  await expect(sheet).toHaveCount(0);
});

test('a link to an item opens it, Escape closes it', async ({ page }) => {
  await openCalendar(page);
  const keel = page.getByRole('button', { name: /^Keel plan, / });
  await press(page, keel);
  const url = page.url();
  await page.goto(url);
  await expect(page.getByRole('heading', { name: 'Keel plan' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('heading', { name: 'Keel plan' })).toHaveCount(0);
  await expect(page.getByRole('heading', { level: 2, name: 'Tuesday 6 October' })).toBeVisible();
});

test(
  'what is ticked off stays so over a check of its link and a power cut',
  { tag: '@wide' },
  async ({ page, demo }) => {
    await openCalendar(page);
    await acknowledged(page, () => page.getByRole('button', { name: 'Finish Glaze test tiles' }).click());
    await demo.kill();
    await demo.up();
    await page.goto('/gather');
    await page.getByRole('button', { name: 'Check Ceramics Studio now' }).click();
    await expect(page.getByText('Checked: nothing has changed.')).toBeVisible();
    await openCalendar(page);
    await expect(page.getByRole('button', { name: /^Glaze test tiles.*finished$/ })).toBeVisible();
    await page.getByRole('button', { name: /Take back: Glaze test tiles/ }).click();
    await expect(page.getByRole('button', { name: 'Finish Glaze test tiles' })).toBeVisible();
  },
);

test('when the server refuses, what was shown at once is taken back with a word', async ({ page }) => {
  await openCalendar(page);
  await page.route('**/layer', (route) =>
    route.fulfill({
      status: 507,
      contentType: 'application/problem+json',
      body: JSON.stringify({ type: 'x', status: 507, title: 'There is no room left to save this.' }),
    }),
  );
  await page.getByRole('button', { name: 'Finish Tide table exercise 11' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'no room left' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Finish Tide table exercise 11' })).toBeVisible();
});

test('the day stays at the top while its slips pass', async ({ page }) => {
  await openCalendar(page);
  await reveal(page, page.getByRole('heading', { level: 2, name: 'Friday 9 October' }));
  const top = (await page.getByRole('radio', { name: 'by day' }).boundingBox())!;
  await expect
    .poll(async () => {
      const boxes = await page
        .getByRole('heading', { level: 2 })
        .evaluateAll((list) => list.map((h) => h.getBoundingClientRect().top));
      return boxes.some((y) => y > top.y && y < top.y + top.height + 40);
    })
    .toBe(true);
});

test('earlier days are one press away', async ({ page }) => {
  await openCalendar(page);
  await page.getByRole('button', { name: /^Show \d+ earlier days/ }).click();
  await expect(page.getByRole('heading', { level: 2 }).first()).toHaveText(/August|September/);
});

test('the keyboard alone: to an item, into it, and out again', { tag: '@wide' }, async ({ page }) => {
  await openCalendar(page);
  const slip = page.getByRole('button', { name: /^Tide table exercise 11, Ocean/ });
  const skip = page.getByRole('button', { name: 'Skip to the days' });
  for (let i = 0; i < 30 && !(await skip.evaluate((e) => e === document.activeElement)); i++)
    await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  for (let i = 0; i < 40 && !(await slip.evaluate((e) => e === document.activeElement)); i++)
    await page.keyboard.press('Tab');
  await expect(slip).toBeFocused();
  await page.keyboard.press('Enter');
  const sheet = page.getByRole('complementary', { name: 'Tide table exercise 11' });
  await expect(sheet.getByText('Due Tuesday 6 October, 23:59')).toBeVisible();
  // The focus is in it: the next thing is its first button.
  await page.keyboard.press('Tab');
  await expect(sheet.getByRole('button', { name: 'Finish', exact: true })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(sheet).toHaveCount(0);
  await expect(slip).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(sheet).toBeVisible();
  await page.goBack();
  await expect(page.getByRole('complementary')).toHaveCount(0);
});

test(
  'a family sees the schedules of both learners, by a plain switch',
  { tag: '@phone' },
  async ({ page, accessible }) => {
    await openCalendar(page);
    await page.getByLabel('Be somebody else in the demo').selectOption('maren');
    await page.getByRole('radio', { name: 'Tobias' }).click();
    await expect(page.getByRole('switch', { name: /^School/ })).toBeVisible();
    await expect(page.getByRole('switch', { name: /^Boatbuilding/ })).toHaveCount(0);
    await accessible();
    await page.getByRole('radio', { name: 'Juno' }).click();
    await expect(page.getByRole('button', { name: /^Glaze test tiles/ })).toBeVisible();
    await page.getByLabel('Be somebody else in the demo').selectOption('anselm');
    await page.getByRole('radio', { name: 'Ottilie' }).click();
    await expect(page.getByRole('switch', { name: /^Harbour History/ })).toBeVisible();
    await accessible();
    await page.getByLabel('Be somebody else in the demo').selectOption('juno');
    await expect(page.getByRole('radio', { name: 'Tobias' })).toHaveCount(0);
  },
);
