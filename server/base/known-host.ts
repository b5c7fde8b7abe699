import type { RequestHandler } from 'express';
import { RefusalError } from './refusals.ts';

const OWN = new Set(['localhost', '127.0.0.1', '[::1]']);

/**
 * In the demo anybody who reaches the server may be anybody: another site that makes its own name lead to this machine
 * must not. The server is asked by a name it knows.
 *
 * @param hosts further names, as they stand in an address, without the port
 */
export const knownHost =
  (hosts: readonly string[]): RequestHandler =>
  (req, _res, next) => {
    const name = (req.headers.host ?? '').replace(/:\d+$/, '').toLowerCase();
    next(
      OWN.has(name) || hosts.includes(name)
        ? undefined
        : new RefusalError(
            421,
            'OTHER_HOST',
            'This demo does not answer under that name.',
            'Ask it as 127.0.0.1 or localhost, or name the host in EVIDENTIA_HOSTS.',
          ),
    );
  };
