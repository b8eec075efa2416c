import { expect, openCalendar, previewLink, reveal, test } from './fixtures';

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
  await reveal(page, page.getByRole('button', { name: /^Slipway reading, low tide, Tide Watch, meeting, Tuesday 6 October, 17:00 – 17:40, Slip 2/ }));
  // Of one that repeats, a single date opens with its own day.
  const moved = page.getByRole('button', { name: /^Slipway reading.*Wednesday 14 October, 17:20/ });
  await reveal(page, moved);
  await moved.click();
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
  await expect(page.getByRole('group')).toHaveCount(7);
  await accessible();
});

test('the teacher moves a due date; a check brings it', async ({ page, demo }) => {
  await page.goto(`${demo.campus}/desk?open=boatbuilding`);
  const form = page.getByRole('listitem').filter({ has: page.locator('input[value="Keel plan"]') });
  await form.getByLabel('Date').fill('2026-10-14');
  await form.getByRole('button', { name: 'Save Keel plan' }).click();
  await expect(page.getByRole('status')).toHaveText('Saved “Keel plan”.');
  await openCalendar(page);
  await reveal(page, page.getByRole('button', { name: /^Keel plan.*due Monday 12 October, 16:00/ }));
  await page.goto('/gather');
  await page.getByRole('button', { name: 'Check Boatbuilding now' }).click();
  await expect(page.getByText('Checked: 1 changed.')).toBeVisible();
  await openCalendar(page);
  const keel = page.getByRole('button', { name: /^Keel plan.*due Wednesday 14 October, 16:00/ });
  await reveal(page, keel);
  await keel.click();
  await expect(page.getByText('moved: Mon 12 Oct 16:00 → Wed 14 Oct 16:00')).toBeVisible();
});

test('what changed stands by day and course, unseen first, and can be marked as seen', async ({ page, accessible }) => {
  await openCalendar(page);
  await page.getByRole('link', { name: /^\d+ changes since you looked$/ }).click();
  const ceramics = page.getByRole('group', { name: 'Ceramics Studio' });
  await expect(ceramics.getByText('moved: Wed 14 Oct → Thu 15 Oct')).toBeVisible();
  await expect(ceramics.getByText('1 new to you')).toBeVisible();
  await accessible();
  await page.getByRole('button', { name: 'Seen, all of it' }).click();
  await expect(page.getByRole('heading', { name: 'Seen before' })).toBeVisible();
  await ceramics.getByRole('link', { name: /Sketchbook, pages 14 to 15/ }).click();
  await expect(page.getByText('Due Thursday 15 October')).toBeVisible();
  await openCalendar(page);
  await expect(page.getByRole('link', { name: /since you looked/ })).toHaveCount(0);
});

test('another window’s check shows here without a reload', async ({ page, context, demo, request }) => {
  await openCalendar(page);
  const other = await context.newPage();
  await request.post(`${demo.campus}/desk/ocean-navigation/add`, { form: { title: 'Extra chart exercise', date: '2026-10-07' } });
  await other.goto('/gather');
  await other.getByRole('button', { name: 'Check Ocean Navigation now' }).click();
  await expect(other.getByText('Checked: 1 new.')).toBeVisible();
  await reveal(page, page.getByRole('button', { name: /^Extra chart exercise/ }));
  await other.close();
});

test('a feed that comes back empty is held back, until a person says it is right', async ({ page, demo, request, accessible }) => {
  const check = page.getByRole('button', { name: 'Check Ceramics Studio now' });
  await request.post(`${demo.campus}/desk/ceramics-studio/mode`, { form: { mode: 'empty' } });
  await page.goto('/gather');
  await check.click();
  await expect(page.getByText(/^The last reading had lost \d+ of \d+ entries still to come\.$/)).toBeVisible();
  await accessible();
  await openCalendar(page);
  await expect(page.getByRole('button', { name: /^Glaze test tiles/ })).toBeVisible();
  await page.goto('/gather');
  await page.getByRole('button', { name: 'They are really gone' }).click();
  await expect(page.getByText(/^Checked: \d+ gone\.$/)).toBeVisible();
  await request.post(`${demo.campus}/desk/ceramics-studio/mode`, { form: { mode: 'normal' } });
  await check.click();
  await expect(page.getByText(/^Checked: \d+ new\.$/)).toBeVisible();
});

test('a calendar can be renamed and reflagged, paused and gone on with', async ({ page, accessible }) => {
  await page.goto('/gather');
  await page.getByRole('button', { name: 'Change Ocean Navigation' }).click();
  await page.getByLabel('What you call it').fill('');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Give it a name.')).toBeVisible();
  await page.getByLabel('What you call it').fill('Navigation');
  await page.getByLabel('Flag’s letters').fill('NV');
  await accessible();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('group', { name: 'Navigation' })).toBeVisible();
  await page.getByRole('button', { name: 'Pause Navigation' }).click();
  await expect(page.getByRole('group', { name: 'Navigation' })).toContainText('paused');
  await page.getByRole('button', { name: 'Go on checking Navigation' }).click();
  await expect(page.getByRole('button', { name: 'Pause Navigation' })).toBeVisible();
  await page.getByRole('button', { name: 'Change Navigation' }).click();
  await page.getByLabel('What you call it').fill('Ocean Navigation');
  await page.getByLabel('Flag’s letters').fill('ON');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('group', { name: 'Ocean Navigation' })).toBeVisible();
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
