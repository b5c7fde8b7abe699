/** How well the air is known goes by the sensors of the day: what comes later says nothing of a session before it. */
import { expect, it } from 'vitest';
import { houseWith } from './house.ts';
import { analysisOf, madeSession, measuredTest } from './made-session.ts';

const { app, manager, operator } = houseWith('manager', 'operator');

it('a sensor calibrated after a session, or taken away after it, leaves its analysis as it is', async () => {
  const id = await measuredTest(app, { manager, operator }, madeSession(830));
  const { dynoId } = app.plan({});
  const numberOf = async (): Promise<number> => (await analysisOf(manager, id)).analysis!.number;
  const enter = async (serial: string, calibratedOn: string): Promise<void> => {
    const sensor = {
      quantity: 'air temperature',
      serial,
      uncertainty: 0.9,
      unit: '°C',
      calibratedOn,
      note: '',
    };
    expect((await manager('POST', `/dynos/${dynoId}/sensors`, sensor)).status).toBeLessThan(300);
  };
  const first = await numberOf();
  await enter('T-1', '2026-11-20');
  expect(await numberOf()).toBe(first);
  // One that was there on the day, entered late, is one that was there.
  await enter('T-2', '2026-10-01');
  expect(await numberOf()).toBe(first + 1);
  // Its newer calibration takes its place today, not on that day; nor does taking it away.
  await enter('T-2', '2026-11-25');
  expect(await numberOf()).toBe(first + 1);
  const { rows } = await app.pool.query<{ id: string }>(
    `select id from sensors where serial = 'T-2' and not removed`,
  );
  expect((await manager('DELETE', `/dynos/${dynoId}/sensors/${rows[0].id}`)).status).toBe(204);
  expect(await numberOf()).toBe(first + 1);
});
