import type { Page } from '@playwright/test';
import { expect, test } from './fixtures';

test.use({ ownDemo: 'plan' });

const bar = (page: Page) => page.getByLabel('Last change');
const evening = (page: Page, day: string) =>
  page.getByRole('list', { name: 'Evenings' }).getByRole('listitem').filter({ hasText: day });
const sitting = (page: Page, title: string) =>
  page.getByRole('button', { name: new RegExp(`^${title}, sitting`) });
/** The plan has all it will get: nothing better is looked for any more. */
const found = (page: Page) =>
  expect(page.getByText(/Nothing stands in the calendar yet\.$/)).toBeVisible({ timeout: 60_000 });

test('a run-up is begun from the essay’s sheet, looked at, taken, and undone', async ({
  page,
  accessible,
}) => {
  await page.goto('/calendar?view=agenda&day=2026-10-16');
  await page
    .getByRole('button', { name: /^Essay: a letter from the lighthouse/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Plan a run-up' }).click();
  await expect(page.getByRole('heading', { name: 'A plan for 1 piece of work' })).toBeVisible();
  await found(page);
  await expect(page.getByText('Heaviest evening').first()).toBeVisible();
  await expect(sitting(page, 'Essay: a letter from the lighthouse')).toHaveCount(0);
  await accessible();
  await page.getByRole('button', { name: /^Change how Essay: a letter/ }).click();
  const minutes = page.getByLabel('Minutes in all');
  await expect(minutes).toHaveValue('180');
  await minutes.fill('120');
  await minutes.press('Enter');
  await found(page);
  await expect(page.getByText(/^\d sittings, 2 h\./)).toBeVisible();
  await page.getByRole('button', { name: 'Take this plan' }).click();
  await expect(bar(page)).toContainText('sittings planned');
  await expect(sitting(page, 'Essay: a letter from the lighthouse').first()).toBeVisible();
  await bar(page).getByRole('button', { name: 'Undo' }).click();
  await expect(sitting(page, 'Essay: a letter from the lighthouse')).toHaveCount(0);
  await accessible();
});

test('what is big is planned at once, what does not fit is said with ways out, and one of them is taken', async ({
  page,
  wide,
  accessible,
}) => {
  await page.goto('/plan');
  await page.getByRole('button', { name: 'Plan what is big' }).click();
  await found(page);
  const unfit = page.getByRole('status').filter({ hasText: /moulds: .* do not fit before Fri 9 Oct 16:00/ });
  if (!wide) await unfit.getByRole('button', { name: 'Ways out' }).click();
  const way = unfit.getByRole('button', { name: 'Another sitting a day' });
  await expect(way).toBeVisible({ timeout: 60_000 });
  await accessible();
  await way.click();
  await found(page);
  await expect(unfit).toHaveCount(0);
  // One of them is left out, the others are taken.
  await page.getByRole('checkbox', { name: 'Plan Surveys quiz' }).click();
  await found(page);
  await page.getByRole('button', { name: 'Take this plan' }).click();
  await expect(bar(page)).toContainText('sittings planned');
  await expect(sitting(page, 'Half-scale dinghy: moulds').first()).toBeVisible();
  await expect(sitting(page, 'Surveys quiz')).toHaveCount(0);
  await bar(page).getByRole('button', { name: 'Undo' }).click();
  await expect(sitting(page, 'Half-scale dinghy: moulds')).toHaveCount(0);
});

test(
  'an evening that went by is told, and what is left is planned anew',
  { tag: '@wide' },
  async ({ page }) => {
    await page.goto('/plan');
    await expect(page.getByText('1 plan no longer holds')).toBeVisible();
    await page.getByRole('button', { name: 'Make a new plan' }).click();
    await found(page);
    await page.getByRole('button', { name: 'Take this plan' }).click();
    await expect(page.getByText('1 plan no longer holds')).toHaveCount(0);
    // The evening that was missed stays on the record.
    await page.getByRole('link', { name: 'progress' }).click();
    await expect(page.getByText(/1 of 2 sittings kept/)).toBeVisible();
    await expect(page.getByText(/Ceramics Studio, .*: 1\.\d × as long as said, from \d+/)).toBeVisible();
    await bar(page).getByRole('button', { name: 'Undo' }).click();
  },
);

test('a sitting is finished with the minutes it took, and opened again', async ({ page, accessible }) => {
  await page.goto('/plan');
  await evening(page, 'Thu 8')
    .getByRole('button', { name: /^Keel plan, sitting/ })
    .click();
  await page.getByLabel('Minutes it took').fill('40');
  await accessible();
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  const done = evening(page, 'Thu 8').getByRole('button', { name: /^Keel plan.*40 min, done/ });
  await expect(done).toBeVisible();
  await bar(page).getByRole('button', { name: 'Undo' }).click();
  await expect(evening(page, 'Thu 8').getByRole('button', { name: /^Keel plan.*50 min$/ })).toBeVisible();
});

test(
  'a sitting is carried by mouse and by keys, and stays where it was put',
  { tag: '@wide' },
  async ({ page }) => {
    await page.goto('/plan');
    const strip = evening(page, 'Thu 8').getByRole('button', { name: /^Keel plan, sitting/ });
    await strip.focus();
    await page.keyboard.press('Alt+ArrowDown');
    const moved = evening(page, 'Fri 9').getByRole('button', { name: /^Keel plan.*stays where you put it/ });
    await expect(moved).toBeVisible();
    await moved.hover();
    await page.mouse.down();
    const to = (await evening(page, 'Wed 7').boundingBox())!;
    await page.mouse.move(to.x + 300, to.y + 40, { steps: 8 });
    await page.mouse.move(to.x + 300, to.y + to.height / 2, { steps: 3 });
    await page.mouse.up();
    await expect(evening(page, 'Wed 7').getByRole('button', { name: /^Keel plan/ })).toBeVisible();
    await page.keyboard.press('u');
    await page.keyboard.press('u');
    await expect(strip).toBeVisible();
    // It stands in the week as well, and is opened from there.
    await page.goto('/calendar?view=week&day=2026-10-06');
    await page.getByRole('button', { name: /^Keel plan: make.*sitting.*8 October/ }).click();
    await expect(page.getByRole('heading', { name: 'Put it elsewhere' })).toBeVisible();
  },
);

test('when there is time: a day is taken out, and what lay there no longer holds', async ({
  page,
  accessible,
}) => {
  await page.goto('/plan?times=1');
  const times = page.getByRole('group', { name: 'The week' });
  await expect(times.getByRole('group', { name: 'Thursday', exact: true })).toBeVisible();
  await accessible();
  await times.getByRole('button', { name: 'Thursday: take this span out' }).click();
  await expect(bar(page)).toContainText('Thursdays changed');
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByText(/1 sitting outside your evenings/)).toBeVisible();
  await bar(page).getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/1 sitting outside your evenings/)).toHaveCount(0);
});
