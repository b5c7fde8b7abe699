import { createHash } from 'node:crypto';
import { expect, test } from '@playwright/test';
import type { AnalysisState } from '../contract/judge/analysis.ts';
import type { TestDetail } from '../contract/overview.ts';
import type { Claim } from '../contract/publish/claim.ts';
import { asked, enterAs, leave, read } from './helpers.ts';
import { enter, ownFitment, ownPart, ownTest, ownVehicle } from './own-house.ts';

const fit = (category: 'intake' | 'header', partRevisionId: string) =>
  ({ kind: 'part fitted', category, partRevisionId, settings: {} }) as const;

test('a calibration changed in one arm turns the wording, planned or found on the car afterwards', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const fitmentId = await ownFitment(page, 'Tern 1.8 of the tune');
  const vehicleId = await ownVehicle(page, fitmentId, 'SV-301 Tern, tuned');
  const header = await ownPart(page, fitmentId, 'HD-301', 'Tuned header', 'header');
  const flashed = await page.request.post('/api/calibrations', {
    data: {
      name: 'Header touring',
      revision: '1',
      fileHash: createHash('sha256').update('header touring').digest('hex'),
      fitmentId,
      expectsPartRevisionIds: [],
      fuel: null,
    },
  });
  expect(flashed.status(), await flashed.text()).toBe(201);
  const { id: calibrationId } = (await flashed.json()) as { id: string };

  const alone = await ownTest(page, {
    fitmentId,
    vehicleId,
    changes: [fit('header', header)],
    percent: 6,
    seed: 3011,
  });
  await page.goto(`/tests/${alone}/judge`);
  await expect(page.getByText('The pulls support a claim.')).toBeVisible({ timeout: 60_000 });
  await page.getByRole('link', { name: 'Draft a claim' }).click();
  await expect(page.getByText(/Tuned header, revision A/).first()).toBeVisible();
  await expect(page.getByText(/Header touring/)).toHaveCount(0);

  // The same with a calibration flashed in the part's arm: the part does not need it, so both are named together.
  const both = await ownTest(page, {
    fitmentId,
    vehicleId,
    changes: [fit('header', header), { kind: 'calibration', calibrationId }],
    percent: 6,
    seed: 3012,
  });
  await page.goto(`/tests/${both}/judge`);
  await expect(page.getByText(/claim for the combination only/i).first()).toBeVisible({ timeout: 60_000 });
  await page.getByRole('link', { name: 'Draft a claim' }).click();
  await expect(page.getByText(/Tuned header.*Header touring/).first()).toBeVisible();

  // Flashed on the day without the plan knowing: the claim of the part alone is kept back by name.
  await enter(page, vehicleId, { kind: 'calibration', calibrationId }, '2026-11-20T08:00:00Z');
  await page.goto(`/tests/${alone}/judge`);
  await read(page);
  await expect(
    page.getByText(/By the vehicle’s ledger the baseline on the day of the pulls was/),
  ).toBeVisible({
    timeout: 60_000,
  });
  await expect(page.getByRole('link', { name: 'Draft a claim' })).toHaveCount(0);
});

test('a baseline with a worn filter, which the intake renews, is caught', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  const fitmentId = await ownFitment(page, 'Tern 1.8 of the filter');
  const vehicleId = await ownVehicle(page, fitmentId, 'SV-302 Tern, dusty', '2024-05-01T08:00:00Z');
  const intake = await ownPart(page, fitmentId, 'IN-302', 'Unfiltered intake', 'intake');
  const id = await ownTest(page, {
    fitmentId,
    vehicleId,
    changes: [fit('intake', intake)],
    percent: 6,
    seed: 3021,
  });
  await page.goto(`/tests/${id}/judge`);
  await expect(
    page.getByText(/The baseline was not fresh \(.*air filter.*\), and the part renews just that/),
  ).toBeVisible({
    timeout: 60_000,
  });
  await expect(page.getByRole('link', { name: 'Draft a claim' })).toHaveCount(0);
  // Renewed before the next session, it stands.
  await enter(page, vehicleId, { kind: 'service', item: 'air filter' }, '2026-11-10T08:00:00Z');
  await page.reload();
  await expect(page.getByRole('link', { name: 'Draft a claim' })).toBeVisible({ timeout: 60_000 });
});

