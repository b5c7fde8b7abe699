import type { Request, Response } from 'express';
import { Router } from 'express';
import type { Person } from '../../contract/base/http.ts';
import type { Role } from '../../contract/base/roles.ts';
import { RefusalError } from './refusals.ts';

/** Hides from a person what is not theirs to read, in any text or value. */
export interface Masking {
  readonly text: (value: string) => string;
  readonly deep: <T>(value: T) => T;
  readonly hides: boolean;
}
/** A request of somebody known; public handlers get none. */
export interface SignedIn {
  readonly person: Person;
  readonly mask: Masking;
}
type Handler<Context> = (req: Request, res: Response, context: Context) => Promise<void> | void;

interface Address {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  readonly path: string;
}
/** Every route says who may use it; there is no route without an answer to that. */
export type Route =
  | (Address & { readonly access: 'public'; readonly handle: Handler<undefined> })
  | (Address & { readonly access: readonly Role[]; readonly handle: Handler<SignedIn> });

export interface MountNeeds {
  readonly personOf: (req: Request) => Promise<Person | undefined>;
  /** What this person may not read; nobody signed in reads least. */ readonly maskFor: (
    person: Person | undefined,
  ) => Promise<Masking>;
}

/**
 * Mounts routes behind the check of who is asking: 401 signed out, 403 in the wrong role. Whatever a
 * route answers, refusals included, passes through the mask: a route cannot forget an embargo.
 */
export function mountRoutes(routes: readonly Route[], { personOf, maskFor }: MountNeeds): Router {
  const router = Router();
  for (const route of routes) {
    router[route.method](route.path, async (req, res) => {
      const person = await personOf(req);
      const mask = await maskFor(person);
      if (mask.hides) {
        const json = res.json.bind(res);
        // As JSON writes it, so that dates and the like are text before they are masked.
        res.json = (body: unknown) =>
          json(body === undefined ? body : mask.deep(JSON.parse(JSON.stringify(body)) as unknown));
      }
      if (route.access === 'public') return route.handle(req, res, undefined);
      if (!person)
        throw new RefusalError(401, 'SIGNED_OUT', 'You are not signed in.', 'Sign in and try again.');
      if (!route.access.includes(person.role))
        throw new RefusalError(
          403,
          'FORBIDDEN',
          `A ${person.role} may not do this.`,
          `It takes: ${route.access.join(', ')}.`,
        );
      return route.handle(req, res, { person, mask });
    });
  }
  return router;
}

/** A path parameter that must be a UUID; anything else is an address that does not exist. */
export function uuidParam(req: Request, name: string): string {
  const value = req.params[name];
  if (typeof value !== 'string' || !/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(value))
    throw new RefusalError(404, 'NOT_FOUND', 'There is nothing at this address.', 'Check the link.');
  return value;
}

/** Sends a text file for download, through the same mask as everything else. */
export function sendText(res: Response, mask: Masking, name: string, type: string, text: string): void {
  res.attachment(mask.text(name));
  res.type(type);
  res.send(mask.text(text));
}
