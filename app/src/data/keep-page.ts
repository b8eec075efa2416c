import { between, nearDays } from '@zephyrfield/core/view/near';
import { serverNow } from './now';
import { pathOf } from './path';

/** Tells whether there is a worker beside the page that keeps what is asked for. */
const worker = () =>
  globalThis.isSecureContext && 'serviceWorker' in navigator ? navigator.serviceWorker : undefined;

/**
 * Has the browser keep the page, so that it comes up without a connection: once it stands, since nothing of it is
 * wanted before. Where that is not possible (an address without https), all works as before.
 */
export function keepPage(): void {
  worker()
    ?.register('/service-worker.js')
    .catch(() => {});
}

/** Gives what the page has asked the server for since it was opened. */
const asked = (): string[] =>
  performance
    .getEntriesByType('resource')
    .map(({ name }) => new URL(name))
    .filter(
      ({ origin, pathname }) => origin === location.origin && /^\/api\/(?:items|learners)\//.test(pathname),
    )
    .map(({ pathname, search }) => pathname + search)
    .filter((path) => !/\/(?:live|bytes)\b/.test(path));

/**
 * Asks once for what every place begins with: a page that the server has drawn came with it, and asks for it only after
 * something has changed. And for what was looked at before the worker was there.
 */
export async function keepSchedule(learnerId: string): Promise<void> {
  const there = worker();
  if (!there) return;
  await there.ready;
  // A page that has just got its worker is not looked after by it yet.
  if (!there.controller)
    await new Promise<void>((done) =>
      there.addEventListener('controllerchange', () => done(), { once: true }),
    );
  const { first, last } = nearDays(serverNow());
  const params = { learnerId };
  for (const path of new Set([
    pathOf('session'),
    pathOf('calendars', params),
    pathOf('occurrences', params, between(first, last)),
    pathOf('undated', params),
    pathOf('plan', params),
    pathOf('changes', params),
    pathOf('sources', params),
    ...asked(),
  ]))
    // Without a connection there is nothing to keep; what was kept before stays.
    await fetch(path).catch(() => {});
}
