// What a device keeps belongs to one person: what is being written, what was looked at, what was done. It
// goes when they sign out, when their session has ended elsewhere, and when somebody else is there.
import { FORGET, SAID } from '../../worker/said.js';
import { forgetPrefetched } from './prefetch';

/** Whose what is kept is, by id. */
const OWNER = 'zephyrfield-person';
const PREFIX = 'zephyrfield';

/** Gives the id of who is here; empty where nobody is known. */
export const owner = (): string =>
  typeof localStorage === 'undefined' ? '' : (localStorage.getItem(OWNER) ?? '');

const forgetters = new Map<() => void, string | null>();

/**
 * Has something be called when what is kept of a person is to be forgotten: each store goes back to how it
 * begins.
 * @param waits the name in local storage of what was done and is not saved yet: it waits, sealed, for whoever did it
 */
export function onForget(forget: () => void, waits: string | null = null): void {
  forgetters.set(forget, waits);
}

/** Takes away what lies in storage and calls what forgets; what waits to be saved stays for whoever did it. */
function forgetAllBut(...others: readonly string[]): void {
  const stays = new Set([...others, ...[...forgetters.values()].filter((name) => name !== null)]);
  forgetPrefetched();
  for (const [forget, waits] of forgetters) if (waits === null) forget();
  // What the worker beside the page keeps, and what is on its way to it; there is none without https.
  void globalThis.caches?.delete(SAID);
  globalThis.navigator?.serviceWorker?.controller?.postMessage(FORGET);
  // After the stores: each writes down how it begins.
  for (const storage of [globalThis.localStorage, globalThis.sessionStorage])
    for (const key of Object.keys(storage ?? {}))
      if (key.startsWith(PREFIX) && !stays.has(key)) storage.removeItem(key);
}
/** Has what waits be looked at again: somebody else is here, or nobody. */
const lookAgain = () => {
  for (const [look, waits] of forgetters) if (waits !== null) look();
};

/** Forgets all that this device has kept of whoever was here, but for what waits to be saved. */
export function forgetPerson(): void {
  forgetAllBut();
  lookAgain();
}

/**
 * Takes note that nobody is signed in: a session may have ended elsewhere. Forgets all that was seen and written; what
 * was done and is not saved yet waits for its owner.
 */
export function keepForNobody(): void {
  if (owner() !== '') forgetAllBut(OWNER);
}

/** Takes note of who is here. Where what was kept is somebody else's, it is forgotten first. */
export function keepFor(personId: string): void {
  // Where the server draws, nothing is kept.
  if (typeof localStorage === 'undefined' || owner() === personId) return;
  if (owner() !== '') forgetAllBut();
  localStorage.setItem(OWNER, personId);
  lookAgain();
}
