import { expect, type Locator, type Page } from '@playwright/test';
import type { TestDetail, TestPage } from '../contract/overview.ts';
import { simulateSession, type SimulatedSession } from '../bench/judge/simulate.ts';
import { DEMO_TESTS } from '../demo/plan/tests.ts';
import { scenarioOf } from '../demo/plan/scenario.ts';

/** Enters as a sample person of the demo. */
export async function enterAs(page: Page, name: RegExp): Promise<void> {
  await page.goto('/sign-in');
  await page.getByRole('button', { name }).click();
  const today = page.getByRole('heading', { level: 1, name: 'Today' });
  // A machine that stood still for seconds is told as records that cannot be reached: a person tries again.
  const again = page.getByRole('button', { name: 'Try again' });
  await expect(today.or(again).first()).toBeVisible();
  if (await again.isVisible()) await again.click();
  await expect(today).toBeVisible();
  await page
    .getByRole('navigation', { name: 'Main' })
    .getByRole('link', { name: 'Tests', exact: true })
    .click();
  await expect(page.getByRole('heading', { level: 1, name: 'Tests' })).toBeVisible();
}
export async function leave(page: Page): Promise<void> {
  await page.getByRole('button', { name: /test manager|operator|reviewer|editor|shop/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
}
/** Opens a test from the list by its number. */
export async function openTest(page: Page, number: number, step: string): Promise<void> {
  await page.goto('/tests');
  await page
    .getByRole('row')
    .filter({ has: page.getByRole('cell', { name: String(number), exact: true }) })
    .getByRole('link')
    .click();
  await page
    .getByRole('navigation', { name: 'Steps of the test' })
    .getByRole('link', { name: new RegExp(`^${step}`) })
    .click();
}
/** The files the simulated bench writes for a demo test. */
export function filesOf(key: string): {
  session: SimulatedSession;
  pulls: { name: string; mimeType: string; buffer: Buffer }[];
} {
  const session = simulateSession(scenarioOf(DEMO_TESTS.find((t) => t.key === key)!));
  return {
    session,
    pulls: session.files
      .filter((f) => f.path.startsWith('pulls/'))
      .map((f) => ({ name: f.path.slice(6), mimeType: 'text/csv', buffer: Buffer.from(f.text) })),
  };
}
/** Waits until a page has read everything it shows, however slow the machine is. */
export async function read(page: Page): Promise<void> {
  await page.waitForLoadState('networkidle');
  await expect(page.getByRole('main').first()).toBeVisible();
  await expect(page.getByText(/^Reading .* …$/)).toHaveCount(0);
}
/** Chooses in a list that opens, by what is written there. */
export async function choose(field: Locator, label: string | RegExp | { index: number }): Promise<void> {
  await field.click();
  const list = field.page().getByRole('listbox').last();
  await expect(list).toBeVisible();
  const option =
    typeof label === 'object' && 'index' in label
      ? list.getByRole('option').nth(label.index)
      : list.getByRole('option', { name: label, exact: typeof label === 'string' });
  await option.click();
  await expect(list).toBeHidden();
}
/** Puts back the units and keys of whoever is signed in: they belong to the account, and the next test enters with it. */
export async function putBackUnits(page: Page): Promise<void> {
  const value = { power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'hPa', keys: 'on' };
  expect((await page.request.put('/api/session/choices/units', { data: { value } })).ok()).toBe(true);
}
/** A test as the application reads it. */
export const testDetail = async (page: Page, id: string): Promise<TestDetail> =>
  (await (await page.request.get(`/api/tests/${id}`)).json()) as TestDetail;
/** The id of a demo test. */
export async function idOfTest(page: Page, number: number): Promise<string> {
  const { items } = (await (await page.request.get('/api/tests?limit=200')).json()) as {
    items: { id: string; number: number }[];
  };
  return items.find((t) => t.number === number)!.id;
}
/** Plans another session like that of test 8, as the manager who is signed in. */
export async function planLikeTest8(page: Page, question: string): Promise<string> {
  const like = await testDetail(page, await idOfTest(page, 8));
  const made = await page.request.post('/api/tests', {
    data: {
      ...like.plan,
      question,
      fitmentId: like.fitment.id,
      vehicleId: like.vehicle.id,
      dynoId: like.dyno.id,
      arms: like.arms.map(({ key, label, role, from, changes }) => ({ key, label, role, from, changes })),
    },
  });
  return ((await made.json()) as { id: string }).id;
}

/** What the server answers to this person. */
export const asked = async <T>(page: Page, path: string): Promise<T> =>
  (await (await page.request.get(`/api${path}`)).json()) as T;

/** A locked plan of one part against stock, on the dyno whose devices are played. */
export async function lockedTest(page: Page, more: Record<string, unknown>): Promise<string> {
  const { items } = await asked<TestPage>(page, '/tests?limit=100');
  const like = items.find(
    (t) => t.fitment.includes('Tern') && t.dyno.startsWith('Cell 1') && t.protocol === 'A-B-A',
  )!;
  const detail = await asked<TestDetail>(page, `/tests/${like.id}`);
  const arms = detail.arms.map(({ key, label, role, from, changes }) => ({
    key,
    label,
    role,
    from,
    changes,
  }));
  const made = await page.request.post('/api/tests', {
    data: {
      fitmentId: detail.fitment.id,
      vehicleId: detail.vehicle.id,
      dynoId: detail.dyno.id,
      band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
      metrics: ['upTo'],
      protocol: 'A-B-A',
      order: detail.plan.order.slice(0, 3),
      pullsPerRun: 3,
      warmUps: 0,
      remount: false,
      gear: detail.plan.gear,
      fuel: detail.plan.fuel,
      arms,
      ...more,
    },
  });
  expect(made.status(), await made.text()).toBeLessThan(300);
  const { id } = (await made.json()) as { id: string };
  expect((await page.request.post(`/api/tests/${id}/lock`)).status()).toBeLessThan(300);
  return id;
}
