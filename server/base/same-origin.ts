import type { Request, RequestHandler } from 'express';
import { RefusalError } from './refusals.ts';

/** A request that changes something comes from the application's own pages, as far as the browser says where from. */
export const sameOrigin: RequestHandler = (req, _res, next) => {
  const reading = req.method === 'GET' || req.method === 'HEAD' || req.method === 'OPTIONS';
  next(reading || comesFromHere(req) ? undefined : OTHER_SITE());
};

const OTHER_SITE = (): RefusalError =>
  new RefusalError(403, 'OTHER_SITE', 'The request comes from another site.', 'Use the application itself.');

function comesFromHere(req: Request): boolean {
  const from = req.headers['sec-fetch-site'];
  // Another port of the same machine is another site; “none” is what a person typed into the browser.
  if (from !== undefined && from !== 'same-origin' && from !== 'none') return false;
  const { origin } = req.headers;
  // Programs that are no browser send none.
  if (origin === undefined) return true;
  return URL.canParse(origin) && new URL(origin).host === req.host;
}
