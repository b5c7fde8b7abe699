import { expect, test, type Page } from '@playwright/test';
import { ScenarioSchema } from '../bench/capture/scenario.ts';
import { simulateSession } from '../bench/judge/simulate.ts';
import type { AnalysisState } from '../contract/judge/analysis.ts';
import type { TestDetail, TestPage } from '../contract/overview.ts';
import { asked, enterAs, idOfTest } from './helpers.ts';
import { capture } from './measured.ts';

/** A test of a protocol’s plan, all pulls run on one mounting, with so much given by its arms in turn. */
async function measured(
  page: Page,
  {
    protocol,
    about = '',
    question,
    seed,
    percents,
    warmUps = 0,
  }: {
    protocol: string;
    about?: string;
    question: string;
    seed: number;
    percents: readonly number[];
    warmUps?: number;
  },
): Promise<string> {
  const { items } = await asked<TestPage>(page, '/tests?limit=100');
  const like = await asked<TestDetail>(
    page,
    `/tests/${items.find((t) => t.protocol === protocol && t.title.includes(about))!.id}`,
  );
  const arms = like.arms.map(({ key, label, role, from, changes }) => ({ key, label, role, from, changes }));
  const made = await page.request.post('/api/tests', {
    data: {
      ...like.plan,
      question,
      fitmentId: like.fitment.id,
      vehicleId: like.vehicle.id,
      dynoId: like.dyno.id,
      arms,
      // The shop's own list is not lengthened.
      partnerId: null,
      pullsPerRun: 3,
      warmUps,
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
      seed,
      title: `${protocol} ${id}`,
      engine: like.fitment.aspiration === 'natural' ? 'na4' : 'turbo3',
      band: { fromRpm, toRpm, stepRpm: 50 },
      noise: { level: 0.3, slow: 0.2, quick: 0.2 },
      arms: arms.map(({ key, role }, i) => ({
        id: key,
        role,
        effect: role === 'part' ? [{ kind: 'constant', percent: percents[i - 1] }] : [],
      })),
      protocol: { order: like.plan.order, pulls: 3, warmUps },
    }),
  );
  await capture(page, id, session);
  return id;
}

test('a ladder tells each stage over the one before, and lets nobody claim it for the part alone', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const id = await measured(page, {
    protocol: 'ladder',
    question: 'What does each stage give over the one before?',
    seed: 6211,
    percents: [3, 6, 9],
  });
  await page.goto(`/tests/${id}/compare`);
  const stages = page.getByRole('region', { name: 'Each stage over the one before, table' });
  const { arms } = await asked<TestDetail>(page, `/tests/${id}`);
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

test('a sweep of pulleys tells the trend, and that the best of them needs a confirming test', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const id = await measured(page, {
    protocol: 'options',
    about: 'pulley',
    question: 'Which pulley gives most?',
    seed: 6212,
    percents: [8, 12, 16],
    warmUps: 3,
  });
  await page.goto(`/tests/${id}/compare`);
  const between = page.getByRole('region', { name: 'The parts against each other' }).first();
  await expect(between).toContainText(/From 80 to 92 mm of pulley: −\d\.\d %/);
  await expect(between).toContainText('through 3 settings');
  await expect(between).toContainText('it needs a confirming test of its own');

  // The best was picked by its result: nobody publishes it from this test, and its own test is one press away.
  const { arms, plan } = await asked<TestDetail>(page, `/tests/${id}`);
  const parts = arms.filter((a) => a.role === 'part');
  const [metric] = plan.metrics;
  const { analysis } = await asked<AnalysisState>(page, `/tests/${id}/analysis`);
  const draftOf = async (arm: string) =>
    page.request.post(`/api/tests/${id}/claims`, {
      data: { analysisId: analysis!.id, arm, metric, unit: '%', answer: 'Nothing of it touches the test.' },
    });
  const refused = await draftOf(parts[2].key);
  expect(await refused.json()).toMatchObject({ error: { code: 'BEST_OF_SEVERAL' } });
  await page.goto(`/tests/${id}/judge?arm=${parts[2].key}`);
  await expect(page.getByText('needs a confirming test', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Plan its confirming test' }).click();
  await expect(page.getByLabel('What is the test to show?')).toHaveValue(/Again after test/);
  await page.goto(`/tests/${id}/judge?arm=${parts[0].key}`);
  await expect(page.getByRole('link', { name: 'Plan its confirming test' })).toHaveCount(0);
});

test('a pulley that would turn the head faster than its maker allows is cautioned before a pull is driven', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const id = await idOfTest(page, 11);
  await page.goto(`/tests/${id}/plan/edit`);
  const follows = page.getByRole('complementary', { name: 'What follows from the plan' });
  await expect(follows).toContainText(
    /kit, pulley 80 mm: at 6.000 rpm the head would turn 12.900 rpm, its maker allows 12.500 rpm/,
  );
  await expect(follows).not.toContainText('kit, pulley 86 mm: at');
});
