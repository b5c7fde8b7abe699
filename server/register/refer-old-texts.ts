import { sql } from 'drizzle-orm';
import { keepReferences, type NamedPart } from '../../core/register/references.ts';
import type { Needs } from '../base/needs.ts';
import { softwareVersions } from '../base/tables.ts';
import { parts } from './tables.ts';

/** Texts in which parts were named in plain words before references were kept, by table. */
const TEXTS: Readonly<Record<string, readonly string[]>> = {
  tests: ['question', 'calibration'],
  test_arms: ['label', 'scope_text', 'differences'],
  plan_versions: ['reason', 'changes'],
  pulls: ['excluded_note'],
  pull_exclusions: ['note'],
  pull_files: ['name'],
  vehicle_ledger: ['note', 'change'],
  calibrations: ['name', 'note'],
  claims: ['subject', 'conditions', 'disclosures'],
  claim_events: ['note'],
  audit_entries: ['detail'],
};
const JSON_COLUMNS = new Set(['differences', 'changes', 'change', 'conditions', 'disclosures', 'detail']);

/**
 * Once, when a database of an earlier version is served for the first time: names of parts that have a code name
 * become references in what was written before. Rows that are never edited are edited here alone, in one transaction,
 * so that an embargo holds over them as it did; the plan as it was locked keeps its bytes and its hash.
 */
export async function referOldTexts({ db, softwareVersion, log }: Needs): Promise<void> {
  const served = await db.select({ version: softwareVersions.version }).from(softwareVersions);
  if (served.length === 0 || served.some((row) => row.version === softwareVersion)) return;
  const named: NamedPart[] = await db
    .select({ id: parts.id, name: parts.name, sku: parts.sku })
    .from(parts)
    .where(sql`${parts.codeName} is not null`);
  if (named.length === 0) return;
  await db.transaction(async (tx) => {
    for (const [table, columns] of Object.entries(TEXTS)) {
      const name = sql.identifier(table);
      await tx.execute(sql`alter table ${name} disable trigger user`);
      for (const column of columns) {
        const field = sql.identifier(column);
        const { rows } = await tx.execute<{ at: string; text: string }>(
          sql`select ctid::text as at, ${field}::text as text from ${name} where ${field} is not null`,
        );
        for (const { at, text } of rows) {
          const kept = keepReferences(text, named);
          if (kept === text) continue;
          const value = JSON_COLUMNS.has(column) ? sql`${kept}::jsonb` : sql`${kept}`;
          await tx.execute(sql`update ${name} set ${field} = ${value} where ctid = ${at}::tid`);
          log.info({ table, column }, 'a name was turned into a reference');
        }
      }
      await tx.execute(sql`alter table ${name} enable trigger user`);
    }
  });
}
