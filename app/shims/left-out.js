// Stands for a script that is left out of the bundle (app/metro.config.js). It can be asked for, and named by others while they
// are set up; when something of it is called, built or drawn, it says so.
module.exports = (path) =>
  new Proxy(
    {},
    {
      get(_, name) {
        // What bundlers and promises ask of every module.
        if (name === '__esModule') return true;
        if (typeof name === 'symbol' || name === 'then') return undefined;
        return function leftOut() {
          throw new Error(`${name} of ${path} is left out of the bundle: see app/metro.config.js`);
        };
      },
    },
  );
