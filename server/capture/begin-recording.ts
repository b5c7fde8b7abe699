import { and, eq } from 'drizzle-orm';
import type { DeviceChannel } from '../../contract/capture/device-protocol.ts';
import { nextPlace } from '../../core/capture/session/next-place.ts';
import type { DeviceKind } from '../../core/register/devices.ts';
import type { Needs } from '../base/needs.ts';
import { armsOf } from '../plan/arms.ts';
import {
  armOnCar,
  lastMounting,
  lockSession,
  nextOrder,
  recordingsOf,
  type RecordingRow,
  type SessionRow,
} from './bench-repository.ts';
import { recordings } from './bench-tables.ts';
import { sheetOf } from './repository.ts';

/** What is known of a recording at the moment it begins. */
export interface Beginning {
  /** Its name in the device’s buffer. */ readonly key: string;
  readonly at: Date;
  readonly channels: Partial<Record<DeviceKind, DeviceChannel[]>>;
  readonly clocksOff: Partial<Record<DeviceKind, number>>;
}
/** The armed recording begins, or one that nobody asked for here: somebody began it at the dyno. */
export async function beginRecording(
  { db, newId }: Pick<Needs, 'db' | 'newId'>,
  session: SessionRow,
  { key, at, channels, clocksOff }: Beginning,
): Promise<RecordingRow | undefined> {
  return db.transaction(async (tx) => {
    if (!(await lockSession(tx, session.id))) return undefined;
    const all = await recordingsOf(tx, session.id);
    const there = all.find((r) => r.deviceKey === key);
    if (there) return there;
    const began = {
      state: 'running' as const,
      deviceKey: key,
      order: await nextOrder(tx, session.id),
      beganAt: at,
      mountingId: await lastMounting(tx, session.id),
      channels,
      clocksOff,
    };
    // One that was cut off and is not whole yet makes room.
    await tx
      .update(recordings)
      .set({ state: 'incomplete' })
      .where(and(eq(recordings.sessionId, session.id), eq(recordings.state, 'running')));
    const armed = all.find((r) => r.state === 'armed');
    if (armed) {
      const [row] = await tx.update(recordings).set(began).where(eq(recordings.id, armed.id)).returning();
      return row;
    }
    const next = nextPlace(await sheetOf(tx, session.testId), asDone(all));
    const baseline = (await armsOf(tx, session.testId)).find((a) => a.role === 'baseline')!.key;
    const [row] = await tx
      .insert(recordings)
      .values({
        id: newId(),
        sessionId: session.id,
        pullId: next?.id ?? null,
        // What was said to be on the car, not what the sheet would have there.
        arm: (await armOnCar(tx, session.id)) ?? all.findLast((r) => r.order !== null)?.arm ?? baseline,
        askedAt: at,
        askedBy: session.openedBy,
        ...began,
      })
      .returning();
    return row;
  });
}

export const asDone = (rows: readonly RecordingRow[]) =>
  rows.map((r) => ({
    id: r.id,
    pullId: r.pullId,
    arm: r.arm,
    state: r.state,
    order: r.order,
    mounting: null,
  }));
