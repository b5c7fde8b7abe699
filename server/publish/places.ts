import { sql } from 'drizzle-orm';
import type { Db } from '../base/db.ts';

/**
 * Brings the places of cells, tests and claims up to date with all that has been committed. Called before a list is
 * read, never inside a transaction; costs next to nothing when nothing has changed.
 */
export async function refreshPlaces(db: Pick<Db, 'execute'>): Promise<void> {
  await db.execute(sql`select refresh_places()`);
}
