import type { Request, Response } from 'express';
import { Router } from 'express';
import type { Person } from '../../contract/base/http.ts';
import type { Role } from '../../contract/base/roles.ts';
import { RefusalError } from './refusals.ts';

/** A request of somebody known; public handlers get none. */
export interface SignedIn { readonly person: Person }
type Handler<Context> = (req: Request, res: Response, context: Context) => Promise<void> | void;

interface Address { readonly method: 'get' | 'post' | 'put' | 'delete'; readonly path: string }
/** Every route says who may use it; there is no route without an answer to that. */
export type Route =
  | (Address & { readonly access: 'public'; readonly handle: Handler<undefined> })
  | (Address & { readonly access: readonly Role[]; readonly handle: Handler<SignedIn> });

/** Mounts routes behind the check of who is asking: 401 signed out, 403 in the wrong role. */
export function mountRoutes(routes: readonly Route[], personOf: (req: Request) => Promise<Person | undefined>): Router {
  const router = Router();
  for (const route of routes) {
    router[route.method](route.path, async (req, res) => {
      if (route.access === 'public') return route.handle(req, res, undefined);
      const person = await personOf(req);
      if (!person) throw new RefusalError(401, 'SIGNED_OUT', 'You are not signed in.', 'Sign in and try again.');
      if (!route.access.includes(person.role)) throw new RefusalError(403, 'FORBIDDEN', `A ${person.role} may not do this.`, `It takes: ${route.access.join(', ')}.`);
      return route.handle(req, res, { person });
    });
  }
  return router;
}

/** A path parameter that must be a UUID; anything else is an address that does not exist. */
export function uuidParam(req: Request, name: string): string {
  const value = req.params[name];
  if (typeof value !== 'string' || !/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(value)) throw new RefusalError(404, 'NOT_FOUND', 'There is nothing at this address.', 'Check the link.');
  return value;
}
