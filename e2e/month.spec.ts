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

declare global {
  interface Window {
    lettersOf(slip: Element): { title: string; letters: number };
  }
}

/** Teaches the page to count how many letters of a slip’s title are in sight. */
const teachLetters = (page: Page) =>
  page.evaluate(() => {
    window.lettersOf = (slip) => {
      // Before the title of a stretch that goes on stands an ellipsis of its own.
      const wordsOf = (box: Element) => box.lastChild!.textContent!;
      const title = [...slip.querySelectorAll('[dir=auto]')].find((each) =>
        slip.getAttribute('aria-label')!.startsWith(wordsOf(each)),
      )!;
      const words = wordsOf(title);
      const box = title.getBoundingClientRect();
      const isOut = ({ bottom, right }: DOMRect, letter: string) =>
        // What a letter takes is higher than its line, and a space at a line’s end may hang over.
        bottom > box.bottom + 6 || (right > box.right + 1 && letter !== ' ');
      const range = document.createRange();
      const at = [...words].findIndex((letter, n) => {
        range.setStart(title.lastChild!, n);
        range.setEnd(title.lastChild!, n + 1);
        return isOut(range.getBoundingClientRect(), letter);
      });
      return { title: words, letters: at < 0 ? words.length : at };
    };
  });

const read = async (page: Page) => {
  await teachLetters(page);
  return page.evaluate((): Read => {
    const table = document.querySelector<HTMLElement>('[role=table][aria-label$="by weeks"]')!;
    const slips = [...table.querySelectorAll<HTMLElement>('[role=cell] [data-slip]')].filter((slip) =>
      /, due /.test(slip.getAttribute('aria-label') ?? ''),
    );
    const cut = slips.map((slip) => window.lettersOf(slip)).filter((l) => l.letters < l.title.length);
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
};

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

test('a month and a week of a family with 18 calendars can be read', { tag: '@wide' }, async ({ page }) => {
  await manyCalendars(page);
  await october(page, 'maren', SIZES[0]);
  await page.getByRole('radio', { name: 'Everybody' }).click();
  await expect(page.getByRole('switch')).toHaveCount(18);
  // Those of both stand there.
  await expect(page.getByRole('cell').getByRole('button', { name: /^Emulsion report/ })).toHaveCount(10);
  const seen = await read(page);
  expect(seen.due).toBeGreaterThan(60);
  expect(seen.cut.length, JSON.stringify(seen.cut)).toBeLessThanOrEqual(seen.due * 0.12);
  expect(seen.cut.filter(({ letters }) => letters < 16)).toEqual([]);
  expect(seen.smallest).toBeGreaterThanOrEqual(13);
  await page.goto('/calendar?view=week&day=2026-10-06');
  await expect(page.getByRole('button', { name: /^Emulsion report/ }).first()).toBeVisible();
  await noneCut(page);
});

for (const size of SIZES) {
  test(`a week at ${size.width} × ${size.height} cuts no first word`, { tag: '@wide' }, async ({ page }) => {
    await october(page, 'juno', size);
    await page.goto('/calendar?view=week&day=2026-10-06');
    await expect(page.getByRole('button', { name: /^Glaze test tiles/ })).toBeVisible();
    await noneCut(page);
  });
}

test('a day on a phone has three fifths of its height', { tag: '@phone' }, async ({ page }) => {
  await page.request.post('/api/demo/people/juno/session', { data: {} });
  await page.goto('/calendar?view=day&day=2026-10-06');
  const lesson = page.getByRole('button', { name: /^Lesson: Statistics/ });
  await expect(lesson).toBeVisible();
  const { height, strip } = await page.evaluate(() => {
    const days = document.querySelector('[data-slip]')!.closest('[class*="min-h-[20rem]"]')!;
    const strip = document.querySelector('[aria-label="Demo"]')?.getBoundingClientRect().height ?? 0;
    return { height: days.getBoundingClientRect().height, strip };
  });
  expect(height / (844 - strip)).toBeGreaterThanOrEqual(0.6);
});

/** Says of which slips of a week not even the first word is in sight: of none. */
async function noneCut(page: Page): Promise<void> {
  await page.evaluate(() => document.fonts.ready);
  await teachLetters(page);
  const cut = await page.evaluate(() =>
    [...document.querySelectorAll('[role=main] [data-slip]')]
      .map((slip) => window.lettersOf(slip))
      .filter(({ title, letters }) => letters < title.split(/[ ,]/, 1)[0]!.length),
  );
  expect(cut).toEqual([]);
}

const TITLES = [
  'Chart exercise 7: a fix from three bearings',
  'Emulsion report',
  'Essay: why harbours silt up',
  'Word list: the house',
  'Half-scale dinghy: moulds',
  'Lab log 6',
  'Sketchbook, pages 12 to 13',
  'Surveys quiz',
  'Mixdown: voice and room',
];

/** Has each of two learners nine calendars, each with a lesson, a piece of work and now and then an event in a week. */
async function manyCalendars(page: Page): Promise<void> {
  await page.route(/\/api\/learners\/[^/]+\/calendars$/, async (route) => {
    const reply = await route.fetch();
    const [first] = (await reply.json()) as [{ id: string; learnerId: string; kind: string }];
    const calendars = TITLES.map((title, n) => ({
      ...first,
      id: `${first.learnerId} ${n}`,
      kind: 'course',
      name: `${title.split(/[ :,]/, 1)[0]} course`,
      colour: ['rust', 'deep', 'rose', 'violet', 'pine', 'plum', 'olive', 'slate', 'honey'][n],
    }));
    await route.fulfill({ json: calendars });
  });
  await page.route(/\/api\/learners\/[^/]+\/occurrences\?/, async (route) => {
    const learnerId = /learners\/([^/]+)/.exec(route.request().url())![1]!;
    const reply = await route.fetch();
    const all = (await reply.json()) as { occurrences?: object[] } | object[];
    const [like] = Array.isArray(all) ? all : all.occurrences!;
    const made = TITLES.flatMap((title, n) =>
      Array.from({ length: 6 }, (_, week) => {
        const day = (plus: number, hour: string) => ({
          kind: 'instant',
          at: `${new Date(Date.UTC(2026, 8, 28 + week * 7 + plus)).toISOString().slice(0, 10)}T${hour}:00Z`,
          zone: 'Europe/Dublin',
        });
        const one = (kind: string, words: string, when: object, more: object) => ({
          ...like,
          itemId: `${learnerId} ${n} ${kind}`,
          recurrenceId: String(week),
          calendarId: `${learnerId} ${n}`,
          title: words,
          kind,
          status: 'confirmed',
          handIn: kind === 'assignment' ? 'online' : 'nothing',
          start: when,
          end: null,
          due: null,
          aim: null,
          finished: false,
          finishedAt: null,
          busy: false,
          ...more,
        });
        const due = day(n % 5, '22:59'.replace('22', n % 2 ? '16' : '22'));
        return [
          one('assignment', title, due, { due }),
          one(
            'lesson',
            `Lesson: ${title.split(/[ :,]/, 1)[0]}`,
            day(n % 5, `${String(9 + (n % 4))}`.padStart(2, '0') + ':10'),
            {
              end: day(n % 5, `${String(10 + (n % 4))}`.padStart(2, '0') + ':00'),
            },
          ),
          ...(week % 2 ? [] : [one('meeting', 'Open evening', day((n + 1) % 5, '17:30'), {})]),
        ];
      }).flat(),
    );
    await route.fulfill({ json: Array.isArray(all) ? made : { ...all, occurrences: made } });
  });
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
