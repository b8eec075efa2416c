import type { Page } from '@playwright/test';
import { acknowledged, expect, openCalendar, still, stroke, test, pick } from './fixtures';

const bar = (page: Page) => page.getByLabel('Last change');
const form = (page: Page) => page.getByRole('radiogroup', { name: 'What it is for' });

/** Opens the To-do place, signed in as Juno. */
async function todo(page: Page): Promise<void> {
  await page.goto('/todo');
  await expect(page.getByRole('group', { name: 'This week' })).toBeVisible();
}

/** Writes a line down, from the To-do place. */
async function writeDown(page: Page, line: string): Promise<void> {
  await page.getByRole('button', { name: 'Add an item' }).click();
  await page.getByLabel('In one line').fill(line);
}

test('one line becomes work in the right calendar; undone, it is gone again', async ({
  page,
  accessible,
}) => {
  await todo(page);
  await writeDown(page, 'ceramics pinch pots fri 16:00 45min');
  await expect(page.getByRole('heading', { name: 'Into Ceramics Studio' })).toBeVisible();
  await expect(page.getByText('assignment · due Friday 9 October, 16:00 · in 3 days · 45 min')).toBeVisible();
  await expect(page.getByLabel('What', { exact: true })).toHaveValue('Pinch pots');
  await accessible();
  await page.getByRole('button', { name: 'Add to Ceramics Studio' }).click();
  const slip = page
    .getByRole('group', { name: 'This week' })
    .getByRole('button', { name: /^Pinch pots, Ceramics Studio/ });
  await expect(slip).toContainText('45 min');
  await bar(page).getByRole('button', { name: 'Undo' }).click();
  await expect(slip).toHaveCount(0);
  await accessible();
});

test(
  'what is wrong stands at its field, and what was typed survives a reload',
  { tag: '@wide' },
  async ({ page }) => {
    await todo(page);
    await writeDown(page, 'home rehearsal sat 15:00');
    await form(page).getByRole('radio', { name: 'somewhere to be' }).click();
    await pick(page, 'To', '14:00');
    await page.getByRole('button', { name: /^Add to/ }).click();
    await expect(
      page.getByRole('alert').filter({ hasText: 'The end comes after the beginning.' }),
    ).toBeVisible();
    await page.reload();
    await page.getByRole('button', { name: 'Add an item' }).click();
    await expect(page.getByLabel('What', { exact: true })).toHaveValue('Rehearsal');
    await expect(page.getByRole('group', { name: 'To', exact: true })).toContainText(/14.*00/);
    await page.getByRole('button', { name: 'Discard' }).click();
    await page.getByRole('button', { name: 'Add an item' }).click();
    await expect(page.getByLabel('What', { exact: true })).toHaveValue('');
  },
);

test(
  'a repeat is said back, keeps clear of breaks, and one of its dates is changed alone',
  { tag: '@phone' },
  async ({ page, wide }) => {
    await todo(page);
    await writeDown(page, 'home band practice mon 18:00 - 19:00');
    await page.getByLabel('Repeats').selectOption('week');
    await page.getByRole('checkbox', { name: 'Wednesday' }).click();
    await page.getByLabel('Ends').selectOption('on');
    await pick(page, 'Last day', '2026-12-16');
    await page.getByRole('checkbox', { name: 'Not in breaks and on days off' }).click();
    await expect(page.getByLabel('What repeats')).toContainText(
      'every Monday and Wednesday until 16 December, not on days off',
    );
    await page.getByRole('button', { name: 'Add to Home' }).click();
    await expect(bar(page)).toContainText('Band practice added to Home');
    const on = (day: string) =>
      (wide
        ? page.getByRole('list', { name: day, exact: true })
        : page.getByRole('group', { name: day })
      ).getByRole('button', { name: /^Band practice/ });
    await page.goto('/calendar?view=week&day=2026-10-12');
    await expect(on('Monday 12 October')).toBeVisible();
    await (await still(on('Wednesday 14 October'))).click();
    await page.getByRole('button', { name: 'Change it' }).click();
    await expect(page.getByRole('combobox', { name: 'Change' })).toHaveValue('one');
    await pick(page, 'On', '2026-10-15');
    await acknowledged(page, () => page.getByRole('button', { name: 'Save the change' }).click());
    await page.goto('/calendar?view=week&day=2026-10-12');
    await expect(on('Thursday 15 October')).toBeVisible();
    await expect(on('Wednesday 14 October')).toHaveCount(0);
    // The mid-term break is left out, the week after is not.
    await page.goto('/calendar?view=week&day=2026-10-26');
    await expect(page.getByRole('button', { name: /^Mid-term break/ }).first()).toBeVisible();
    await expect(page.getByRole('button', { name: /^Band practice/ })).toHaveCount(0);
    await page.goto('/calendar?view=week&day=2026-11-02');
    await expect(on('Monday 2 November')).toBeVisible();
    // From one date on it is taken away altogether.
    await (await still(on('Monday 2 November'))).click();
    await page.getByRole('button', { name: 'Change it' }).click();
    await page.getByRole('combobox', { name: 'Change' }).selectOption('all');
    await page.getByRole('button', { name: 'Delete' }).click();
    await expect(page.getByRole('button', { name: /^Band practice/ })).toHaveCount(0);
  },
);

