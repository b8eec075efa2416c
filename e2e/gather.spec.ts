import type { Page } from '@playwright/test';
import { expect, openCalendar, previewLink, press, reveal, test } from './fixtures';

/** Unfolds what can be done with a source. */
const more = (page: Page, name: string) => page.getByRole('button', { name: `More about ${name}` }).click();

test('a link is looked into, named, given a flag, and followed', async ({ page, demo, accessible }) => {
  await previewLink(page, `${demo.campus}/feeds/tide-watch.ics`);
  const found = page.getByRole('group', { name: 'What was found' });
  await expect(found.getByText('Found “Tide Watch club”')).toBeVisible();
  await expect(found.getByText('3 entries, 1 of them to do or hand in')).toBeVisible();
  await expect(found.getByText('Tuesday 1 September to Tuesday 8 December')).toBeVisible();
  await expect(found.getByText('Europe/Dublin')).toBeVisible();
  await accessible();
  await page.getByLabel('Name').fill('Tide Watch');
  await page.getByLabel('What it is for').selectOption('group');
  await page.getByRole('radio', { name: 'shallow' }).click();
  await page.getByRole('radio', { name: 'wedge' }).click();
  await page.getByRole('button', { name: 'Follow this calendar' }).click();
  await expect(page.getByRole('group', { name: 'Tide Watch' })).toContainText(
    'Followed link, live · 3 entries · checked now',
  );
  await openCalendar(page);
  await reveal(
    page,
    page.getByRole('button', {
      name: /^Slipway reading, low tide, Tide Watch, meeting, Tuesday 6 October, 17:00 – 17:40, Slip 2/,
    }),
  );
  // Of one that repeats, a single date opens with its own day.
  const moved = page.getByRole('button', { name: /^Slipway reading.*Wednesday 14 October, 17:20/ });
  await press(page, moved);
  await expect(page.getByRole('link', { name: /Join from home/ })).toBeVisible();

  await previewLink(page, `${demo.campus}/feeds/tide-watch.ics`);
  await expect(page.getByText('You already follow this link, as “Tide Watch”.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Follow this calendar' })).toHaveCount(0);

  await page.goto('/gather');
  await more(page, 'Tide Watch');
  await page.getByRole('button', { name: 'Stop following Tide Watch' }).click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByRole('group', { name: 'Tide Watch' })).toHaveCount(0);
});

test(
  'what is wrong with a link is said in plain words, and nothing is saved',
  { tag: '@wide' },
  async ({ page, demo, request, accessible }) => {
    const trouble = page.getByRole('alert');
    const followed = async () => (await page.request.get('/api/learners/juno/sources')).json();
    const names = async () => ((await followed()) as { name: string }[]).map((s) => s.name);
    await page.goto('/gather');
    await expect(page.getByRole('group', { name: 'Boatbuilding' })).toBeVisible();
    const before = await names();
    expect(before).not.toHaveLength(0);
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
    expect(await names()).toEqual(before);
    await accessible();
  },
);

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
  await press(page, keel);
  await expect(page.getByText('moved: Mon 12 Oct 16:00 → Wed 14 Oct 16:00')).toBeVisible();
});

test('what changed stands by day and course, unseen first, and can be marked as seen', async ({
  page,
  accessible,
}) => {
  await openCalendar(page);
  await page.getByRole('link', { name: /^\d+ changes since you looked$/ }).click();
  const ceramics = page.getByRole('group', { name: 'Ceramics Studio' });
  await expect(ceramics.getByText('moved: Wed 14 Oct → Thu 15 Oct')).toBeVisible();
  await expect(ceramics.getByText('1 new to you')).toBeVisible();
  await accessible();
  await page.getByRole('button', { name: 'Mark all as seen' }).click();
  await expect(page.getByRole('heading', { name: 'Seen before' })).toBeVisible();
  await ceramics.getByRole('link', { name: /Sketchbook, pages 14 to 15/ }).click();
  await expect(page.getByText('Due Thursday 15 October')).toBeVisible();
  await openCalendar(page);
  await expect(page.getByRole('link', { name: /since you looked/ })).toHaveCount(0);
});

test(
  'another window’s check shows here without a reload',
  { tag: '@wide' },
  async ({ page, context, demo, request }) => {
    await openCalendar(page);
    const other = await context.newPage();
    await request.post(`${demo.campus}/desk/ocean-navigation/add`, {
      form: { title: 'Extra chart exercise', date: '2026-10-07' },
    });
    await other.goto('/gather');
    await other.getByRole('button', { name: 'Check Ocean Navigation now' }).click();
    await expect(other.getByText('Checked: 1 new.')).toBeVisible();
    await reveal(page, page.getByRole('button', { name: /^Extra chart exercise/ }));
    await other.close();
  },
);

