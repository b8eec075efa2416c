import { spawn } from 'node:child_process';
import { chromium } from '@playwright/test';
const PORT = 8531;
const demo = spawn(process.execPath, ['server/dist/demo.js'], { env: { ...process.env, ZEPHYRFIELD_PORT: PORT, ZEPHYRFIELD_CAMPUS_PORT: 8532, ZEPHYRFIELD_DATA: '/tmp/lookdata', ZEPHYRFIELD_WEB: process.cwd() + '/app/dist' }, stdio: ['ignore', 'pipe', 'inherit'] });
await new Promise((r) => demo.stdout.on('data', (c) => /ready/.test(String(c)) && r()));
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const { shots } = await import(process.argv[2]);
for (const s of shots) {
  const ctx = await browser.newContext({ viewport: s.size ?? { width: 390, height: 844 }, colorScheme: s.dark ? 'dark' : 'light', locale: 'en-US', reducedMotion: 'reduce' });
  const page = await ctx.newPage();
  try {
    await page.request.post(`http://localhost:${PORT}/api/demo/people/${s.who ?? 'juno'}/session`, { data: {} });
    await page.goto(`http://localhost:${PORT}${s.path}`);
    await page.getByRole('heading', { level: 1 }).first().waitFor();
    await page.waitForTimeout(1200);
    if (s.act) await s.act(page);
    await page.waitForTimeout(600);
  } catch (e) { console.log(s.name, String(e).slice(0, 300)); }
  await page.screenshot({ path: `/tmp/shots/${s.name}.png` });
  await ctx.close();
}
await browser.close(); demo.kill('SIGTERM');
