import { afterAll, beforeAll } from 'vitest';
import { startApp, type Ask, type TestApp } from './app.ts';

type Person = 'manager' | 'operator' | 'reviewer' | 'second' | 'editor' | 'partner';

/**
 * A server of its own for the tests of a file, with people signed in: started before the first of them, stopped after
 * the last. What is handed out can be named at once, and used from the first test on.
 */
export function houseWith<P extends Person>(...who: readonly P[]): { app: TestApp } & Record<P, Ask> {
  let started: TestApp;
  const signedIn = new Map<P, Ask>();
  beforeAll(async () => {
    started = await startApp();
    for (const person of who) signedIn.set(person, await started.signIn(person));
  });
  afterAll(async () => {
    await started.stop();
  });
  const app = new Proxy({} as TestApp, { get: (_, key) => Reflect.get(started, key) as unknown });
  const asks = who.map((person) => {
    const ask: Ask = (...asked) => signedIn.get(person)!(...asked);
    return [person, ask] as const;
  });
  return { app, ...(Object.fromEntries(asks) as Record<P, Ask>) };
}