test('ticked off, it asks once how it was handed in; the record stays on the item, with when and a photo', async ({
  page,
  accessible,
}) => {
  await todo(page);
  const title = 'Glaze test tiles';
  await page.getByRole('button', { name: `Finish ${title}` }).click();
  await bar(page)
    .getByRole('group', { name: 'How was it handed in?' })
    .getByRole('button', { name: 'on paper' })
    .click();
  await expect(bar(page)).toContainText(`${title}: handed in on paper`);
  await page.getByRole('radio', { name: 'finished' }).click();
  const slip = page
    .getByRole('group', { name: 'Finished' })
    .getByRole('button', { name: new RegExp(`^${title}, .*handed in on paper$`) });
  await slip.click();
  await expect(page.getByRole('group', { name: 'Record' })).toContainText(
    'Handed in on paper Tuesday 6 October',
  );
  const record = page.getByRole('group', { name: 'Record' });
  await record.getByRole('button', { name: 'Change it, or add a photo' }).click();
  await record.getByLabel('Note').fill('in the blue folder');
  await pick(record, 'When', '2026-10-05T15:30');
  await record
    .getByLabel('Photos of what was handed in')
    .setInputFiles([{ name: 'tiles.png', mimeType: 'image/png', buffer: PNG }]);
  await expect(record.getByRole('link', { name: 'tiles.png, the whole picture' })).toBeVisible();
  await accessible();
  await acknowledged(page, () => record.getByRole('button', { name: 'Save' }).click());
  await expect(record).toContainText('Handed in on paper, “in the blue folder” Monday 5 October, 15:30');
  await page.getByRole('button', { name: 'Not finished after all' }).click();
  await expect(record).toContainText('Not finished after all');
});

test('paper whose date has passed is asked after and never nags', { tag: '@phone' }, async ({ page }) => {
  await todo(page);
  const settle = page.getByRole('group', { name: 'Did this happen?' });
  const past = page.getByRole('group', { name: 'Past due' });
  await settle.getByRole('button', { name: 'Not yet: Sketchbook, pages 10 to 11 is still to do' }).click();
  await expect(past.getByRole('button', { name: /^Sketchbook, pages 10 to 11/ })).toBeVisible();
  await bar(page).getByRole('button', { name: 'Undo' }).click();
  await expect(settle.getByRole('button', { name: /^Sketchbook, pages 10 to 11/ })).toBeVisible();
  await settle.getByRole('button', { name: 'Yes, Sketchbook, pages 10 to 11 is done' }).click();
  await expect(page.getByRole('button', { name: /^Sketchbook, pages 10 to 11/ })).toHaveCount(0);
  await bar(page).getByRole('button', { name: 'Undo' }).click();
  await expect(settle.getByRole('button', { name: /^Sketchbook, pages 10 to 11/ })).toBeVisible();
});

