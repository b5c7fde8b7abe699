/**
 * The record of what was done at the dyno: sessions, mountings, recordings and what the operator writes, as it
 * happens. Nothing here speaks with a device; what is asked of one is a row that the process holding the link reads.
 */
import { and, asc, eq, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { BeginRequest, Bench, EntryBody, EntryRequest } from '../../contract/capture/bench.ts';
import { dayAt } from '../../core/base/site-time.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import { lockTest } from '../base/house.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, notFound } from '../base/refusals.ts';
import { armsOf } from '../plan/arms.ts';
import { findTest, namesOf, type TestRow } from '../plan/repository.ts';
import { sheetOf } from './repository.ts';
import { writeLedger } from '../register/ledger-write.ts';
import { kept, keptDeep } from '../register/references.ts';
import { dynoDevices } from '../register/tables.ts';
import {
  entriesOf,
  lockSession,
  mountingsOf,
  openSession,
  receivedOf,
  recordingsOf,
  sessionsOf,
  type RecordingRow,
  type SessionRow,
} from './bench-repository.ts';
import { benchEntries, benchLinks, benchSessions, mountings, recordings } from './bench-tables.ts';

export type BenchService = ReturnType<typeof createBenchService>;

const NO_SESSION = () =>
  conflict('NO_SESSION', 'No session of this test is open.', 'Open one on the bench screen.');
