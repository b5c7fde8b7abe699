/** What the gate “true baseline” looks at: the ledger as it stood on the day of the pulls, and the fitment’s other baselines. */
import { asc, eq } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { builtArms } from '../../core/plan/arms.ts';
import type { BaselineFacts } from '../../core/judge/gates/true-baseline.ts';
import {
  configurationDifferences,
  configurationOn,
  isStock,
  odometerOn,
} from '../../core/register/ledger.ts';
import type { Queryable } from '../base/db.ts';
import { baselineNamed } from '../plan/assessment.ts';
import { entryOf, namesFor, stockOf } from '../register/ledger-names.ts';
import { vehicleLedger } from '../register/tables.ts';
import { baselinesBeside } from './baselines.ts';
import { categoriesOf, type Inputs } from './inputs.ts';

/** Undefined of a plan that was never locked: what it calls its baseline is not settled. */
export async function baselineFacts(
  tx: Queryable,
  inputs: Inputs,
  person?: Person,
): Promise<BaselineFacts | undefined> {
  const { row, arms, definition } = inputs;
  const at = definition.plan?.firstPullAt;
  const baseline = arms.find((arm) => arm.role === 'baseline');
  if (!at || !baseline || !row.test.lockedAt || baseline.scopeText === '') return undefined;
  const ledger = await tx
    .select()
    .from(vehicleLedger)
    .where(eq(vehicleLedger.vehicleId, row.vehicle.id))
    .orderBy(asc(vehicleLedger.at), asc(vehicleLedger.enteredAt));
  const entries = ledger.map(entryOf);
  const names = await namesFor(tx, [...ledger.map((e) => e.change), ...arms.flatMap((arm) => arm.changes)]);
  const built = builtArms(
    arms.map(({ key, fromKey, changes }) => ({ key, from: fromKey, changes })),
    configurationOn(entries, at),
    at,
  );
  const onDay = built.get(baseline.key)!;
  const stock = isStock(onDay, stockOf(row.fitment), at, odometerOn(entries, at), names);
  const others = await baselinesBeside(tx, row.test, person);
  return {
    planned: baseline.scopeText,
    onDay: baselineNamed(stock),
    stock,
    arms: arms
      .filter((arm) => arm.role === 'part')
      .map((arm) => ({
        key: arm.key,
        label: arm.label,
        planned: arm.differences,
        onDay: configurationDifferences(onDay, built.get(arm.key)!, names),
        categories: categoriesOf(arm),
        renewed: (definition.done?.renewed ?? []).flatMap((r) => (r.arm === arm.key ? [r.text] : [])),
      })),
    others: others.map(({ pct, sameDyno }) => ({ pct, sameDyno })),
  };
}
