import type { Page } from '@playwright/test';
import { acknowledged, expect, test } from './fixtures';

// A support teacher's week: what they keep for others, all learners in one table, notes, open times.

test.use({ ownDemo: 'desk' });

/** Signs in as somebody of the demo. */
async function become(page: Page, person: string): Promise<void> {
  await page.request.post(`/api/demo/people/${person}/session`, { data: {} });
}

test('a calendar is carried to another term, and one that is offered is taken in by one press', async ({
  page,
  accessible,
}) => {
  await become(page, 'anselm');
  await page.goto('/for-others');
  const spring = page.getByRole('group', { name: 'Study Hour, last spring' });
  await spring.getByRole('button', { name: 'Carry it to another term' }).click();
  await spring.getByLabel('What the new calendar is called').fill('Study Hour, carried');
  // Every row can be looked through; what is over already is left out to begin with.
  await expect(spring.getByRole('listitem').first()).toContainText('Study Hour');
  await expect(spring.getByText('already over').first()).toBeVisible();
  await expect(spring.getByText(/Mid-term break/).first()).toBeVisible();
  await accessible();
  await acknowledged(page, () => spring.getByRole('button', { name: /^Carry \d+ items forward$/ }).click());
  await expect(page.getByRole('group', { name: 'Study Hour, carried' })).toContainText(
    'Nobody follows it yet.',
  );

  await become(page, 'juno');
  await page.goto('/gather');
  const offer = page.getByRole('group', { name: 'Study Hour, offered by Anselm Okonjo' });
  await expect(offer).toContainText('never in which');
  await acknowledged(page, () => offer.getByRole('button', { name: 'Take it in' }).click());
  await expect(page.getByRole('group', { name: 'Study Hour', exact: true })).toContainText(
    'Published by Anselm Okonjo',
  );
  await page.goto('/calendar?view=agenda&day=2026-10-09&group=day&span=upcoming');
  await page.getByRole('button', { name: /^Half a page on what went well/ }).click();
  await expect(page.getByText('Only Anselm Okonjo can change it')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Change it' })).toHaveCount(0);
});

test('the table says who needs help and why, who has what, and where a date would clash', async ({
  page,
  wide,
  accessible,
}) => {
  await become(page, 'anselm');
  await page.goto('/table');
  const help = page.getByRole(wide ? 'rowgroup' : 'group', { name: 'Help first' });
  await expect(help).toContainText('2 past due');
  await expect(help).toContainText('Emeka Sørlie');
  await accessible();
  await page.getByRole('radio', { name: 'reading group' }).click();
  await expect(page.getByText('Emeka Sørlie')).toHaveCount(0);
  await page.getByRole('radio', { name: 'all 8' }).click();
  // One learner beside the list.
  await page.getByRole('button', { name: /Wren Castellane/ }).click();
  const beside = wide
    ? page.getByRole('complementary', { name: 'Wren Castellane' })
    : page.getByRole('dialog', { name: 'Wren Castellane' });
  await expect(beside.getByRole('group', { name: 'Past due' })).toBeVisible();
  await accessible();
  await page.getByRole('button', { name: 'Close' }).click();
  // Who has what in a week.
  if (wide) await page.getByRole('button', { name: 'Who has what in week 7' }).click();
  else {
    await page.getByRole('button', { name: 'A week' }).click();
    await page.getByRole('radio', { name: 'week 7' }).click();
  }
  await expect(page.getByRole('heading', { name: 'Week of 12 October' })).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();
  // A date for several is set on the calmest day, and is with those who follow it within seconds.
  await page.getByRole('button', { name: wide ? 'Write a date for several' : 'A date for several' }).click();
  await page.getByRole('button', { name: /calmest$/ }).click();
  await page.getByLabel('What', { exact: true }).fill('Chance test');
  await expect(page.getByRole('group', { name: 'What all who follow it have that week' })).toContainText(
    /that day/,
  );
  await acknowledged(page, () => page.getByRole('button', { name: 'Add to Study Hour' }).click());
  await expect(async () => {
    const days = await page.request.get('/api/learners-table/days', {
      params: { learnerIds: 'wren', from: '2026-10-12', count: '7' },
    });
    expect(await days.text()).toContain('Chance test');
  }).toPass();
});

test('the table is read and its groups are kept by keys alone', async ({ page, wide }) => {
  test.skip(!wide, 'a phone has no keys');
  await become(page, 'anselm');
  await page.goto('/table');
  await page.getByRole('button', { name: /Juno Lindqvist-Amadi/ }).focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('button', { name: /Emeka Sørlie/ })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('complementary', { name: 'Emeka Sørlie' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('complementary', { name: 'Emeka Sørlie' })).toHaveCount(0);
});

test('notes: to three crews at once, read on the phone, answered from the mail', async ({
  page,
  accessible,
}) => {
  await become(page, 'anselm');
  await page.goto('/notes');
  await page.getByRole('button', { name: 'Write a note' }).click();
  await page.getByRole('radio', { name: 'several crews' }).click();
  for (const name of ['Emeka Sørlie', 'Wren Castellane', 'Juno Lindqvist-Amadi'])
    await page.getByLabel(name, { exact: true }).check();
  await expect(page.getByText('Each of the 3 crews gets it alone')).toBeVisible();
  await page.getByRole('textbox', { name: 'Your note' }).fill('We meet in the **boat shed** on Thursday.');
  await accessible();
  await acknowledged(page, () => page.getByRole('button', { name: 'Send it' }).click());
  await expect(page.getByRole('list', { name: 'Notes' })).toContainText('boat shed');
  // For who sent it, it is one row, with the thread of each crew below it while one of them is open, or at a press.
  await page.keyboard.press('Escape');
  const sent = page.getByRole('main').getByRole('button', { name: /boat shed/ });
  const each = page.getByRole('main').getByRole('link', { name: /boat shed/ });
  await expect(sent).toHaveAttribute('aria-expanded', 'true');
  await expect(each).toHaveCount(3);
  await sent.click();
  await expect(each).toHaveCount(0);

  // It is in Maren’s mail, and she answers there.
  const { address } = (await (await page.request.get('/api/demo/postbox')).json()) as { address: string };
  let index = -1;
  await expect(async () => {
    const mails = (await (await page.request.get(`${address}/mails`)).json()) as {
      to: string;
      text: string;
    }[];
    index = mails.findIndex((m) => m.to === 'maren@skerrow.example' && m.text.includes('boat shed'));
    expect(index).toBeGreaterThanOrEqual(0);
  }).toPass();
  await page.goto(`${address}/mails/${index}`);
  await page.getByLabel('Answer as maren@skerrow.example').fill('Juno will be there.');
  await page.getByRole('button', { name: 'Send the answer' }).click();
  await expect(page.getByText('Your answer has been taken.')).toBeVisible();

  await page.goto('/notes');
  await page.getByRole('link', { name: /Maren Lindqvist.*Juno will be there/ }).click();
  const thread = page.getByRole('list', { name: 'Notes' });
  await expect(thread).toContainText('by mail');
  await accessible();
  await page.getByRole('button', { name: 'Star it' }).click();
  await expect(page.getByRole('button', { name: 'Take the star off' })).toBeVisible();

  await become(page, 'maren');
  await page.goto('/today');
  await page.getByRole('link', { name: /not seen yet in News$/ }).click();
  await page.getByRole('navigation', { name: 'News' }).getByRole('link', { name: 'notes' }).click();
  await page.getByLabel('Find').fill('boat shed');
  await page
    .getByRole('link', { name: /boat shed|Juno will be there/ })
    .first()
    .click();
  await expect(page.getByRole('list', { name: 'Notes' })).toContainText('We meet in the boat shed');
});

test('open times: six are offered, Juno takes one and gives it back, and both are told', async ({
  page,
  accessible,
}) => {
  await become(page, 'anselm');
  await page.goto('/open-times');
  await page.getByRole('button', { name: 'Offer times' }).click();
  const form = page.getByRole('group', { name: 'Offer times' });
  await form.getByLabel('What for').fill('About the essay');
  await form.getByLabel('Juno Lindqvist-Amadi').check();
  await form.getByLabel('It can be taken or given back').selectOption('0');
  await accessible();
  await acknowledged(page, () => form.getByRole('button', { name: /^Offer \d+ times$/ }).click());
  await expect(page.getByRole('group', { name: 'About the essay', exact: true })).toContainText('0 taken');

  await become(page, 'juno');
  await page.goto('/calendar?view=day&day=2026-10-15');
  await page
    .getByRole('button', { name: /^Free: About the essay with Anselm/ })
    .first()
    .click();
  await expect(page.getByRole('link', { name: 'open times' })).toHaveAttribute('aria-current', 'page');
  const asked = page.getByRole('group', { name: /About the essay$/ }).filter({ hasText: 'A word to Anselm' });
  await asked.getByLabel('A word to Anselm').fill('I am stuck in the middle.');
  await acknowledged(page, () => asked.getByRole('button', { name: 'Take it for me' }).click());
  const taken = page.getByRole('group', { name: /^Taken: About the essay/ });
  await expect(taken).toContainText('with Anselm Okonjo');
  await accessible();
  await page.goto('/calendar?view=day&day=2026-10-15');
  await expect(page.getByRole('button', { name: /^About the essay with Anselm/ })).toBeVisible();

  await become(page, 'anselm');
  await page.goto('/open-times');
  await expect(page.getByRole('group', { name: 'About the essay', exact: true })).toContainText(
    'I am stuck in the middle.',
  );
  // He moves it: Juno is told from when to when, and has it then.
  const offered = page.getByRole('group', { name: 'About the essay', exact: true });
  await offered.getByRole('button', { name: /^Move .* with Juno$/ }).click();
  await offered.getByLabel('Move it to').selectOption({ index: 2 });
  await offered.getByLabel(/^A word to Juno/).fill('The loft is taken.');
  await accessible();
  await acknowledged(page, () =>
    offered.getByRole('button', { name: 'Move it', exact: true }).last().click(),
  );
  await expect(offered.getByLabel('Move it to')).toHaveCount(0);
  await expect(offered).toContainText('I am stuck in the middle.');

  await become(page, 'juno');
  await page.goto('/news');
  await expect(
    page.getByText(/Anselm moved a time: About the essay, .*, to .*The loft is taken/),
  ).toBeVisible();
  await page.goto('/open-times');
  await taken.getByRole('button', { name: 'Give it back' }).click();
  await taken.getByLabel('A word to Anselm').fill('Found the way out.');
  await acknowledged(page, () => taken.getByRole('button', { name: 'Give it back' }).click());
  await expect(taken).toHaveCount(0);
  await become(page, 'anselm');
  await page.goto('/news');
  await expect(page.getByText(/Found the way out/)).toBeVisible();
});
