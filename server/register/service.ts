import { asc, eq } from 'drizzle-orm';
import type { Register } from '../../contract/register/register.ts';
import type { Needs } from '../base/needs.ts';
import { people } from '../base/tables.ts';
import { dynos, fitments, partRevisions, parts, vehicles } from './tables.ts';

export type RegisterService = ReturnType<typeof createRegisterService>;

export function createRegisterService({ db }: Needs) {
  return {
    /** Everything a plan is chosen from. */
    async read(): Promise<Register> {
      const revisions = await db.select().from(partRevisions).innerJoin(parts, eq(parts.id, partRevisions.partId)).orderBy(asc(parts.name), asc(partRevisions.revision));
      return {
        fitments: await db.select().from(fitments).orderBy(asc(fitments.maker), asc(fitments.model), asc(fitments.outputVariant)),
        vehicles: await db.select().from(vehicles).orderBy(asc(vehicles.tag)),
        partRevisions: revisions.map(({ parts: part, part_revisions: revision }) => ({ id: revision.id, partId: part.id, sku: part.sku, maker: part.maker, name: part.name, category: part.category, revision: revision.revision })),
        dynos: await db.select().from(dynos).orderBy(asc(dynos.name)),
        partners: await db.select({ id: people.id, name: people.name }).from(people).where(eq(people.role, 'partner shop')),
      };
    },
  };
}
