import type { Locator, Page } from '@playwright/test';
import { expect, test, pick, still } from './fixtures';

// A school week from end to end; it ticks off and moves what other files count on.
test.use({ ownDemo: 'week' });

const bar = (page: Page) => page.getByLabel('Last change');
const FIVE = [
  'Glaze test tiles',
  'Tide table exercise 11',
  'Surveys quiz',
  'Sketchbook, pages 12 to 13',
  'Lab log 6',
];

/** Finds what was handed in last week, with when. */
async function lastWeeksRecord(page: Page, press: (target: Locator) => Promise<void>): Promise<void> {
  await page.goto('/todo');
  await press(page.getByRole('radio', { name: 'finished' }));
  const finished = page.getByRole('group', { name: 'Finished' });
  const more = finished.getByRole('button', { name: /^\d+ more$/ });
  await press(more);
  await press(finished.getByRole('button', { name: /^Lab log 5/ }));
  await expect(page.getByText(/^Finished Friday 2 October/)).toBeVisible();
}

test(
  'by thumb: three things are added, two moved, one date parted from its series, five ticked off, one taken back, last week’s record found',
  { tag: '@phone' },
  async ({ page }) => {
    const press = (target: Locator) => target.tap();
    await page.goto('/todo');
    for (const [line, title] of [
      ['boatbuilding varnish the tiller thu 17:00', 'Varnish the tiller'],
      ['ceramics order clay fri', 'Order clay'],
      ['home rowing mon 17:00 - 18:00', 'Rowing'],
    ] as const) {
      await press(page.getByRole('button', { name: 'Add an item' }));
      await page.getByLabel('In one line').fill(line);
      if (line.startsWith('home')) {
        await press(page.getByRole('radio', { name: 'somewhere to be' }));
        await page.getByLabel('Repeats').selectOption('week');
      }
      await press(page.getByRole('button', { name: /^Add to/ }));
      await expect(bar(page)).toContainText(`${title} added to`);
    }
    await press(page.getByRole('button', { name: 'Choose or reorder' }));
    const week = page.getByRole('group', { name: 'This week' });
    for (const name of [/^Varnish the tiller/, /^Order clay/])
      await press(week.getByRole('button', { name }));
    const chosen = page.getByRole('group', { name: 'Chosen items' });
    await pick(chosen, 'Do on', '2026-10-11');
    await press(chosen.getByRole('button', { name: 'Move' }));
    await expect(bar(page)).toContainText('2 items moved to Sunday 11 October');

    await page.goto('/calendar?view=week&day=2026-10-19');
    await press(
      await still(
        page.getByRole('group', { name: 'Monday 19 October' }).getByRole('button', { name: /^Rowing/ }),
      ),
    );
    await press(page.getByRole('button', { name: 'Change it' }));
    await pick(page, 'On', '2026-10-20');
    await press(page.getByRole('button', { name: 'Save the change' }));
    await page.goto('/calendar?view=week&day=2026-10-19');
    await expect(
      page.getByRole('group', { name: 'Tuesday 20 October' }).getByRole('button', { name: /^Rowing/ }),
    ).toBeVisible();
    await page.goto('/calendar?view=week&day=2026-10-12');
    await expect(
      page.getByRole('group', { name: 'Monday 12 October' }).getByRole('button', { name: /^Rowing/ }),
    ).toBeVisible();

    await page.goto('/todo');
    for (const title of FIVE) {
      await press(page.getByRole('button', { name: `Finish ${title}` }));
      await press(
        bar(page)
          .getByRole('group', { name: 'How was it handed in?' })
          .getByRole('button', { name: 'online' }),
      );
      await expect(bar(page)).toContainText(`${title}: handed in online`);
    }
    // The last record is taken back, and with it the tick.
    await press(bar(page).getByRole('button', { name: 'Undo' }));
    await page.locator('body').press('u');
    await expect(page.getByRole('button', { name: `Finish ${FIVE.at(-1)}` })).toBeVisible();
    await lastWeeksRecord(page, press);
  },
);

test('without a mouse: the same week by keys alone', { tag: '@wide' }, async ({ page }) => {
  const press = async (target: Locator) => {
    await target.focus();
    await page.keyboard.press('Enter');
  };
  await page.goto('/calendar?view=week&day=2026-10-06');
  await expect(page.getByRole('list', { name: 'Tuesday 6 October', exact: true })).toBeVisible();
  for (const [line, title] of [
    ['boatbuilding varnish the tiller thu 15:00', 'Varnish the tiller'],
    ['ceramics order clay fri 14:00', 'Order clay'],
    ['home rowing sat 15:00 - 16:00', 'Rowing'],
  ] as const) {
    await page.locator('body').press('w');
    await expect(page.getByLabel('In one line')).toBeFocused();
    await page.keyboard.type(line);
    if (line.startsWith('home')) {
      await press(page.getByRole('radio', { name: 'somewhere to be' }));
      await page.getByLabel('Repeats').selectOption('week');
      await press(page.getByRole('button', { name: /^Add to/ }));
    } else await page.keyboard.press('Enter');
    await expect(bar(page)).toContainText(`${title} added to`);
  }
  for (const [name, day] of [
    [/^Varnish the tiller/, 'Friday 9 October'],
    [/^Order clay/, 'Saturday 10 October'],
  ] as const) {
    await page.getByRole('button', { name }).focus();
    await page.keyboard.press('Alt+ArrowRight');
    await expect(
      page.getByRole('list', { name: day, exact: true }).getByRole('button', { name }),
    ).toBeVisible();
  }
  await page.goto('/calendar?view=week&day=2026-10-17');
  await press(page.getByRole('button', { name: /^Rowing/ }));
  await press(page.getByRole('button', { name: 'Change it' }));
  await page.getByRole('combobox', { name: 'Change' }).selectOption('later');
  await pick(page, 'From', '10:00');
  await pick(page, 'To', '11:00');
  await press(page.getByRole('button', { name: 'Save the change' }));
  // This date and all later ones; the one before stays as it was.
  await page.goto('/calendar?view=day&day=2026-10-24');
  await expect(page.getByRole('button', { name: /^Rowing.*10:00/ })).toBeVisible();
  await page.goto('/calendar?view=day&day=2026-10-10');
  await expect(page.getByRole('button', { name: /^Rowing.*15:00/ })).toBeVisible();

  await page.goto('/todo');
  for (const title of FIVE) {
    await press(page.getByRole('button', { name: `Finish ${title}` }));
    await press(
      bar(page)
        .getByRole('group', { name: 'How was it handed in?' })
        .getByRole('button', { name: 'on paper' }),
    );
    await expect(bar(page)).toContainText(`${title}: handed in on paper`);
  }
  await page.locator('body').press('u');
  await page.locator('body').press('u');
  await expect(page.getByRole('button', { name: `Finish ${FIVE.at(-1)}` })).toBeVisible();
  await lastWeeksRecord(page, press);
});
