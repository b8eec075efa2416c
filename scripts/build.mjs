// Builds what runs: the server, the demo, the worker and the commands that need a database (esbuild), and the
// web app (Expo's web export). Each is built again only where its sources have changed since.
import { build } from 'esbuild';
import { createHash } from 'node:crypto';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync, mkdirSync } from 'node:fs';
import { basename, join, relative } from 'node:path';
import { root, run } from './lib/setup.mjs';

/**
 * Names and contents of everything below the given folders and files, as one digest: the same wherever the
 * project lies.
 */
function digest(paths) {
  const hash = createHash('sha256');
  const visit = (path) => {
    if (!existsSync(path)) return;
    if (statSync(path).isDirectory()) {
      for (const name of readdirSync(path).sort())
        if (
          !['node_modules', 'dist', '.expo', '.left-out', 'fonts', 'test'].includes(name) &&
          !/\.test\.tsx?$/.test(name)
        )
          visit(join(path, name));
    } else hash.update(relative(root, path)).update(readFileSync(path));
  };
  for (const path of paths) visit(join(root, path));
  return hash.digest('hex');
}

const forNode = {
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  // One file starts in half the time of hundreds. What is native stays outside, and what reads outlines: it is large,
  // and each thread loads of it what it needs, when it does.
  external: ['better-sqlite3', 'pdfjs-dist', 'mammoth', 'read-excel-file'],
  absWorkingDir: root,
  logLevel: 'warning',
  banner: {
    js: "import { createRequire as __cr } from 'node:module'; const require = __cr(import.meta.url);",
  },
};

/** Bundles the measurements; gives the script to run. */
export async function buildBench() {
  const outfile = join(root, 'server/dist/bench.js');
  await build({ ...forNode, entryPoints: ['bench/src/main.ts'], outfile });
  return outfile;
}

/** What runs on Node, all beside each other in the server's folder: that is where the external packages are found. */
export const serverBuild = {
  ...forNode,
  entryPoints: {
    main: 'server/src/main.ts',
    demo: 'demo/src/serve.ts',
    worker: 'server/src/thread/worker.ts',
    'rotate-key': 'server/src/commands/rotate-key.ts',
    'new-password': 'server/src/commands/new-password.ts',
    backup: 'server/src/commands/backup.ts',
    restore: 'server/src/commands/restore.ts',
  },
  outdir: 'server/dist',
};

export const buildServer = () => build(serverBuild);

/**
 * The fonts that ship with the app: one variable file a script, from their packages, with the weights that
 * are used and no others (which is half of the text face's bytes).
 */
export async function makeFonts() {
  const to = join(root, 'app/public/fonts');
  mkdirSync(to, { recursive: true });
  const fonts = [
    { font: 'atkinson-hyperlegible-next', scripts: ['latin', 'latin-ext'], wght: { min: 400, max: 700 } },
    { font: 'bricolage-grotesque', scripts: ['latin'], wght: { min: 400, max: 800 } },
  ];
  const { default: subsetFont } = await import('subset-font');
  // Every letter stays that a file has; what it does not have is passed over.
  const letters = Array.from({ length: 0xfffe }, (_, code) => code).filter(
    (code) => code < 0xd800 || code > 0xdfff,
  );
  const text = letters.map((code) => String.fromCharCode(code)).join('');
  for (const { font, scripts, wght } of fonts) {
    for (const script of scripts) {
      const whole = readFileSync(
        join(root, `node_modules/@fontsource-variable/${font}/files/${font}-${script}-wght-normal.woff2`),
      );
      writeFileSync(
        join(to, `${font}-${script}.woff2`),
        await subsetFont(whole, text, { targetFormat: 'woff2', variationAxes: { wght } }),
      );
    }
  }
}

/**
 * Has the page run the small script that asks for the first view's data, beside all others and before them.
 */
async function addFirst(folder) {
  const scripts = '_expo/static/js/web';
  const { metafile } = await build({
    entryPoints: [join(root, 'app/src/first.ts')],
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    outdir: join(folder, scripts),
    entryNames: '[name]-[hash]',
    metafile: true,
    absWorkingDir: root,
  });
  const name = basename(Object.keys(metafile.outputs)[0]);
  const page = join(folder, 'index.html');
  writeFileSync(
    page,
    readFileSync(page, 'utf8').replace('<title>', `<script src="/${scripts}/${name}" async></script><title>`),
  );
}

/**
 * Bundles what the server draws Today and pages without scripts with (app/src/server-render), beside the app: its
 * components as they are, for Node.
 */
