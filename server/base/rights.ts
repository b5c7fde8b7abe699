/**
 * What the application's own role may do in the database. Tables belong to an owner that only migrates; the role the
 * servers run under reads everything, adds to what is added to, and changes or removes rows of the named tables alone.
 */
import type pg from 'pg';

/** Rows that people or the application change. Every other table is only added to. */
export const CHANGED = [
  'air_readings',
  'bench_links',
  'bench_sessions',
  'booking_blocks',
  'bookings',
  'claims',
  'closures',
  'column_memory',
  'dyno_devices',
  'dynos',
  'fitments',
  'kept_requests',
  'parts',
  'person_choices',
  'policy_previews',
  'pull_files',
  'pull_logs',
  'pulls',
  'recordings',
  'sensors',
  'test_arms',
  'tests',
  'under_ways',
  'vehicles',
  'web_sessions',
] as const;
/** Of a person the application changes the password; who may do what is the owner's to say. */
const OF_PEOPLE = 'password_hash';
/** Rows that are removed: of plans not locked, of the calendar, and what lives for a while only. */
export const REMOVED = [
  'applications',
  'booking_blocks',
  'bookings',
  'closures',
  'dyno_devices',
  'kept_requests',
  'pulls',
  'sign_in_tries',
  'test_arms',
  'under_ways',
  'upload_parts',
  'web_sessions',
] as const;
/** Kept by triggers beside the records they follow from; the application reads them. */
export const BY_TRIGGERS = [
  'begun_tests',
  'claim_places',
  'coverage_cells',
  'coverage_counts',
  'coverage_rows',
  'dyno_versions',
  'input_changes',
  'input_versions',
  'places_due',
  'test_places',
] as const;
/** What the application may call although it writes where the application may not. */
const REFRESH = 'refresh_places';

const list = (tables: readonly string[]): string => tables.map((table) => `public.${table}`).join(', ');

/**
 * Gives a role the application's rights and no other, in one transaction; called after every migration, by the owner.
 * Functions of triggers run as the owner, so that what they keep can be written by them alone.
 *
 * @param role name of the role the servers connect as; it must exist
 */
export async function grantRights(owner: pg.ClientBase, role: string): Promise<void> {
  const to = owner.escapeIdentifier(role);
  const { rows } = await owner.query<{ database: string; functions: string[] }>(
    `select current_database() as database, array(
       select p.oid::regprocedure::text from pg_proc p
       where p.pronamespace = 'public'::regnamespace and (p.prorettype = 'trigger'::regtype or p.proname = $1)
         and not exists (select from pg_depend d where d.objid = p.oid and d.deptype = 'e')) as functions`,
    [REFRESH],
  );
  const [{ database, functions }] = rows;
  const here = owner.escapeIdentifier(database);
  await owner.query(
    [
      'begin',
      `revoke all on database ${here} from public, ${to}`,
      `grant connect on database ${here} to ${to}`,
      ...['public', 'queue', 'drizzle'].flatMap((schema) => [
        `revoke all on schema ${schema} from public, ${to}`,
        `revoke all on all tables in schema ${schema} from public, ${to}`,
        `grant usage on schema ${schema} to ${to}`,
      ]),
      `grant select, insert on all tables in schema public to ${to}`,
      `grant usage, select on all sequences in schema public to ${to}`,
      `grant update on ${list(CHANGED)} to ${to}`,
      `grant update (${OF_PEOPLE}) on public.people to ${to}`,
      `grant delete on ${list(REMOVED)} to ${to}`,
      `revoke insert on ${list(BY_TRIGGERS)} from ${to}`,
      `grant select on all tables in schema drizzle to ${to}`,
      `grant select, insert, update, delete on all tables in schema queue to ${to}`,
      // Queues are made with the schema.
      'revoke all on all functions in schema queue from public',
      ...functions.map((name) => `alter function ${name} security definer set search_path = public, pg_temp`),
      'commit',
    ].join(';\n'),
  );
}

/** What the role of a connection is and may: told at the start of a server. */
export interface RoleFound {
  readonly role: string;
  /** It owns tables, or makes the database's rules not hold for it in another way. */
  readonly owns: boolean;
}
export async function roleOf(pool: pg.Pool): Promise<RoleFound> {
  const { rows } = await pool.query<RoleFound>(
    `select current_user as role,
       rolsuper or has_database_privilege(current_database(), 'CREATE')
         or exists (select from pg_tables where schemaname = 'public' and pg_has_role(tableowner, 'USAGE')) as owns
     from pg_roles where rolname = current_user`,
  );
  return rows[0];
}
