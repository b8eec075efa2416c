// The worker beside the page: the page comes up without a connection, with what was last seen, and what a person is told
// while a window is open can be pressed. `PRECACHED` is put in when it is built: each file with its revision.
/* global PRECACHED */
import { ExpirationPlugin } from 'workbox-expiration';
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from 'workbox-precaching';
import { registerRoute, setCatchHandler } from 'workbox-routing';
import { CacheFirst, NetworkFirst, NetworkOnly } from 'workbox-strategies';
import { FORGET, SAID } from './said.js';

/** Counts how often all was forgotten: a reply that was asked for before is not kept after. */
let generation = 0;
const forget = () => {
  generation++;
  return caches.delete(SAID);
};
self.addEventListener('message', (event) => {
  if (event.data === FORGET) event.waitUntil(forget());
});

self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
cleanupOutdatedCaches();
precacheAndRoute(PRECACHED, { cleanURLs: false, directoryIndex: null });

// What is named by its content never changes.
registerRoute(
  ({ url }) => url.origin === self.location.origin && /^\/(?:_expo|assets)\//.test(url.pathname),
  new CacheFirst({ cacheName: 'zephyrfield-parts', plugins: [new ExpirationPlugin({ maxEntries: 120 })] }),
);

// Signing in or out, as somebody or somebody else: nothing that was said before is for who is here then.
registerRoute(
  ({ url }) => url.pathname.startsWith('/api/auth/'),
  async ({ request }) => {
    await forget();
    const reply = await fetch(request);
    await forget();
    return reply;
  },
  'POST',
);

/**
 * What is near is asked for by its days, which move on each night: without a connection, what was near when there was
 * one is better than nothing. And the time goes on while a reply lies here.
 */
const toFind = {
  async handlerDidError({ request }) {
    if (!/\/occurrences$/.test(new URL(request.url).pathname)) return undefined;
    return (await caches.open(SAID)).match(request, { ignoreSearch: true, ignoreVary: true });
  },
  async cachedResponseWillBeUsed({ request, cachedResponse }) {
    if (!cachedResponse || new URL(request.url).pathname !== '/api/session') return cachedResponse;
    const said = await cachedResponse.clone().json();
    const passed = Date.now() - Date.parse(cachedResponse.headers.get('date') ?? '');
    if (!Number.isFinite(passed)) return cachedResponse;
    const now = new Date(Date.parse(said.now) + passed).toISOString();
    return Response.json({ ...said, now });
  },
};

/** Whether a session reply says that nobody is signed in. */
const isNobodys = async (request, response) =>
  new URL(request.url).pathname === '/api/session' && (await response.clone().json()).person === null;

/**
 * Whether a reply is one to come back to: not where all was forgotten since it was asked for. One that says that a
 * session is over takes all others along.
 */
const toKeep = {
  async requestWillFetch({ request, state }) {
    state.generation = generation;
    return request;
  },
  async cacheWillUpdate({ request, response, state }) {
    if (response.status === 401) await forget();
    if (response.status !== 200 || state.generation !== generation) return null;
    if (!(await isNobodys(request, response))) return response;
    await forget();
    return null;
  },
};
registerRoute(
  ({ url, request }) =>
    url.origin === self.location.origin &&
    url.pathname.startsWith('/api/') &&
    !/\/(?:live|bytes)$/.test(url.pathname) &&
    request.destination === '' &&
    // What one sees with somebody else's eyes is not what one sees.
    !request.headers.has('x-zephyrfield-see-as'),
  new NetworkFirst({
    cacheName: SAID,
    matchOptions: { ignoreVary: true },
    plugins: [toKeep, toFind, new ExpirationPlugin({ maxEntries: 150 })],
  }),
);

// A page by whatever address: as the server draws it, else the plain one.
registerRoute(({ request }) => request.mode === 'navigate', new NetworkOnly());
setCatchHandler(async ({ request }) =>
  request.mode === 'navigate' ? ((await matchPrecache('/index.html')) ?? Response.error()) : Response.error(),
);

self.addEventListener('notificationclick', (event) => {
  event.notification.close();
  const { path } = event.notification.data ?? {};
  // Only ever to a page of our own.
  const url = new URL(
    typeof path === 'string' && path.startsWith('/') ? path : '/notices',
    self.location.origin,
  );
  if (url.origin !== self.location.origin) return;
  event.waitUntil(
    self.clients.matchAll({ type: 'window', includeUncontrolled: true }).then(async (windows) => {
      const [open] = windows;
      if (!open) return self.clients.openWindow(url.href);
      await open.focus();
      return open.navigate(url.href);
    }),
  );
});
