import { AsyncLocalStorage } from 'node:async_hooks';

/**
 * Which open page a request came from, by the name that page gave itself; for as long as the request is being
 * answered.
 */
const asking = new AsyncLocalStorage<string | undefined>();

/** Runs what answers a request of a page. */
export const fromPage = <T>(page: string | undefined, work: () => T): T => asking.run(page, work);

/** The page whose request is being answered; undefined for what happens by itself. */
export const pageAsking = (): string | undefined => asking.getStore();
