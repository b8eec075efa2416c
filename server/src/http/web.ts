import { join } from 'node:path';
import { Router } from 'express';
import withCompressed from 'express-static-gzip';
import { notFound } from './problem.ts';

/**
 * Serves the exported app: files by their names, compressed as the build left them beside; every other
 * address the one page (the app's router takes it from there).
 */
export function serveWeb(folder: string): Router {
  const router = Router();
  // The export names scripts and fonts by their content.
  const files = (path: string, serveStatic: object) =>
    withCompressed(join(folder, path), {
      enableBrotli: true,
      orderPreference: ['br'],
      index: false,
      serveStatic,
    });
  router.use('/_expo', files('_expo', { immutable: true, maxAge: '365d', fallthrough: false }));
  router.use('/assets', files('assets', { immutable: true, maxAge: '365d', fallthrough: false }));
  router.use(files('.', { maxAge: 0 }));
  router.get('/{*any}', (req, res) => {
    // A missing script or picture is missing; answering with the page would hide that.
    if (/\.\w{2,5}$/.test(req.path)) throw notFound('file');
    res.set('Cache-Control', 'no-cache').sendFile(join(folder, 'index.html'));
  });
  return router;
}
