import { expect, test, type Page } from '@playwright/test';
import type { TestPage } from '../contract/overview.ts';
import { enterAs } from './helpers.ts';

test('policy says how claims are worded and what plans begin with', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  const begin = async (name: string, reason: string): Promise<void> => {
    await page.goto('/register/policy');
    await page.getByRole('button', { name: 'New version' }).click();
    await page.getByLabel('Name').fill(name);
    await page.getByLabel('Why').fill(reason);
  };
  const tryIt = async (): Promise<void> => {
    await page.getByRole('button', { name: 'See what it changes' }).click();
    await expect(page.getByRole('button', { name: 'Put it in force' })).toBeEnabled({ timeout: 120_000 });
  };
  const enter = async (name: string): Promise<void> => {
    await tryIt();
    await page.getByRole('button', { name: 'Put it in force' }).click();
    await expect(page.getByText(`Policy ${name} is in force.`)).toBeVisible();
  };
  await test.step('coarser steps show which claims say more than they allow, and how they would read', async () => {
    await begin('house-coarse', 'Nobody can feel less than five kilowatts.');
    await page.getByLabel('Rounded to, kW').fill('0.25');
    await page.getByRole('button', { name: 'See what it changes' }).click();
    await expect(page.getByText('Claims are rounded to tenths, or to something coarser.')).toBeVisible();
    for (const unit of ['kW', 'hp', 'PS', '%']) await page.getByLabel(`Rounded to, ${unit}`).fill('5');
    await tryIt();
    await expect(page.getByText(/\d+ would go stale/)).toBeVisible();
    const changed = page.getByRole('region', { name: /would change$/ }).getByRole('listitem');
    await expect(
      changed
        .filter({ hasText: /Instead (it would now read|rounded as policy has it no gain is left)/ })
        .first(),
    ).toBeVisible();
  });
  await test.step('means with their range change no claim that says less; a new plan begins with the standard', async () => {
    await begin('house-means', 'The catalogue shows the mean with its range.');
    await page.getByLabel('The number of a claim').click();
    await page.getByRole('option', { name: 'mean with range' }).click();
    await page.getByLabel('Standard that plans begin with').click();
    await page.getByRole('option', { name: 'ISO 1585' }).click();
    await enter('house-means');
    await expect(page.getByText('mean with range')).toBeVisible();
    await page.goto('/tests/new');
    await expect(page.getByLabel('Standard', { exact: true })).toContainText('ISO 1585');
  });
  await test.step('taken back, plans begin as before', async () => {
    await begin('house-limits', 'The lower limit is what we can vouch for.');
    await page.getByLabel('The number of a claim').click();
    await page.getByRole('option', { name: 'lower limit' }).click();
    await page.getByLabel('Standard that plans begin with').click();
    await page.getByRole('option', { name: 'SAE J1349' }).click();
    await enter('house-limits');
    await page.goto('/tests/new');
    await expect(page.getByLabel('Standard', { exact: true })).toContainText('SAE J1349');
  });
});

test('a policy is seen in what it changes, thought over, put in force and taken back', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/policy');
  const put = async (name: string, most: string, reason: string): Promise<void> => {
    await page.getByRole('button', { name: 'New version' }).click();
    await page.getByLabel('Name').fill(name);
    await page.getByLabel('Why').fill(reason);
    await page.getByLabel('Scatter at the most, %').fill(most);
    await page.getByRole('button', { name: 'See what it changes' }).click();
    await expect(page.getByRole('progressbar', { name: 'Claims judged' })).toBeVisible();
  };
  const staleCount = async (): Promise<number> => {
    const told = await page.getByRole('region', { name: /^What .* would change$/ }).innerText();
    return Number(/(\d+) would go stale/.exec(told)?.[1] ?? 0);
  };
  await put('house-narrow', '0.2', 'The new rollers scatter less than the old ones.');
  await expect(page.getByText(/\d+ would go stale/)).toBeVisible({ timeout: 120_000 });
  await expect(page.getByText('a gate fails: repeatability').first()).toBeVisible();
  const narrow = await staleCount();
  expect(narrow).toBeGreaterThan(0);
  // It is in the address: a reload loses nothing, and back in the form all that was typed is there.
  await page.reload();
  await expect(page.getByText(/\d+ would go stale/)).toBeVisible();
  await page.getByRole('button', { name: 'Back to the form' }).click();
  await expect(page.getByLabel('Why')).toHaveValue('The new rollers scatter less than the old ones.');
  await expect(page.getByLabel('Scatter at the most, %')).toHaveValue('0.2');
  await page.getByRole('button', { name: 'See what it changes' }).click();
  const enter = page.getByRole('button', { name: 'Put it in force' });
  await expect(enter).toBeEnabled({ timeout: 120_000 });
  // Applied, it does what was said: the claims are stale and say why.
  const stale = await staleTotal(page);
  await enter.click();
  await expect(page.getByText('Policy house-narrow is in force.')).toBeVisible();
  await expect(page.getByRole('heading', { name: /house-narrow/ })).toBeVisible();
  await expect.poll(() => staleTotal(page), { timeout: 120_000 }).toBe(stale + narrow);
  // Taken back, nothing further goes, and what went stays where it is: a claim comes back by being drafted again.
  await put('house-wide', '2', 'The old limit was right after all.');
  await expect(enter).toBeEnabled({ timeout: 120_000 });
  expect(await staleCount()).toBe(0);
  await enter.click();
  await expect(page.getByRole('heading', { name: /house-wide/ })).toBeVisible();
  expect(await staleTotal(page)).toBe(stale + narrow);
  // Tests are computed again under it without being opened: none waits for a result it has had.
  const waiting = async (): Promise<number> => {
    const { items } = (await (await page.request.get('/api/tests?limit=200')).json()) as TestPage;
    return items.filter((t) => t.stages.some((s) => s.note === 'to be evaluated')).length;
  };
  await expect.poll(waiting, { timeout: 120_000 }).toBe(0);
});

/** Claims that are stale, by the register of claims. */
async function staleTotal(page: Page): Promise<number> {
  const answer = await page.request.get('/api/claims?state=stale&limit=1');
  return ((await answer.json()) as { total: number }).total;
}
