import type { Page } from '@playwright/test';
import { expect, test } from './fixtures';

// What can be read of a month on a wide screen: its titles, and nothing due out of sight.

interface Read {
  /** Titles of due work that are drawn, and of them those that are cut, with as many letters as are in sight */
  due: number;
  cut: { title: string; letters: number }[];
  /** Share of the height that the weeks have, the demo's strip apart */
  share: number;
  /** The smallest text, in pixels */
  smallest: number;
}

const read = (page: Page) =>
  page.evaluate((): Read => {
    const table = document.querySelector<HTMLElement>('[role=table][aria-label$="by weeks"]')!;
    const slips = [...table.querySelectorAll<HTMLElement>('[role=cell] [data-slip]')].filter((slip) =>
      /, due /.test(slip.getAttribute('aria-label') ?? ''),
    );
    const lettersOf = (title: HTMLElement): number => {
      const text = title.firstChild!;
      const box = title.getBoundingClientRect();
      const range = document.createRange();
      const all = title.textContent!.length;
      for (let n = 1; n <= all; n++) {
        range.setStart(text, n - 1);
        range.setEnd(text, n);
        const at = range.getBoundingClientRect();
        // What a letter takes is higher than its line.
        // A space at a line’s end may hang over.
        const isSpace = title.textContent![n - 1] === ' ';
        if (at.bottom > box.bottom + 6 || (at.right > box.right + 1 && !isSpace)) return n - 1;
      }
      return all;
    };
    const cut = slips.flatMap((slip) => {
      const title = [...slip.querySelectorAll<HTMLElement>('[dir=auto]')].find((each) =>
        slip.getAttribute('aria-label')!.startsWith(each.textContent!),
      )!;
      const letters = lettersOf(title);
      return letters < title.textContent!.length ? [{ title: title.textContent!, letters }] : [];
    });
    const weeks = table.lastElementChild!.getBoundingClientRect();
    const main = document.querySelector('[role=main]')!.getBoundingClientRect();
    const sizes = [...table.querySelectorAll<HTMLElement>('*')]
      .filter((e) => e.childElementCount === 0 && e.textContent)
      .map((e) => parseFloat(getComputedStyle(e).fontSize));
    return {
      due: slips.length,
      cut,
      share: weeks.height / main.height,
      smallest: Math.min(...sizes),
    };
  });

/** Opens October for somebody, at a size. */
async function october(page: Page, who: string, size: { width: number; height: number }): Promise<void> {
  await page.setViewportSize(size);
  await page.request.post(`/api/demo/people/${who}/session`, { data: {} });
  await page.goto('/calendar?view=month&day=2026-10-06');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('October 2026');
  await page.evaluate(() => document.fonts.ready);
}

const SIZES = [
  { width: 1280, height: 800 },
  { width: 1440, height: 900 },
] as const;

for (const size of SIZES) {
  test(`a month at ${size.width} × ${size.height} can be read`, { tag: '@wide' }, async ({ page }) => {
    await october(page, 'juno', size);
    await expect(page.getByRole('cell').getByRole('button', { name: /^Emulsion report/ })).toBeVisible();
    const seen = await read(page);
    expect(seen.due).toBeGreaterThan(40);
    expect(seen.cut.length, JSON.stringify(seen.cut)).toBeLessThanOrEqual(seen.due * 0.12);
    expect(seen.cut.filter(({ letters }) => letters < 16)).toEqual([]);
    expect(seen.share).toBeGreaterThanOrEqual(0.8);
    expect(seen.smallest).toBeGreaterThanOrEqual(13);
  });

  test(
    `a month of two children at ${size.width} × ${size.height} can be read`,
    { tag: '@wide' },
    async ({ page }) => {
      await october(page, 'maren', size);
      await page.getByRole('radio', { name: 'Everybody' }).click();
      await expect(
        page
          .getByRole('cell')
          .getByRole('button', { name: /^Emulsion report, Tobias/ })
          .first(),
      ).toBeVisible();
      const seen = await read(page);
      expect(seen.cut.length, JSON.stringify(seen.cut)).toBeLessThanOrEqual(seen.due * 0.12);
      expect(seen.cut.filter(({ letters }) => letters < 16)).toEqual([]);
      expect(seen.share).toBeGreaterThanOrEqual(0.8);
    },
  );
}

test(
  'a day is opened over the month’s side, and closed by Escape or by pressing it again',
  { tag: '@wide' },
  async ({ page }) => {
    await october(page, 'juno', SIZES[0]);
    const day = page.getByRole('button', { name: /^Thursday 8 October, \d+ items/ });
    const opened = page.getByRole('region', { name: 'Thursday 8 October, opened' });
    await expect(opened).toHaveCount(0);
    await day.click();
    await expect(opened.getByRole('button', { name: /^Fire drill/ })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(opened).toHaveCount(0);
    await day.click();
    await expect(opened).toBeVisible();
    await day.click();
    await expect(opened).toHaveCount(0);
    // Lessons are one line; opened, the day has them one by one.
    await expect(
      page
        .getByRole('cell')
        .getByText(/^3 lessons, /)
        .first(),
    ).toBeVisible();
    await day.click();
    await expect(opened.getByRole('button', { name: /^Lesson: / }).first()).toBeVisible();
  },
);
