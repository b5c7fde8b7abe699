import { hash, verify } from '@node-rs/argon2';
import { and, asc, eq, sql } from 'drizzle-orm';
import type { Request } from 'express';
import 'express-session';
import {
  DemoSignInRequest,
  PasswordRequest,
  SignInRequest,
  type Person,
  type Session,
} from '../../contract/base/http.ts';
import { SIGNED_IN, type Role } from '../../contract/base/roles.ts';
import { recordAudit } from './audit.ts';
import type { Needs } from './needs.ts';
import { RefusalError } from './refusals.ts';
import type { Route } from './routing.ts';
import { createSignInTries, type SignInTries } from './sign-in-tries.ts';
import { people, webSessions } from './tables.ts';
import { createDeeds } from './deeds.ts';

declare module 'express-session' {
  interface SessionData {
    personId?: string;
  }
}

/** argon2id with the parameters OWASP's password storage sheet gives as its first choice (19 MiB, 2 passes; memory). */
export const hashPassword = (password: string): Promise<string> =>
  hash(password, { memoryCost: 19456, timeCost: 2, parallelism: 1 });

/** Compared against when nobody has the address, so that an unknown one takes as long as a wrong password. */
let decoy: Promise<string> | undefined;

export const personFrom = (row: typeof people.$inferSelect): Person => ({
  id: row.id,
  name: row.name,
  email: row.email,
  role: row.role as Role,
  clearance: row.clearance,
});

export function createPersonOf({ db }: Needs) {
  return async (req: Request): Promise<Person | undefined> => {
    const id = req.session.personId;
    if (!id) return undefined;
    const [row] = await db
      .select()
      .from(people)
      .where(and(eq(people.id, id), eq(people.active, true)));
    return row && personFrom(row);
  };
}

/** A new password ends every other session of the person. */
function passwordRoute({ db, now }: Needs, tries: SignInTries): Route {
  return {
    method: 'put',
    path: '/session/password',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      const { present, next } = PasswordRequest.parse(req.body);
      const who = { email: person.email, address: req.ip ?? '' };
      await tries.refuseTooMany(who);
      const [{ passwordHash }] = await db
        .select({ passwordHash: people.passwordHash })
        .from(people)
        .where(eq(people.id, person.id));
      if (!(await verify(passwordHash, present))) {
        await tries.note(who, undefined, person.id);
        throw new RefusalError(
          403,
          'WRONG_PASSWORD',
          'The password you have now is another.',
          'Write it again.',
        );
      }
      const hashed = await hashPassword(next);
      await db.transaction(async (tx) => {
        await tx.update(people).set({ passwordHash: hashed }).where(eq(people.id, person.id));
        await tx
          .delete(webSessions)
          .where(
            and(
              sql`${webSessions.sess} ->> 'personId' = ${person.id}`,
              sql`${webSessions.sid} <> ${req.sessionID}`,
            ),
          );
        await recordAudit(tx, now(), person, 'password changed', 'person', person.id);
      });
      res.status(204).end();
    },
  };
}

// eslint-disable-next-line max-lines-per-function -- a table of routes, a few lines each
export function signInRoutes(needs: Needs, demo: boolean, most?: number): Route[] {
  const { db, now } = needs;
  const personOf = createPersonOf(needs);
  const tries = createSignInTries(needs, most);
  const deeds = createDeeds(needs);

  const begin = async (req: Request, person: Person): Promise<Session> => {
    // A new id at sign-in: a session fixed beforehand is worth nothing.
    await new Promise<void>((resolve, reject) => {
      req.session.regenerate((error) =>
        error ? reject(error instanceof Error ? error : new Error(String(error))) : resolve(),
      );
    });
    req.session.personId = person.id;
    await deeds.dropOld();
    await recordAudit(db, now(), person, 'signed in', 'person', person.id);
    return { person, demo };
  };

  const routes: Route[] = [
    passwordRoute(needs, tries),
    {
      method: 'get',
      path: '/session',
      access: 'public',
      handle: async (req, res) => {
        res.json({ person: (await personOf(req)) ?? null, demo } satisfies Session);
      },
    },
    {
      method: 'post',
      path: '/session',
      access: 'public',
      handle: async (req, res) => {
        const { email, password } = SignInRequest.parse(req.body);
        const who = { email: email.toLowerCase(), address: req.ip ?? '' };
        await tries.refuseTooMany(who);
        const [row] = await db
          .select()
          .from(people)
          .where(and(eq(people.email, email.toLowerCase()), eq(people.active, true)));
        const right = await verify(
          row?.passwordHash ?? (await (decoy ??= hashPassword('nobody has this password'))),
          password,
        );
        await tries.note(who, row && right ? personFrom(row) : undefined, row?.id);
        if (!row || !right)
          throw new RefusalError(
            401,
            'WRONG_SIGN_IN',
            'E-mail and password do not belong together.',
            'Check both and try again.',
          );
        res.json(await begin(req, personFrom(row)));
      },
    },
    {
      method: 'delete',
      path: '/session',
      access: 'public',
      handle: async (req, res) => {
        const person = await personOf(req);
        if (person) await recordAudit(db, now(), person, 'signed out', 'person', person.id);
        await new Promise<void>((resolve) => {
          req.session.destroy(() => resolve());
        });
        res.clearCookie('evidentia').status(204).end();
      },
    },
  ];
  if (!demo) return routes;
  return [
    ...routes,
    {
      method: 'get',
      path: '/demo/people',
      access: 'public',
      handle: async (_req, res) => {
        res.json(
          (
            await db
              .select()
              .from(people)
              .where(eq(people.active, true))
              .orderBy(asc(people.createdAt), asc(people.name))
          ).map(({ id, name, role, does }) => ({ id, name, role, does })),
        );
      },
    },
    {
      method: 'post',
      path: '/demo/session',
      access: 'public',
      handle: async (req, res) => {
        const { personId } = DemoSignInRequest.parse(req.body);
        const [row] = await db
          .select()
          .from(people)
          .where(and(eq(people.id, personId), eq(people.active, true)));
        if (!row)
          throw new RefusalError(
            401,
            'WRONG_SIGN_IN',
            'This sample person does not exist.',
            'Reload the page.',
          );
        res.json(await begin(req, personFrom(row)));
      },
    },
  ];
}