async function addDrawn(folder) {
  const wanted = 'react-native-web';
  await build({
    ...forNode,
    format: 'cjs',
    banner: {},
    sourcemap: false,
    minify: true,
    external: [],
    entryPoints: ['app/src/server-render/today.tsx', 'app/src/server-render/pages.tsx'],
    outdir: join(folder, '.server-render'),
    outExtension: { '.js': '.cjs' },
    tsconfig: 'app/tsconfig.json',
    jsx: 'automatic',
    jsxImportSource: 'nativewind',
    mainFields: ['browser', 'module', 'main'],
    conditions: ['style'],
    resolveExtensions: ['.web.tsx', '.web.ts', '.web.js', '.tsx', '.ts', '.mjs', '.js', '.json'],
    alias: { 'react-native': wanted, 'expo-router': join(root, 'app/src/server-render/router.tsx') },
    define: { 'process.env.NODE_ENV': '"production"', 'process.env.EXPO_OS': '"web"', __DEV__: 'false' },
    // What is loaded when it is needed is never needed here.
    plugins: [
      {
        name: 'later',
        setup: (on) =>
          on.onResolve({ filter: /./ }, ({ kind, path }) =>
            kind === 'dynamic-import' ? { path, external: true } : undefined,
          ),
      },
    ],
  });
}

/**
 * Tells the browser that what the page begins with is run at once, nearly all of it: it then makes its
 * functions ready beside the download, and not one by one when they are first called (0.4 s on a slow phone).
 * Browsers that do not know it see a comment.
 */
function runAtOnce(folder) {
  const scripts = [
    ...readFileSync(join(folder, 'index.html'), 'utf8').matchAll(/<script src="(\/[^"]+)" defer/g),
  ];
  if (!scripts.length) throw new Error('No script was found in the exported page.');
  for (const [, script] of scripts) {
    const path = join(folder, script);
    writeFileSync(path, `//# allFunctionsCalledOnLoad\n${readFileSync(path, 'utf8')}`);
  }
}

/** Bundles the planner, which works in a thread of its own. */
async function addPlanner(folder) {
  await build({
    entryPoints: [join(root, 'app/worker/plan-worker.ts')],
    outfile: join(folder, 'plan-worker.js'),
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    absWorkingDir: root,
  });
}

/**
 * Bundles the worker beside the page, with what the page needs to come up by itself: the plain page, all its scripts and
 * styles, its fonts and icons.
 */
async function addWorker(folder) {
  const page = readFileSync(join(folder, 'index.html'), 'utf8');
  const named = [...page.matchAll(/(?:src|href)="(\/[^"]+)"/g)].map((m) => m[1]);
  const within = (part) =>
    readdirSync(join(folder, part), { withFileTypes: true, recursive: true })
      .filter((entry) => entry.isFile() && /\.(js|css|woff2)$/.test(entry.name))
      .map((entry) => join(entry.parentPath, entry.name).slice(folder.length));
  const files = [
    ...new Set(['/index.html', '/plan-worker.js', ...named, ...within('_expo'), ...within('fonts')]),
  ];
  const precached = files.map((url) => ({
    url,
    revision: createHash('sha256')
      .update(readFileSync(join(folder, url)))
      .digest('hex')
      .slice(0, 16),
  }));
  await build({
    entryPoints: [join(root, 'app/worker/service-worker.js')],
    outfile: join(folder, 'service-worker.js'),
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    absWorkingDir: root,
    define: { PRECACHED: JSON.stringify(precached), 'process.env.NODE_ENV': '"production"' },
  });
}

/**
 * Puts a compressed copy beside each file that gets smaller by it: done once here and not at each request.
 */
function compress(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true, recursive: true })) {
    if (!entry.isFile() || !/\.(js|css|html|svg|json)$/.test(entry.name)) continue;
    const path = join(entry.parentPath, entry.name);
    const bytes = readFileSync(path);
    writeFileSync(`${path}.br`, brotliCompressSync(bytes));
    writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
  }
}

export async function buildWeb() {
  const out = join(root, 'app/dist');
  const stamp = join(out, '.sources');
  const sources = digest(['app', 'core/src', 'package-lock.json', 'scripts/build.mjs']);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return;
  console.error('Building the web app: one to three minutes …');
  await makeFonts();
  run('npx', ['--no-install', 'expo', 'export', '--platform', 'web', '--output-dir', 'dist'], {
    cwd: join(root, 'app'),
    env: { ...process.env, EXPO_NO_TELEMETRY: '1', EXPO_OFFLINE: '1', CI: '1', NODE_ENV: 'production' },
  });
  runAtOnce(out);
  await addFirst(out);
  await addDrawn(out);
  await addPlanner(out);
  await addWorker(out);
  compress(out);
  writeFileSync(stamp, sources);
}

export async function buildAll() {
  console.error('Building the server …');
  await buildServer();
  await buildWeb();
}

// No top-level await: Jest’s set-up requires this file.
if (import.meta.url === `file://${process.argv[1]}`) void buildAll();
