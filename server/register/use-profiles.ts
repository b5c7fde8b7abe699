/** Use profiles: each a row of versions that are only added to; the newest holds. */
import { asc, desc, eq, max } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { HOUSE, MANAGER } from '../../contract/base/roles.ts';
import {
  UseProfileRequest,
  UseVersionRequest,
  type UseProfile,
  type UseProfiles,
} from '../../contract/register/use-profiles.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, notFound } from '../base/refusals.ts';
import { uuidParam, type Route } from '../base/routing.ts';
import { people } from '../base/tables.ts';
import { useProfileVersions } from './tables.ts';

/** The newest version of each, by name, and all versions there were. */
export async function useProfiles(db: Queryable): Promise<UseProfiles> {
  const rows = await db
    .select({ row: useProfileVersions, person: people.name })
    .from(useProfileVersions)
    .leftJoin(people, eq(people.id, useProfileVersions.createdBy))
    .orderBy(asc(useProfileVersions.profileId), desc(useProfileVersions.number));
  const versions = rows.map(({ row, person }): UseProfile => ({
    id: row.profileId,
    version: row.number,
    name: row.name,
    note: row.note,
    points: row.points.map(({ at, weight }) => ({ at, weight })),
    retired: row.retired,
    at: row.createdAt.toISOString(),
    person,
  }));
  const newest = versions.filter(({ id, version }) =>
    versions.every((other) => other.id !== id || other.version <= version),
  );
  return { profiles: newest.sort((a, b) => a.name.localeCompare(b.name)), versions };
}

// eslint-disable-next-line max-lines-per-function -- a table of routes, a few lines each
export function useProfileRoutes({ db, now, newId }: Needs): Route[] {
  const nameTaken = async (tx: Queryable, name: string, but?: string): Promise<void> => {
    const { profiles } = await useProfiles(tx);
    if (profiles.some((p) => p.id !== but && !p.retired && p.name.toLowerCase() === name.toLowerCase()))
      throw conflict(
        'NAME_TAKEN',
        `A profile “${name}” is there already.`,
        'Change that one, or name this one otherwise.',
      );
  };
  const write = (
    person: Person,
    id: string,
    number: number,
    profile: UseProfileRequest & { retired: boolean },
  ) =>
    db.transaction(async (tx) => {
      // One writer at a time: names and numbers are told from what is there.
      await tx.execute('select pg_advisory_xact_lock(727028)');
      if (!profile.retired) await nameTaken(tx, profile.name, id);
      const [last] = await tx
        .select({ number: max(useProfileVersions.number) })
        .from(useProfileVersions)
        .where(eq(useProfileVersions.profileId, id));
      const known = last?.number ?? 0;
      if (number > 1 && known === 0) throw notFound('use profile');
      if (known !== number - 1)
        throw conflict(
          'CHANGED_MEANWHILE',
          `Somebody else has changed “${profile.name}” since you opened it.`,
          'Look at the newest version, and make your change to that.',
        );
      const { name, note, points, retired } = profile;
      await tx.insert(useProfileVersions).values({
        profileId: id,
        number,
        name,
        note,
        points,
        retired,
        createdAt: now(),
        createdBy: person.id,
      });
      const deed = retired
        ? 'retired use profile'
        : number === 1
          ? 'added use profile'
          : 'changed use profile';
      await recordAudit(tx, now(), person, deed, 'use profile', name, { version: number });
    });
  return [
    {
      method: 'get',
      path: '/use-profiles',
      access: HOUSE,
      handle: async (_req, res) => {
        res.json(await useProfiles(db));
      },
    },
    {
      method: 'post',
      path: '/use-profiles',
      access: MANAGER,
      handle: async (req, res, { person }) => {
        await write(person, newId(), 1, { ...UseProfileRequest.parse(req.body), retired: false });
        res.status(201).json(await useProfiles(db));
      },
    },
    {
      method: 'post',
      path: '/use-profiles/:profileId/versions',
      access: MANAGER,
      handle: async (req, res, { person }) => {
        const { after, ...profile } = UseVersionRequest.parse(req.body);
        await write(person, uuidParam(req, 'profileId'), after + 1, profile);
        res.status(201).json(await useProfiles(db));
      },
    },
  ];
}
