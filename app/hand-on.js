const { request } = require('node:http');

/**
 * Hands what is asked of `/api` on to another server, as if it had been asked there: it refuses what comes from
 * another site. Used while the app is being worked on, and never where it is served.
 */
exports.handOn = (target) => (middleware) => (req, res, next) => {
  if (!req.url.startsWith('/api')) return middleware(req, res, next);
  const { host } = new URL(target);
  const headers = { ...req.headers, host, ...(req.headers.origin ? { origin: target } : {}) };
  const onward = request(new URL(req.url, target), { method: req.method, headers }, (reply) => {
    res.writeHead(reply.statusCode, reply.headers);
    reply.pipe(res);
  });
  onward.on('error', () => res.writeHead(502).end());
  res.on('close', () => onward.destroy());
  req.pipe(onward);
};
