import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { Router, type RequestHandler } from 'express';
import { PAGES } from '../../contract/base/pages.ts';

/** The built web application: its files, and its page at every address it has; at any other the page, as not found. */
export function webFiles(root: string): Router {
  const router = Router();
  // The names of these files change with what is in them.
  router.use(
    '/assets',
    express.static(join(root, 'assets'), { index: false, maxAge: '1y', immutable: true }),
    (_req, res) => {
      res.status(404).end();
    },
  );
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
export const isBuilt = (root: string): boolean => existsSync(join(root, 'index.html'));
