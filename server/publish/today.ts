/** What waits for a person today: counted and listed by the same condition, so that both say the same. */
import { and, asc, desc, eq, gte, inArray, isNull, lt, ne, sql, type SQL } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import {
  TODAY_FIRST,
  TODAY_MOST,
  TODAY_OF,
  type Today,
  type TodayGroup,
  type TodayItem,
} from '../../contract/publish/today.ts';
import { ANSWERED_BY_PEOPLE } from '../../core/judge/answered.ts';
import { partReference } from '../../core/register/references.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { analyses } from '../judge/tables.ts';
import { listTests, titleOf, visibleTo } from '../plan/repository.ts';
import { bookings, tests } from '../plan/tables.ts';
import { today as dayOf } from '../register/embargo.ts';
import { dynos, parts, sensors } from '../register/tables.ts';
import { listClaims } from './repository.ts';
import { shelf } from './shelf.ts';
import { inQuestion } from './states.ts';
import { claims } from './tables.ts';

interface Asked {
  readonly db: Queryable;
  readonly person: Person;
  readonly now: Date;
  readonly limit: number;
}
interface Waiting {
  readonly total: number;
  readonly items: readonly TodayItem[];
}
const DAY_MS = 86_400_000;
/** Sessions and launches are shown so far ahead, days. */
const AHEAD = { sessions: 7, launches: 60 };

const count = async (rows: Promise<readonly { n: number }[]>): Promise<number> => (await rows)[0].n;
const HOW_MANY = { n: sql<number>`count(*)::int` };

/** Tests under a condition, newest first, as entries that lead to one of their pages. */
async function testsWaiting(
  { db, person, limit }: Asked,
  where: SQL | undefined,
  page: string,
  detail: (row: Awaited<ReturnType<typeof listTests>>[number]) => string,
): Promise<Waiting> {
  const own = and(visibleTo(person), where);
  const total = await count(db.select(HOW_MANY).from(tests).where(own));
  const ids = await db
    .select({ id: tests.id })
    .from(tests)
    .where(own)
    .orderBy(desc(tests.number))
    .limit(limit);
  const rows =
    ids.length > 0
      ? await listTests(
          db,
          person,
          inArray(
            tests.id,
            ids.map((r) => r.id),
          ),
        )
      : [];
  const items = rows.map((row) => ({
    id: row.test.id,
    text: `Test ${row.test.number}: ${titleOf(row)}`,
    detail: detail(row),
    at: null,
    to: `/tests/${row.test.id}/${page}`,
  }));
  return { total, items };
}

/** One that has its result has every pull: nothing has to be looked at one by one. */
const noResult = isNull(tests.currentAnalysisId);
const hasGap = sql`exists (select from pulls p where p.test_id = ${tests.id} and p.counted and p.excluded_reason is null
  and (not exists (select from pull_files f where f.pull_id = p.id) or not exists (select from air_readings a where a.pull_id = p.id)))`;
const hasFile = sql`exists (select from pulls p join pull_files f on f.pull_id = p.id where p.test_id = ${tests.id})`;
const noClaim = sql`not exists (select from claims c where c.test_id = ${tests.id} and c.state <> 'withdrawn')`;
const standing = (condition: SQL): SQL =>
  sql`exists (select from ${analyses} where ${analyses.id} = ${tests.currentAnalysisId} and ${condition})`;
const answerable = sql.raw([...ANSWERED_BY_PEOPLE].map((code) => `@.code == "${code}"`).join(' || '));

/** Claims under a condition, oldest first: what has waited longest stands first. */
async function claimsWaiting(
  { db, limit }: Asked,
  where: SQL | undefined,
  detail: (claim: Awaited<ReturnType<typeof listClaims>>[number]) => { detail: string; at: string },
): Promise<Waiting> {
  const total = await count(db.select(HOW_MANY).from(claims).where(where));
  const ids = await db
    .select({ id: claims.id })
    .from(claims)
    .where(where)
    .orderBy(asc(claims.draftedAt))
    .limit(limit);
  const found =
    ids.length > 0
      ? await listClaims(
          db,
          inArray(
            claims.id,
            ids.map((r) => r.id),
          ),
        )
      : [];
  const items = found
    .sort((a, b) => (a.draftedAt < b.draftedAt ? -1 : 1))
    .map((claim) => ({
      id: claim.id,
      text: `${claim.subject}, on ${claim.fitment}: ${claim.wording}`,
      ...detail(claim),
      to: `/claims/${claim.id}`,
    }));
  return { total, items };
}

