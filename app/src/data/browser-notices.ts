import { call } from './client';
import { noticePath } from '@zephyrfield/core/notify/links';

/** True where this browser can tell, may tell, or has not been asked. */
export type BrowserState = 'cannot' | 'unasked' | 'may' | 'refused';

export function browserState(): BrowserState {
  if (typeof Notification === 'undefined' || !('serviceWorker' in navigator) || !globalThis.isSecureContext)
    return 'cannot';
  return Notification.permission === 'granted'
    ? 'may'
    : Notification.permission === 'denied'
      ? 'refused'
      : 'unasked';
}

const worker = () => navigator.serviceWorker.register('/service-worker.js');

/** Asks the person, which the browser allows only after a press. */
export async function askBrowser(): Promise<BrowserState> {
  if (browserState() === 'unasked') await Notification.requestPermission();
  if (browserState() === 'may') await showBrowserNotices();
  return browserState();
}

/** Takes over what waits for the browser and shows it. Where it may not, it is left for a window that may. */
export async function showBrowserNotices(): Promise<void> {
  if (browserState() !== 'may') return;
  try {
    const registration = await worker();
    await navigator.serviceWorker.ready;
    for (const notice of await call('takeNotices')) {
      await registration.showNotification(notice.title, {
        body: notice.line,
        tag: `notice ${notice.id}`,
        icon: '/icon.svg',
        data: { path: noticePath(notice) },
      });
    }
  } catch {
    // What was not taken over waits; what was is in the app as well.
  }
}