test(
  'a feed that comes back empty is held back, until a person says it is right',
  { tag: '@wide' },
  async ({ page, demo, request, accessible }) => {
    const check = page.getByRole('button', { name: 'Check Ceramics Studio now' });
    await request.post(`${demo.campus}/desk/ceramics-studio/mode`, { form: { mode: 'empty' } });
    await page.goto('/gather');
    await check.click();
    await expect(
      page.getByText(/^The last reading had lost \d+ of \d+ entries still to come\.$/),
    ).toBeVisible();
    await accessible();
    await openCalendar(page);
    await expect(page.getByRole('button', { name: /^Glaze test tiles/ })).toBeVisible();
    await page.goto('/gather');
    await page.getByRole('button', { name: 'They are really gone' }).click();
    await expect(page.getByText(/^Checked: \d+ gone\.$/)).toBeVisible();
    await request.post(`${demo.campus}/desk/ceramics-studio/mode`, { form: { mode: 'normal' } });
    await check.click();
    await expect(page.getByText(/^Checked: \d+ new\.$/)).toBeVisible();
  },
);

test(
  'a calendar can be renamed and reflagged, paused and gone on with',
  { tag: '@wide' },
  async ({ page, accessible }) => {
    await page.goto('/gather');
    await more(page, 'Ocean Navigation');
    await page.getByRole('button', { name: 'Change Ocean Navigation' }).click();
    await page.getByLabel('Name').fill('');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByText('Give it a name.')).toBeVisible();
    await page.getByLabel('Name').fill('Navigation');
    await page.getByLabel('Flag’s letters').fill('NV');
    await accessible();
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByRole('group', { name: 'Navigation' })).toBeVisible();
    await page.getByRole('button', { name: 'Pause Navigation' }).click();
    await expect(page.getByRole('group', { name: 'Navigation' })).toContainText('paused');
    await page.getByRole('button', { name: 'Resume Navigation' }).click();
    await expect(page.getByRole('button', { name: 'Pause Navigation' })).toBeVisible();
    await page.getByRole('button', { name: 'Change Navigation' }).click();
    await page.getByLabel('Name').fill('Ocean Navigation');
    await page.getByLabel('Flag’s letters').fill('ON');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByRole('group', { name: 'Ocean Navigation' })).toBeVisible();
  },
);

test(
  'a link that fails says so and keeps what it had',
  { tag: '@phone' },
  async ({ page, demo, request, accessible }) => {
    await request.post(`${demo.campus}/desk/ceramics-studio/mode`, { form: { mode: 'signIn' } });
    await page.goto('/gather');
    await page.getByRole('button', { name: 'Check Ceramics Studio now' }).click();
    await expect(
      page.getByRole('status').filter({ hasText: 'That is a web page, not a calendar.' }),
    ).toContainText('nothing is lost');
    await accessible();
    await openCalendar(page);
    await expect(page.getByRole('button', { name: /^Glaze test tiles/ })).toBeVisible();
    await request.post(`${demo.campus}/desk/ceramics-studio/mode`, { form: { mode: 'normal' } });
    await page.goto('/gather');
    await page.getByRole('button', { name: 'Check Ceramics Studio now' }).click();
    await expect(page.getByText('Checked: nothing has changed.')).toBeVisible();
  },
);

test(
  'one link becomes one calendar a course, named and merged by the person, and one again',
  { tag: '@wide' },
  async ({ page, demo, request, accessible }) => {
    await page.goto('/gather');
    const source = page.getByRole('group', { name: 'Norwegian, Sound Design, Food Chemistry' });
    await more(page, 'Norwegian, Sound Design, Food Chemistry');
    await expect(source.getByText('Split by the tag at the end of the title')).toBeVisible();
    await expect(source.getByText('Sound Design 15 entries')).toBeVisible();
    // A tag nobody has seen before is given a calendar, and that is said.
    await request.post(`${demo.campus}/desk/my-courses/add`, {
      form: { title: 'Weave draft [Textiles]', date: '2026-10-21' },
    });
    await page.getByRole('button', { name: 'Check Norwegian, Sound Design, Food Chemistry now' }).click();
    await expect(
      page.getByText('New in this source: “Textiles”, 1 entry, now the calendar Textiles.'),
    ).toBeVisible();
    await accessible();
    await page.getByRole('button', { name: 'Change the split', exact: true }).click();
    const textiles = page.getByLabel(/^Textiles · 1 entry/);
    await textiles.fill(' ');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByText('Give it a name.')).toBeVisible();
    await textiles.fill('food chemistry');
    await expect(page.getByText('Goes into “Food Chemistry” as well')).toBeVisible();
    await accessible();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByRole('group', { name: 'Norwegian, Sound Design, Food Chemistry' })).toContainText(
      'Food Chemistry 18 entries',
    );
    await openCalendar(page);
    const draft = page.getByRole('button', { name: /^Weave draft, Food Chemistry/ });
    await reveal(page, draft);
  },
);

