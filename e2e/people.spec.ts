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
    const due = page.getByRole('group', { name: 'Tonight' });
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
      juno.getByRole('group', { name: 'Tonight' }).getByRole('button', { name: exercise }),
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
    await page.request.post('/api/demo/people/maren/session', { data: {} });
    await page.goto('/today');
    await page.getByRole('radio', { name: 'Tobias' }).click();
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
    .getByRole('group', { name: 'Tonight' })
    .getByRole('button', { name: /^Tide table exercise 11/ })
    .click();
  await page.getByRole('button', { name: 'Start the timer' }).click();
  const timer = page.getByRole('group', { name: 'The timer' });
  await expect(timer).toContainText('Tide table exercise 11');
  await page.goto('/todo');
  await timer.getByRole('button', { name: 'Stop the timer of Tide table exercise 11' }).click();
  await expect(timer).toHaveCount(0);
});

test(
  'what may be the same thing is asked about, joined in one press or by hand, and parted again',
  { tag: '@phone' },
  async ({ page, accessible }) => {
    await page.goto('/todo');
    await page.getByRole('button', { name: 'Add an item' }).click();
    await page.getByLabel('In one line').fill('home tide table exercise due today');
    await page.getByRole('textbox', { name: 'What', exact: true }).fill('Navigation: Tide table exercise 11');
    await acknowledged(page, () => page.getByRole('button', { name: 'Add to Home' }).click());
    await page.goto('/changes');
    await page.getByRole('button', { name: 'Answer' }).click();
    const asked = page.getByRole('group', { name: 'Questions' });
    await expect(asked).toContainText('The same thing twice?');
    await accessible();
    await acknowledged(page, () => asked.getByRole('button', { name: 'They are the same' }).click());
    await expect(asked).toHaveCount(0);
    const bar = page.getByLabel('Last change');
    await acknowledged(page, () => bar.getByRole('button', { name: 'Undo' }).click());
    await expect(asked).toBeVisible();
    await acknowledged(page, () => asked.getByRole('button', { name: 'They are two things' }).click());
    // By hand, from the sheet of one of them.
    await page.goto('/today');
    const due = page.getByRole('group', { name: 'Tonight' });
    const mine = due.getByRole('button', { name: /^Navigation: Tide table exercise 11/ });
    await expect(mine).toBeVisible();
    await due.getByRole('button', { name: /^Tide table exercise 11/ }).click();
    const sheet = page.getByRole('dialog', { name: 'Tide table exercise 11' });
    await sheet.getByRole('button', { name: 'Same as another item …' }).click();
    await sheet.getByLabel('Which one is it the same as?').fill('navigation tide');
    const join = sheet.getByRole('group', { name: 'Same as another item' });
    await acknowledged(page, () => join.getByRole('button', { name: /^Navigation: Tide/ }).click());
    await expect(sheet).toContainText(
      'Also “Navigation: Tide table exercise 11” in Home, there on Tue 6 Oct. Shown once.',
    );
    await page.goto('/today');
    await expect(due.getByRole('button', { name: /^Tide table exercise 11/ })).toBeVisible();
    await expect(mine).toHaveCount(0);
  },
);

test(
  'where anybody may come, an account is made by the link in a mail, and a known address is told there',
  { tag: '@phone' },
  async ({ page, demo, accessible }) => {
    const ask = async (email: string) => {
      await page.goto('/new-account');
      await page.getByLabel('Your name').fill('Tova');
      await page.getByLabel('E-mail').fill(email);
      await page.getByLabel('Password').fill('tide table lantern');
      await page.getByRole('button', { name: 'Create account' }).click();
      await expect(page.getByText(`We sent a link to ${email}.`)).toBeVisible();
    };
    const post = await page.context().newPage();
    const openMail = async (subject: string) => {
      const mail = post.getByRole('link', { name: subject });
      // The page of the postbox shows what was there when it was opened.
      await expect(async () => {
        await post.goto(demo.postbox);
        expect(await mail.count()).toBeGreaterThan(0);
      }).toPass();
      await mail.first().click();
      return (await post.locator('pre').textContent())!;
    };
    await page.goto('/today');
    await page.context().clearCookies();
    await ask('juno@skerrow.example');
    expect(await openMail('You have an account already')).toContain('/forgotten');
    await ask('tova@skerrow.example');
    await accessible();
    await post.goto(/http\S+new-account#\S+/.exec(await openMail('Begin your account'))![0]);
    await post.getByLabel('Password').fill('not the one I chose');
    await post.getByRole('button', { name: 'Make my account' }).click();
    await expect(post.getByText('That is not the password you chose.').first()).toBeVisible();
    await post.getByLabel('Password').fill('tide table lantern');
    await post.getByRole('button', { name: 'Make my account' }).click();
    await expect(post.getByRole('button', { name: 'Start' })).toBeVisible();
  },
);
