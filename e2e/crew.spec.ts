import type { Browser, Locator, Page } from '@playwright/test';
import { acknowledged, expect, test } from './fixtures';
import { ServerProcess } from './servers';

test.use({ ownDemo: 'crew' });

/** A window of somebody else, at the same size. */
async function another(browser: Browser, page: Page, baseURL: string): Promise<Page> {
  const context = await browser.newContext({ baseURL, viewport: page.viewportSize(), locale: 'en-IE' });
  return context.newPage();
}

test('a new family: a parent, a learner and a support teacher come together, and one is let go again', async ({
  page,
  browser,
  accessible,
}) => {
  const server = await ServerProcess.start('main.js');
  try {
    await page.goto(server.address);
    await page.getByLabel('Set-up word').fill(server.setUpWord);
    await page.getByLabel('Your name').fill('Maren Lindqvist');
    await page.getByLabel('E-mail').fill('maren@skerrow.example');
    await page.getByLabel('Password').fill('harbour and field');
    await page.getByRole('button', { name: 'Create account' }).click();
    await page.getByRole('radio', { name: 'a learner’s I look after' }).click();
    await page.getByLabel('The learner’s name').fill('Juno');
    await page.getByRole('button', { name: 'Start' }).click();
    await page.getByRole('link', { name: 'Crew' }).click();
    await expect(page.getByRole('group', { name: 'Maren Lindqvist' })).toContainText('keeper');

    // The learner comes by a code, and the schedule is hers from then on.
    await page.getByRole('button', { name: 'Invite somebody' }).click();
    await page.getByLabel('For', { exact: true }).selectOption('learner');
    await accessible();
    await page.getByRole('button', { name: 'Make the code' }).click();
    const code = (await page.getByText(/^[2-9A-Y]{4} [2-9A-Y]{4}$/).textContent())!;
    await page.getByRole('button', { name: 'Show it large' }).click();
    await expect(page.getByRole('dialog', { name: 'The code, large' })).toContainText(code.slice(0, 4));
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Done' }).click();
    const juno = await another(browser, page, server.address);
    await juno.goto('/today');
    await juno.getByRole('link', { name: 'I have a code' }).click();
    await juno.getByLabel('The code').fill(code.toLowerCase());
    await juno.getByRole('button', { name: 'Look at the invitation' }).click();
    await expect(juno.getByRole('heading', { name: 'Maren Lindqvist invites you' })).toBeVisible();
    await expect(juno.getByText('You will be able to look, tick off, add and change things.')).toBeVisible();
    await juno.getByLabel('Your name').fill('Juno Lindqvist-Amadi');
    await juno.getByLabel('E-mail').fill('juno@skerrow.example');
    await juno.getByLabel('Password').fill('lighthouse letter home');
    await juno.getByRole('button', { name: 'Make an account and come in' }).click();
    await expect(juno.getByText('No calendars yet. Follow a link to see what is due.')).toBeVisible();
    await expect(page.getByRole('group', { name: 'Juno Lindqvist-Amadi' })).toContainText('own schedule');

    // A support teacher comes by a link, to look.
    await page.getByRole('button', { name: 'Invite somebody' }).click();
    await page.getByRole('radio', { name: 'a link' }).click();
    await page.getByRole('button', { name: 'Make the link' }).click();
    const link = await page.getByLabel('Send them this link').inputValue();
    await page.getByRole('button', { name: 'Done' }).click();
    const anselm = await another(browser, page, server.address);
    await anselm.goto(link);
    await expect(anselm.getByText('You will be able to look, and change nothing.')).toBeVisible();
    expect(new URL(anselm.url()).hash).toBe('');
    await anselm.getByLabel('Your name').fill('Anselm Okonjo');
    await anselm.getByLabel('E-mail').fill('anselm@skerrow.example');
    await anselm.getByLabel('Password').fill('study hour on monday');
    await anselm.getByRole('button', { name: 'Make an account and come in' }).click();
    await expect(anselm.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(anselm.getByRole('button', { name: 'Follow a link' })).toHaveCount(0);

    // What he may do is changed, and his open page offers it; then he is let go, and sees nothing more.
    const his = page.getByRole('group', { name: 'Anselm Okonjo' });
    await his.getByRole('button', { name: 'Change Anselm Okonjo' }).click();
    await acknowledged(page, () =>
      his
        .getByLabel('Anselm Okonjo may')
        .selectOption('edit')
        .then(() => {}),
    );
    await expect(anselm.getByRole('button', { name: 'Follow a link' })).toBeVisible();
    await his.getByRole('button', { name: 'Remove Anselm Okonjo' }).click();
    await acknowledged(page, () => his.getByRole('button', { name: 'Yes, remove' }).click());
    await expect(anselm.getByRole('heading', { name: 'Whose schedule?' })).toBeVisible();
    await expect(page.getByText('Maren Lindqvist removed Anselm Okonjo.')).toBeVisible();
    await accessible();
  } finally {
    await server.stop();
  }
});

test('a calendar that is hers alone takes time for the others, who are told nothing else; it is seen as they see it', async ({
  page,
  accessible,
}) => {
  const week = '/calendar?view=agenda&day=2026-10-21&group=day&span=upcoming';
  await page.request.post('/api/demo/people/anselm/session', { data: {} });
  await page.goto(week);
  await expect(page.getByRole('button', { name: /^Busy/ }).first()).toBeVisible();
  await expect(page.getByText('Driftwood band')).toHaveCount(0);
  // What stands for her hours is no calendar of theirs: there is nothing to rename or delete.
  await page.goto('/gather');
  await expect(page.getByRole('heading', { name: 'Boatbuilding' })).toBeVisible();
  await expect(page.getByText('Busy', { exact: true })).toHaveCount(0);
  await page.request.post('/api/demo/people/juno/session', { data: {} });
  await page.goto(week);
  await expect(page.getByRole('button', { name: /^Driftwood band/ }).first()).toBeVisible();

  await page.goto('/crew');
  await page.getByRole('button', { name: 'See it as Anselm Okonjo does' }).click();
  const line = page.getByRole('region', { name: 'Seen as somebody else' });
  await expect(line).toContainText('As Anselm Okonjo sees it.');
  await expect(page.getByRole('heading', { name: 'Tonight' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Add an item' })).toHaveCount(0);
  await accessible();
  await page.keyboard.press('Escape');
  await expect(line).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Add an item' })).toBeVisible();

  // From now on only Maren sees it as well.
  await page.goto('/crew');
  const mine = page.getByRole('group', { name: 'Just mine' });
  await mine.getByRole('button', { name: 'Change who sees Just mine' }).click();
  await mine.getByRole('radio', { name: 'only some' }).click();
  await mine.getByLabel('Maren Lindqvist').check();
  await mine.getByRole('radio', { name: 'nothing at all' }).click();
  await acknowledged(page, () => mine.getByRole('button', { name: 'Save' }).click());
  await expect(mine).toContainText('only you and Maren Lindqvist');
  await page.request.post('/api/demo/people/anselm/session', { data: {} });
  await page.goto(week);
  await expect(page.getByRole('heading', { level: 2 }).first()).toBeVisible();
  await expect(page.getByRole('button', { name: /^Busy/ })).toHaveCount(0);
});

test('all learners together: each slip says whose it is, and is ticked off in whose schedule it is', async ({
  page,
  accessible,
}) => {
  await page.request.post('/api/demo/people/maren/session', { data: {} });
  await page.goto('/todo');
  await page.getByRole('radio', { name: 'Tobias' }).click();
  await page.getByRole('button', { name: 'Add an item' }).click();
  await page.getByLabel('In one line').fill('school mend the kite thu');
  await acknowledged(page, () => page.getByRole('button', { name: /^Add to/ }).click());
  await page.getByRole('radio', { name: 'Everybody' }).click();
  const week = page.getByRole('group', { name: 'This week' });
  const his = week.getByRole('button', { name: /^School mend the kite, Tobias/ });
  await expect(his.getByRole('img', { name: 'Tobias Lindqvist-Amadi' })).toBeVisible();
  await expect(week.getByRole('button', { name: /, Juno/ }).first()).toBeVisible();
  await accessible();
  await acknowledged(page, () => week.getByRole('button', { name: 'Finish School mend the kite' }).click());
  await page.reload();
  await expect(week.getByRole('button', { name: /, Juno/ }).first()).toBeVisible();
  await expect(his).toHaveCount(0);

  await page.goto('/calendar?view=week&day=2026-10-05');
  // What both have in common stands once, with both their marks.
  await expect(page.getByRole('img', { name: 'Juno and Tobias' }).first()).toBeVisible();
  await accessible();
  await page.goto('/today');
  await accessible();
});

test(
  'by keys alone: somebody is invited, may do more, and is shown what they see',
  { tag: '@wide' },
  async ({ page }) => {
    await page.request.post('/api/demo/people/juno/session', { data: {} });
    await page.goto('/crew');
    await expect(page.getByRole('group', { name: 'Maren Lindqvist' })).toBeVisible();
    const reach = async (target: Locator) => {
      await expect(target).toBeVisible();
      do await page.keyboard.press('Tab');
      while (!(await target.evaluate((on) => on === document.activeElement)));
    };
    const button = (name: string | RegExp) => page.getByRole('button', { name });
    await reach(button('See it as Anselm Okonjo does'));
    await page.keyboard.press('Enter');
    await expect(page.getByRole('region', { name: 'Seen as somebody else' })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('region', { name: 'Seen as somebody else' })).toHaveCount(0);
    await page.goto('/crew');
    await reach(button(/^Change who sees Just mine/));
    await page.keyboard.press('Enter');
    const mine = page.getByRole('group', { name: 'Just mine' });
    const [everybody, some, me] = ['everybody', 'only some', 'only me'].map((name) =>
      page.getByRole('radio', { name }),
    ) as [Locator, Locator, Locator];
    // The choices are one stop, the chosen one: arrows go on to the next and choose it.
    await reach(
      page.getByRole('radiogroup', { name: 'Just mine is for' }).getByRole('radio', { checked: true }),
    );
    while (!(await me.isChecked())) await page.keyboard.press('ArrowRight');
    await expect(me).toBeChecked();
    await page.keyboard.press('ArrowLeft');
    await expect(some).toBeChecked();
    await page.keyboard.press('ArrowLeft');
    await expect(everybody).toBeFocused();
    await expect(everybody).toBeChecked();
    await reach(button('Save'));
    await acknowledged(page, () => page.keyboard.press('Enter'));
    await expect(mine.getByRole('button', { name: 'Save' })).toHaveCount(0);
  },
);
