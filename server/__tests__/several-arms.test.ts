/** A test of two settings over HTTP: captured, judged arm by arm, claimed for one of them, amended under the claim. */
import { beforeAll, describe, expect, it } from 'vitest';
import { ScenarioSchema } from '../../bench/capture/scenario.ts';
import { simulateSession } from '../../bench/judge/simulate.ts';
import { readTestFile } from '../../contract/judge/test-file.ts';
import type { AnalysisState } from '../../contract/judge/analysis.ts';
import type { TestDetail } from '../../contract/overview.ts';
import type { CatalogueFitment, Claim, Evidence } from '../../contract/publish/claim.ts';
import type { Coverage } from '../../contract/publish/coverage.ts';
import type { Part, PartDetail } from '../../contract/register/register.ts';
import { analyseTest, isRefused } from '../../core/judge/analyse-test.ts';
import { claimRounded } from '../../core/base/rounding.ts';
import { outcomeOf } from '../../core/judge/verdict.ts';
import { houseWith } from './house.ts';

const session = simulateSession(
  ScenarioSchema.parse({
    format: 'evidentia-scenario/1',
    seed: 909,
    title: 'insert',
    engine: 'v6',
    band: { fromRpm: 2400, toRpm: 6000, stepRpm: 50 },
    noise: { level: 0.35, slow: 0.2, quick: 0.2 },
    roller: { startRpm: 1800 },
    arms: [
      { id: 'stock', role: 'baseline' },
      { id: 'out', role: 'part', effect: [{ kind: 'constant', percent: 5 }] },
      { id: 'in', role: 'part', effect: [] },
    ],
    protocol: { order: ['stock', 'out', 'in', 'stock'] },
  }),
);
const bytesOf = (label: string): Uint8Array =>
  new TextEncoder().encode(session.files.find((f) => f.path === `pulls/${label}.csv`)!.text);

const { app, manager, operator, reviewer } = houseWith('manager', 'operator', 'reviewer');
let id: string, partId: string, claim: Claim;
beforeAll(async () => {
  partId = (
    await manager<Part>('POST', '/parts', {
      part: { sku: 'TX-1', maker: 'M', name: 'Two-way exhaust', category: 'exhaust section' },
      revision: { revision: 'A', options: [{ name: 'insert', settings: ['out', 'in'] }] },
    })
  ).body.id;
  const revisionId = (await manager<PartDetail>('GET', `/parts/${partId}`)).body.revisions[0].id;
  await manager('PUT', '/applications', { partId, fitmentIds: [app.ids.fitment], fits: true });
  const arm = (key: string) => ({
    key,
    label: `insert ${key}`,
    role: 'part',
    from: null,
    changes: [
      {
        kind: 'part fitted',
        category: 'exhaust section',
        partRevisionId: revisionId,
        settings: { insert: key },
      },
    ],
  });
  id = (
    await manager<{ id: string }>(
      'POST',
      '/tests',
      app.plan({
        protocol: 'options',
        metrics: ['bandAverage', 'upTo'],
        band: { fromRpm: 2400, toRpm: 6000, stepRpm: 50 },
        arms: [
          { key: 'stock', label: 'stock', role: 'baseline', from: null, changes: [] },
          arm('out'),
          arm('in'),
        ],
        order: ['stock', 'out', 'in', 'stock'],
      }),
    )
  ).body.id;
  await manager('POST', `/tests/${id}/lock`);
  for (const pull of (await manager<TestDetail>('GET', `/tests/${id}`)).body.pulls.filter((p) => p.counted)) {
    const { air } = session.test.pulls.find((p) => p.id === pull.label)!;
    await operator('POST', `/tests/${id}/pulls/${pull.id}/file?name=${pull.label}.csv`, bytesOf(pull.label));
    await operator('PUT', `/tests/${id}/pulls/${pull.id}/air`, {
      temperatureC: air!.temperatureC,
      pressureHpa: air!.pressureHpa,
      humidityValue: air!.humidityPct,
    });
  }
});
const state = async (): Promise<AnalysisState> =>
  (await manager<AnalysisState>('GET', `/tests/${id}/analysis`)).body;

