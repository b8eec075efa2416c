// Checks the types of every part: the core by itself, since it knows neither Node nor a browser; what runs on
// Node as one. The compiler is the native one, which takes a quarter of the time; tools that read types use the other.
import { root, run } from './lib/setup.mjs';

const compiler = `${root}/node_modules/typescript-native/bin/tsc`;
for (const project of ['core', 'tsconfig.node.json', 'app', 'e2e'])
  run(process.execPath, [compiler, '-p', project, '--noEmit']);
