// Checks the types of every part.
import { run } from './lib/setup.mjs';

for (const part of ['core', 'server', 'stand-ins', 'demo', 'app', 'e2e', 'bench']) run('npx', ['--no-install', 'tsc', '-p', part, '--noEmit']);
