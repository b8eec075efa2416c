import type { Page } from '@playwright/test';
import { expect, test } from './fixtures';

/** A page at 200 %, a very narrow phone, a phone on its side, and large system text. */
const SIZES = [
  { name: '200 %', width: 640, height: 400 },
  { name: 'narrow', width: 320, height: 640 },
  { name: 'on its side', width: 844, height: 390 },
  { name: 'large text', width: 390, height: 844, text: '28px' },
] as const;
const PLACES = [
  '/today',
  '/calendar?view=month',
  '/calendar?view=week',
  '/calendar?view=day',
  '/calendar?view=agenda',
  '/todo',
  '/news',
  '/notes',
  '/changes',
  '/plan',
  '/crew',
  '/sharing',
  '/you',
  '/help',
  '/account',
  '/gather',
  '/settings',
  '/hidden',
];

/** What is wrong with how a page stands: it is wider than the window, lies over the places, or hides its end. */
const faults = (page: Page) =>
  page.evaluate(() => {
    const found: string[] = [];
    const { innerWidth, innerHeight } = window;
    if (document.documentElement.scrollWidth > innerWidth) found.push('wider than the window');
    const main = document.querySelector('[role=main]')!;
    const nav = document.querySelector('[role=navigation]')!.getBoundingClientRect();
    if (nav.bottom > innerHeight + 1) found.push('the places are out of sight');
    const buttons = [
      ...main.querySelectorAll<HTMLElement>('[role=button],[role=link],button,a,input'),
    ].filter((e) => e.offsetParent && e.getBoundingClientRect().width > 1 && !e.closest('.sr-only'));
    // What scrolls sideways by itself may reach beyond the window, and what is drawn for none but screen readers.
    const scrolls = (e: HTMLElement) => {
      for (let up = e.parentElement; up && up !== main; up = up.parentElement)
        if (/auto|scroll/.test(getComputedStyle(up).overflowX) && up.scrollWidth > up.clientWidth)
          return true;
      return false;
    };
    for (const each of buttons) {
      const { left, right } = each.getBoundingClientRect();
      if ((left < -1 || right > innerWidth + 1) && !scrolls(each))
        found.push(`cut off: ${each.textContent || each.outerHTML.slice(0, 80)}`);
    }
    for (const each of [buttons[0], buttons.at(-1)]) {
      if (!each) continue;
      each.scrollIntoView({ block: 'center', inline: 'center' });
      const { left, top, width, height } = each.getBoundingClientRect();
      const at = document.elementFromPoint(left + width / 2, top + height / 2);
      if (!at || !(each.contains(at) || at.contains(each)))
        found.push(`cannot be reached: ${each.outerHTML.slice(0, 80)}`);
    }
    return found;
  });

for (const { name, width, height, ...more } of SIZES)
  test(`every place at any size: ${name}`, { tag: '@wide' }, async ({ page }) => {
    await page.setViewportSize({ width, height });
    for (const place of PLACES) {
      await page.goto(place);
      if ('text' in more)
        await page.evaluate((text) => (document.documentElement.style.fontSize = text), more.text);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await expect(page.getByRole('status', { name: /^Loading/ })).toHaveCount(0);
      await expect.poll(async () => ({ place, faults: await faults(page) })).toEqual({ place, faults: [] });
    }
  });

test(
  'with a person’s own colours the chosen is told from the others, and a calendar’s colour stays',
  { tag: '@wide' },
  async ({ page }) => {
    await page.emulateMedia({ forcedColors: 'active' });
    await page.goto('/calendar?view=month&day=2026-10-06');
    const edge = (name: string) =>
      page.getByRole('radio', { name, exact: true }).evaluate((e) => getComputedStyle(e).borderBottomColor);
    await expect(page.getByRole('radio', { name: 'month', exact: true })).toBeChecked();
    expect(await edge('month')).not.toBe(await edge('week'));
    const slip = page.getByRole('cell').getByRole('button', { name: /^Emulsion report/ });
    const fills = () =>
      slip.evaluate((e) => getComputedStyle(e.querySelector('.keeps-colour')!).backgroundColor);
    const forced = await fills();
    await page.emulateMedia({ forcedColors: 'none' });
    expect(forced).toBe(await fills());
  },
);
