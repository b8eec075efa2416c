import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { PapersInput, RenderPapers, RenderSharedPage } from '@zephyrfield/core/api/server-render-pages';
import type { OccurrenceView } from '@zephyrfield/core/item/occurrence';
import type { OutSchedule } from '@zephyrfield/core/out/going-out';
import { monthAsked, monthPage } from '@zephyrfield/core/out/page';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { instantOf } from '@zephyrfield/core/time/when';
import { viewerOf, whenWords } from '@zephyrfield/core/words/when';

/** A page that needs no account, as it is asked for. */
export interface PageAsked {
  /** Folder of the built web app */
  web: string;
  now: number;
  name: string;
  /** `2026-10`; the month of now without it */
  month: string | undefined;
  path: string;
  /** Of the calendar beside it */
  address: string;
}

interface Renderers {
  drawSharedPage: RenderSharedPage;
  drawPapers: RenderPapers;
}

const renderers = new Map<string, Renderers>();

/** Gives what draws pages, as the build leaves it in the web app’s folder. */
export function renderersIn(web: string): Renderers {
  let found = renderers.get(web);
  if (!found) {
    const built = join(web, '.server-render/pages.cjs');
    found = createRequire(built)(built) as Renderers;
    renderers.set(web, found);
  }
  return found;
}

/** A page around what was drawn: the app’s style sheet, no scripts, and not to be found by searching. */
export function document(web: string, title: string, body: string, bodyClass = 'bg-paper'): string {
  const sheets = [
    ...readFileSync(join(web, 'index.html'), 'utf8').matchAll(/<link rel="stylesheet" href="[^"]{1,200}">/g),
  ];
  return [
    '<!doctype html><html lang="en" class="document"><head><meta charset="utf-8">',
    '<meta name="viewport" content="width=device-width, initial-scale=1">',
    '<meta name="robots" content="noindex, nofollow"><link rel="icon" href="/icon.svg" type="image/svg+xml">',
    ...sheets.map(([link]) => link),
    `<title>${escaped(title)}</title></head><body class="${bodyClass}">${body}</body></html>`,
  ].join('');
}

const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;');

/** A month of what goes out by a link, as a page. */
export function sharedPage(
  dates: readonly OccurrenceView[],
  schedule: OutSchedule,
  asked: PageAsked,
): string {
  const viewer = viewerOf(ianaZone(schedule.zone) ?? UTC, DEFAULT_SETTINGS);
  const { now, web, name, path, address } = asked;
  const month = monthPage(dates, monthAsked(asked.month, now, viewer), {
    now,
    viewer,
    firstDay: DEFAULT_SETTINGS.firstDay,
    calendars: schedule.calendars,
  });
  const asOf = whenWords(instantOf(now), viewer);
  const html = renderersIn(web).drawSharedPage({ name, month, asOf, zone: schedule.zone, path, address });
  return document(web, `${name}, ${month.title}`, html);
}

/** A page that says why there is none. */
export const sorryPage = (web: string, title: string, remedy: string): string =>
  document(
    web,
    title,
    `<main class="mx-auto max-w-[440px] px-5 pt-10 font-text text-body text-ink">
      <h1 class="font-display text-display font-extrabold">${escaped(title)}</h1>
      <p>${escaped(remedy)}</p></main>`,
  );

/** The rule that a paper has of its own; `paperRule` is the one inline style its page may have. */
export const paperRule = ({ size, turn }: PapersInput['asked']): string =>
  `@page{size:${size === 'a4' ? 'A4' : 'letter'} ${turn};margin:12mm}@media print{.break-after-page:last-child{break-after:auto}}`;

/** Gives what is printed, as a page. */
export function papersPage(web: string, input: PapersInput): string {
  const title = input.papers.map(({ learner, pages }) => `${learner}, ${pages[0]?.title ?? ''}`).join(' · ');
  const html = renderersIn(web).drawPapers(input);
  // Paper is white, also where the screen is dark.
  return document(web, title, html)
    .replace('<html ', '<html data-theme="light" ')
    .replace(
      '</head>',
      () => `<style>${paperRule(input.asked)}</style><script src="/print.js" defer></script></head>`,
    );
}
