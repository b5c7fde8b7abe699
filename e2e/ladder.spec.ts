import { expect, test } from '@playwright/test';
import { ScenarioSchema } from '../bench/capture/scenario.ts';
import { simulateSession } from '../bench/judge/simulate.ts';
import type { TestDetail, TestPage } from '../contract/overview.ts';
import { asked, enterAs } from './helpers.ts';

test('a ladder tells each stage over the one before, and lets nobody claim it for the part alone', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const { items } = await asked<TestPage>(page, '/tests?limit=100');
  const like = await asked<TestDetail>(page, `/tests/${items.find((t) => t.protocol === 'ladder')!.id}`);
  const arms = like.arms.map(({ key, label, role, from, changes }) => ({ key, label, role, from, changes }));
  const made = await page.request.post('/api/tests', {
    data: {
      ...like.plan,
      question: 'What does each stage give over the one before?',
      fitmentId: like.fitment.id,
      vehicleId: like.vehicle.id,
      dynoId: like.dyno.id,
      arms,
      // The shop's own list is not lengthened.
      partnerId: null,
      pullsPerRun: 3,
      warmUps: 0,
      remount: false,
    },
  });
  expect(made.status(), await made.text()).toBe(201);
  const { id } = (await made.json()) as { id: string };
  expect((await page.request.post(`/api/tests/${id}/lock`)).status()).toBe(204);
  const { fromRpm, toRpm } = like.plan.band;
  const session = simulateSession(
    ScenarioSchema.parse({
      format: 'evidentia-scenario/1',
      seed: 6211,
      title: `ladder ${id}`,
      engine: like.fitment.aspiration === 'natural' ? 'na4' : 'turbo3',
      band: { fromRpm, toRpm, stepRpm: 50 },
      noise: { level: 0.3, slow: 0.2, quick: 0.2 },
      arms: arms.map(({ key, role }, i) => ({
        id: key,
        role,
        effect: role === 'part' ? [{ kind: 'constant', percent: 3 * i }] : [],
      })),
      protocol: { order: like.plan.order, pulls: 3, warmUps: 0 },
    }),
  );
  for (const pull of (await asked<TestDetail>(page, `/tests/${id}`)).pulls) {
    const path = `/api/tests/${id}/pulls/${pull.id}`;
    const sent = await page.request.post(`${path}/file?name=${pull.label}.csv`, {
      data: session.files.find((f) => f.path === `pulls/${pull.label}.csv`)!.text,
      headers: { 'Content-Type': 'application/octet-stream' },
    });
    expect(sent.status(), await sent.text()).toBe(201);
    const { temperatureC, pressureHpa, humidityPct } = session.test.pulls.find(
      (p) => p.id === pull.label,
    )!.air!;
    const reading = { temperatureC, pressureHpa, humidityValue: humidityPct! };
    expect((await page.request.put(`${path}/air`, { data: reading })).status()).toBe(204);
  }
  await page.goto(`/tests/${id}/compare`);
  const stages = page.getByRole('region', { name: 'Each stage over the one before, table' });
  const parts = arms.filter((a) => a.role === 'part');
  await expect(stages.getByRole('row')).toHaveCount(parts.length);
  for (const [i, part] of parts.slice(1).entries()) {
    const row = stages.getByRole('row').nth(i + 1);
    await expect(row).toContainText(part.label);
    await expect(row).toContainText(parts[i].label);
    await expect(row).toContainText(/[+−]\d\.\d %/);
  }
  await expect(page.getByText('stages do not add up')).toBeVisible();
});