async function sessionsDue({ db, person, now, limit }: Asked): Promise<Waiting> {
  const from = new Date(Date.parse(dayOf(now)));
  const until = new Date(from.getTime() + (AHEAD.sessions + 1) * DAY_MS);
  const where = and(gte(bookings.endsAt, from), lt(bookings.startsAt, until), hasGap, visibleTo(person));
  const rows = await db
    .select({ id: tests.id, at: bookings.startsAt, dyno: dynos.name })
    .from(bookings)
    .innerJoin(tests, eq(tests.id, bookings.testId))
    .innerJoin(dynos, eq(dynos.id, bookings.dynoId))
    .where(where)
    .orderBy(asc(bookings.startsAt))
    .limit(TODAY_MOST);
  const shown = rows.slice(0, limit);
  const named =
    shown.length > 0
      ? await listTests(
          db,
          person,
          inArray(
            tests.id,
            shown.map((r) => r.id),
          ),
        )
      : [];
  const items = shown.flatMap(({ id, at, dyno }) => {
    const row = named.find((r) => r.test.id === id);
    if (!row) return [];
    const text = `Test ${row.test.number}: ${titleOf(row)}`;
    return [
      { id, text, detail: `${row.vehicle.tag}, ${dyno}`, at: at.toISOString(), to: `/tests/${id}/bench` },
    ];
  });
  return { total: rows.length, items };
}

/** Without clearance a part under embargo has no launch, so that its place here does not tell one. */
async function launchesWithoutClaim({ db, person, now, limit }: Asked): Promise<Waiting> {
  const day = dayOf(now);
  const until = dayOf(new Date(now.getTime() + AHEAD.launches * DAY_MS));
  const where = and(
    sql`${parts.launchDate} between ${day}::date and ${until}::date`,
    eq(parts.promise, 'power'),
    person.clearance ? undefined : sql`coalesce(${parts.embargoUntil} <= ${day}::date, true)`,
    sql`not exists (select from claims c join part_revisions r on r.id = c.part_revision_id
      where r.part_id = ${parts.id} and c.state = 'published')`,
  );
  const total = await count(db.select(HOW_MANY).from(parts).where(where));
  const rows = await db
    .select({ id: parts.id, launch: parts.launchDate })
    .from(parts)
    .where(where)
    .orderBy(asc(parts.launchDate))
    .limit(limit);
  const items = rows.map(({ id, launch }) => ({
    id,
    text: partReference(id),
    detail: 'launches',
    at: `${launch}T00:00:00.000Z`,
    to: `/register/parts/${id}`,
  }));
  return { total, items };
}

async function sensorsOverdue({ db, now, limit }: Asked): Promise<Waiting> {
  const where = and(eq(sensors.removed, false), lt(sensors.dueOn, dayOf(now)));
  const total = await count(db.select(HOW_MANY).from(sensors).where(where));
  const rows = await db
    .select({ sensor: sensors, dyno: dynos.name })
    .from(sensors)
    .innerJoin(dynos, eq(dynos.id, sensors.dynoId))
    .where(where)
    .orderBy(asc(sensors.dueOn))
    .limit(limit);
  const items = rows.map(({ sensor, dyno }) => ({
    id: sensor.id,
    text: `${sensor.quantity}, ${sensor.serial}, of ${dyno}`,
    detail: 'due again since',
    at: `${sensor.dueOn}T00:00:00.000Z`,
    to: `/register/dynos/${sensor.dynoId}`,
  }));
  return { total, items };
}

