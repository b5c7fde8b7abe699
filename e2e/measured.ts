import { expect, type Page } from '@playwright/test';
import type { SimulatedSession } from '../bench/judge/simulate.ts';
import type { TestDetail } from '../contract/overview.ts';
import { asked } from './helpers.ts';

/** Sends every counted pull of a simulated session with its air, as whoever is signed in. */
export async function capture(page: Page, testId: string, session: SimulatedSession): Promise<void> {
  const { pulls } = await asked<TestDetail>(page, `/tests/${testId}`);
  for (const pull of pulls.filter((p) => p.counted)) {
    const path = `/api/tests/${testId}/pulls/${pull.id}`;
    const sent = await page.request.post(`${path}/file?name=${pull.label}.csv`, {
      data: session.files.find((f) => f.path === `pulls/${pull.label}.csv`)!.text,
      headers: { 'Content-Type': 'application/octet-stream' },
    });
    expect(sent.status(), await sent.text()).toBe(201);
    const { air } = session.test.pulls.find((p) => p.id === pull.label)!;
    const { temperatureC, pressureHpa, humidityPct } = air!;
    const reading = { temperatureC, pressureHpa, humidityValue: humidityPct! };
    expect((await page.request.put(`${path}/air`, { data: reading })).status()).toBe(204);
  }
}
