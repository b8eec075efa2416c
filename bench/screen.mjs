// What a screen is budgeted, measured in the browser that the tests use, on a processor slowed four times.
// The app is the built one over the demo world; what is on the screen is made here, so that there is enough
// of it.
import { chromium } from '@playwright/test';
import { CHROMIUM } from '../e2e/browsers.ts';
import { ServerProcess } from '../e2e/servers.ts';
import { firstLoad } from './first-load.mjs';
import { howMany, judge } from './src/judge.ts';

const SLOWED = 4;
/** Time after which a press is taken for one that does nothing, in milliseconds: how long it takes is judged by its budget. */
const LONGEST = 30_000;
const rows = [];
const demo = await ServerProcess.start('demo.js');
const browser = await chromium.launch({ executablePath: CHROMIUM, args: ['--no-sandbox'] });
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

/** Occurrences spread evenly over four weeks and all calendars. */
function many(count, calendars) {
  return Array.from({ length: count }, (_, i) => {
    const at =
      new Date(Date.UTC(2026, 8, 28, 8) + (i % 28) * 86_400_000 + (i % 9) * 3_600_000)
        .toISOString()
        .slice(0, 19) + 'Z';
    const isWork = i % 3 > 0;
    return {
      itemId: `bench-${i}`,
      recurrenceId: '',
      calendarId: calendars[i % calendars.length].id,
      alsoIn: [],
      title: `Sheet ${i}`,
      place: 'Room 4',
      kind: isWork ? 'assignment' : 'lesson',
      handIn: isWork ? 'online' : 'nothing',
      status: 'confirmed',
      start: { kind: 'instant', at, zone: 'Europe/Dublin' },
      end: null,
      due: isWork ? { kind: 'instant', at, zone: 'Europe/Dublin' } : null,
      finished: false,
      finishedAt: null,
      version: 0,
      aim: null,
      estimate: null,
      hidden: false,
      own: false,
      state: null,
    };
  });
}

/**
 * Waits until a page has asked for nothing more for a second: what it fetches on the side is drawn by then. The stream of
 * changes stays open, so that there is always a connection.
 */
async function quiet(page) {
  let last = Date.now();
  page.on('request', () => (last = Date.now()));
  while (Date.now() - last < 1000) await page.waitForTimeout(100);
}

/** From the press on a flag until the frame that shows it is painted, for a thousand occurrences in sight. */
async function showAndHide() {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: demo.address });
  await page.goto('/today');
  await page.getByRole('heading', { level: 1 }).waitFor();
  const { learners } = await (await page.request.get('/api/session')).json();
  const calendars = await (await page.request.get(`/api/learners/${learners[0].id}/calendars`)).json();
  await page.route('**/occurrences?*', (route) => route.fulfill({ json: many(1000, calendars) }));
  await page.goto('/calendar?view=month&day=2026-10-06');
  await page
    .getByRole('button', { name: /^Sheet / })
    .first()
    .waitFor();
  await page.getByRole('switch').first().waitFor();
  await quiet(page);
  const session = await page.context().newCDPSession(page);
  await session.send('Emulation.setCPUThrottlingRate', { rate: SLOWED });
  const times = await page.evaluate(
    async ({ presses, longest }) => {
      const frame = () => new Promise((done) => requestAnimationFrame(done));
      const taken = [];
      const whole = [];
      // What stands in the first week: it changes whenever a calendar comes or goes.
      const slips = () => document.querySelector('[role=table]')?.textContent;
      for (let i = 0; i < presses; i++) {
        await new Promise((done) => setTimeout(done, 250));
        const flag = document.querySelector('[role=switch]');
        const shown = slips();
        const was = flag.getAttribute('aria-checked');
        const began = performance.now();
        flag.click();
        while (flag.getAttribute('aria-checked') === was && performance.now() - began < longest)
          await frame();
        if (flag.getAttribute('aria-checked') === was) throw new Error('the press did nothing');
        // The frame that begins next finds the change painted.
        await frame();
        taken.push(performance.now() - began);
        while (slips() === shown && performance.now() - began < longest) await frame();
        if (slips() === shown) throw new Error('nothing was shown or hidden');
        await frame();
        whole.push(performance.now() - began);
      }
      return { first: taken.slice(4), whole: whole.slice(4) };
    },
    { presses: howMany(24, 6), longest: LONGEST },
  );
  await page.close();
  rows.push({
    what: 'showing or hiding a calendar, 1,000 occurrences in view, processor slowed 4 times',
    measured: median(times.first),
    budget: 100,
    unit: 'ms until the next painted frame',
  });
  console.log(`(until all of the view is drawn anew: ${median(times.whole).toFixed(0)} ms)`);
}

/** Who looks, and how on this device: a page has been there once. */
async function cookies() {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, baseURL: demo.address });
  const page = await context.newPage();
  await page.goto('/today');
  await page.getByRole('group', { name: 'Tonight' }).getByRole('button').first().waitFor();
  const found = (await context.cookies()).map(({ name, value }) => [name, value]);
  await context.close();
  return found;
}

try {
  await showAndHide();
  rows.push(...(await firstLoad(demo.address, await cookies())));
} finally {
  await browser.close();
  await demo.stop();
}
judge(rows);