async function takeOver(needs: Pick<Needs, 'db'>, limit: number): Promise<Waiting> {
  const { open } = await shelf(needs.db);
  const items = open.slice(0, limit).map(({ eventId, what, at, claim }) => ({
    id: String(eventId),
    text: `${claim.subject}, on ${claim.fitment}: ${claim.wording}`,
    detail: what,
    at,
    to: '/shelf',
  }));
  return { total: open.length, items };
}

const GROUPS: Readonly<Record<TodayGroup, (asked: Asked, needs: Pick<Needs, 'db'>) => Promise<Waiting>>> = {
  'claims to review': (asked) =>
    claimsWaiting(asked, and(eq(claims.state, 'in review'), ne(claims.authorId, asked.person.id)), (c) => ({
      detail: `drafted by ${c.author.name}`,
      at: c.draftedAt,
    })),
  'claims in question': (asked) =>
    claimsWaiting(asked, and(eq(claims.state, 'published'), inQuestion), (c) => ({
      detail: 'something under it has changed; published',
      at: c.publishedAt ?? c.draftedAt,
    })),
  'claims gone stale': (asked) =>
    claimsWaiting(asked, and(eq(claims.state, 'stale'), notReplaced), (c) => ({
      detail: c.staleReason ?? '',
      at: c.publishedAt ?? c.draftedAt,
    })),
  'claims of mine to go on with': (asked) =>
    claimsWaiting(
      asked,
      and(inArray(claims.state, ['draft', 'returned']), eq(claims.authorId, asked.person.id)),
      (c) => ({ detail: c.state, at: c.draftedAt }),
    ),
  'sessions due': (asked) => sessionsDue(asked),
  'pulls to complete': (asked) =>
    testsWaiting(
      asked,
      and(noResult, hasFile, hasGap),
      'pulls',
      (row) => `${row.vehicle.tag}, ${row.dyno.name}`,
    ),
  'findings to answer': (asked) =>
    testsWaiting(
      asked,
      standing(
        // Results are large: only those in which something fails are opened.
        sql`case when ${analyses.failing} > 0 then jsonb_path_exists(${analyses.result},
          '$.findings[*] ? (@.state == "fail" && (${answerable}))') end`,
      ),
      'judge',
      () => 'a person has to answer for what was found in the log',
    ),
  'plans to lock': (asked) =>
    testsWaiting(
      asked,
      sql`${tests.lockedAt} is null`,
      'plan',
      (row) => `${row.vehicle.tag}, ${row.dyno.name}`,
    ),
  'results to tell': (asked) =>
    testsWaiting(
      asked,
      and(
        noClaim,
        standing(sql`${analyses.grade} <> 'indicative' and ${analyses.verdict} in
          ('claim', 'depends on the option', 'no gain shown', 'loss', 'send back to design')`),
      ),
      'claim',
      () => 'nothing of it is drafted yet',
    ),
  'parts that launch without a claim': (asked) => launchesWithoutClaim(asked),
  'sensors overdue': (asked) => sensorsOverdue(asked),
  'to take over into the shop': ({ limit }, needs) => takeOver(needs, limit),
};

/** Another claim of the same part on the same kind of car has taken its place. */
const notReplaced = sql`not exists (select from claims n where n.fitment_id = ${claims.fitmentId}
  and n.part_revision_id = ${claims.partRevisionId} and n.state = 'published' and n.published_at > ${claims.publishedAt})`;

export async function todayOf(
  needs: Pick<Needs, 'db' | 'now'>,
  person: Person,
  all: TodayGroup | undefined,
): Promise<Today> {
  const wanted = TODAY_OF[person.role].filter((group) => all === undefined || group === all);
  const asked = { db: needs.db, person, now: needs.now(), limit: all ? TODAY_MOST : TODAY_FIRST };
  const groups = await Promise.all(
    wanted.map(async (group) => {
      const { total, items } = await GROUPS[group](asked, needs);
      return { group, total, items: [...items] };
    }),
  );
  return { groups };
}
