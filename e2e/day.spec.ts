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
