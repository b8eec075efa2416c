const { existsSync, mkdirSync, readdirSync, rmSync, writeFileSync } = require('node:fs');
const { join, relative } = require('node:path');

const MODULES = join(__dirname, '../node_modules');

/** Every script below a folder, by its path in node_modules. */
function scriptsBelow(folder) {
  return readdirSync(join(MODULES, folder), { withFileTypes: true, recursive: true })
    .filter(
      (entry) => entry.isFile() && /\.(js|mjs|cjs|tsx?)$/.test(entry.name) && !/\.d\.ts$/.test(entry.name),
    )
    .map((entry) => relative(MODULES, join(entry.parentPath, entry.name)));
}

/**
 * Makes a stub for every script of a package that is left out of the bundle: it says so, with its path, when
 * something of it is used all the same.
 * @param patterns by package, what is left out; relative to the package
 * @returns stubs by the paths of what they stand for, relative to node_modules
 * @throws where a pattern leaves nothing out any more, since its package has changed
 */
exports.stubsFor = (patterns, folder = join(__dirname, '.left-out')) => {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const stubs = new Map();
  for (const [name, list] of Object.entries(patterns)) {
    const scripts = scriptsBelow(name);
    for (const pattern of list) {
      const found = scripts.filter((script) => pattern.test(script.slice(name.length + 1)));
      if (!found.length)
        throw new Error(`${pattern} leaves out nothing of ${name} any more: see app/metro.config.js`);
      for (const path of found) {
        if (stubs.has(path)) continue;
        const stub = join(folder, `${stubs.size}.js`);
        writeFileSync(stub, `module.exports = require('../shims/left-out')(${JSON.stringify(path)});\n`);
        stubs.set(path, stub);
      }
    }
  }
  return stubs;
};

/**
 * What is loaded in the place of something larger.
 * @throws where that is not there any more
 */
exports.shimsFor = (shims) => {
  for (const path of Object.keys(shims))
    if (!existsSync(join(MODULES, path))) throw new Error(`${path} is gone: see app/metro.config.js`);
  return new Map(Object.entries(shims).map(([path, shim]) => [path, join(__dirname, 'shims', shim)]));
};
