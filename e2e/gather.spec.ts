import { expect, openCalendar, previewLink, test } from './fixtures';

test('a link is looked into, named, given a flag, and followed', async ({ page, demo, accessible }) => {
  await previewLink(page, `${demo.campus}/feeds/tide-watch.ics`);
  const found = page.getByRole('group', { name: 'What was found' });
  await expect(found.getByText('Found “Tide Watch club”')).toBeVisible();
  await expect(found.getByText('3 entries, 1 of them to do or hand in')).toBeVisible();
  await expect(found.getByText('Tuesday 1 September to Tuesday 8 December')).toBeVisible();
  await expect(found.getByText('Europe/Dublin')).toBeVisible();
  await accessible();
  await page.getByLabel('What you call it').fill('Tide Watch');
  await page.getByLabel('It is the calendar of').selectOption('group');
  await page.getByRole('radio', { name: 'shallow' }).click();
  await page.getByRole('radio', { name: 'wedge' }).click();
  await page.getByRole('button', { name: 'Follow this calendar' }).click();
  await expect(page.getByRole('group', { name: 'Tide Watch' })).toContainText('Live link · 3 entries · checked now');
  await openCalendar(page);
  await expect(page.getByRole('button', { name: /^Slipway reading, low tide, Tide Watch, meeting, Tuesday 6 October, 17:00 – 17:40, Slip 2/ })).toBeVisible();
  // Of one that repeats, a single date opens with its own day.
  await page.getByRole('button', { name: /^Slipway reading.*Wednesday 14 October, 17:20/ }).click();
  await expect(page.getByRole('link', { name: /Join from home/ })).toBeVisible();

  await previewLink(page, `${demo.campus}/feeds/tide-watch.ics`);
  await expect(page.getByText('You already follow this link, as “Tide Watch”.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Follow this calendar' })).toHaveCount(0);

  await page.goto('/gather');
  await page.getByRole('button', { name: 'Stop following Tide Watch' }).click();
  await page.getByRole('button', { name: 'Take it away' }).click();
  await expect(page.getByRole('group', { name: 'Tide Watch' })).toHaveCount(0);
});

test('what is wrong with a link is said in plain words, and nothing is saved', async ({ page, demo, request, accessible }) => {
  const trouble = page.getByRole('alert');
  await previewLink(page, '');
  await expect(page.getByText('Paste the calendar’s link.')).toBeVisible();
  await previewLink(page, 'chart exercises');
  await expect(trouble).toContainText('That is not a web address.');
  await previewLink(page, `${demo.campus}/feeds/nothing-here.ics`);
  await expect(trouble).toContainText('There is nothing at that address.');
  await accessible();
  await previewLink(page, `${demo.campus}/desk`);
  await expect(trouble).toContainText('That is a web page, not a calendar.');
  await previewLink(page, 'http://127.0.0.1:9/a.ics');
  await expect(trouble).toContainText('private network');
  await request.post(`${demo.campus}/desk/tide-watch/mode`, { form: { mode: 'unauthorised' } });
  await previewLink(page, `${demo.campus}/feeds/tide-watch.ics`);
  await expect(trouble).toContainText('The link asks for a sign-in.');
  await request.post(`${demo.campus}/desk/tide-watch/mode`, { form: { mode: 'normal' } });
  await page.goto('/gather');
  await expect(page.getByRole('group', { name: 'Boatbuilding' })).toBeVisible();
  await expect(page.getByRole('group')).toHaveCount(3);
  await accessible();
});

test('the teacher moves a due date; a check brings it', async ({ page, demo }) => {
  await page.goto(`${demo.campus}/desk?open=boatbuilding`);
  const form = page.getByRole('listitem').filter({ has: page.locator('input[value="Keel plan"]') });
  await form.getByLabel('Date').fill('2026-10-14');
  await form.getByRole('button', { name: 'Save Keel plan' }).click();
  await expect(page.getByRole('status')).toHaveText('Saved “Keel plan”.');
  await openCalendar(page);
  await expect(page.getByRole('button', { name: /^Keel plan.*due Monday 12 October, 16:00/ })).toBeVisible();
  await page.goto('/gather');
  await page.getByRole('button', { name: 'Check Boatbuilding now' }).click();
  await expect(page.getByText('Checked: 1 changed.')).toBeVisible();
  await openCalendar(page);
  await expect(page.getByRole('button', { name: /^Keel plan.*due Wednesday 14 October, 16:00/ })).toBeVisible();
});

test('a link that fails says so and keeps what it had', async ({ page, demo, request, accessible }) => {
  await request.post(`${demo.campus}/desk/ceramics-studio/mode`, { form: { mode: 'signIn' } });
  await page.goto('/gather');
  await page.getByRole('button', { name: 'Check Ceramics Studio now' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'That is a web page, not a calendar.' })).toContainText('nothing is lost');
  await accessible();
  await openCalendar(page);
  await expect(page.getByRole('button', { name: /^Glaze test tiles/ })).toBeVisible();
  await request.post(`${demo.campus}/desk/ceramics-studio/mode`, { form: { mode: 'normal' } });
  await page.goto('/gather');
  await page.getByRole('button', { name: 'Check Ceramics Studio now' }).click();
  await expect(page.getByText('Checked: nothing has changed.')).toBeVisible();
});
