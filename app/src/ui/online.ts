import { useSyncExternalStore } from 'react';

const listen = (changed: () => void) => {
  for (const name of ['online', 'offline']) globalThis.addEventListener?.(name, changed);
  return () => {
    for (const name of ['online', 'offline']) globalThis.removeEventListener?.(name, changed);
  };
};
const isOnline = () => typeof navigator === 'undefined' || navigator.onLine !== false;

/** Tells whether the browser has a connection, as far as it knows. */
export const useOnline = (): boolean => useSyncExternalStore(listen, isOnline, () => true);
