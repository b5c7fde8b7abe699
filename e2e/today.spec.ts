import { expect, test } from '@playwright/test';
import { enterAs, leave, read } from './helpers.ts';

test('the day of a person leads to where each thing is settled, with the counts of what it leads to', async ({
  page,
}) => {
  await enterAs(page, /Ines Calloway/);
  await page.getByRole('navigation', { name: 'Main' }).getByRole('link', { name: 'Today' }).click();
  await read(page);
  const review = page.getByRole('region', { name: 'Claims to review' });
  const waiting = await review.getByRole('listitem').count();
  expect(waiting).toBeGreaterThan(0);
  await expect(review).toContainText(new RegExp(`Claims to review\\s*◐\\s*${waiting}Read`));
  await review.getByRole('link').first().click();
  await expect(page.getByRole('button', { name: 'Return with a reason' })).toBeVisible();
  // The register of claims counts the same.
  await page.getByRole('navigation', { name: 'Main' }).getByRole('link', { name: 'Claims' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'in review' })).toHaveCount(waiting);
  await leave(page);
  await enterAs(page, /Maren Holt/);
  await page.getByRole('link', { name: 'Evidentia', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Today' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Plans to lock' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Claims to review' })).toHaveCount(0);
  await page.getByRole('region', { name: 'Sensors overdue' }).getByRole('link').first().click();
  await expect(page.getByRole('heading', { name: 'Sensors' })).toBeVisible();
});

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
  await put('house-narrow', '0.2', 'The new rollers scatter less than the old ones.');
  await expect(page.getByText(/\d+ would go stale/)).toBeVisible({ timeout: 120_000 });
  await expect(page.getByText('a gate fails: repeatability').first()).toBeVisible();
  // It is in the address: a reload loses nothing, and back in the form all that was typed is there.
  await page.reload();
  await expect(page.getByText(/\d+ would go stale/)).toBeVisible();
  await page.getByRole('button', { name: 'Back to the form' }).click();
  await expect(page.getByLabel('Why')).toHaveValue('The new rollers scatter less than the old ones.');
  await expect(page.getByLabel('Scatter at the most, %')).toHaveValue('0.2');
  await page.getByLabel('Scatter at the most, %').fill('2');
  await page.getByRole('button', { name: 'See what it changes' }).click();
  await expect(page.getByText('None of them would change.')).toBeVisible({ timeout: 120_000 });
  await page.getByRole('button', { name: 'Put it in force' }).click();
  await expect(page.getByText('Policy house-narrow is in force.')).toBeVisible();
  await expect(page.getByRole('heading', { name: /house-narrow/ })).toBeVisible();
});