test('a link with several courses is split before it is followed', async ({ page, demo, accessible }) => {
  await previewLink(page, `${demo.campus}/feeds/my-courses.ics?key=juno-4f2a9c&again`);
  await page
    .getByRole('radio', { name: /^3 calendars, by the tag at the end of the title|^4 calendars, by the tag/ })
    .click();
  await page.getByLabel(/^Norwegian · 22 entries/).fill('Norsk');
  await accessible();
  await page.getByRole('button', { name: 'Follow this calendar' }).click();
  const source = page.getByRole('group', { name: /^Norsk, / });
  await expect(source).toContainText('Followed link, live');
  await openCalendar(page);
  // What both links have stands once, under the calendar it was in before.
  const list = page.getByRole('button', { name: /^Word list: numbers over 100, / });
  await expect(list).toHaveCount(1);
  await list.click();
  await expect(page.getByText('Also in Norsk. Shown once.')).toBeVisible();
  await page.goto('/gather');
  await page.getByRole('button', { name: /^More about Norsk/ }).click();
  await page.getByRole('button', { name: /^Stop following Norsk/ }).click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(source).toHaveCount(0);
});

test(
  'the same thing in two feeds is shown once, and told apart by a word',
  { tag: '@wide' },
  async ({ page }) => {
    await openCalendar(page);
    const report = page.getByRole('button', { name: /^Emulsion report, / });
    await reveal(page, report);
    await expect(report).toHaveCount(1);
    await press(page, report);
    await page.getByRole('button', { name: 'It is not the same thing' }).click();
    await expect(page.getByText('Not the same as the one in School.')).toBeVisible();
    await page.getByRole('button', { name: 'It is the same' }).click();
    await expect(page.getByText('Also in School. Shown once.')).toBeVisible();
  },
);

test('what an entry is can be corrected, for all of its kind', { tag: '@wide' }, async ({ page }) => {
  await openCalendar(page);
  const log = page.getByRole('button', { name: /^Lab log 6, Food Chemistry, / });
  await press(page, log);
  await page.getByRole('button', { name: 'Correct this' }).click();
  await page.getByLabel('What it is', { exact: true }).selectOption('practice');
  await page.getByLabel('How it is handed in').selectOption('paper');
  await expect(page.getByLabel('For', { exact: true })).toContainText(
    'all 15 like “lab log …”, and those to come',
  );
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('practice · hand in on paper').first()).toBeVisible();
  await openCalendar(page);
  await reveal(
    page,
    page.getByRole('button', { name: /^Lab log 7, Food Chemistry, practice, .*hand in on paper/ }),
  );
});

test(
  'files are chosen several at once, looked at, read in as copies of their day, and brought up to date',
  { tag: '@phone' },
  async ({ page, demo, request, accessible }) => {
    const tides = await (await request.get(`${demo.campus}/feeds/tide-watch.ics`)).text();
    const file = (name: string, text: string) => ({
      name,
      mimeType: 'text/calendar',
      buffer: Buffer.from(text),
    });
    await page.goto('/gather/files');
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Choose files' }).click();
    await (await chooser).setFiles([file('tides.ics', tides), file('photo.ics', 'not a calendar')]);
    await expect(page.getByRole('group', { name: 'photo.ics' }).getByRole('alert')).toContainText(
      'That file is not a calendar.',
    );
    const one = page.getByRole('group', { name: 'tides.ics', exact: true });
    await expect(one.getByText('Found “Tide Watch club”')).toBeVisible();
    await accessible();
    await one.getByLabel('Name').fill('Tides on paper');
    await one.getByLabel('What it is for').selectOption('own');
    await one.getByLabel('Category').fill('Training');
    await one.getByRole('button', { name: 'Read the file' }).click();
    await expect(one.getByText('Done, 3 entries.')).toBeVisible();
    await page.getByRole('button', { name: 'Back to Gather' }).click();
    const source = page.getByRole('group', { name: 'Tides on paper' });
    await expect(source).toContainText('One-time file, copy of Tue 6 Oct, does not update · 3 entries');
    await source.getByRole('button', { name: 'Read a newer copy of Tides on paper' }).click();
    await page
      .locator('input[type=file]')
      .setInputFiles(file('tides (1).ics', tides.replace('Bring boots', 'Bring dry boots')));
    await page.getByRole('button', { name: 'Bring “Tides on paper” up to date' }).click();
    await expect(page.getByText(/^“Tides on paper” is up to date: /)).toBeVisible();
    await page.getByRole('button', { name: 'Back to Gather' }).click();
    await more(page, 'Tides on paper');
    await page.getByRole('button', { name: 'Remove Tides on paper' }).click();
    await page.getByRole('button', { name: 'Delete' }).click();
    await expect(source).toHaveCount(0);
  },
);

test('a file dropped on Gather is looked at', async ({ page, demo, request }) => {
  const tides = await (await request.get(`${demo.campus}/feeds/tide-watch.ics`)).text();
  await page.goto('/gather');
  const data = await page.evaluateHandle((text) => {
    const transfer = new DataTransfer();
    transfer.items.add(new File([text], 'dropped.ics', { type: 'text/calendar' }));
    return transfer;
  }, tides);
  await page.getByText('Drop .ics files here').dispatchEvent('drop', { dataTransfer: data });
  await expect(
    page.getByRole('group', { name: 'dropped.ics' }).getByText('Found “Tide Watch club”'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Leave out dropped.ics' }).click();
  await expect(page.getByRole('group', { name: 'dropped.ics' })).toHaveCount(0);
});
