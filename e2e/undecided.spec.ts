import { expect, test } from '@playwright/test';
import { enterAs, openTest } from './helpers.ts';

test('what would decide a test is a plan of its own: as that test, with the runs it takes, saved and locked', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await openTest(page, 5, 'Judge');
  await expect(page.getByRole('heading', { name: 'What would decide it' })).toBeVisible();
  await expect(page.getByText(/% chance: A-B-(B-)?A, \d+ pulls a run/).first()).toBeVisible();
  await page.getByRole('link', { name: 'Plan it' }).first().click();
  await expect(page.getByRole('heading', { name: 'Plan a new test' })).toBeVisible();
  await expect(page.getByLabel('What is the test to show?')).toHaveValue(/Again after test 5\.$/);
  await page.getByRole('button', { name: 'Save the plan' }).click();
  await expect(page.getByText('The plan is saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Lock the plan' }).click();
  await page.getByRole('button', { name: 'Lock it' }).click();
  await expect(page.getByText(/Locked .* by Maren Holt/)).toBeVisible();
  // A result that is a result is not asked for more: it says so instead.
  await openTest(page, 2, 'Judge');
  await expect(page.getByText(/No session of up to 12 pulls a run/)).toBeVisible();
  await expect(page.getByRole('link', { name: 'Plan it' })).toHaveCount(0);
});
