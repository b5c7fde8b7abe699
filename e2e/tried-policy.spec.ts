import { expect, test, type Page } from '@playwright/test';
import type { TestPage } from '../contract/overview.ts';
import { enterAs } from './helpers.ts';

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
