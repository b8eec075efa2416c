import { useSyncExternalStore } from 'react';

/** The server's time beside this device's: the demo's clock, or a device whose own is wrong. */
let offset = 0;
let shown = Date.now();
const listeners = new Set<() => void>();
let timer: ReturnType<typeof setInterval> | undefined;

function tick(): void {
  shown = Date.now() + offset;
  for (const listener of listeners) listener();
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  timer ??= setInterval(tick, 30_000);
  return () => {
    listeners.delete(listener);
    if (listeners.size) return;
    clearInterval(timer);
    timer = undefined;
  };
}

/**
 * Sets what time the server had at a moment of this device, in milliseconds; now, where nothing else is said.
 */
export function setServerNow(now: string, at = Date.now()): void {
  offset = Date.parse(now) - at;
  tick();
}

/** The present moment in milliseconds, to the millisecond, for what happens now. */
export const serverNow = (): number => Date.now() + offset;

const present = () => shown;

/** The present moment in milliseconds, every half minute anew. */
export function useNow(): number {
  return useSyncExternalStore(subscribe, present, present);
}
