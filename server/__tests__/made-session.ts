/** A simulated A-B-A with a clear gain, and how its pulls are captured over HTTP. */
import { ScenarioSchema } from '../../bench/capture/scenario.ts';
import { simulateSession } from '../../bench/judge/simulate.ts';
import type { AnalysisState } from '../../contract/judge/analysis.ts';
import type { TestDetail } from '../../contract/overview.ts';
import type { Claim } from '../../contract/publish/claim.ts';
import type { Ask, TestApp } from './app.ts';

/** @param more what else a scenario may say */
export function madeSession(
  seed: number,
  percent = 7,
  order = ['stock', 'part', 'stock'],
  more: Record<string, unknown> = {},
) {
  const session = simulateSession(
    ScenarioSchema.parse({
      format: 'evidentia-scenario/1',
      seed,
      title: 'made',
      engine: 'na4',
      band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
      noise: { level: 0.4, slow: 0.2, quick: 0.2 },
      arms: [
        { id: 'stock', role: 'baseline' },
        { id: 'part', role: 'part', effect: [{ kind: 'constant', percent }] },
      ],
      protocol: { order },
      ...more,
    }),
  );
  const textOf = (label: string): string => session.files.find((f) => f.path === `pulls/${label}.csv`)!.text;
  return {
    textOf,
    bytesOf: (label: string): Uint8Array => new TextEncoder().encode(textOf(label)),
    airOf: (label: string) => {
      const air = session.test.pulls.find((p) => p.id === label)!.air!;
      return {
        temperatureC: air.temperatureC,
        pressureHpa: air.pressureHpa,
        humidityValue: air.humidityPct!,
      };
    },
  };
}
export type MadeSession = ReturnType<typeof madeSession>;

export const detailOf = async (ask: Ask, id: string): Promise<TestDetail> =>
  (await ask<TestDetail>('GET', `/tests/${id}`)).body;
export const analysisOf = async (ask: Ask, id: string): Promise<AnalysisState> =>
  (await ask<AnalysisState>('GET', `/tests/${id}/analysis`)).body;

/**
 * Makes a test, locks it, and captures every counted pull but those left out here.
 * @param samePart of the part that was tested last; a part of its own where it is left out
 */
export async function measuredTest(
  app: TestApp,
  { manager, operator }: { manager: Ask; operator: Ask },
  session: MadeSession,
  {
    plan = {},
    without = [],
    samePart = false,
  }: { plan?: Record<string, unknown>; without?: readonly string[]; samePart?: boolean } = {},
): Promise<string> {
  await app.anotherPart(samePart);
  const made = await manager<{ id: string; error?: { message: string } }>('POST', '/tests', app.plan(plan));
  if (made.status !== 201) throw new Error(made.body.error?.message ?? `status ${made.status}`);
  const { id } = made.body;
  const locked = await manager('POST', `/tests/${id}/lock`);
  if (locked.status !== 204) throw new Error(`not locked: ${locked.status}`);
  for (const pull of (await detailOf(manager, id)).pulls.filter((p) => p.counted)) {
    if (without.includes(pull.label)) continue;
    await attach(operator, id, pull.id, session.bytesOf(pull.label), `${pull.label}.csv`);
    await operator('PUT', `/tests/${id}/pulls/${pull.id}/air`, session.airOf(pull.label));
  }
  return id;
}

export const attach = (ask: Ask, testId: string, pullId: string, bytes: Uint8Array, name = 'pull.csv') =>
  ask<{ error?: { code: string; message: string } }>(
    'POST',
    `/tests/${testId}/pulls/${pullId}/file?name=${encodeURIComponent(name)}`,
    bytes,
  );

/** Drafts a claim from the present analysis; the answer as it came. */
export const draft = async (ask: Ask, testId: string, change: Record<string, unknown> = {}) => {
  const { analysis } = await analysisOf(ask, testId);
  return ask<Claim & { error?: { code: string; message: string } }>('POST', `/tests/${testId}/claims`, {
    analysisId: analysis!.id,
    metric: 'upTo',
    unit: 'kW',
    ...change,
  });
};

/** A published claim of a test. */
export async function publish(
  { manager, reviewer }: { manager: Ask; reviewer: Ask },
  testId: string,
  change: Record<string, unknown> = {},
): Promise<Claim> {
  const { body, status } = await draft(manager, testId, change);
  if (status !== 201) throw new Error(`${body.error?.code}: ${body.error?.message}`);
  await manager('POST', `/claims/${body.id}/submit`);
  const approved = await reviewer<{ error?: { message: string } }>('POST', `/claims/${body.id}/approve`);
  if (approved.status !== 204) throw new Error(approved.body.error?.message ?? `${approved.status}`);
  return body;
}
