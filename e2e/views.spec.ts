import type { Page } from '@playwright/test';
import { acknowledged, expect, pick, stroke, test } from './fixtures';

/** Opens a view of the calendar on a day and waits until it stands. */
async function look(page: Page, view: string, day = '2026-10-06', more = ''): Promise<void> {
  await page.goto(`/calendar?view=${view}&day=${day}${more}`);
  await expect(page.getByRole('radio', { name: view, exact: true })).toHaveAttribute('aria-checked', 'true');
  await expect(page.getByRole('list', { name: 'The term by weeks' })).toBeVisible();
  await expect(page.getByRole('status', { name: 'Loading the calendars' })).toHaveCount(0);
}
const title = (page: Page) => page.getByRole('heading', { level: 1 });

test('today says what is next, where to be, what is due by tonight and what changed', async ({
  page,
  wide,
  accessible,
}) => {
  await page.goto('/');
  await expect(title(page)).toHaveText('Tuesday');
  await expect(page.getByText('6 October 2026', { exact: true })).toBeVisible();
  await expect(page.getByText('Studio week', { exact: true }).first()).toBeVisible();
  // Five doors; and oneself, at the head of a phone’s places, at the foot of the rail.
  await expect(page.getByRole('navigation', { name: 'Places' }).getByRole('link')).toHaveCount(wide ? 6 : 5);
  const due = page.getByRole('group', { name: 'Tonight' });
  await expect(due.getByRole('button', { name: /^Glaze test tiles/ })).toBeVisible();
  // Other tests in this demo may have finished something.
  const left = async () => Number(/(\d+) to do/.exec(await due.innerText())?.[1]);
  const before = await left();
  await due.getByRole('button', { name: 'Finish Glaze test tiles' }).click();
  await expect.poll(left).toBe(before - 1);
  await due.getByRole('button', { name: 'Take back: Glaze test tiles is not finished' }).click();
  await expect.poll(left).toBe(before);
  await expect(page.getByRole('group', { name: 'Past due' })).toContainText('Half-scale dinghy: lofting');
  await accessible();
  await expect(
    page.getByRole('group', { name: 'Tomorrow' }).getByRole('button', { name: /^Surveys quiz/ }),
  ).toBeVisible();
  const next = page.getByRole('group', { name: 'Next up' });
  if (!wide) {
    // One part under the other, without a hole between them and none over another.
    const boxes = await Promise.all(
      (await page.getByRole('main').getByRole('group').all()).map((part) => part.boundingBox()),
    );
    expect(boxes.length).toBeGreaterThanOrEqual(4);
    for (const [i, box] of boxes.slice(1).entries()) {
      const gap = box!.y - (boxes[i]!.y + boxes[i]!.height);
      expect(gap).toBeGreaterThanOrEqual(0);
      expect(gap).toBeLessThan(80);
    }
  }
  await next.getByLabel('Calendar', { exact: true }).selectOption({ label: 'Ceramics Studio' });
  await expect(next.getByRole('button', { name: /^Surveys quiz/ })).toHaveCount(0);
  await expect(next.getByRole('button', { name: /^Sketchbook/ }).first()).toBeVisible();
});

test('a month in weeks with names and load; a day is chosen, what does not fit is counted', async ({
  page,
  wide,
  accessible,
}) => {
  await look(page, 'month');
  await expect(title(page)).toHaveText('October 2026');
  await expect(page.getByRole('rowheader', { name: /^Studio week, .*, strong$/ })).toBeVisible();
  // On a phone the day stands below; a wide screen has room for what is due on it.
  const tuesday = wide ? page.getByRole('cell') : page.getByRole('group', { name: 'Tuesday 6 October' });
  await expect(tuesday.getByRole('button', { name: /^Glaze test tiles/ })).toBeVisible();
  await accessible();
  if (wide)
    await expect(page.getByRole('cell').getByRole('button', { name: /^Mid-term break/ })).toBeVisible();
  await page.getByRole('button', { name: /^Thursday 8 October, \d+ items/ }).click();
  await expect(
    page.getByRole('group', { name: 'Thursday 8 October' }).getByRole('button', { name: /^Fire drill/ }),
  ).toBeVisible();
  await expect(page).toHaveURL(/day=2026-10-08/);
  await page.goBack();
  await expect(page.getByRole('group', { name: 'Tuesday 6 October' })).toBeVisible();
});

