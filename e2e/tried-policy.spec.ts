import { expect, test } from '@playwright/test';
import { enterAs } from './helpers.ts';

test('a policy is seen in what it changes, thought over, and put in force', async ({ page }) => {
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
  await page.getByLabel('Scatter at the most, %').fill('2');
  await page.getByRole('button', { name: 'See what it changes' }).click();
  // Wider again no more go; what it says is there before it can be put in force.
  const enter = page.getByRole('button', { name: 'Put it in force' });
  await expect(enter).toBeEnabled({ timeout: 120_000 });
  expect(await staleCount()).toBeLessThanOrEqual(narrow);
  await enter.click();
  await expect(page.getByText('Policy house-narrow is in force.')).toBeVisible();
  await expect(page.getByRole('heading', { name: /house-narrow/ })).toBeVisible();
});
