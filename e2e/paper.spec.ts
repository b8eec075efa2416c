import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import type { Page } from '@playwright/test';
import { expect, test } from './fixtures';

// What is printed, as the browser prints it.
test.use({ ownDemo: 'paper' });

/** A page as PDF: its pages with their sizes in points, and the words on each. */
async function printed(page: Page): Promise<{ width: number; height: number; text: string }[]> {
  const bytes = await page.pdf({ preferCSSPageSize: true });
  const pdf = await getDocument({ data: new Uint8Array(bytes), useSystemFonts: true }).promise;
  return Promise.all(
    Array.from({ length: pdf.numPages }, async (_, n) => {
      const sheet = await pdf.getPage(n + 1);
      const { width, height } = sheet.getViewport({ scale: 1 });
      const { items } = await sheet.getTextContent();
      const text = items.map((item) => ('str' in item ? item.str : '')).join(' ');
      return { width: Math.round(width), height: Math.round(height), text: text.replace(/\s+/g, ' ') };
    }),
  );
}

const paper = (query: string) => `/api/learners/juno/paper?${query}`;

test(
  'a week and a month are laid out for their paper, one sheet each, and tell everything in words',
  { tag: '@wide' },
  async ({ page, accessible }) => {
    await page.request.post('/api/demo/people/maren/session', { data: {} });
    await page.goto('/sharing');
    await page.getByRole('button', { name: 'Print a week or a month' }).click();
    const form = page.getByRole('group', { name: 'On paper' });
    await form.getByLabel('Tobias Lindqvist-Amadi').check();
    const [sheet] = await Promise.all([
      page.waitForEvent('popup'),
      form.getByRole('button', { name: 'Lay it out to print' }).click(),
    ]);
    await expect(sheet.getByRole('button', { name: 'Print' })).toBeVisible();
    const week = await printed(sheet);
    expect([week[0]!.width, week[0]!.height]).toEqual([595, 842]);
    expect(week[0]!.text).toContain('Juno Lindqvist-Amadi');
    expect(week.at(-1)!.text).toContain('Tobias Lindqvist-Amadi');
    expect(week.map((p) => p.text).join(' ')).toContain('Tide table exercise 11');
    expect(week[0]!.text).not.toContain('laid out for the paper');
    await sheet.close();

    await page.goto(paper('of=month&size=letter&turn=landscape&day=2026-10-06'));
    const month = await printed(page);
    expect([month[0]!.width, month[0]!.height]).toEqual([792, 612]);
    const pages = /page 1 of (\d+)/.exec(month[0]!.text);
    expect(month).toHaveLength(Number(pages?.[1] ?? 1));
    expect(month.map((p) => p.text).join(' ')).toContain('Half-scale dinghy: moulds');
    await page.goto(paper('of=week&size=a4&turn=landscape&day=2026-10-06'));
    await accessible();
    expect((await printed(page))[0]!.text).toContain('Tide table exercise 11');
  },
);

test(
  'sixty more items on one week go on to further pages, and none is cut off',
  { tag: '@wide' },
  async ({ page }) => {
    await page.request.post('/api/demo/people/juno/session', { data: {} });
    const made = await page.request.post('/api/learners/juno/calendars', {
      data: {
        name: 'Much',
        kind: 'home',
        zone: 'Europe/Dublin',
        colour: 'deep',
        flag: { shape: 'drop', pattern: 'dot', letters: 'MU' },
      },
    });
    const { id: calendarId } = (await made.json()) as { id: string };
    const writes = Array.from({ length: 60 }, (_, n) => ({
      id: null,
      calendarId,
      version: 0,
      item: {
        kind: 'assignment',
        handIn: 'paper',
        title: `Thing ${n}: ${'with a long title that wraps '.repeat(n % 4)}end${n}`,
        place: '',
        details: '',
        when: { kind: 'date', date: `2026-10-${String(5 + (n % 7)).padStart(2, '0')}` },
        end: null,
        repeat: null,
        changes: [],
      },
    }));
    for (const part of [writes.slice(0, 20), writes.slice(20, 40), writes.slice(40)])
      expect((await page.request.post('/api/learners/juno/own', { data: { writes: part } })).ok()).toBe(true);
    for (const turn of ['portrait', 'landscape']) {
      await page.goto(paper(`of=week&size=a4&turn=${turn}&day=2026-10-06`));
      const sheets = await printed(page);
      const said = Number(/page 1 of (\d+), goes on/.exec(sheets[0]!.text)?.[1]);
      expect(sheets).toHaveLength(said);
      const text = sheets
        .map((s) => s.text)
        .join(' ')
        .replaceAll(' ', '');
      for (let n = 0; n < 60; n++) expect(text).toContain(`end${n}`);
    }
  },
);
