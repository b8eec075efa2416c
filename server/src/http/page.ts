import { AsyncLocalStorage } from 'node:async_hooks';

/** Whose request is being answered. */
export interface Asking {
  /** The open page it came from, by the name that page gave itself; undefined where it gave none */
  page?: string | undefined;
  /** For whom work is counted: a person, or an address nobody has signed in at */
  asker: string;
}

const asking = new AsyncLocalStorage<Asking>();

/** Runs what answers a request, so that whose request it is can be asked meanwhile. */
export const answering = <T>(of: Asking, work: () => T): T => asking.run(of, work);

/** Gives the page whose request is being answered; undefined for what happens by itself. */
export const pageAsking = (): string | undefined => asking.getStore()?.page;

/** Gives for whom work is being done; empty for what happens by itself. */
export const askerNow = (): string => asking.getStore()?.asker ?? '';

/** Runs work that is counted for somebody else than who asks: an account that is not signed in to yet. */
export const countedFor = <T>(asker: string, work: () => T): T =>
  asking.run({ ...asking.getStore(), asker }, work);
