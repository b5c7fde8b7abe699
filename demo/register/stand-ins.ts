import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { DEVICE_KINDS } from '../../core/register/devices.ts';
import type { Db } from '../../server/base/db.ts';
import { dynoDevices, dynos } from '../../server/register/tables.ts';
import { DEMO_DYNOS } from './vehicles.ts';

const Ports = z.record(z.enum(DEVICE_KINDS), z.number());
const HERE = '127.0.0.1';

/**
 * Names the stand-ins that run beside this demo as the devices of its own dyno. Devices somebody named elsewhere stay.
 * @param said ports by kind of device, as JSON
 */
export async function nameStandIns(db: Db, said: string): Promise<void> {
  const ports = Ports.parse(JSON.parse(said));
  const name = DEMO_DYNOS[0].name;
  await db.transaction(async (tx) => {
    const [dyno] = await tx.select({ id: dynos.id }).from(dynos).where(eq(dynos.name, name));
    if (!dyno) return;
    const there = await tx.select().from(dynoDevices).where(eq(dynoDevices.dynoId, dyno.id));
    if (there.some((d) => d.host !== HERE)) return;
    await tx.delete(dynoDevices).where(eq(dynoDevices.dynoId, dyno.id));
    await tx
      .insert(dynoDevices)
      .values(DEVICE_KINDS.map((kind) => ({ dynoId: dyno.id, kind, host: HERE, port: ports[kind] })));
  });
}
