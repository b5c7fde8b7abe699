/** Cars, parts and measured tests of a spec's own, so that nothing of the demo is touched. */
import { expect, type Page } from '@playwright/test';
import { ScenarioSchema } from '../bench/capture/scenario.ts';
import { simulateSession } from '../bench/judge/simulate.ts';
import type { LedgerChange } from '../core/register/ledger.ts';
import { asked } from './helpers.ts';
import { capture } from './measured.ts';

async function made(page: Page, path: string, data: unknown): Promise<{ id: string }> {
  const answer = await page.request.post(`/api${path}`, { data });
  expect(answer.status(), await answer.text()).toBe(201);
  return (await answer.json()) as { id: string };
}

/** A fitment like the Tern under another model name; no other test looks at it. */
export async function ownFitment(page: Page, model: string): Promise<string> {
  const { items } = await asked<{ items: { id: string }[] }>(page, '/fitments?q=Tern');
  const { fitment } = await asked<{ fitment: Record<string, unknown> }>(page, `/fitments/${items[0].id}`);
  const { id: _id, slug: _slug, version: _version, ...fields } = fitment;
  return (
    await made(page, '/fitments', {
      ...fields,
      // Behind all others wherever makers stand in order: no list of the demo moves.
      maker: 'Wexley',
      model,
      family: model,
      unitsPerYear: 1,
    })
  ).id;
}
/** A car of a fitment with a ledger: serviced, tyres and fuel written down. */
export async function ownVehicle(
  page: Page,
  fitmentId: string,
  tag: string,
  serviced = '2026-11-01T08:00:00Z',
): Promise<string> {
  const { id } = await made(page, '/vehicles', {
    fitmentId,
    tag,
    // No two cars have run as far as each other.
    odometerKm: 1000 * Number(/\d+/.exec(tag)![0]),
    wheels: '205/55 R16',
    finalDrive: 4.06,
    gears: [{ name: '4th', ratio: 1 }],
  });
  for (const item of ['air filter', 'oil', 'spark plugs'] as const)
    await enter(page, id, { kind: 'service', item }, serviced);
  await enter(page, id, { kind: 'tyres', text: '205/55 R16' }, '2026-11-01T08:00:00Z');
  await enter(page, id, { kind: 'fuel', text: '95 RON pump' }, '2026-11-01T08:00:00Z');
  return id;
}
export async function enter(page: Page, vehicleId: string, change: LedgerChange, at: string): Promise<void> {
  const answer = await page.request.post(`/api/vehicles/${vehicleId}/ledger`, {
    data: { at, change, odometerKm: null, note: '' },
  });
  expect(answer.status(), await answer.text()).toBe(204);
}
/** A dyno like Cell 1 under another name, on which nothing was measured. */
export async function ownDyno(page: Page, name: string): Promise<string> {
  const { dynos } = await asked<{ dynos: Record<string, unknown>[] }>(page, '/register');
  const like = dynos.find((d) => d.name === 'Cell 1')!;
  return (await made(page, '/dynos', { ...like, name, validFrom: null })).id;
}
/** A part listed for a fitment; the id of its revision. */
export async function ownPart(
  page: Page,
  fitmentId: string,
  sku: string,
  name: string,
  category: string,
): Promise<string> {
  const { id } = await made(page, '/parts', {
    part: { sku, maker: 'Wexley', name, category },
    revision: { revision: 'A' },
    fitmentIds: [fitmentId],
  });
  const { revisions } = await asked<{ revisions: { id: string }[] }>(page, `/parts/${id}`);
  return revisions[0].id;
}

export interface OwnTest {
  readonly fitmentId: string;
  readonly vehicleId: string;
  readonly changes: readonly LedgerChange[];
  readonly percent: number;
  readonly seed: number;
}
/** Plans, locks and captures an A-B-A on Cell 1; its id. */
export async function ownTest(
  page: Page,
  { fitmentId, vehicleId, changes, percent, seed }: OwnTest,
): Promise<string> {
  const { dynos } = await asked<{ dynos: { id: string; name: string }[] }>(page, '/register');
  const { id } = await made(page, '/tests', {
    question: 'What does it give on this car?',
    fitmentId,
    vehicleId,
    dynoId: dynos.find((d) => d.name === 'Cell 1')!.id,
    band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
    metrics: ['bandAverage'],
    protocol: 'A-B-A',
    order: ['stock', 'part', 'stock'],
    pullsPerRun: 3,
    warmUps: 3,
    remount: false,
    gear: '4th',
    fuel: '95 RON pump',
    arms: [
      { key: 'stock', label: 'stock', role: 'baseline', from: null, changes: [] },
      { key: 'part', label: 'part', role: 'part', from: null, changes },
    ],
  });
  expect((await page.request.post(`/api/tests/${id}/lock`)).status()).toBe(204);
  const session = simulateSession(
    ScenarioSchema.parse({
      format: 'evidentia-scenario/1',
      seed,
      title: 'own test',
      engine: 'na4',
      band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
      noise: { level: 0.3, slow: 0.2, quick: 0.2 },
      arms: [
        { id: 'stock', role: 'baseline' },
        { id: 'part', role: 'part', effect: [{ kind: 'constant', percent }] },
      ],
      protocol: { order: ['stock', 'part', 'stock'], pulls: 3, warmUps: 3 },
    }),
  );
  await capture(page, id, session);
  return id;
}
