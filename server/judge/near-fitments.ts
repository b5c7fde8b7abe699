/** Other fitments whose tests of a change concern a claim of it here. */
import { eq, or } from 'drizzle-orm';
import { fitmentName } from '../../contract/register/register.ts';
import type { LeftOut } from '../../core/judge/every-test.ts';
import { carryOver } from '../../core/register/family.ts';
import { sameMaker } from '../../core/register/near-parts.ts';
import type { Queryable } from '../base/db.ts';
import { fitments } from '../register/tables.ts';

type OtherFitment = Extract<LeftOut, { why: 'other fitment' | 'like fitment' }>;

/**
 * By fitment, why its tests are left out: of the family, with the same engine and output, so that a finding on this one
 * could be told for it; or of another family by the same maker, and else the same.
 */
export async function nearFitments(
  db: Queryable,
  fitmentId: string,
): Promise<ReadonlyMap<string, OtherFitment>> {
  const [tested] = await db.select().from(fitments).where(eq(fitments.id, fitmentId));
  const found = await db
    .select()
    .from(fitments)
    .where(or(eq(fitments.family, tested.family), eq(fitments.engineCode, tested.engineCode)));
  return new Map(
    found.flatMap((one): [string, OtherFitment][] => {
      const { state, bars } = carryOver(tested, one);
      if (state === 'serves') return [[one.id, { why: 'other fitment', fitment: fitmentName(one) }]];
      const isElseTheSame = bars.length > 0 && bars.every(({ code }) => code === 'OTHER_FAMILY');
      return isElseTheSame && sameMaker(one.maker, tested.maker)
        ? [[one.id, { why: 'like fitment', fitment: fitmentName(one) }]]
        : [];
    }),
  );
}