test(
  'the own layer: an aim, an estimate and a note, and a brief in a fixed order',
  { tag: '@wide' },
  async ({ page, wide, accessible }) => {
    await openCalendar(page);
    await page.goto('/calendar?view=week&day=2026-10-06');
    await page
      .getByRole('button', { name: /^Lab log 6/ })
      .first()
      .click();
    const yours = page.getByRole('group', { name: 'Yours' });
    await pick(yours, 'Finished by (your aim)', '2026-10-12');
    await yours.getByLabel('Minutes it takes').focus();
    await expect(yours.getByText('An aim comes before it is due.')).toBeVisible();
    await pick(yours, 'Finished by (your aim)', '2026-10-07');
    await yours.getByLabel('Minutes it takes').focus();
    await yours.getByLabel('Minutes it takes').fill('35');
    await yours.getByLabel('Minutes it takes').blur();
    // What is typed is kept, though the sheet is closed from the field.
    await yours.getByLabel('Your note').fill('Bring the goggles');
    await page.keyboard.press('Escape');
    await expect(bar(page)).toContainText('note changed');
    await page
      .getByRole('button', { name: /^Lab log 6/ })
      .first()
      .click();
    await expect(yours.getByLabel('Your note')).toHaveValue('Bring the goggles');
    await page.getByRole('button', { name: 'Write a brief' }).click();
    const brief = page.getByRole('group', { name: 'The brief' });
    await brief.getByLabel('Steps').fill('- weigh\n- heat **slowly**');
    await brief.getByLabel('Aim', { exact: true }).fill('Write down what you saw');
    await brief.getByRole('button', { name: 'Save the brief' }).click();
    await expect(brief).toHaveText(/Aim.*Write down what you saw.*Steps.*weigh.*slowly/s);
    await accessible();
    await page.reload();
    await expect(page.getByLabel('Your note')).toHaveValue('Bring the goggles');
    await page.getByRole('button', { name: 'Close' }).click();
    const place = wide
      ? page.getByRole('list', { name: 'By the end of Wednesday 7 October' })
      : page.getByRole('group', { name: 'Wednesday 7 October' });
    await expect(
      place.getByRole('button', {
        name: /^Lab log 6, .*your aim Wednesday 7 October, due Friday 9 October$/,
      }),
    ).toBeVisible();
  },
);

test(
  'carried by mouse or by key: one’s own moves, a feed’s gets an aim or stays, and all of it is undone',
  { tag: '@wide' },
  async ({ page }) => {
    await todo(page);
    await writeDown(page, 'home feed the hens thu 17:30 - 18:00');
    await page.getByRole('button', { name: /^Add to/ }).click();
    await expect(bar(page)).toContainText('added to Home');
    await page.goto('/calendar?view=week&day=2026-10-06');
    const hens = page.getByRole('button', { name: /^Feed the hens/ });
    const carry = async (name: RegExp, to: string) => {
      const from = (await page.getByRole('button', { name }).first().boundingBox())!;
      const box = (await page.getByRole('list', { name: to, exact: true }).boundingBox())!;
      await page.mouse.move(from.x + 20, from.y + 8);
      await page.mouse.down();
      await page.mouse.move(from.x + 40, from.y + 12, { steps: 4 });
      const [x, y] = [box.x + 40, box.y + Math.min(box.height / 2, 120)];
      await page.mouse.move(x - 100, y, { steps: 6 });
      // The last stroke and the release in one moment, as by a quick hand: nothing is drawn between them.
      await page.evaluate(
        ([clientX, clientY]) =>
          ['mousemove', 'mouseup'].forEach((kind) =>
            document.dispatchEvent(
              new MouseEvent(kind, { clientX: clientX!, clientY: clientY!, bubbles: true }),
            ),
          ),
        [x, y],
      );
      await page.mouse.up();
    };
    await expect(hens).toBeVisible();
    await carry(/^Feed the hens/, 'Saturday 10 October');
    await expect(
      page
        .getByRole('list', { name: 'Saturday 10 October', exact: true })
        .getByRole('button', { name: /^Feed the hens/ }),
    ).toBeVisible();
    await expect(bar(page)).toContainText('moved to Saturday 10 October');
    await page.keyboard.press('u');
    await expect(
      page
        .getByRole('list', { name: 'Thursday 8 October', exact: true })
        .getByRole('button', { name: /^Feed the hens/ }),
    ).toBeVisible();
    // What is carried over the ribbon does not turn its pages, and put down beside all days it stays where it
    // was.
    const taken = (await hens.boundingBox())!;
    const week = (await page.getByRole('button', { name: /^week 10, / }).boundingBox())!;
    await page.mouse.move(taken.x + 20, taken.y + 8);
    await page.mouse.down();
    await page.mouse.move(taken.x + 40, taken.y + 12, { steps: 4 });
    await page.mouse.move(week.x + 20, week.y + 20, { steps: 6 });
    await page.mouse.up();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('5 – 11 October');
    await expect(
      page
        .getByRole('list', { name: 'Thursday 8 October', exact: true })
        .getByRole('button', { name: /^Feed the hens/ }),
    ).toBeVisible();
    await carry(/^Workshop sheet 3/, 'By the end of Thursday 8 October');
    await expect(bar(page)).toContainText('still due Friday 9 October');
    await page.keyboard.press('u');
    await expect(page.getByRole('button', { name: /^Workshop sheet 3, .*your aim/ })).toHaveCount(0);
    // By key, its aim goes on and on, and the focus along with it; Escape brings it back there.
    await page.getByRole('button', { name: /^Workshop sheet 3/ }).focus();
    const aim = page.getByRole('button', { name: /^Workshop sheet 3, Statistics Workshop, your aim/ });
    for (const day of ['Thursday 8 October', 'Wednesday 7 October', 'Tuesday 6 October']) {
      await page.keyboard.press('Alt+ArrowLeft');
      await expect(bar(page)).toContainText(`aim ${day}, still due Friday 9 October`);
      await expect(aim).toBeFocused();
    }
    await page.keyboard.press('Enter');
    await expect(page.getByRole('complementary', { name: 'Workshop sheet 3' })).toBeFocused();
    await page.keyboard.press('Escape');
    await expect(aim).toBeFocused();
    await page.keyboard.press('u');
    await expect(bar(page)).toContainText('Undone: Workshop sheet 3: aim Tuesday 6 October');
    await expect(aim).toHaveAccessibleName(/your aim Wednesday 7 October/);
    await carry(/^Lesson: Statistics/, 'Saturday 10 October');
    await expect(bar(page)).toContainText('comes from its feed');
    await hens.focus();
    await page.keyboard.press('Alt+ArrowRight');
    await expect(
      page
        .getByRole('list', { name: 'Friday 9 October', exact: true })
        .getByRole('button', { name: /^Feed the hens/ }),
    ).toBeVisible();
    await hens.click();
    await page.getByRole('button', { name: 'Change it' }).click();
    // There is no room for both: the item’s sheet gives way, and is there again when the form is left.
    const sheet = page.getByRole('complementary', { name: 'Feed the hens' });
    const away = page.getByRole('button', { name: 'Delete' });
    await expect(away).toBeVisible();
    await expect(sheet).toBeHidden();
    await page.keyboard.press('Escape');
    await expect(sheet).toBeFocused();
    await page.getByRole('button', { name: 'Change it' }).click();
    await away.click();
    await expect(hens).toHaveCount(0);
  },
);

