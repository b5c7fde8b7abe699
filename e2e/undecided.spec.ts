import { expect, test } from '@playwright/test';
import { simulateSession, type SimulatedSession } from '../bench/judge/simulate.ts';
import type { AnalysisState } from '../contract/judge/analysis.ts';
import type { ClaimDetail } from '../contract/publish/claim.ts';
import type { TestDetail } from '../contract/overview.ts';
import { scenarioOf } from '../demo/plan/scenario.ts';
import { DEMO_TESTS } from '../demo/plan/tests.ts';
import { asked, choose, enterAs, leave, openTest } from './helpers.ts';
import { capture } from './measured.ts';

test('what would decide a test is a plan of its own, run to a verdict, which an entry in the ledger takes back', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await openTest(page, 5, 'Judge');
  await expect(page.getByRole('heading', { name: 'What would decide it' })).toBeVisible();
  await expect(page.getByText(/% chance: A-B-(B-)?A, \d+ pulls a run/).first()).toBeVisible();
  await expect(page.getByText('More pulls alone do not mend: factor.')).toBeVisible();
  await page.getByRole('link', { name: 'Plan it' }).first().click();
  await expect(page.getByRole('heading', { name: 'Plan a new test' })).toBeVisible();
  await expect(page.getByLabel('What is the test to show?')).toHaveValue(/Again after test 5\.$/);
  // The site lies high: the standard that the first session failed by is changed with it.
  await choose(page.getByLabel('Standard'), 'DIN 70020');
  await page.getByRole('button', { name: 'Save the plan' }).click();
  await expect(page.getByText('The plan is saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Lock the plan' }).click();
  await page.getByRole('button', { name: 'Lock it' }).click();
  await expect(page.getByText(/Locked .* by Maren Holt/)).toBeVisible();
  // Run, it comes to a verdict.
  const id = /tests\/([0-9a-f-]{36})/.exec(page.url())![1];
  const { plan } = await asked<TestDetail>(page, `/tests/${id}`);
  await capture(page, id, sessionLike(plan));
  await page.goto(`/tests/${id}/judge`);
  await expect(page.getByRole('link', { name: 'Draft a claim' })).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('The pulls support a claim.')).toBeVisible();
  // A claim of it stands until somebody writes down that the car was another on that day.
  const { analysis } = await asked<AnalysisState>(page, `/tests/${id}/analysis`);
  const metric = plan.metrics[0];
  const drafted = await page.request.post(`/api/tests/${id}/claims`, {
    data: { analysisId: analysis!.id, metric, unit: '%', answer: 'Nothing of it touches the test.' },
  });
  expect(drafted.status(), await drafted.text()).toBe(201);
  const claim = (await drafted.json()) as { id: string };
  await page.request.post(`/api/claims/${claim.id}/submit`);
  await leave(page);
  await enterAs(page, /Ines Calloway/);
  await page.goto(`/claims/${claim.id}`);
  await page.getByRole('button', { name: 'Approve and publish' }).click();
  await page.getByRole('button', { name: 'Publish it' }).click();
  await expect(page.getByText(/^Published .* approved by Ines Calloway/)).toBeVisible();
  await leave(page);
  await enterAs(page, /Maren Holt/);
  const { vehicle } = await asked<TestDetail>(page, `/tests/${id}`);
  await page.goto(`/register/vehicles/${vehicle.id}`);
  await page.getByRole('button', { name: 'Write an entry' }).click();
  await choose(page.getByLabel('What', { exact: true }), 'A part was fitted');
  await choose(page.getByLabel('Part', { exact: true }), { index: 1 });
  await page.getByLabel('Done: day').fill('20 Nov 2026');
  await page.getByLabel('Done: time').fill('09:00');
  await page.getByLabel('Odometer, km').fill('44900');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expect
    .poll(async () => (await asked<ClaimDetail>(page, `/claims/${claim.id}`)).claim.state, {
      timeout: 60_000,
    })
    .toBe('stale');
  await page.goto(`/claims/${claim.id}`);
  await expect(page.getByText(/^Since publication .*ledger/)).toBeVisible();
  await page.goto('/corrections?why=evidence');
  await expect(page.getByRole('list', { name: 'Corrections' })).toContainText('its evidence changed');
  // Another way, on two days, is one plan of two visits.
  await openTest(page, 5, 'Judge');
  await expect(page.getByRole('heading', { name: 'Other ways with 90 %' })).toBeVisible();
  const twoDays = page.getByRole('listitem').filter({ hasText: 'on each of two days' });
  await twoDays.getByRole('link', { name: 'Plan it' }).click();
  await expect(page.getByRole('radio', { name: 'Repeat on another day or dyno' })).toBeChecked();
  // A result that is a result is not asked for more: it says so instead.
  await openTest(page, 2, 'Judge');
  await expect(page.getByText(/No session of up to 12 pulls a run/)).toBeVisible();
  await expect(page.getByRole('link', { name: 'Plan it' })).toHaveCount(0);
});

/** What the demo's bench writes of the downpipe, in the order and with the pulls of another plan. */
function sessionLike({ order, pullsPerRun, warmUps }: TestDetail['plan']): SimulatedSession {
  const scenario = scenarioOf(DEMO_TESTS.find((t) => t.key === 'no return to baseline')!);
  return simulateSession({
    ...scenario,
    seed: 5512,
    protocol: { ...scenario.protocol, order, pulls: pullsPerRun, warmUps },
  });
}
