/**
 * Answers to the question which column is meant, kept for files of one layout from one dyno. What is read by such an
 * answer says so: from which file it was and who gave it. One shop's answers are not applied to another's files.
 */
import { eq, and } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { ColumnChoices } from '../../core/capture/pull-file-types.ts';
import type { Queryable } from '../base/db.ts';
import { people } from '../base/tables.ts';
import { columnMemory } from './tables.ts';

export interface Memory {
  readonly header: string;
  readonly columns: ColumnChoices;
  readonly at: Date;
  readonly by: string | null;
  readonly fileName: string | null;
}
const shopOf = (person: Person): string => (person.role === 'partner shop' ? person.id : 'house');

export async function remember(
  tx: Queryable,
  person: Person,
  answer: {
    readonly id: string;
    readonly dynoId: string;
    readonly header: string;
    readonly columns: ColumnChoices;
    readonly fileName: string;
    readonly at: Date;
  },
): Promise<void> {
  const { id, dynoId, header, columns, fileName, at } = answer;
  const said = { columns, fileName, rememberedAt: at, rememberedBy: person.id };
  await tx
    .insert(columnMemory)
    .values({ id, dynoId, header, shop: shopOf(person), ...said })
    .onConflictDoUpdate({
      target: [columnMemory.dynoId, columnMemory.header, columnMemory.shop],
      set: said,
    });
}

/** What was answered for this dyno by people of this person's shop. */
export async function remembered(db: Queryable, person: Person, dynoId: string): Promise<Memory[]> {
  const rows = await db
    .select({ memory: columnMemory, by: people.name })
    .from(columnMemory)
    .leftJoin(people, eq(people.id, columnMemory.rememberedBy))
    .where(and(eq(columnMemory.dynoId, dynoId), eq(columnMemory.shop, shopOf(person))));
  return rows.map(({ memory, by }) => ({
    header: memory.header,
    columns: memory.columns,
    at: memory.rememberedAt,
    by,
    fileName: memory.fileName,
  }));
}

/** Told with every file that was read by a remembered answer. */
export function rememberedFinding({ by, fileName, at }: Memory): { code: string; message: string } {
  const from = fileName ? ` of ${fileName}` : ' of an earlier file';
  const who = by ?? 'somebody';
  return {
    code: 'COLUMNS_REMEMBERED',
    message: `Columns and units are read as ${who} said${from} on ${at.toISOString().slice(0, 10)}: check them.`,
  };
}