test(
  'several at once; and another window sees it without a reload',
  { tag: '@wide' },
  async ({ page, context }) => {
    await todo(page);
    const other = await context.newPage();
    await todo(other);
    await page.getByRole('button', { name: 'Choose or reorder' }).click();
    for (const name of [/^Surveys quiz/, /^Mixdown: voice and room/])
      await page.getByRole('group', { name: 'This week' }).getByRole('button', { name }).click();
    await page.getByRole('group', { name: 'Chosen items' }).getByRole('button', { name: 'Finish' }).click();
    await expect(
      other.getByRole('group', { name: 'This week' }).getByRole('button', { name: /^Surveys quiz/ }),
    ).toHaveCount(0);
    await expect(bar(page)).toContainText('2 items finished');
    await page.locator('body').press('u');
    await expect(
      other.getByRole('group', { name: 'This week' }).getByRole('button', { name: /^Surveys quiz/ }),
    ).toBeVisible();
    await expect(
      other.getByRole('group', { name: 'This week' }).getByRole('button', { name: /^Mixdown/ }),
    ).toBeVisible();
    await other.close();
  },
);

const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

test(
  'a brief with a picture is kept, begins the brief of all that are alike, and all of it is undone in one step',
  { tag: '@wide' },
  async ({ page, accessible }) => {
    await page.goto('/calendar?view=week&day=2026-10-06');
    await page
      .getByRole('button', { name: /^Word list/ })
      .first()
      .click();
    await page.getByRole('button', { name: 'Write a brief' }).click();
    const brief = page.getByRole('group', { name: 'The brief' });
    const tool = (name: string) =>
      brief.getByRole('toolbar').getByRole('button', { name, exact: true }).click();
    const steps = brief.getByLabel('Steps');
    await steps.fill('hear them\nsay them');
    await steps.selectText();
    await tool('Numbered list');
    await expect(steps).toHaveValue('1. hear them\n2. say them');
    const aim = brief.getByLabel('Aim', { exact: true });
    await aim.fill('know them by heart');
    await aim.selectText();
    await tool('Bold');
    await expect(aim).toHaveValue('**know them by heart**');
    await brief
      .getByLabel('Add pictures and files')
      .setInputFiles([{ name: 'chart.pdf', mimeType: 'application/pdf', buffer: PNG }]);
    await expect(brief.getByRole('alert')).toContainText('chart.pdf says it is pdf, and is png.');
    await brief.getByLabel('Add pictures and files').setInputFiles([
      { name: 'list.png', mimeType: 'image/png', buffer: PNG },
      { name: 'words.txt', mimeType: 'text/plain', buffer: Buffer.from('hav, båt') },
    ]);
    await expect(brief.getByRole('button', { name: 'Take words.txt away' })).toBeVisible();
    await brief.getByRole('button', { name: 'Save as a template …' }).click();
    await brief.getByLabel('Name of the template').fill('Word lists');
    await brief.getByRole('button', { name: 'Save template', exact: true }).click();
    await expect(bar(page)).toContainText('Saved as template “Word lists”');
    await accessible();
    await brief.getByLabel('It is for').selectOption('alike');
    await brief.getByRole('button', { name: 'Save the brief' }).click();
    await expect(brief.getByRole('img', { name: 'list' })).toBeVisible();
    await expect(brief).toHaveText(/know them by heart.*hear them.*say them/s);
    await expect(brief.getByRole('link', { name: /words.txt/ })).toBeVisible();
    // Another of its kind has the words, and not the picture.
    await page.goto('/calendar?view=week&day=2026-10-13');
    await page
      .getByRole('button', { name: /^Word list/ })
      .first()
      .click();
    await expect(brief).toContainText('know them by heart');
    await page.goto('/calendar?view=week&day=2026-10-06');
    // Something new begins with what was kept. A key is heard once the page stands.
    await expect(page.getByRole('button', { name: /^Word list/ }).first()).toBeVisible();
    await page.keyboard.press('w');
    await page.getByLabel('In one line').fill('norwegian speaking practice fri 15:00');
    await page.getByLabel('With the brief').selectOption({ label: 'Word lists' });
    await page.getByRole('button', { name: /^Add to/ }).click();
    await expect(bar(page)).toContainText('added to');
    await page
      .getByRole('button', { name: /^Speaking practice/ })
      .first()
      .click();
    await expect(brief).toContainText('know them by heart');
  },
);

