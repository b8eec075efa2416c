// Checks the types of every part: the core by itself, since it knows neither Node nor a browser; what runs on
// Node as one, which is done in half the time of one after the other.
import { run } from './lib/setup.mjs';

for (const project of ['core', 'tsconfig.node.json', 'app', 'e2e'])
  run('npx', ['--no-install', 'tsc', '-p', project, '--noEmit']);
