// What a device keeps belongs to one person: what is being written, what was looked at, what was done. It
// goes when they sign out, and when somebody else is there.
import { SAID } from '../../worker/said.js';
import { forgetPrefetched } from './prefetch';

/** Whose what is kept is, by id. */
const OWNER = 'zephyrfield-person';
const PREFIX = 'zephyrfield';

const forgetters = new Set<() => void>();

/**
 * Has something be called when what is kept of a person is to be forgotten: each store goes back to how it
 * begins.
 */
export function onForget(forget: () => void): void {
  forgetters.add(forget);
}

/** Forgets all that this device has kept of whoever was here. */
export function forgetPerson(): void {
  forgetPrefetched();
  for (const forget of forgetters) forget();
  // What the worker beside the page keeps; there is none without https.
  void globalThis.caches?.delete(SAID);
  // After the stores: each writes down how it begins.
  for (const storage of [globalThis.localStorage, globalThis.sessionStorage]) {
    for (const key of Object.keys(storage ?? {})) if (key.startsWith(PREFIX)) storage.removeItem(key);
  }
}

/** Takes note of who is here. Where what was kept is somebody else's, it is forgotten first. */
export function keepFor(personId: string): void {
  // Where the server draws, nothing is kept.
  if (typeof localStorage === 'undefined') return;
  const owner = localStorage.getItem(OWNER);
  if (owner === personId) return;
  if (owner !== null) forgetPerson();
  localStorage.setItem(OWNER, personId);
}
