import type { Page } from '@playwright/test';
import type { PostedMail } from '@zephyrfield/stand-ins/postbox';
import { expect, hoursAhead, test, pick } from './fixtures';
import type { ServerProcess } from './servers';

test.use({ ownDemo: 'notices' });

const bar = (page: Page) => page.getByLabel('Last change');
const posted = async (demo: ServerProcess) =>
  (await (await fetch(`${demo.postbox}/mails`)).json()) as PostedMail[];
const one = (page: Page, title: string | RegExp) => page.getByRole('group', { name: title }).first();

test('what is told: unseen first, dealt with where it stands, put off, and counted in words on Today', async ({
  page,
  accessible,
}) => {
  await page.goto('/today');
  await page.getByRole('link', { name: 'Day sheet' }).click();
  await expect(page.getByRole('heading', { name: 'The day sheet' })).toBeVisible();
  await page.goto('/today');
  await page.getByRole('link', { name: /not seen yet in News$/ }).click();
  const unseen = page.getByRole('group', { name: 'Not seen yet' });
  await expect(
    unseen
      .getByText('Moved: Thu 8 Oct 16:00 → Fri 16 Oct 16:00')
      .or(unseen.getByText(/^Moved: /))
      .first(),
  ).toBeVisible();
  await accessible();
  const reminder = one(page, 'Glaze test tiles');
  await expect(reminder).toContainText('Due Tue 6 Oct · hand in on paper');
  await reminder.getByRole('button', { name: 'Remind me later: Glaze test tiles' }).click();
  await page
    .getByRole('group', { name: 'Remind me later of Glaze test tiles' })
    .getByRole('button', { name: 'Tomorrow morning' })
    .click();
  await expect(bar(page)).toContainText('Glaze test tiles: comes back tomorrow morning');
  await expect(one(page, 'Glaze test tiles')).toContainText('You will be told again Wed 7 Oct 08:00.');
  await page.getByRole('button', { name: 'Mark all as seen' }).click();
  await expect(page.getByText('You have seen everything.')).toBeVisible();
  await expect(unseen).toHaveCount(0);
  await page.getByRole('link', { name: 'Open: Glaze test tiles' }).first().click();
  await expect(page.getByText('Due Tuesday 6 October').first()).toBeVisible();
});

test(
  'settings say what they mean; an item has reminders of its own, and taking that back brings the usual ones',
  { tag: '@wide' },
  async ({ page, accessible }) => {
    await page.goto('/notice-settings');
    await expect(
      page.getByText(/^You will be told about .+ on .+, in the app, in this browser and by mail\.$/),
    ).toBeVisible();
    await page.getByRole('checkbox', { name: 'Reminders by mail' }).click();
    await expect(
      page.getByText(/^You will be told about .+, in the app and in this browser\.$/),
    ).toBeVisible();
    await page.getByRole('checkbox', { name: 'Reminders by mail' }).click();
    const quiet = page.getByRole('group', { name: 'Quiet hours' });
    await pick(quiet, 'To', '22:00');
    await quiet.getByRole('button').last().focus();
    await expect(quiet.getByRole('alert')).toContainText(
      'Quiet hours that never end would hold everything back',
    );
    await accessible();
    const reminders = page.getByRole('group', { name: 'Reminders for Juno' });
    await reminders.getByRole('button', { name: 'A test' }).click();
    await reminders.getByLabel('Add a reminder').selectOption({ label: '3 hours before' });
    await expect(bar(page)).toContainText('A test: reminders changed');
    await expect(reminders.getByRole('button', { name: 'A test' })).toContainText(
      '1 week before at 18:00, 2 days before at 18:00, 3 hours before',
    );
    await page.locator('body').press('u');
    await expect(reminders.getByRole('button', { name: 'A test' })).not.toContainText('3 hours before');

    await page.goto('/calendar?view=week&day=2026-10-13');
    await page
      .getByRole('button', { name: /^Lab log 7/ })
      .first()
      .click();
    const own = page.getByRole('group', { name: 'Reminders', exact: true });
    await expect(own).toContainText('Thu 15 Oct 18:00');
    await own.getByRole('button', { name: 'Change reminders' }).click();
    await own.getByLabel('Add a reminder').selectOption({ label: '15 minutes before' });
    await expect(own).toContainText('Fri 16 Oct 17:45');
    await own.getByLabel('Add a reminder').selectOption('moment');
    await pick(own, 'At', '2026-10-20T10:00');
    await own.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(bar(page)).toContainText('A reminder comes after what it is for.');
    await own.getByRole('button', { name: 'Use the usual reminders' }).click();
    await expect(own).not.toContainText('Fri 16 Oct 17:45');
  },
);

test(
  'the clock goes on: the sheet comes by mail and stands to be read; a date moved at the desk is told, and its reminder moves along',
  { tag: '@wide' },
  async ({ page, demo, context, accessible }) => {
    await page.goto('/today');
    await hoursAhead(page, 5);
    await expect
      .poll(async () =>
        (await posted(demo)).filter((m) => m.to === 'juno@skerrow.example').map((m) => m.subject),
      )
      // The day’s second mail takes it along, at whichever hour that goes.
      .toContainEqual(expect.stringMatching(/, Tide table exercise 11$/));
    await page.goto('/news');
    await one(page, /^Tonight, Tuesday 6 October/)
      .getByRole('link', { name: /^Read it/ })
      .click();
    await expect(page.getByRole('heading', { name: 'Tonight, Tuesday 6 October' })).toBeVisible();
    await expect(page.getByText('To do tonight')).toBeVisible();
    await accessible();
    await context.grantPermissions(['clipboard-read', 'clipboard-write']);
    await page.getByRole('button', { name: 'Copy' }).click();
    await expect(bar(page)).toContainText('Copied.');
    expect(await page.evaluate(() => navigator.clipboard.readText())).toContain(
      'Juno Lindqvist-Amadi: Tonight, Tuesday 6 October',
    );

    // The teacher moves the moulds; the link is checked; the notice is there, and the reminder stands at its
    // new time.
    const desk = await context.newPage();
    await desk.goto(`${demo.campus}/desk?open=boatbuilding`);
    const row = desk
      .getByRole('listitem')
      .filter({ has: desk.locator('input[value="Shed log 8: fairing"], input[value^="Shed log 8"]') })
      .first();
    await row.getByLabel('Date').fill('2026-10-29');
    await row.getByRole('button', { name: /^Save/ }).click();
    await expect(desk.getByRole('status')).toContainText('Saved');
    // Hours have passed, so the link may just have been read on its own: this check then finds nothing more
    // to tell.
    await page.goto('/gather');
    await page.getByRole('button', { name: 'Check Boatbuilding now' }).click();
    await expect(page.getByText(/^Checked: /)).toBeVisible();
    await page.goto('/news');
    const moved = one(page, /^Shed log 8/);
    await expect(moved).toContainText('→ Thu 29 Oct 16:00');
    await expect(page.getByRole('group', { name: /^Shed log 8/ })).toHaveCount(1);
    await moved.getByRole('link', { name: /^Open/ }).click();
    await expect(page.getByRole('group', { name: 'Reminders', exact: true })).toContainText(
      'Wed 28 Oct 18:00',
    );
  },
);