test('a slip drawn aside is finished; a short pull is not', { tag: '@phone' }, async ({ page }) => {
  await todo(page);
  await writeDown(page, 'home water the beans today');
  await form(page).getByRole('radio', { name: 'something to do' }).click();
  await page.getByRole('button', { name: /^Add to/ }).click();
  const slip = page.getByRole('button', { name: /^Water the beans/ });
  await expect(slip).toBeVisible();
  await slip.scrollIntoViewIfNeeded();
  const box = (await slip.boundingBox())!;
  const draw = (far: number) =>
    stroke(page, { x: box.x + 30, y: box.y + 30 }, { x: box.x + 30 + far, y: box.y + 33 });
  await draw(60);
  await expect(slip).toBeVisible();
  await draw(170);
  await expect(slip).toHaveCount(0);
  await expect(bar(page)).toContainText('Water the beans: finished');
});

/** The place of what is carried in its bucket, from what is said of it. */
const placeOf = async (page: Page) =>
  Number(/place (\d+) of/.exec((await page.getByText(/place \d+ of \d+\.$/).textContent()) ?? '')?.[1]);

test(
  'the order of a bucket is changed by key, several go into another calendar and to another day, each taken back in one step',
  { tag: '@wide' },
  async ({ page }) => {
    await todo(page);
    for (const line of ['home mend the net next friday', 'home oil the winch next friday']) {
      await writeDown(page, line);
      await form(page).getByRole('radio', { name: 'something to do' }).click();
      await page.getByRole('button', { name: /^Add to/ }).click();
      await expect(bar(page)).toContainText('added to Home');
    }
    const next = page.getByRole('group', { name: 'Next week' });
    await page.getByRole('button', { name: 'Choose or reorder' }).click();
    const grip = next.getByRole('button', { name: 'Move Oil the winch to another place' });
    const top = async () =>
      (await next
        .getByRole('button', { name: /^Move .* to another place$/ })
        .first()
        .getAttribute('aria-label')) ?? '';
    await grip.focus();
    const count = await next.getByRole('button', { name: /^Move .* to another place$/ }).count();
    await page.keyboard.press('Space');
    const from = await placeOf(page);
    // As fast as keys can be pressed: none is lost.
    for (let at = from; at > 1; at--) await page.keyboard.press('ArrowUp');
    await expect(page.getByText(`Now at place 1 of ${count}.`)).toBeAttached();
    await page.keyboard.press('Space');
    await expect.poll(top).toContain('Oil the winch');
    await page.locator('body').press('u');
    await expect.poll(top).not.toContain('Oil the winch');

    for (const name of [/^Mend the net,/, /^Oil the winch,/])
      await next.getByRole('button', { name }).click();
    const chosen = page.getByRole('group', { name: 'Chosen items' });
    await pick(chosen, 'Do on', '2026-10-10');
    await chosen.getByRole('button', { name: 'Move' }).click();
    await expect(
      page.getByRole('group', { name: 'This week' }).getByRole('button', { name: /^Mend the net,/ }),
    ).toBeVisible();
    await expect(bar(page)).toContainText('2 items moved to Saturday 10 October');
    await page.locator('body').press('u');
    await expect(
      page.getByRole('group', { name: 'This week' }).getByRole('button', { name: /^Mend the net,/ }),
    ).toHaveCount(0);
    await page.getByRole('button', { name: 'Choose or reorder' }).click();
    for (const name of [/^Mend the net,/, /^Oil the winch,/])
      await next.getByRole('button', { name }).click();
    await page
      .getByRole('group', { name: 'This week' })
      .getByRole('button', { name: /^Surveys quiz,/ })
      .click();
    await chosen.getByLabel('Move to calendar').selectOption({ label: 'Ceramics Studio' });
    await expect(bar(page)).toContainText(
      'One comes from a feed and stays in its calendar; 2 items of your own put into Ceramics Studio.',
    );
    await page.getByLabel('Calendar', { exact: true }).selectOption({ label: 'Ceramics Studio' });
    await expect(next.getByRole('button', { name: /^Mend the net, Ceramics Studio/ })).toBeVisible();
  },
);

