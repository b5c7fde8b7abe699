/**
 * How often somebody has tried to sign in: kept in the database, so that every server counts alike. Wrong tries for one
 * address of mail from one place do not shut out its owner elsewhere, nor others at the same place who have signed in
 * from there before.
 */
import { and, eq, gt, lt, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { recordAudit } from './audit.ts';
import type { Needs } from './needs.ts';
import { RefusalError } from './refusals.ts';
import { signInTries } from './tables.ts';

/** Who tries: an address of mail, lower case, and the network address it comes from. */
export interface Trying {
  readonly email: string;
  readonly address: string;
}
const WINDOW_MS = 15 * 60 * 1000;
/** Wrong tries in that time for one address of mail from one place; and for all of them together from there. */
const MOST = 10;
const MOST_FROM_A_PLACE = 5;
/** How long a place counts as known, and tries are kept. */
const KNOWN_MS = 30 * 24 * 3600 * 1000;

export function createSignInTries({ db, now }: Pick<Needs, 'db' | 'now'>, most = MOST) {
  const since = (ms: number): Date => new Date(now().getTime() - ms);
  async function counted({ email, address }: Trying) {
    const [row] = await db
      .select({
        own: sql<number>`count(*) filter (where not ${signInTries.isRight} and ${signInTries.email} = ${email}
          and ${signInTries.at} > ${since(WINDOW_MS).toISOString()}::timestamptz)::int`,
        place: sql<number>`count(*) filter (where not ${signInTries.isRight}
          and ${signInTries.at} > ${since(WINDOW_MS).toISOString()}::timestamptz)::int`,
        known: sql<boolean>`coalesce(bool_or(${signInTries.isRight} and ${signInTries.email} = ${email}), false)`,
      })
      .from(signInTries)
      .where(and(eq(signInTries.address, address), gt(signInTries.at, since(KNOWN_MS))));
    return row;
  }
  return {
    /** Throws `RefusalError` TOO_MANY_TRIES before a password is looked at. */
    async refuseTooMany(who: Trying): Promise<void> {
      const { own, place, known } = await counted(who);
      if (own < most && (known || place < most * MOST_FROM_A_PLACE)) return;
      throw new RefusalError(
        429,
        'TOO_MANY_TRIES',
        'Too many tries to sign in.',
        'Wait a quarter of an hour.',
      );
    },
    /** Keeps a try; a wrong one stands in the trail. @param person who it was, when the password was right */
    async note({ email, address }: Trying, person: Person | undefined, meant?: string): Promise<void> {
      await db.transaction(async (tx) => {
        await tx.delete(signInTries).where(lt(signInTries.at, since(KNOWN_MS)));
        // Whoever is in begins to count anew.
        if (person)
          await tx
            .delete(signInTries)
            .where(and(eq(signInTries.email, email), eq(signInTries.address, address)));
        await tx.insert(signInTries).values({ email, address, at: now(), isRight: person !== undefined });
        if (!person)
          await recordAudit(tx, now(), null, 'sign-in refused', 'person', meant ?? 'unknown', { address });
      });
    },
  };
}
export type SignInTries = ReturnType<typeof createSignInTries>;
