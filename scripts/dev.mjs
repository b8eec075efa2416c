// `npm run dev`: the demo while it is being worked on. The API builds and restarts by itself; Metro's own dev server stands in
// front, draws changes at once, and hands what is asked of /api on.
import { spawn } from 'node:child_process';
import { context } from 'esbuild';
import { ensureInstalled, root } from './lib/setup.mjs';

await ensureInstalled();
const { makeFonts, serverBuild } = await import('./build.mjs');
const API = Number(process.env.ZEPHYRFIELD_PORT ?? 8321);
const WEB = Number(process.env.PORT ?? 8081);

await makeFonts();
const server = await context(serverBuild);
await server.rebuild();
await server.watch();
const children = [
  spawn(process.execPath, ['--watch', 'server/dist/demo.js'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ZEPHYRFIELD_PORT: String(API), ZEPHYRFIELD_DATA: `${root}/.demo` },
  }),
  spawn('npx', ['--no-install', 'expo', 'start', '--web', '--port', String(WEB)], {
    cwd: `${root}/app`,
    stdio: 'inherit',
    env: {
      ...process.env,
      ZEPHYRFIELD_API: `http://localhost:${API}`,
      EXPO_NO_TELEMETRY: '1',
      EXPO_OFFLINE: '1',
    },
  }),
];
const stop = async () => {
  for (const child of children) child.kill('SIGTERM');
  await server.dispose();
};
process.once('SIGINT', () => void stop());
process.once('SIGTERM', () => void stop());
