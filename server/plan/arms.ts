import { asc, eq } from 'drizzle-orm';
import type { Queryable } from '../base/db.ts';
import { testArms } from './tables.ts';

export const armsOf = (db: Queryable, testId: string) =>
  db.select().from(testArms).where(eq(testArms.testId, testId)).orderBy(asc(testArms.position));
export type ArmRow = typeof testArms.$inferSelect;
