/**
 * Speaks with the devices of every dyno that has an open session, in one server process at a time: a lease in the
 * database says which, and another takes over when it is not renewed. What the devices say is kept as it comes.
 */
import { and, eq, isNull, sql } from 'drizzle-orm';
import type { Hub } from '../base/hub.ts';
import type { Needs } from '../base/needs.ts';
import { dynoDevices } from '../register/tables.ts';
import { benchLinks, benchSessions } from './bench-tables.ts';
import { openSessionLink, type FinishRecording, type SessionLink } from './session-link.ts';

/** How often leases are renewed and sessions looked for, ms; how long a lease holds, s. */
const LOOK_MS = 700;
const LEASE_S = 3;

export interface Recorder {
  stop(): Promise<void>;
}

// eslint-disable-next-line max-lines-per-function -- one process with its leases and links
export function startRecorder(needs: Needs, hub: Hub, finish: FinishRecording): Recorder {
  const { db, log, newId } = needs;
  const holder = newId();
  const links = new Map<
    string,
    { readonly dynoId: string; readonly link: SessionLink; readonly devices: string }
  >();
  let stopped = false;
  let timer: NodeJS.Timeout | undefined;
  let working: Promise<void> = Promise.resolve();

  /** Sessions that are open on dynos with devices. */
  async function wanted() {
    const rows = await db
      .select({ session: benchSessions, device: dynoDevices })
      .from(benchSessions)
      .innerJoin(dynoDevices, eq(dynoDevices.dynoId, benchSessions.dynoId))
      .where(isNull(benchSessions.closedAt));
    const sessions = new Map<
      string,
      { session: (typeof rows)[number]['session']; devices: (typeof rows)[number]['device'][] }
    >();
    for (const { session, device } of rows) {
      const one = sessions.get(session.id) ?? { session, devices: [] };
      one.devices.push(device);
      sessions.set(session.id, one);
    }
    return [...sessions.values()];
  }
  /** Whether this process holds the dyno for the next seconds, by the clock of the database. */
  async function lease(dynoId: string): Promise<boolean> {
    const until = sql`now() + make_interval(secs => ${LEASE_S})`;
    const taken = await db
      .insert(benchLinks)
      .values({ dynoId, holder, until })
      .onConflictDoUpdate({
        target: benchLinks.dynoId,
        set: { holder, until },
        setWhere: sql`${benchLinks.holder} = ${holder} or ${benchLinks.until} < now()`,
      })
      .returning({ dynoId: benchLinks.dynoId });
    return taken.length > 0;
  }
  const release = (dynoId: string) =>
    db
      .update(benchLinks)
      .set({ until: sql`now()`, devices: [] })
      .where(and(eq(benchLinks.dynoId, dynoId), eq(benchLinks.holder, holder)));

  async function look(): Promise<void> {
    const open = await wanted();
    for (const [id, { dynoId, link }] of links)
      if (!open.some(({ session }) => session.id === id)) {
        links.delete(id);
        await link.close();
        await release(dynoId);
      }
    for (const { session, devices } of open) {
      const held = links.get(session.id);
      if (!(await lease(session.dynoId))) {
        if (held) {
          links.delete(session.id);
          await held.link.close();
        }
        continue;
      }
      const said = JSON.stringify(devices);
      if (held?.devices === said) continue;
      if (held) await held.link.close();
      links.set(session.id, {
        dynoId: session.dynoId,
        devices: said,
        link: openSessionLink(needs, session, devices, finish),
      });
    }
  }
  const again = (): void => {
    if (stopped) return;
    working = look()
      .catch((error: unknown) => {
        log.warn(
          { error: error instanceof Error ? error.message : String(error) },
          'the bench cannot be looked after',
        );
      })
      .finally(() => {
        if (!stopped) timer = setTimeout(again, LOOK_MS);
      });
  };
  // What is asked of a device is looked for when it is told, and with every look.
  const deaf = hub.listen((news) => {
    if (news === 'missed') {
      for (const { link } of links.values()) link.poke();
      return;
    }
    for (const { link } of links.values()) if (link.testId === news.test) link.heard(news.news);
  });
  again();
  return {
    async stop() {
      stopped = true;
      clearTimeout(timer);
      deaf();
      await working;
      await Promise.all([...links.values()].map(({ link }) => link.close()));
      await Promise.all([...links.values()].map(({ dynoId }) => release(dynoId))).catch(() => undefined);
      links.clear();
    },
  };
}
