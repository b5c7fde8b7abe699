import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { CHOICE_NAMES, Choices, ChosenSchema, type Chosen } from '../../contract/base/choices.ts';
import { SIGNED_IN } from '../../contract/base/roles.ts';
import type { Db } from './db.ts';
import type { Needs } from './needs.ts';
import { notFound } from './refusals.ts';
import type { Route } from './routing.ts';
import { personChoices } from './tables.ts';

/** What a person has chosen; a choice of an older version that no longer holds is as if it had not been made. */
export async function chosenBy(db: Db, personId: string): Promise<Chosen> {
  const rows = await db.select().from(personChoices).where(eq(personChoices.personId, personId));
  const valid = rows.filter(
    ({ name, value }) => ChosenSchema.safeParse({ [name]: value }).success && isChoice(name),
  );
  return Object.fromEntries(valid.map(({ name, value }) => [name, value]));
}
const isChoice = (name: unknown): name is (typeof CHOICE_NAMES)[number] =>
  (CHOICE_NAMES as readonly unknown[]).includes(name);

/** Units, kept views and the like of whoever is signed in. */
export const choiceRoutes = ({ db, now }: Needs): Route[] => [
  {
    method: 'get',
    path: '/session/choices',
    access: SIGNED_IN,
    handle: async (_req, res, { person }) => {
      res.json(await chosenBy(db, person.id));
    },
  },
  {
    method: 'put',
    path: '/session/choices/:name',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      const { name } = req.params;
      if (!isChoice(name)) throw notFound('choice');
      const { value } = z.object({ value: Choices.shape[name] }).parse(req.body);
      await db.transaction(async (tx) => {
        await tx
          .insert(personChoices)
          .values({ personId: person.id, name, value, changedAt: now() })
          .onConflictDoUpdate({
            target: [personChoices.personId, personChoices.name],
            set: { value, changedAt: now() },
          });
      });
      res.json(await chosenBy(db, person.id));
    },
  },
];
