import { join } from 'node:path';
import express, { Router } from 'express';
import { notFound } from './problem.ts';

/** Serves the exported app: files by their names, every other address the one page (the app's router takes it from there). */
export function serveWeb(folder: string): Router {
  const router = Router();
  // The export names scripts and fonts by their content.
  router.use('/_expo', express.static(join(folder, '_expo'), { immutable: true, maxAge: '365d', fallthrough: false }));
  router.use('/assets', express.static(join(folder, 'assets'), { immutable: true, maxAge: '365d', fallthrough: false }));
  router.use(express.static(folder, { index: false, maxAge: 0 }));
  router.get('/{*any}', (req, res) => {
    // A missing script or picture is missing; answering with the page would hide that.
    if (/\.\w{2,5}$/.test(req.path)) throw notFound('file');
    res.set('Cache-Control', 'no-cache').sendFile(join(folder, 'index.html'));
  });
  return router;
}
