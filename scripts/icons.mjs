// Draws the icons that home screens want as pictures from the one that is drawn as shapes: `node scripts/icons.mjs`, after
// `app/public/icon.svg` was changed.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { launchOptions } from '../e2e/browsers.ts';
import { root } from './lib/setup.mjs';

const svg = readFileSync(join(root, 'app/public/icon.svg'), 'utf8');
/** What the icon stands on, to the very edge: devices cut it in their own shape */
const GROUND = '#0b6068';
const browser = await chromium.launch(launchOptions);
for (const [name, size, part] of [
  // A whole square with room around, from which a device cuts what shape it likes.
  ['icon-maskable-512', 512, 0.8],
  ['icon-192', 192, 1],
  ['icon-180', 180, 1],
]) {
  const page = await browser.newPage({ viewport: { width: size, height: size } });
  const inner = Math.round(size * part);
  await page.setContent(
    `<body style="margin:0;display:grid;place-items:center;height:100vh;background:${GROUND}">
      <div style="width:${inner}px;height:${inner}px">${svg.replace('<svg', '<svg width="100%" height="100%"')}</div>
    </body>`,
  );
  await page.screenshot({ path: join(root, `app/public/${name}.png`) });
  await page.close();
}
await browser.close();
