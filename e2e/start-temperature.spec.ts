import { expect, test } from '@playwright/test';
import { ScenarioSchema } from '../bench/capture/scenario.ts';
import { simulateSession } from '../bench/judge/simulate.ts';
import type { TestDetail } from '../contract/overview.ts';
import { scenarioOf } from '../demo/plan/scenario.ts';
import { DEMO_TESTS } from '../demo/plan/tests.ts';
import { asked, choose, enterAs, lockedTest, planLikeTest8 } from './helpers.ts';

test('the planner names the start temperature, and says what it buys', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  const id = await planLikeTest8(page, 'Is it compared by the coolant?');
  await page.goto(`/tests/${id}/plan/edit`);
  const sensor = page.getByLabel('Compared by the start temperature of');
  await choose(sensor, /^coolant/);
  // How many sessions there are depends on what ran before.
  await expect(page.getByText(/No slope is registered \(.+\)|%\/K from \d+ sessions/)).toBeVisible();
  await page.getByRole('button', { name: 'Save the changes' }).click();
  await expect(page.getByText('by the coolant, slope as registered at the lock')).toBeVisible();
  expect((await asked<TestDetail>(page, `/tests/${id}`)).plan.startSensor).toBe('coolant');

  await page.goto('/register/dynos');
  await page.getByRole('link', { name: 'Cell 1' }).click();
  const slopes = page.getByRole('region', { name: 'Slopes of start temperatures' });
  await expect(slopes.getByRole('row').filter({ hasText: 'coolant' }).first()).toContainText(
    /sessions|standard errors|registered/,
  );
});

test('arms that started unequally warm are told where the gain is read, and fail the gate', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const id = await lockedTest(page, { question: 'Did the arms start alike?', startSensor: 'coolant' });
  const scenario = scenarioOf(DEMO_TESTS.find((t) => t.key === 'no gain')!);
  const part = scenario.arms.find((a) => a.role === 'part')!.id;
  const { files, test: made } = simulateSession(
    ScenarioSchema.parse({ ...scenario, seed: 5150, starts: { arms: { [part]: -6 }, lpPerK: -0.3 } }),
  );
  for (const pull of (await asked<TestDetail>(page, `/tests/${id}`)).pulls) {
    const { air } = made.pulls.find((p) => p.id === pull.label)!;
    const path = `/api/tests/${id}/pulls/${pull.id}`;
    const sent = await page.request.post(`${path}/file?name=${pull.label}.csv`, {
      data: `# Of: ${id}\n${files.find((f) => f.path === `pulls/${pull.label}.csv`)!.text}`,
      headers: { 'Content-Type': 'application/octet-stream' },
    });
    expect(sent.status(), await sent.text()).toBe(201);
    const { temperatureC, pressureHpa, humidityPct } = air!;
    const reading = { temperatureC, pressureHpa, humidityValue: humidityPct! };
    expect((await page.request.put(`${path}/air`, { data: reading })).status()).toBe(204);
  }
  await page.goto(`/tests/${id}/compare`);
  const told = page.getByRole('region', { name: 'Start temperature' });
  await expect(told).toContainText(/By the coolant this arm started [56]\.\d K colder\./);
  await expect(told).toContainText('nothing is adjusted');
  await page.getByRole('link', { name: 'See the gates' }).click();
  const row = page.getByRole('listitem').filter({ hasText: 'start temperatures' });
  await expect(row).toContainText('fail');
  await expect(row).toContainText('Wait for the same start temperature before every pull');
  const { analysis } = await asked<{
    analysis: { result: { contrasts: { budget: { source: string }[] }[] } };
  }>(page, `/tests/${id}/analysis`);
  expect(analysis.result.contrasts[0].budget.map((b) => b.source)).toContain('start temperature');
});