test(
  'a month of six weeks: each is there, and what is due in a day stands in it',
  { tag: '@wide' },
  async ({ page }) => {
    await look(page, 'month', '2026-11-06');
    const weeks = page
      .getByRole('table')
      .getByRole('row')
      .filter({ has: page.getByRole('rowheader') });
    await expect(weeks).toHaveCount(6);
    await weeks.last().scrollIntoViewIfNeeded();
    await expect(weeks.last()).toBeInViewport();
    const cell = weeks
      .nth(1)
      .getByRole('cell')
      .filter({ has: page.getByRole('button', { name: /^Friday 6 November, / }) });
    const day = (await cell.boundingBox())!;
    for (const name of [/^Half-scale dinghy/, /^Lab log 9/]) {
      const slip = (await cell.getByRole('button', { name }).boundingBox())!;
      expect(slip.y).toBeGreaterThan(day.y);
      expect(slip.y + slip.height).toBeLessThanOrEqual(day.y + day.height);
    }
  },
);

test('a week: late deadlines on the shelf, lessons at their hours, the break as a bar', async ({
  page,
  wide,
  accessible,
}) => {
  await look(page, 'week');
  await expect(title(page)).toHaveText('5 – 11 October');
  if (wide) {
    await expect(
      page
        .getByRole('list', { name: 'By the end of Tuesday 6 October' })
        .getByRole('button', { name: /^Tide table exercise 11/ }),
    ).toBeVisible();
    await expect(
      page
        .getByRole('list', { name: 'Monday 5 October', exact: true })
        .getByRole('button', { name: /^Lesson: Boatbuilding/ }),
    ).toBeVisible();
  } else
    await expect(
      page
        .getByRole('group', { name: 'Tuesday 6 October' })
        .getByRole('button', { name: /^Tide table exercise 11/ }),
    ).toBeVisible();
  await accessible();
  await page.getByRole('button', { name: 'Forward one week' }).click();
  await expect(title(page)).toHaveText('12 – 18 October');
  await page.getByRole('button', { name: 'Back one week' }).click();
  await page.getByRole('button', { name: /^week 9, break/ }).click();
  await expect(title(page)).toHaveText('26 Oct – 1 Nov');
  await expect(page.getByRole('button', { name: /^Mid-term break/ }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Go to today' }).click();
  await expect(title(page)).toHaveText('5 – 11 October');
});

test(
  'beside an open sheet, what would stand too narrow to be read is counted, and the count leads to its day',
  { tag: '@wide' },
  async ({ page, accessible }) => {
    await look(page, 'week');
    const thursday = page.getByRole('list', { name: 'Thursday 8 October', exact: true });
    await expect(thursday.getByRole('button', { name: /^Fire drill/ })).toBeVisible();
    await page
      .getByRole('list', { name: 'By the end of Tuesday 6 October' })
      .getByRole('button', { name: /^Tide table exercise 11/ })
      .click();
    const more = thursday.getByRole('button', { name: '1 more at 11:00 on Thursday 8 October' });
    await expect(more).toBeVisible();
    await expect(thursday.getByRole('button', { name: /^Fire drill/ })).toHaveCount(0);
    await expect(thursday.getByRole('button', { name: /^Lesson: Ceramics/ })).toBeVisible();
    await accessible();
    await more.click();
    await expect(title(page)).toHaveText('Thursday 8 October');
    await expect(thursday.getByRole('button', { name: /^Fire drill/ })).toBeVisible();
  },
);

test('a day with its hours; an item opens beside it or over it, and the way back restores what was seen', async ({
  page,
  wide,
  accessible,
}) => {
  await look(page, 'day');
  await expect(title(page)).toHaveText(wide ? 'Tuesday 6 October' : 'Tue 6 Oct');
  // On a wide screen work that is due stands beside the hours, with its stub.
  const shelf = wide
    ? page.getByRole('group', { name: 'Due on Tuesday 6 October' })
    : page.getByRole('list', { name: 'By the end of Tuesday 6 October' });
  await expect(shelf.getByRole('button', { name: /^Tide table exercise 11/ })).toBeVisible();
  await expect(
    page
      .getByRole('list', { name: 'Tuesday 6 October', exact: true })
      .getByRole('button', { name: /^Lesson: Ceramics/ }),
  ).toBeVisible();
  await accessible();
  await shelf.getByRole('button', { name: /^Tide table exercise 11/ }).click();
  const sheet = wide
    ? page.getByRole('complementary', { name: 'Tide table exercise 11' })
    : page.getByRole('dialog');
  await expect(sheet.getByText('Due Tuesday 6 October, 23:59')).toBeVisible();
  await page.goBack();
  await expect(sheet).toHaveCount(0);
  await page.getByLabel('Go to a date').fill('2026-10-10');
  const saturday = wide ? 'Saturday 10 October' : 'Sat 10 Oct';
  await expect(title(page)).toHaveText(saturday);
  await page.reload();
  await expect(title(page)).toHaveText(saturday);
});

test(
  'by keys: after Escape the focus is on the slip that was open, after Finish on the next one',
  { tag: '@wide' },
  async ({ page }) => {
    for (const place of ['/today', '/todo', '/calendar?view=week&day=2026-10-06']) {
      await page.goto(place);
      const slip = page.getByRole('button', { name: /^Glaze test tiles, / }).first();
      await slip.focus();
      await page.keyboard.press('Enter');
      const sheet = page.getByRole('complementary', { name: 'Glaze test tiles' });
      await expect(sheet).toBeVisible();
      await page.keyboard.press('Escape');
      await expect(sheet).toHaveCount(0);
      await expect(slip).toBeFocused();
    }
    await page.goto('/today');
    const finish = page.getByRole('button', { name: 'Finish Glaze test tiles' });
    await finish.focus();
    await acknowledged(page, () => page.keyboard.press('Enter'));
    await expect(finish).toHaveCount(0);
    await expect(page.getByRole('button', { name: /^Tide table exercise 11, / }).first()).toBeFocused();
    await acknowledged(page, () => page.keyboard.press('u'));
    await expect(finish).toBeVisible();
  },
);

test(
  'what a slip has no room for is told while it has the focus of the keys, until Escape',
  { tag: '@wide' },
  async ({ page }) => {
    await look(page, 'month');
    const day = page.getByRole('button', { name: /^Tuesday 13 October, / });
    await day.focus();
    // By the key, as who has no mouse comes to it.
    await page.keyboard.press('Tab');
    const gist = page.getByText(/^Due Tuesday 13 October/);
    await expect(gist).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(gist).toHaveCount(0);
  },
);

test(
  'filters stand in sight and in the address, forgive a slip, and one press clears them',
  { tag: '@phone' },
  async ({ page, accessible }) => {
    await look(page, 'agenda');
    await page.getByRole('button', { name: 'Filters' }).click();
    await page.getByRole('checkbox', { name: 'test', exact: true }).click();
    await expect(page.getByRole('status').filter({ hasText: 'Only' })).toContainText('Only test');
    await expect(page.getByRole('button', { name: /^Keel plan/ })).toHaveCount(0);
    await expect(page.getByRole('button', { name: /^Surveys quiz/ })).toBeVisible();
    await expect(page).toHaveURL(/what=test/);
    await accessible();
    await page.getByRole('checkbox', { name: 'test', exact: true }).click();
    await page.getByLabel('Search').fill('mayonaise');
    await expect(page.getByRole('button', { name: /^Emulsion report/ })).toBeVisible();
    await expect(page.getByRole('button', { name: /^Glaze test tiles/ })).toHaveCount(0);
    await page.reload();
    await expect(page.getByRole('status').filter({ hasText: 'Only' })).toContainText('mayonaise');
    await page.getByRole('button', { name: 'clear' }).click();
    await expect(page.getByRole('button', { name: /^Glaze test tiles/ })).toBeVisible();
    await expect(page.getByRole('status').filter({ hasText: 'Only' })).toHaveCount(0);
  },
);

test('the agenda by course and by what it is, past and everything', { tag: '@phone' }, async ({ page }) => {
  await look(page, 'agenda');
  await page.getByRole('radio', { name: 'by course' }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'Ocean Navigation' }).first()).toBeVisible();
  // No heading says the day: each slip does.
  await expect(
    page.getByRole('button', { name: 'Finish Chart exercise 7: a fix from three bearings' }).first(),
  ).toContainText('Mon 12 Oct');
  await page.getByRole('radio', { name: 'by what it is' }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'Assignments' }).first()).toBeVisible();
  await page.getByRole('radio', { name: 'by day' }).click();
  await page.getByRole('radio', { name: 'past', exact: true }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'Monday 5 October' }).first()).toBeVisible();
  await expect(page).toHaveURL(/span=past/);
  // What no calendar reaches is not looked at; one step beyond the last day there is stays there.
  await look(page, 'agenda', '9999-12-31');
  await expect(title(page)).toHaveText('October 2026');
  await look(page, 'agenda', '2199-12-31');
  await page.getByRole('button', { name: 'Forward one week' }).click();
  await expect(title(page)).toHaveText('December 2199');
  await expect(page.getByRole('alert')).toHaveCount(0);
  // From a day elsewhere on, what is past due stands under its own.
  await look(page, 'agenda', '2026-09-28', '&span=upcoming');
  await expect(page.getByRole('heading', { level: 2 }).first()).toHaveText('Monday 28 September');
  await expect(
    page.getByRole('button', { name: 'Finish Chart exercise 5: variation and deviation' }),
  ).toContainText('8 days ago');
});

