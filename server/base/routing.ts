import type { Request, Response } from 'express';
import express, { Router } from 'express';
import type { Person } from '../../contract/base/http.ts';
import type { Role } from '../../contract/base/roles.ts';
import type { Deeds } from './deeds.ts';
import type { PublicAnswers } from './public-answers.ts';
import { refuseUnkeepable } from './readable-text.ts';
import { RefusalError } from './refusals.ts';

/** How a person reads names: references in what is answered are given the names this person may know. */
export interface Reading {
  /** A reader of the references that stand in a text (a whole answer, before it is cut up). */
  readonly over: (text: string) => Promise<(text: string) => string>;
  /** Throws when a value would name what this person may not read: nothing gets this far unless something is broken. */
  readonly tripwire: (value: () => unknown, path: string) => Promise<void>;
}
/** A request of somebody known; public handlers get none. */
export interface SignedIn {
  readonly person: Person;
  readonly reading: Reading;
}
type Handler<Context> = (req: Request, res: Response, context: Context) => Promise<void> | void;

interface Address {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  readonly path: string;
}
/** Every route says who may use it; there is no route without an answer to that. */
export type Route =
  | (Address & {
      readonly access: 'public';
      readonly handle: Handler<undefined>;
      /**
       * Whether it answers the same to everybody signed out and may be kept ready until something changes: true for
       * its path, or by what it is kept beside that. What gives undefined is made anew each time.
       */
      readonly kept?: true | ((req: Request) => string | undefined);
    })
  | (Address & { readonly access: readonly Role[]; readonly handle: Handler<SignedIn> });

export interface MountNeeds {
  readonly personOf: (req: Request) => Promise<Person | undefined>;
  /** How this person reads names; nobody signed in reads least. */
  readonly readingFor: (person: Person | undefined) => Reading;
  readonly publicAnswers: PublicAnswers;
  readonly deeds: Deeds;
}

/**
 * Mounts routes behind the check of who is asking: 401 signed out, 403 in the wrong role. Whatever a route
 * answers, refusals included, has its references resolved for the person here: a route cannot forget an embargo.
 */
export function mountRoutes(
  routes: readonly Route[],
  { personOf, readingFor, publicAnswers, deeds }: MountNeeds,
): Router {
  const router = Router();
  for (const route of routes) {
    router[route.method](route.path, async (req, res, next) => {
      const person = await personOf(req);
      const reading = readingFor(person);
      res.locals.reading = reading;
      const path = `${req.method} ${req.path}`;
      Object.assign(res.locals, { reading, path });
      // Names are looked up before the answer leaves; a handler need not wait for it.
      res.json = (body: unknown) => {
        readable(res, body)
          .then((text) => answer(res, text))
          .catch(next);
        return res;
      };
      if (route.access === 'public') {
        await readBody(req, res);
        const handle = () => route.handle(req, res, undefined);
        const key = route.kept === true ? '' : route.kept?.(req);
        return key === undefined || person ? handle() : publicAnswers.serve(req.path + key, req, res, handle);
      }
      if (!person)
        throw new RefusalError(401, 'SIGNED_OUT', 'You are not signed in.', 'Sign in and try again.');
      if (!route.access.includes(person.role))
        throw new RefusalError(
          403,
          'FORBIDDEN',
          `A ${person.role} may not do this.`,
          `It takes: ${route.access.join(', ')}.`,
        );
      await readBody(req, res);
      return deeds.once(person.id, req, res, () => route.handle(req, res, { person, reading }));
    });
  }
  return router;
}

const MOST_JSON = '256kb';
const json = express.json({ limit: MOST_JSON });
/** Reads what was sent, once it is known who sent it; bytes and tables are read by their routes. */
async function readBody(req: Request, res: Response): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    json(req, res, (error?: unknown) => {
      if (error === undefined) resolve();
      else reject(error instanceof Error ? error : new Error('the request cannot be read'));
    });
  });
  refuseUnkeepable(req.body);
  refuseUnkeepable(req.query);
  refuseUnkeepable(req.params);
}

/** Sends a text that is ready, or hands it to whoever keeps it. */
function answer(res: Response, text: string): unknown {
  const keeper = res.locals.answer as ((text: string) => Promise<void>) | undefined;
  return keeper ? keeper(text) : res.type('application/json').send(text);
}

/** A path parameter that must be a UUID; anything else is an address that does not exist. */
export function uuidParam(req: Request, name: string): string {
  const value = req.params[name];
  if (typeof value !== 'string' || !/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(value))
    throw new RefusalError(404, 'NOT_FOUND', 'There is nothing at this address.', 'Check the link.');
  return value;
}

/** An answer as JSON with its references resolved, held against the tripwire. */
async function readable(res: Response, body: unknown): Promise<string> {
  const json = JSON.stringify(body ?? null);
  const reading = res.locals.reading as Reading;
  const resolve = await reading.over(json);
  const text = resolve(json);
  // A refusal may repeat what the person sent: to hold that against a name would tell them whether they guessed it.
  if (res.statusCode < 400)
    await reading.tripwire(() => (text === json ? body : JSON.parse(text)), String(res.locals.path));
  return text;
}

/** Sends a text file for download, as this person may read it. */
export async function sendText(res: Response, name: string, type: string, text: string): Promise<void> {
  const reading = res.locals.reading as Reading;
  const resolve = await reading.over(`${name}\n${text}`);
  const shown = resolve(text);
  await reading.tripwire(() => ({ text: shown }), String(res.locals.path));
  res.attachment(resolve(name));
  res.type(type);
  res.send(shown);
}