const iso = (at: Date | null): string | null => at?.toISOString() ?? null;

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createBenchService({ db, now, newId }: Needs) {
  const devicesOf = (tx: Queryable, dynoId: string) =>
    tx
      .select({ kind: dynoDevices.kind, host: dynoDevices.host, port: dynoDevices.port })
      .from(dynoDevices)
      .where(eq(dynoDevices.dynoId, dynoId))
      .orderBy(asc(dynoDevices.kind));
  /** Does something in the open session of a test, held against everybody else. */
  const inSession = <T>(
    person: Person,
    testId: string,
    work: (tx: Queryable, session: SessionRow, row: TestRow) => Promise<T>,
  ): Promise<T> =>
    db.transaction(async (tx) => {
      const row = await findTest(tx, testId, person);
      await lockTest(tx, testId);
      const open = await openSession(tx, testId);
      const session = open && (await lockSession(tx, open.id));
      if (!session) throw NO_SESSION();
      return work(tx, session, row);
    });
  const recordingOf = async (tx: Queryable, session: SessionRow, id: string): Promise<RecordingRow> => {
    const [row] = await tx
      .select()
      .from(recordings)
      .where(and(eq(recordings.id, id), eq(recordings.sessionId, session.id)));
    if (!row) throw notFound('recording');
    return row;
  };

  /** What was renewed with an arm stays on the car when the arm has gone: its ledger says so from then on. */
  async function tellLedger(
    tx: Queryable,
    person: Person,
    { test }: TestRow,
    { arm, service = [] }: Extract<EntryBody, { kind: 'fitted' }>,
    { session, saidAt }: { readonly session: SessionRow; readonly saidAt: string },
  ): Promise<void> {
    // It was done in this session, whatever a tablet's clock says: neither in the future nor years ago.
    const end = session.closedAt ?? now();
    const said = Math.min(Math.max(Date.parse(saidAt), session.openedAt.getTime()), end.getTime());
    const at = new Date(said).toISOString();
    const label = (await armsOf(tx, test.id)).find((a) => a.key === arm)?.label ?? arm;
    const note = `Written at the bench, test ${test.number}, with “${label}”.`;
    for (const item of service)
      await writeLedger(tx, { now, newId }, person, test.vehicleId, {
        at,
        odometerKm: null,
        note,
        change: { kind: 'service', item },
        supersedes: null,
      });
  }

  return {
    /** Throws when this person has no such test. */
    async isTheirs(person: Person, testId: string): Promise<void> {
      await findTest(db, testId, person);
    },
    /** Everything a screen beside the dyno shows of the last session. */
    // eslint-disable-next-line max-lines-per-function -- one answer, field by field
    async shown(person: Person, testId: string): Promise<Bench> {
      const { dyno } = await findTest(db, testId, person);
      const session = (await sessionsOf(db, testId)).at(-1);
      const [link] = await db
        .select({ devices: benchLinks.devices, linked: sql<boolean>`${benchLinks.until} > now()` })
        .from(benchLinks)
        .where(eq(benchLinks.dynoId, dyno.id));
      const isOpen = session?.closedAt === null;
      const base = {
        devices: await devicesOf(db, dyno.id),
        linked: isOpen && (link?.linked ?? false),
        links: isOpen ? (link?.devices ?? []) : [],
        now: now().toISOString(),
      };
      if (!session) return { ...base, session: null, mountings: [], recordings: [], entries: [] };
      const [mounts, records, entries, received] = [
        await mountingsOf(db, session.id),
        await recordingsOf(db, session.id),
        await entriesOf(db, session.id),
        await receivedOf(db, session.id),
      ];
      const names = await namesOf(db, [
        session.openedBy,
        ...mounts.map((m) => m.by),
        ...entries.map((e) => e.by),
      ]);
      const mountNumber = new Map(mounts.map((m) => [m.id, m.number]));
      return {
        ...base,
        session: {
          id: session.id,
          number: session.number,
          day: session.day,
          openedAt: session.openedAt.toISOString(),
          openedBy: names.get(session.openedBy) ?? '',
          closedAt: iso(session.closedAt),
          closingNote: session.closingNote,
        },
        mountings: mounts.map((m) => ({
          number: m.number,
          at: m.at.toISOString(),
          by: names.get(m.by) ?? '',
          note: m.note,
        })),
        recordings: records.map((r) => ({
          id: r.id,
          pullId: r.pullId,
          arm: r.arm,
          state: r.state,
          mounting: r.mountingId === null ? null : (mountNumber.get(r.mountingId) ?? null),
          order: r.order,
          beganAt: iso(r.beganAt),
          endedAt: iso(r.endedAt),
          received: received.get(r.id) ?? 0,
          samples: r.samples,
          fileSha256: r.fileSha256,
          linesSha256: r.linesSha256,
          logOffsetS: r.logOffsetS,
          summary: r.summary,
          problem: r.problem,
        })),
        entries: entries.map((e) => ({
          id: e.id,
          pullId: e.pullId,
          recordingId: e.recordingId,
          body: e.body,
          saidAt: e.saidAt.toISOString(),
          by: names.get(e.by) ?? '',
        })),
      };
    },

    /** Opens a session. The plan must be locked: the first pull is about to be made. */
    async open(person: Person, testId: string): Promise<void> {
      await db.transaction(async (tx) => {
        const { test, dyno } = await findTest(tx, testId, person);
        await lockTest(tx, testId);
        if (!test.lockedAt)
          throw conflict(
            'PLAN_NOT_LOCKED',
            'The plan is not locked.',
            'Lock it before the first pull: what is planned afterwards can be fitted to the result.',
          );
        if (await openSession(tx, testId)) return;
        const [busy] = await tx
          .select({ id: benchSessions.testId })
          .from(benchSessions)
          .where(and(eq(benchSessions.dynoId, dyno.id), sql`${benchSessions.closedAt} is null`));
        if (busy)
          throw conflict(
            'DYNO_IN_USE',
            `${dyno.name} has a session of another test open.`,
            'Close that one first.',
            { testId: busy.id },
          );
        const number = (await sessionsOf(tx, testId)).length + 1;
        const id = newId();
        await tx.insert(benchSessions).values({
          id,
          testId,
          dynoId: dyno.id,
          number,
          day: dayAt(now().getTime(), dyno.timeZone),
          openedAt: now(),
          openedBy: person.id,
        });
        await recordAudit(tx, now(), person, 'opened session', 'test', testId, { session: number });
      });
    },

    async close(person: Person, testId: string, note: string): Promise<void> {
      await inSession(person, testId, async (tx, session) => {
        const running = (await recordingsOf(tx, session.id)).filter((r) => r.state === 'running');
        if (running.length > 0)
          throw conflict('PULL_RUNS', 'A pull is running.', 'Let it end, or abort it, before you close.');
        await tx
          .update(recordings)
          .set({ state: 'withdrawn' })
          .where(and(eq(recordings.sessionId, session.id), eq(recordings.state, 'armed')));
        const closingNote = await kept(tx, note, person);
        await tx
          .update(benchSessions)
          .set({ closedAt: now(), closedBy: person.id, closingNote })
          .where(eq(benchSessions.id, session.id));
        await recordAudit(tx, now(), person, 'closed session', 'test', testId, {
          session: session.number,
          note: closingNote,
        });
      });
    },

    /** The car was strapped down: from now on every pull is of this mounting. */
    async mount(person: Person, testId: string, note: string): Promise<void> {
      await inSession(person, testId, async (tx, session) => {
        const number = (await mountingsOf(tx, session.id)).length + 1;
        const said = await kept(tx, note, person);
        await tx.insert(mountings).values({
          id: newId(),
          sessionId: session.id,
          number,
          at: now(),
          by: person.id,
          note: said,
        });
        await recordAudit(tx, now(), person, 'strapped down', 'test', testId, {
          mounting: number,
          note: said,
        });
      });
    },

    /** Keeps what the operator wrote. The same entry sent again, from a device that was away, is here already. */
    async enter(person: Person, testId: string, entry: EntryRequest): Promise<void> {
      const row = await findTest(db, testId, person);
      await db.transaction(async (tx) => {
        // What was typed before the session was closed may arrive after it.
        const session = (await openSession(tx, testId)) ?? (await sessionsOf(tx, testId)).at(-1);
        if (!session) throw NO_SESSION();
        const body = await keptDeep(tx, entry.body, person);
        const written = await tx
          .insert(benchEntries)
          .values({
            id: entry.id,
            sessionId: session.id,
            kind: entry.body.kind,
            pullId: entry.pullId,
            recordingId: entry.recordingId,
            body,
            saidAt: new Date(entry.saidAt),
            enteredAt: now(),
            by: person.id,
          })
          .onConflictDoNothing()
          .returning({ id: benchEntries.id });
        if (written.length === 0) return;
        await recordAudit(tx, now(), person, 'wrote at the bench', 'test', testId, { ...body });
        if (body.kind === 'fitted')
          await tellLedger(tx, person, row, body, { session, saidAt: entry.saidAt });
      });
    },

    /** Asks for a pull: the dyno begins it, or somebody does there. */
    async begin(person: Person, testId: string, { pullId, arm }: BeginRequest): Promise<void> {
      await inSession(person, testId, async (tx, session) => {
        const arms = await armsOf(tx, testId);
        if (!arms.some((a) => a.key === arm)) throw notFound('arm');
        const all = await recordingsOf(tx, session.id);
        if (all.some((r) => r.state === 'armed' || r.state === 'running'))
          throw conflict(
            'PULL_RUNS',
            'A pull is asked for or running already.',
            'Wait for its end, or abort it.',
          );
        if (pullId !== null) {
          const pull = (await sheetOf(tx, testId)).find((p) => p.id === pullId);
          if (!pull) throw notFound('pull');
          if (pull.settled || all.some((r) => r.pullId === pullId && r.state === 'complete'))
            throw conflict(
              'PULL_IS_THERE',
              `Pull ${pull.label} has its file, or was left out.`,
              'Make an extra pull; the test manager can give it a place by an amendment.',
            );
        }
        await tx.insert(recordings).values({
          id: newId(),
          sessionId: session.id,
          pullId,
          arm,
          state: 'armed',
          askedAt: now(),
          askedBy: person.id,
        });
      });
    },

    /** Ends the pull that is asked for or running. */
    async abort(person: Person, testId: string): Promise<void> {
      await inSession(person, testId, async (tx, session) => {
        const row = (await recordingsOf(tx, session.id)).find(
          (r) => r.state === 'armed' || r.state === 'running',
        );
        if (!row) return;
        await tx
          .update(recordings)
          .set(row.state === 'armed' ? { state: 'withdrawn' } : { abortAsked: true })
          .where(eq(recordings.id, row.id));
        await recordAudit(tx, now(), person, 'aborted pull', 'test', testId, { order: row.order });
      });
    },

    /** Gives up on a recording that is not whole: its place is open again. */
    async giveUp(person: Person, testId: string, id: string): Promise<void> {
      await inSession(person, testId, async (tx, session) => {
        const row = await recordingOf(tx, session, id);
        if (row.state !== 'incomplete')
          throw conflict('NOT_INCOMPLETE', 'The recording is not waiting for anything.', 'Reload the page.');
        await tx.update(recordings).set({ state: 'aborted' }).where(eq(recordings.id, id));
        await recordAudit(tx, now(), person, 'gave up recording', 'test', testId, { order: row.order });
      });
    },

    /** The recording somebody wants to have as it is; what becomes of it is for the caller. */
    async incomplete(person: Person, testId: string, id: string): Promise<RecordingRow> {
      return inSession(person, testId, async (tx, session) => {
        const row = await recordingOf(tx, session, id);
        if (row.state !== 'incomplete')
          throw conflict('NOT_INCOMPLETE', 'The recording is not waiting for anything.', 'Reload the page.');
        return row;
      });
    },

    /** Switches a fault of a stand-in: whoever holds the link passes it on. */
    async fault(person: Person, testId: string, name: string, on: boolean): Promise<void> {
      await inSession(person, testId, async (tx) => {
        const news = { test: testId, news: { type: 'fault', name, on } };
        await tx.execute(sql`select pg_notify('bench', ${JSON.stringify(news)})`);
      });
    },
  };
}
