/** A control vehicle beside the car under test, and checks of it with the times their files say. */
import { randomUUID } from 'node:crypto';
import { vehicles } from '../register/tables.ts';
import type { Ask, TestApp } from './app.ts';
import { madeSession, type MadeSession } from './made-session.ts';

/** A file that says when it was recorded, at the site. */
export const recordedAt = (text: string, when: string): Uint8Array =>
  new TextEncoder().encode(`# Recorded at: ${when}\n${text}`);

/** Another car of the fitment, named as the dyno’s control vehicle; its id among them. */
export async function nameControl(app: TestApp, manager: Ask, tag: string): Promise<string> {
  const vehicleId = randomUUID();
  await app.db
    .insert(vehicles)
    .values({ id: vehicleId, fitmentId: app.ids.fitment, tag, odometerKm: 9, wheels: '205/55 R16' });
  const { body, status } = await manager<{ id: string }>('POST', `/dynos/${app.ids.dyno}/control`, {
    vehicleId,
    standard: 'sae-j1349',
    fromRpm: 3000,
    toRpm: 6000,
    gear: '4th',
  });
  if (status !== 201) throw new Error(`not named: ${status}`);
  return body.id;
}

export interface MadeCheck {
  readonly seed: number;
  /** Site time of the first pull: 2026-11-09 07:30. */ readonly when: string;
  /** How far it reads from where it belongs, %. */ readonly off?: number;
  readonly session?: MadeSession;
}
/** Sends the files of a check and enters it; the answer as it came. */
export async function check(ask: Ask, controlId: string, { seed, when, off = 0, session }: MadeCheck) {
  const made = session ?? madeSession(seed, off);
  const [day, time] = when.split(' ');
  const pulls = [];
  for (const [i, label] of ['p4', 'p5', 'p6'].entries()) {
    const minute = `${when.slice(0, -1)}${(Number(when.slice(-1)) + i) % 10}:00`;
    const sent = await ask<{ sha256: string }>(
      'PUT',
      `/control/${controlId}/file?name=${label}.csv`,
      recordedAt(made.textOf(label), minute),
    );
    const { temperatureC, pressureHpa, humidityValue } = made.airOf(label);
    pulls.push({
      sha256: sent.body.sha256,
      name: `${label}.csv`,
      temperatureC,
      pressureHpa,
      humidityPct: humidityValue,
    });
  }
  return ask<{ id: string; error?: { code: string; message: string } }>(
    'POST',
    `/control/${controlId}/checks`,
    { day, time, warmUps: 3, note: '', pulls },
  );
}
