// `npm run screenshots`: one picture of each main view, from a fresh demo, into docs/screenshots.
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureChromium, ensureInstalled, root } from './lib/setup.mjs';

await ensureInstalled();
await ensureChromium();
const { buildAll } = await import('./build.mjs');
await buildAll();
const { chromium } = await import('@playwright/test');

const PORT = 8431;
const CAMPUS = 8432;
const base = `http://localhost:${PORT}`;
const out = join(root, 'docs/screenshots');
mkdirSync(out, { recursive: true });

const data = mkdtempSync(join(tmpdir(), 'zephyrfield-shots-'));
const demo = spawn(process.execPath, [join(root, 'server/dist/demo.js')], {
  env: {
    ...process.env,
    ZEPHYRFIELD_PORT: String(PORT),
    ZEPHYRFIELD_CAMPUS_PORT: String(CAMPUS),
    ZEPHYRFIELD_DATA: data,
    ZEPHYRFIELD_WEB: join(root, 'app/dist'),
  },
  stdio: ['ignore', 'pipe', 'inherit'],
});
await new Promise((ready) => demo.stdout.on('data', (chunk) => /ready/.test(String(chunk)) && ready()));

const SIZES = {
  phone: { width: 390, height: 844 },
  wide: { width: 1280, height: 800 },
  sheet: { width: 703, height: 1032 },
};

const AGENDA = '/calendar?view=agenda';
/** Opens an item, with all its parts. */
const openExercise = async (page) => {
  await page.getByRole('button', { name: /^Tide table exercise 11/ }).click();
  await page.getByRole('button', { name: 'Write a brief' }).waitFor();
};
/** name → what to open and do; `dark` for the dark ground, `who` for somebody else than Juno, `print` as it is printed. */
const VIEWS = [
  { name: 'today-phone', size: 'phone', path: '/today' },
  { name: 'month-wide', size: 'wide', path: '/calendar?view=month' },
  { name: 'week-wide', size: 'wide', path: '/calendar?view=week' },
  { name: 'week-dark-wide', size: 'wide', path: '/calendar?view=week', dark: true },
  { name: 'week-phone', size: 'phone', path: '/calendar?view=week' },
  { name: 'item-phone', size: 'phone', path: AGENDA, act: openExercise },
  {
    name: 'todo-phone',
    size: 'phone',
    path: '/todo',
    act: (page) => page.getByRole('button', { name: /^Finish Chart exercise 5/ }).click(),
  },
  { name: 'plan-phone', size: 'phone', path: '/plan' },
  {
    name: 'plan-wide',
    size: 'wide',
    path: '/plan',
    act: async (page) => {
      await page.getByRole('button', { name: 'Plan what is big' }).click();
      await page.getByText(/Nothing stands in the calendar yet\.$/).waitFor();
      // The ways out are worked out as well.
      await page.getByText('Looking for ways out').first().waitFor({ state: 'detached' });
    },
  },
  { name: 'crew-phone', size: 'phone', path: '/crew', who: 'maren' },
  {
    name: 'everybody-wide',
    size: 'wide',
    path: '/calendar?view=week',
    who: 'maren',
    act: async (page) => {
      await page.getByRole('radio', { name: 'Everybody' }).click();
      await page
        .locator('[data-slip]')
        .getByRole('img', { name: /Tobias/ })
        .first()
        .waitFor();
    },
  },
  {
    name: 'table-wide',
    size: 'wide',
    path: '/table',
    who: 'anselm',
    act: (page) => page.getByText('Emeka Sørlie').first().waitFor(),
  },
  {
    name: 'notes-wide',
    size: 'wide',
    path: '/notes',
    who: 'anselm',
    act: async (page) => {
      await page.getByRole('link', { name: /Numbers tomorrow/ }).click();
      await page.getByRole('list', { name: 'Notes' }).getByText('Drawing is done').waitFor();
    },
  },
  {
    name: 'outline-wide',
    size: 'wide',
    path: '/outline',
    act: async (page) => {
      await page.getByLabel('Outlines').setInputFiles(join(root, 'demo/outlines/cranes-and-bridges.docx'));
      await page.getByText('12 Oct is a Monday').waitFor();
      const place = page.getByRole('region', { name: 'The outline' });
      await place
        .getByRole('button', { name: /: Mid-term test/ })
        .last()
        .click();
    },
  },
  { name: 'news-phone', size: 'phone', path: '/news', who: 'maren' },
  {
    name: 'gather-wide',
    size: 'wide',
    path: '/gather',
    act: (page) => page.getByRole('button', { name: /^More about Norwegian/ }).click(),
  },
  {
    name: 'out-phone',
    size: 'phone',
    path: '/sharing',
    who: 'maren',
    act: async (page) => {
      await page.getByRole('button', { name: 'Make a live link' }).click();
      const form = page.getByRole('group', { name: 'A live link' });
      await form.evaluate((e) => e.scrollIntoView({ block: 'start' }));
    },
  },
  {
    name: 'page-wide',
    size: 'wide',
    path: '/sharing',
    who: 'maren',
    // What anyone sees who has the link; it is told once, when it is made.
    act: async (page) => {
      await page.getByRole('button', { name: 'Make a live link' }).click();
      await page.getByLabel('What you call it').fill('Juno’s school weeks');
      await page.getByLabel('a page to read for anyone with the link').check();
      await page.getByRole('button', { name: 'Make the link' }).click();
      await page.goto(await page.getByRole('textbox', { name: 'The page, for anyone' }).inputValue());
      await page.evaluate(() => document.fonts.ready);
    },
  },
  {
    name: 'paper',
    size: 'sheet',
    who: 'juno',
    path: '/api/learners/juno/paper?of=week&size=a4&turn=portrait&day=2026-10-06',
    print: true,
  },
];

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu'],
});
try {
  // Names on the command line: those alone.
  const named = process.argv.slice(2);
  for (const { name, size, path, dark, who, act, print } of VIEWS) {
    if (named.length && !named.includes(name)) continue;
    const context = await browser.newContext({
      viewport: SIZES[size],
      colorScheme: dark ? 'dark' : 'light',
      timezoneId: 'Europe/Dublin',
      locale: 'en-IE',
    });
    const page = await context.newPage();
    if (print) await page.emulateMedia({ media: 'print' });
    if (who) await context.request.post(`${base}/api/demo/people/${who}/session`, { data: {} });
    await page.goto(base + path);
    await page.getByRole('heading', { level: 1 }).first().waitFor();
    await page.waitForLoadState('networkidle');
    await page.evaluate(() => document.fonts.ready);
    await act?.(page);
    await page.waitForLoadState('networkidle');
    await page.screenshot({ path: join(out, `${name}.png`) });
    console.log(`docs/screenshots/${name}.png`);
    await context.close();
  }
} finally {
  await browser.close();
  // Its folder can only go once it writes no more.
  const ended = once(demo, 'exit');
  demo.kill();
  await ended;
  rmSync(data, { recursive: true, force: true });
}
