// Shows what a person is told while a window of Zephyrfield is open, and leads to it when it is pressed.
self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
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
