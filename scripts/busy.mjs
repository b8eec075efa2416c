// `npm run test:busy`: the tests beside four programs that do nothing but keep the processors busy. What passes or fails by
// the clock fails here. `-- PART` as with `npm test`.
import { spawn, spawnSync } from 'node:child_process';
import { root } from './lib/setup.mjs';

const loops = Array.from({ length: 4 }, () =>
  spawn(process.execPath, ['-e', 'for (;;);'], { stdio: 'ignore' }),
);
process.on('exit', () => loops.forEach((loop) => loop.kill('SIGKILL')));
const { status } = spawnSync(process.execPath, [`${root}/scripts/test.mjs`, ...process.argv.slice(2)], {
  stdio: 'inherit',
  cwd: root,
});
process.exit(status ?? 1);
