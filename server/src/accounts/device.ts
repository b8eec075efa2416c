import { parse } from 'bowser';

/** Gives what a browser says of itself, in a few words: `Firefox on Android`. */
export function deviceWords(userAgent: string): string {
  if (!userAgent) return 'A device that does not say what it is';
  const { browser, os } = parse(userAgent.slice(0, 200));
  return [browser.name || 'A browser', os.name && `on ${os.name}`].filter(Boolean).join(' ');
}
