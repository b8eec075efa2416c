/**
 * Debian's Chromium: whole, and without all that a screen needs, which starts and draws in three quarters of
 * the time.
 */
export const CHROMIUM = '/usr/bin/chromium';
export const CHROMIUM_HEADLESS = '/usr/bin/chromium-headless-shell';

export const launchOptions = {
  executablePath: CHROMIUM_HEADLESS,
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
};
