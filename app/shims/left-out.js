// Stands for a script that is left out of the bundle (app/metro.config.js). It can be asked for, and says so when something of
// it is used.
module.exports = (path) =>
  new Proxy(
    {},
    {
      get(_, name) {
        // What bundlers and promises ask of every module.
        if (name === '__esModule') return true;
        if (typeof name === 'symbol' || name === 'then') return undefined;
        throw new Error(`${String(name)} of ${path} is left out of the bundle: see app/metro.config.js`);
      },
    },
  );
