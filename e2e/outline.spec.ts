import type { Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { acknowledged, expect, test } from './fixtures';

// A course outline: dropped, looked through, added, looked up, and a newer version of it.

test.use({ ownDemo: 'outline' });

const sample = (name: string) => new URL(`../demo/outlines/${name}`, import.meta.url).pathname;

async function begin(page: Page): Promise<void> {
  await page.request.post('/api/demo/people/juno/session', { data: {} });
  await page.goto('/outline');
  await expect(page.getByRole('heading', { level: 1, name: 'Read an outline' })).toBeVisible();
}

const rows = (page: Page) => page.getByRole('checkbox', { name: /^(?:Add|Take) / });

test('a document is dropped, its doubt settled, and all of it is in the calendar; then a newer one', async ({
  page,
  accessible,
}) => {
  await begin(page);
  await page.getByLabel('Outlines').setInputFiles(sample('cranes-and-bridges.docx'));
  await expect(page.getByRole('heading', { level: 2, name: /rows?, 1 to look at$/ })).toBeVisible();
  // What is doubtful stands first, and says why; only a lesson's topic is kept apart.
  await expect(page.getByText('12 Oct is a Monday, and not a Tuesday.')).toBeVisible();
  await expect(rows(page)).toHaveCount(14);
  await page.getByRole('button', { name: 'Show 5 rows that only name a topic' }).click();
  await expect(rows(page)).toHaveCount(19);
  await page.getByRole('button', { name: 'Hide what only names a topic' }).click();
  // A mark and its row belong together.
  await page
    .getByRole('region', { name: 'The outline' })
    .getByRole('button', { name: /: Rope test$/ })
    .click();
  await accessible();
  await page.getByRole('checkbox', { name: 'Add Guest: a bridge inspector' }).uncheck();
  await page.getByRole('button', { name: 'Add 11', exact: true }).click();
  await expect(page).toHaveURL(/\/calendar/);
  await page.goto('/calendar?view=list&day=2026-11-05');
  await page
    .getByRole('button', { name: /^Rope test/ })
    .first()
    .click();
  // From the item back to its place.
  await page.getByRole('link', { name: 'In the outline: cranes-and-bridges.docx' }).click();
  const place = page
    .getByRole('region', { name: 'The outline' })
    .getByRole('button', { name: /: Rope test$/ });
  await expect(place.first()).toHaveAttribute('aria-pressed', 'true');

  await page.goto('/gather');
  const kept = page.getByRole('group', { name: 'Outlines' });
  await expect(kept).toContainText('cranes-and-bridges.docx');
  await accessible();
  await kept.getByRole('link', { name: 'Give a newer version' }).click();
  await page.getByLabel('Outlines').setInputFiles(sample('cranes-and-bridges-2.docx'));
  await expect(page.getByText('was Thu 5 Nov')).toBeVisible();
  await expect(page.getByText(/is not in this outline any more/)).toBeVisible();
  await page.getByRole('checkbox', { name: 'Take Knots practical test away' }).check();
  await page.getByRole('button', { name: /^Add 2, move 2, take 1 away$/ }).click();
  await expect(page).toHaveURL(/\/calendar/);
  await page.goto('/calendar?view=list&day=2026-11-10');
  await expect(page.getByRole('button', { name: /^Rope test/ }).first()).toBeVisible();
  await page.goto('/calendar?view=list&day=2026-11-27');
  await expect(page.getByRole('button', { name: /^Knots practical/ })).toHaveCount(0);
});

test('by keys alone: a cell is changed, several rows at once, taken back, and joined @wide', async ({
  page,
}) => {
  await begin(page);
  await page.getByLabel('Outlines').setInputFiles(sample('cranes-and-bridges.pdf'));
  const cell = (row: number, column: number) => page.locator(`[data-cell="${row} ${column}"]`);
  await cell(0, 0).focus();
  // To the day of the doubtful row, which is typed.
  for (const key of ['ArrowRight', 'ArrowRight', 'Enter']) await page.keyboard.press(key);
  await page.getByLabel('when', { exact: true }).fill('2026-10-13');
  await page.keyboard.press('Enter');
  await expect(cell(0, 2)).toHaveText('Tue 13 Oct');
  await expect(page.getByText('is a Monday, and not a Tuesday')).toHaveCount(0);
  // The hour of this row and the two below it at once.
  await cell(1, 3).focus();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('F2');
  await page.getByLabel('at', { exact: true }).fill('15:45');
  await page.keyboard.press('Enter');
  for (const row of [1, 2, 3]) await expect(cell(row, 3)).toHaveText('15:45');
  await page.keyboard.press('Control+z');
  await expect(cell(1, 3)).not.toHaveText('15:45');
  // Another cell by itself: the three are no longer chosen.
  await cell(2, 0).click();
  await page.keyboard.type('Crane yard');
  await page.keyboard.press('Enter');
  await expect(cell(2, 0)).toContainText('Crane yard');
  await page.keyboard.press(' ');
  await expect(rows(page).nth(3)).not.toBeChecked();
  // The page is left and loaded again before anything is added: all of it is still there.
  const left = (await rows(page).nth(3).getAttribute('aria-label'))!;
  await page.reload();
  await expect(page.getByRole('gridcell', { name: 'what: Crane yard' }).first()).toBeVisible();
  await expect(page.getByRole('gridcell', { name: 'when: Tue 13 Oct' }).first()).toBeVisible();
  await expect(page.getByRole('checkbox', { name: left, exact: true })).not.toBeChecked();
});

test('a table is pasted with its cells, and a passage that was marked becomes a row @wide', async ({
  page,
}) => {
  await begin(page);
  const html = readFileSync(sample('cranes-and-bridges.html'), 'utf8');
  await page.getByLabel('Or paste it').evaluate((area, markup) => {
    const data = new DataTransfer();
    data.setData('text/html', markup);
    area.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  }, html);
  await expect(rows(page)).toHaveCount(14);
  // A new calendar wants a name before anything is added.
  const add = page.getByRole('button', { name: 'Add 12', exact: true });
  await expect(add).toBeDisabled();
  await page.getByLabel('What it is called').fill('Cranes');
  await expect(add).toBeEnabled();
  await page
    .getByRole('region', { name: 'The outline' })
    .getByText(/Room 10\/12/)
    .selectText();
  await page.getByRole('button', { name: 'Add what is marked' }).click();
  await expect(page.getByRole('button', { name: 'Add 13', exact: true })).toBeEnabled();
});

test('what cannot be read is said, and adding is taken back in one press @wide', async ({ page }) => {
  await begin(page);
  await page.getByLabel('Outlines').setInputFiles({
    ...{ name: 'plan.doc', mimeType: 'application/msword' },
    buffer: Buffer.from('d0cf11e0a1b11ae1', 'hex'),
  });
  await expect(page.getByText('It is of a kind from before 2007.')).toBeVisible();
  await expect(page.getByText(/Save it as .docx/)).toBeVisible();
  // Nothing says which comes first: one is asked, and each row it matters for is doubtful until then.
  await page
    .getByLabel('Or paste it')
    .fill('Sketch of a kite: 11/12\nTail of a kite: 10/11\nTest of a kite: 9/10');
  await page.getByRole('button', { name: 'Read what is pasted' }).click();
  await page.getByLabel('What it is called').fill('Kites');
  await expect(page.getByText('9 Oct, or 10 Sep?')).toBeVisible();
  await page.getByRole('radio', { name: 'the day: 9 October' }).click();
  await expect(page.getByText('9 Oct, or 10 Sep?')).toHaveCount(0);
  await page.getByRole('button', { name: 'Add 3', exact: true }).click();
  await expect(page).toHaveURL(/\/calendar/);
  const kite = page.getByRole('button', { name: /Test of a kite/ });
  await expect(kite.first()).toBeVisible();
  await acknowledged(page, () => page.getByRole('button', { name: 'Undo' }).click());
  await expect(kite).toHaveCount(0);
});

test('every kind of file is read, several one after the other, and reading can be stopped @wide', async ({
  page,
}) => {
  await begin(page);
  // Held back, it can be called off: nothing has been read then.
  let go = () => {};
  const held = new Promise<void>((done) => (go = done));
  await page.route('**/outlines?*', async (route) => {
    await held;
    await route.continue().catch(() => {});
  });
  await page.getByLabel('Outlines').setInputFiles(sample('cranes-and-bridges.txt'));
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByLabel('Or paste it')).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
  go();
  await page.unroute('**/outlines?*');

  const kinds = ['txt', 'md', 'html', 'csv', 'xlsx', 'docx', 'pdf', 'eml'];
  await page.getByLabel('Outlines').setInputFiles(kinds.map((kind) => sample(`cranes-and-bridges.${kind}`)));
  for (const [n, kind] of kinds.entries()) {
    const more = kinds.length - n - 1;
    await expect(page.getByText(`cranes-and-bridges.${kind}`)).toBeVisible();
    if (more) await expect(page.getByText(new RegExp(`^${more} more files?`))).toBeVisible();
    // A table of dates says nothing of what repeats; what is over is not ticked.
    await expect(rows(page)).toHaveCount(kind === 'csv' || kind === 'xlsx' ? 13 : 14);
    await page.getByRole('button', { name: 'Change that' }).click();
    await page.getByLabel('What it is called').fill(`Cranes by ${kind}`);
    await page.getByRole('button', { name: /^Add 1[12]$/ }).click();
  }
  await expect(page).toHaveURL(/\/calendar/);
  await page.goto('/gather');
  for (const kind of kinds) await expect(page.getByText(`Cranes by ${kind}`).first()).toBeVisible();
});
