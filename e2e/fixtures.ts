import { AxeBuilder } from '@axe-core/playwright';
import { expect, test as base, type Locator, type Page } from '@playwright/test';
import { ServerProcess } from './servers';

interface WorkerFixtures {
  /** A file that names one has a demo of its own: it moves the clock, or ticks off what others count on */
  ownDemo: string;
  demo: ServerProcess;
}
interface TestFixtures {
  /** Looks for what keeps people out; finds nothing */
  accessible: () => Promise<void>;
  wide: boolean;
}

export const test = base.extend<TestFixtures, WorkerFixtures>({
  ownDemo: ['', { scope: 'worker', option: true }],
  demo: [
    // eslint-disable-next-line no-empty-pattern -- Playwright wants the pattern
    async ({}, use, { parallelIndex }) => {
      const demo = await ServerProcess.demo(parallelIndex);
      await use(demo);
      await demo.stop();
    },
    { scope: 'worker', timeout: 300_000 },
  ],
  baseURL: async ({ demo }, use) => use(demo.address),
  wide: async ({ viewport }, use) => use((viewport?.width ?? 0) >= 900),
  accessible: async ({ page }, use) => {
    await use(async () => {
      // Only what is found comes back, and straight from the page (there are no frames): a fifth of the time
      // on a long page.
      const axe = new AxeBuilder({ page })
        .options({ resultTypes: ['violations'] })
        .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'])
        .setLegacyMode();
      const { violations } = await axe.analyze();
      expect(
        violations.map(
          (v) =>
            `${v.id}: ${v.nodes
              .map((n) => `${n.target.join(' ')} ${n.failureSummary ?? ''}`)
              .slice(0, 3)
              .join(' | ')}`,
        ),
      ).toEqual([]);
    });
  },
});

export { expect };

/** Opens the calendar and waits until its agenda stands. */
export async function openCalendar(page: Page): Promise<void> {
  await page.goto('/calendar?view=agenda&day=2026-10-06&group=day&span=upcoming');
  await expect(page.getByRole('heading', { level: 2, name: 'Tuesday 6 October' })).toBeVisible();
}

/** Does what changes something, and waits until the server has said that it is kept: it shows before that. */
export async function acknowledged(page: Page, change: () => Promise<void>): Promise<void> {
  await Promise.all([
    page.waitForResponse((r) => r.request().method() !== 'GET' && r.url().includes('/api/') && r.ok()),
    change(),
  ]);
}

/**
 * Scrolls to something and waits until it stands still: the ribbon above a phone's days folds as they are
 * scrolled, and a press in that very moment would miss.
 */
export async function still(target: Locator): Promise<Locator> {
  await target.scrollIntoViewIfNeeded();
  let before = '';
  await expect(async () => {
    const now = JSON.stringify(await target.boundingBox());
    const isStill = now === before;
    before = now;
    expect(isStill).toBe(true);
  }).toPass({ intervals: [150] });
  return target;
}

/** Waits until the page has been drawn twice. */
const twoFrames = (page: Page) =>
  page.evaluate(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))));

/** Scrolls the agenda down until what is looked for stands in it, and stays: it draws only what is near. */
export async function reveal(page: Page, target: Locator): Promise<void> {
  await expect(async () => {
    if (!(await target.first().isVisible())) {
      await page.evaluate(() => {
        const lists = [...document.querySelectorAll<HTMLElement>('[role=main] div')].filter(
          (d) => d.scrollHeight > d.clientHeight + 50 && getComputedStyle(d).overflowY !== 'visible',
        );
        const list = lists.at(-1);
        const isAtEnd = list && list.scrollTop + list.clientHeight > list.scrollHeight - 2;
        // What came into sight while the machine was busy with something else may have gone by.
        if (isAtEnd) list.scrollTo(0, 0);
        else list?.scrollBy(0, 400);
      });
      await twoFrames(page);
    }
    expect(await target.first().isVisible()).toBe(true);
    // What comes meanwhile above it may push it out again.
    await twoFrames(page);
    expect(await target.first().isVisible()).toBe(true);
  }).toPass({ intervals: [20] });
}

/** Presses what stands somewhere down the agenda, however often it is pushed out of it while more comes in. */
export async function press(page: Page, target: Locator): Promise<void> {
  await expect(async () => {
    await reveal(page, target);
    await target.click({ timeout: 5_000 });
  }).toPass({ intervals: [20] });
}

/** Follows a campus link by hand, up to the preview. */
export async function previewLink(page: Page, address: string): Promise<void> {
  await page.goto('/gather/follow');
  await page.getByLabel('The calendar’s link').fill(address);
  await page.getByRole('button', { name: 'Check what’s in it' }).click();
}

/** A finger drawn from one place to another. */
export async function stroke(
  page: Page,
  from: { x: number; y: number },
  to: { x: number; y: number },
): Promise<void> {
  const finger = await page.context().newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', at?: { x: number; y: number }) =>
    finger.send('Input.dispatchTouchEvent', { type, touchPoints: at ? [at] : [] });
  await touch('touchStart', from);
  for (let i = 1; i <= 5; i++)
    await touch('touchMove', {
      x: from.x + ((to.x - from.x) * i) / 5,
      y: from.y + ((to.y - from.y) * i) / 5,
    });
  await touch('touchEnd');
}

/** Moves the demo's clock ahead, and waits until it has gone there. */
export async function hoursAhead(page: Page, hours: number): Promise<void> {
  const moved = () => page.waitForResponse((r) => r.url().endsWith('/api/demo/clock') && r.ok());
  for (let i = 0; i < hours; i++)
    await Promise.all([
      moved(),
      page.getByRole('button', { name: 'Move the demo clock one hour ahead' }).click(),
    ]);
}

/**
 * Types a day, an hour or a moment into its field, as `2026-10-09`, `16:00` or `2026-10-09T16:00`: its parts go on
 * by themselves, the day first.
 */
export async function pick(within: Page | Locator, label: string | RegExp, value: string): Promise<void> {
  const field = within.getByRole('group', { name: label, exact: true }).last();
  const [date = '', time = ''] = value.includes('-') ? value.split('T') : ['', value];
  const digits = date.split('-').reverse().join('') + time.replace(':', '');
  await field.getByRole('spinbutton').first().click();
  await field.page().keyboard.type(digits);
}
