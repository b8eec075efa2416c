/**
 * Calls once the page has been read to its end: all that the server has drawn stands. That is before its
 * deferred scripts have run, while `DOMContentLoaded` comes after them, and what they are to find must stand
 * by then.
 */
export function onceRead(then: () => void, page: Document = document): void {
  if (page.readyState === 'loading') page.addEventListener('readystatechange', then, { once: true });
  else then();
}
