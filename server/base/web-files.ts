import { existsSync } from 'node:fs';
import { join } from 'node:path';
import packedFiles from 'express-static-gzip';
import express, { Router, type RequestHandler } from 'express';
import { PAGES } from '../../contract/base/pages.ts';

/** The built web application: its files, and its page at every address it has; at any other the page, as not found. */
export function webFiles(root: string): Router {
  const router = Router();
  router.use(express.static(root, { index: false, maxAge: '1h' }));
  const page =
    (status: number): RequestHandler =>
    (_req, res) => {
      res.status(status).setHeader('Cache-Control', 'no-cache');
      res.sendFile(join(root, 'index.html'));
    };
  router.get([...PAGES], page(200));
  router.get('/{*path}', page(404));
  return router;
}
/** Scripts, styles and fonts: their names change with what is in them, and they need none of the headers of a page. */
export function webAssets(root: string): Router {
  const router = Router();
  router.use(
    '/assets',
    (_req, res, next) => {
      res.setHeader('X-Content-Type-Options', 'nosniff');
      next();
    },
    packedFiles(join(root, 'assets'), {
      index: false,
      enableBrotli: true,
      orderPreference: ['br', 'gz'],
      serveStatic: { maxAge: '1y', immutable: true },
    }),
    (_req, res) => {
      res.status(404).end();
    },
  );
  return router;
}
export const isBuilt = (root: string): boolean => existsSync(join(root, 'index.html'));