test(
  'what two windows wrote stands side by side, and is joined',
  { tag: '@phone' },
  async ({ page, context, accessible }) => {
    await todo(page);
    await writeDown(page, 'home varnish oars due fri 16:00');
    await page.getByRole('button', { name: 'Add to Home' }).click();
    await expect(bar(page)).toContainText('Varnish oars added to Home');
    const begin = async (at: Page) => {
      await todo(at);
      await at
        .getByRole('button', { name: /^Varnish oars/ })
        .first()
        .click();
      await at.getByRole('button', { name: 'Change it' }).click();
    };
    const other = await context.newPage();
    await begin(page);
    await begin(other);
    const sheet = (at: Page) => at.getByRole('dialog', { name: 'Change' });
    await sheet(other).getByRole('textbox', { name: 'What', exact: true }).fill('Varnish both oars');
    await pick(sheet(other), 'Due on', '2026-10-12');
    await acknowledged(other, () => other.getByRole('button', { name: 'Save the change' }).click());
    await sheet(page).getByRole('textbox', { name: 'What', exact: true }).fill('Varnish the long oars');
    await page.getByRole('button', { name: 'Save the change' }).click();
    const what = sheet(page).getByRole('radiogroup', { name: 'What', exact: true });
    await expect(what.getByRole('radio', { name: 'Yours, chosen Varnish the long oars' })).toBeVisible();
    // What they alone have changed is taken over.
    await expect(
      sheet(page)
        .getByRole('radiogroup', { name: 'When' })
        .getByRole('radio', { name: /^Theirs, chosen/ }),
    ).toContainText('Monday 12 October');
    await accessible();
    await what.getByRole('radio', { name: /^Theirs/ }).click();
    await expect(sheet(page).getByRole('textbox', { name: 'What', exact: true })).toHaveValue(
      'Varnish both oars',
    );
    await what.getByRole('radio', { name: /^Yours/ }).click();
    await acknowledged(page, () => page.getByRole('button', { name: 'Save the change' }).click());
    await todo(page);
    await page
      .getByRole('button', { name: /^Varnish the long oars/ })
      .first()
      .click();
    await expect(page.getByRole('dialog', { name: 'Varnish the long oars' })).toContainText('12 October');
  },
);