describe('two settings in one test', () => {
  it('are analysed as the core does from the same files, each with its own outcome', async () => {
    const { result } = (await state()).analysis!;
    const own = analyseTest({ ...readTestFile(session.test), metrics: ['bandAverage', 'upTo'] }, (f) =>
      bytesOf(/p\d+/.exec(f)![0]),
    ).result;
    result.contrasts.forEach((contrast, i) => {
      const other = own.contrasts[i];
      if (isRefused(contrast) || isRefused(other)) throw new Error('refused');
      expect(contrast.relative.bandAverage).toEqual(other.relative.bandAverage);
    });
    expect(outcomeOf(result.findings, 'out').verdict).toBe('claim');
    expect(outcomeOf(result.findings, 'in').verdict).toBe('no gain shown');
  });
  it('only the one that shows a gain is claimed, in a metric the plan names, by its own name', async () => {
    const { analysis } = await state();
    const draft = (change: object) =>
      manager<Claim & { error: { code: string } }>('POST', `/tests/${id}/claims`, {
        analysisId: analysis!.id,
        arm: 'out',
        metric: 'bandAverage',
        unit: '%',
        ...change,
      });
    expect((await draft({ arm: 'in' })).body.error.code).toBe('NOT_CLAIMABLE');
    expect((await draft({ arm: 'nobody' })).status).toBe(404);
    expect((await draft({ metric: 'peakToPeak' })).body.error.code).toBe('METRIC_NOT_PLANNED');
    claim = (await draft({})).body;
    const contrast = analysis!.result.contrasts.find((c) => c.arm === 'out')!;
    if (isRefused(contrast)) throw new Error('refused');
    expect(claim).toMatchObject({
      arm: 'out',
      armLabel: 'insert out',
      value: claimRounded(contrast.relative.bandAverage.lower, '%'),
    });
    expect(claim.conditions[0]).toBe(
      'Two-way exhaust, revision A (insert out) against stock on Made Up, 100 kW',
    );
    // The other metric is another claim; the same again is not.
    expect((await draft({ metric: 'upTo', unit: 'kW' })).status).toBe(201);
    expect((await draft({})).body.error.code).toBe('DRAFTED_ALREADY');
  });
  it('is published with its own curve, and computes to the same number outside', async () => {
    await manager('POST', `/claims/${claim.id}/submit`);
    expect((await reviewer('POST', `/claims/${claim.id}/approve`)).status).toBe(204);
    const evidence = (await app.nobody<Evidence>('GET', `/evidence/${claim.code}`)).body;
    expect(evidence.claim).toMatchObject({ arm: 'out' });
    expect(Math.min(...evidence.curve.gain)).toBeGreaterThan(2);
    const outside = analyseTest(
      readTestFile((await app.nobody('GET', `/evidence/${claim.code}/test.json`)).body),
      (f) => bytesOf(/p\d+/.exec(f)![0]),
    ).result.contrasts.find((c) => c.arm === 'out')!;
    if (isRefused(outside)) throw new Error('refused');
    expect(claimRounded(outside.relative.bandAverage.lower, '%')).toBe(claim.value);
  });
  it('stands in coverage as published, with the ribbon of the arm that is', async () => {
    const { rows } = (await manager<Coverage>('GET', '/coverage')).body;
    const cell = rows.find((r) => r.id === app.ids.fitment)!.cells.find((c) => c.partId === partId)!;
    expect(cell).toMatchObject({ state: 'published', testId: id, tests: 1 });
    expect(Math.min(...cell.glyph!.gain)).toBeGreaterThan(2);
  });
  it('an amendment under the claim makes it stale, in public and with the reason', async () => {
    expect(
      (
        await manager('POST', `/tests/${id}/amendments`, {
          reason: 'The oil target was too high for this car.',
          changes: { controls: [{ quantity: 'oil', target: 90, tolerance: 5, unit: '°C' }] },
        })
      ).status,
    ).toBe(204);
    const { former, claims } = (await app.nobody<CatalogueFitment>('GET', '/catalogue/made-up-one')).body;
    expect(claims).toEqual([]);
    expect(former).toMatchObject([
      { code: claim.code, state: 'stale', staleReason: 'Since publication the plan was amended (controls).' },
    ]);
    // What was approved stays as it was; what came later is said beside it.
    const { amendments, since } = (await app.nobody<Evidence>('GET', `/evidence/${claim.code}`)).body;
    expect(amendments).toEqual([]);
    expect(since).toEqual([expect.stringContaining('The oil target was too high for this car.')]);
  });
  it('a claim drafted afterwards tells of the amendment', async () => {
    const { analysis } = await state();
    expect(analysis!.number).toBe(2);
    const again = (
      await manager<Claim>('POST', `/tests/${id}/claims`, {
        analysisId: analysis!.id,
        arm: 'out',
        metric: 'bandAverage',
        unit: '%',
      })
    ).body;
    expect(again.disclosures).toContainEqual(
      'The plan was amended after the first pull (controls), with the reason on record.',
    );
    expect(again.value).toBe(claim.value);
  });
  it('a late amendment of what is claimed leaves nothing to claim', async () => {
    await manager('POST', `/tests/${id}/amendments`, {
      reason: 'The lower half is what matters after all.',
      changes: { band: { fromRpm: 2400, toRpm: 4600, stepRpm: 50 } },
    });
    const { analysis } = await state();
    expect(outcomeOf(analysis!.result.findings, 'out')).toMatchObject({ grade: 'indicative' });
    expect(
      (
        await manager<{ error: { code: string } }>('POST', `/tests/${id}/claims`, {
          analysisId: analysis!.id,
          arm: 'out',
          metric: 'bandAverage',
          unit: '%',
        })
      ).body.error.code,
    ).toBe('NOT_CLAIMABLE');
  });
});