test('three vehicles that agree make a fleet, three that do not make none', async ({ page }) => {
  test.slow();
  await enterAs(page, /Maren Holt/);
  const fitmentId = await ownFitment(page, 'Tern 1.8 of the three');
  const cars: string[] = [];
  for (const n of [1, 2, 3]) cars.push(await ownVehicle(page, fitmentId, `SV-31${n} Tern, of three`));
  const alike = await ownPart(page, fitmentId, 'HD-311', 'Tidy header', 'header');
  const uneven = await ownPart(page, fitmentId, 'IN-311', 'Uneven intake', 'intake');
  const run = async (
    change: ReturnType<typeof fit>,
    percents: readonly number[],
    seed: number,
  ): Promise<string> => {
    let last = '';
    for (const [i, percent] of percents.entries())
      last = await ownTest(page, {
        fitmentId,
        vehicleId: cars[i],
        changes: [change],
        percent,
        seed: seed + i,
      });
    return last;
  };
  const agreeing = await run(fit('header', alike), [5, 5.2, 4.9], 3111);
  await page.goto(`/tests/${agreeing}/compare`);
  const together = page.getByRole('region', { name: 'All tests of this part here' });
  await expect(together).toContainText('Three vehicles or more, and their mean stands above zero.', {
    timeout: 60_000,
  });
  await expect(together).toContainText('mean of 3 vehicles');
  await expect(together).toContainText(/Another vehicle is expected between .* %, from few vehicles/);
  const differing = await run(fit('intake', uneven), [6, 0.2, -4], 3121);
  await page.goto(`/tests/${differing}/compare`);
  await expect(together).toContainText('Over these vehicles together no gain is shown', { timeout: 60_000 });
  // The best of the three cannot be published either: it is told that all of them count.
  const { items } = await asked<{ items: { id: string; vehicle: string }[] }>(page, '/tests?limit=200');
  const best = items.find((t) => t.vehicle.startsWith('SV-311') && t.id !== agreeing)!;
  expect(best).toBeDefined();
  const all = await asked<{ sessions: { testId: string; vehicle: string }[] }>(
    page,
    `/tests/${differing}/together`,
  );
  const first = all.sessions.find((s) => s.vehicle.startsWith('SV-311'))!.testId;
  await page.goto(`/tests/${first}/judge`);
  await expect(page.getByText(/All tests of this change together show no gain/)).toBeVisible({
    timeout: 60_000,
  });
  await expect(page.getByRole('link', { name: 'Draft a claim' })).toHaveCount(0);
});

test('a part registered once more, under nearly the same name, does not lose its tests before who reviews', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const fitmentId = await ownFitment(page, 'Tern 1.8 of the twins');
  const vehicleId = await ownVehicle(page, fitmentId, 'SV-331 Tern, of the twins');
  const of = (revisionId: string, percent: number, seed: number): Promise<string> =>
    ownTest(page, { fitmentId, vehicleId, changes: [fit('header', revisionId)], percent, seed });
  await of(await ownPart(page, fitmentId, 'HD-331', 'Even header', 'header'), 0, 3311);
  const id = await of(await ownPart(page, fitmentId, 'HD-332', 'Even header, mark 2', 'header'), 6, 3312);
  await page.goto(`/tests/${id}/judge`);
  const reads = /Something much like this reads less .* of “Even header” by the same maker/;
  await expect(page.getByText(reads)).toBeVisible({ timeout: 60_000 });

  // The claim names what was tested; the house sees what stands beside it.
  const { plan } = await asked<TestDetail>(page, `/tests/${id}`);
  const { analysis } = await asked<AnalysisState>(page, `/tests/${id}/analysis`);
  const drafted = await page.request.post(`/api/tests/${id}/claims`, {
    data: { analysisId: analysis!.id, metric: plan.metrics[0], unit: '%' },
  });
  expect(drafted.status(), await drafted.text()).toBe(201);
  const claim = (await drafted.json()) as Claim;
  expect(JSON.stringify(claim)).not.toContain('by the same maker');
  expect((await page.request.post(`/api/claims/${claim.id}/submit`)).ok()).toBe(true);
  await leave(page);
  await enterAs(page, /Ines Calloway/);
  await page.goto(`/claims/${claim.id}`);
  await expect(page.getByText(reads)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Approve and publish' })).toBeEnabled();
  await page.getByRole('button', { name: 'Return with a reason' }).click();
  await page.getByRole('dialog').getByRole('textbox').fill('Is it the same header?');
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /Return/ })
    .click();
  await expect(page.getByText('Is it the same header?')).toBeVisible();
});