test(
  'without a mouse: between days and views, flags, filters, slips and back',
  { tag: '@wide' },
  async ({ page }) => {
    await look(page, 'week');
    const body = page.locator('body');
    await body.press('ArrowRight');
    await expect(title(page)).toHaveText('12 – 18 October');
    await body.press('0');
    await expect(title(page)).toHaveText('5 – 11 October');
    await body.press('+');
    await expect(title(page)).toHaveText('Tuesday 6 October');
    await body.press('-');
    await body.press('-');
    await expect(title(page)).toHaveText('October 2026');
    await body.press('+');
    await body.press('Shift+Digit2');
    await expect(page.getByRole('switch', { name: /^Boatbuilding/ })).toHaveAttribute(
      'aria-checked',
      'false',
    );
    await expect(page.getByRole('button', { name: /^Tide table exercise 11/ })).toBeVisible();
    await body.press('Shift+Digit2');
    await expect(page.getByRole('switch', { name: /^Boatbuilding/ })).toHaveAttribute('aria-checked', 'true');
    await page.getByRole('button', { name: /^Tide table exercise 11/ }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('complementary', { name: 'Tide table exercise 11' })).toBeVisible();
    await page.getByRole('button', { name: 'Close' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('complementary')).toHaveCount(0);
    await body.press('?');
    await expect(page.getByRole('complementary', { name: 'Keys' })).toContainText('show or hide that flag');
    await page.getByRole('button', { name: 'Close' }).click();
    await body.press('/');
    await expect(page.getByLabel('Search')).toBeFocused();
    await page.keyboard.type('tide');
    await expect(page.getByText('Only “tide”')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('group', { name: 'Filters' })).toHaveCount(0);
    await expect(page.getByText('Only “tide”')).toBeVisible();
    await page.getByRole('button', { name: 'clear' }).click();
  },
);

test(
  'settings are saved as they are made and show everywhere',
  { tag: '@wide' },
  async ({ page, wide, accessible }) => {
    await page.goto('/settings');
    await expect(title(page)).toHaveText('Settings');
    await accessible();
    await page.getByRole('radio', { name: '4:10 pm' }).click();
    await page.getByRole('radio', { name: 'Sunday' }).click();
    await page.getByRole('radio', { name: 'dark' }).click();
    await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
    await accessible();
    const zone = page.getByRole('button', { name: 'Your time zone' });
    await zone.click();
    const search = page.getByRole('searchbox', { name: 'Search: Your time zone' });
    await search.fill('middle earth');
    await expect(page.getByText('No such zone.')).toBeVisible();
    await search.fill('utc+9');
    await page.getByRole('option', { name: /^Tokyo/ }).click();
    await expect(zone).toContainText('Tokyo, UTC+9');
    await look(page, 'week');
    // In Tokyo the deadline at 23:59 in Skerrow falls on the next morning; the week begins on Sunday.
    await expect(title(page)).toHaveText('4 – 10 October');
    const place = wide
      ? page.getByRole('list', { name: 'Wednesday 7 October', exact: true })
      : page.getByRole('group', { name: 'Wednesday 7 October' });
    await expect(
      place.getByRole('button', { name: /^Tide table exercise 11, .*due Wednesday 7 October, 7:59 am/ }),
    ).toBeVisible();
    await page.goto('/settings');
    await page.getByRole('radio', { name: '16:10' }).click();
    await page.getByRole('radio', { name: 'Monday' }).click();
    await page.getByRole('radio', { name: 'as the device' }).click();
    await zone.click();
    await page.getByRole('button', { name: /^Use Juno’s own/ }).click();
    await expect(page.locator('html')).not.toHaveAttribute('data-theme');
  },
);

test('the term is taken from the school’s calendar, or typed', { tag: '@phone' }, async ({ page }) => {
  await page.goto('/settings');
  const term = page.getByRole('group', { name: 'The term', exact: true });
  await expect(term).toContainText('Monday 31 August to Friday 18 December, from the school’s calendar');
  await term.getByRole('button', { name: 'Enter it' }).click();
  await term.getByRole('button', { name: 'Name a week' }).click();
  await term.getByRole('button', { name: 'Save the term' }).click();
  await expect(term.getByText('Give the week a name.')).toBeVisible();
  await term.getByLabel('Name', { exact: true }).nth(4).fill('Wind week');
  await pick(term, 'A day in it', '2026-10-14');
  await term.getByRole('button', { name: 'Save the term' }).click();
  await expect(term).toContainText('entered by hand');
  await look(page, 'week', '2026-10-14');
  await expect(page.getByText('Wind week', { exact: true }).first()).toBeVisible();
  await page.goto('/settings');
  await term.getByRole('button', { name: 'Use the school’s calendar' }).click();
  await expect(term).toContainText('from the school’s calendar');
});

test(
  'by finger: a stroke goes on by a week and back, a pull puts an item away',
  { tag: '@phone' },
  async ({ page }) => {
    await look(page, 'week');
    // A stroke is quick or it is none; on a busy machine it may have to be made again.
    const strokeTo = (from: number, to: number, week: string) =>
      expect(async () => {
        await stroke(page, { x: from, y: 600 }, { x: to, y: 605 });
        await expect(title(page)).toHaveText(week, { timeout: 2_000 });
      }).toPass();
    await strokeTo(330, 80, '12 – 18 October');
    await strokeTo(80, 330, '5 – 11 October');
    await page.getByRole('button', { name: /^Tide table exercise 11/ }).click();
    const sheet = page.getByRole('dialog');
    await expect(sheet.getByText('Due Tuesday 6 October, 23:59')).toBeVisible();
    // So is a pull; and what follows the finger is only loaded once the sheet stands.
    await expect(async () => {
      await stroke(page, { x: 195, y: 112 }, { x: 195, y: 420 });
      await expect(sheet).toHaveCount(0, { timeout: 2_000 });
    }).toPass();
  },
);

test(
  'a mouse at rest on a slip is told the gist, though what tells it came after the mouse',
  { tag: '@wide' },
  async ({ page }) => {
    let letGo = () => {};
    const held = new Promise<void>((done) => (letGo = done));
    await page.route('**/quick-look-*.js', async (route) => {
      await held;
      await route.continue();
    });
    await look(page, 'month');
    await page
      .getByRole('cell')
      .getByRole('button', { name: /^Glaze test tiles/ })
      .hover();
    letGo();
    const gist = page.getByText('Due Tuesday 6 October · today', { exact: false });
    await expect(gist).toBeVisible();
    await page.mouse.move(5, 5);
    await expect(gist).toHaveCount(0);
  },
);

test('the gist of what lasts days stands whole beside an open sheet', { tag: '@wide' }, async ({ page }) => {
  await look(page, 'month');
  const quiz = page.getByRole('cell').getByRole('button', { name: /^Surveys quiz/ });
  await quiz.click();
  const sheet = page.getByRole('complementary', { name: 'Surveys quiz' });
  await expect(sheet.getByRole('button', { name: 'Write a brief' })).toBeVisible();
  const gist = page.getByText('Mon 5 Oct to Fri 9 Oct', { exact: true });
  await page
    .getByRole('cell')
    .getByRole('button', { name: /^Studio week/ })
    .hover();
  await expect(gist).toBeVisible();
  const [card, beside] = [(await gist.boundingBox())!, (await sheet.boundingBox())!];
  expect(card.x + card.width).toBeLessThanOrEqual(beside.x);
});
