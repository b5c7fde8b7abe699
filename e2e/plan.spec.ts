import { expect, test } from '@playwright/test';
import { enterAs } from './helpers.ts';

test('a test is planned, locked, and stays as it was locked', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.getByRole('link', { name: 'Plan a new test' }).click();
  await page.getByRole('button', { name: 'Save the plan' }).click();
  await expect(page.getByText('Say in a sentence what the test is to show.')).toBeVisible();
  await page.getByLabel('What is the test to show?').fill('Does the intake keep its gain on the smaller output?');
  await page.getByLabel('Fitment', { exact: true }).selectOption({ label: 'Quillon Sprat 1.0 T, 85 kW' });
  await page.getByLabel('Vehicle', { exact: true }).selectOption({ label: 'SV-021 Sprat, red' });
  await page.getByLabel('Part and revision').selectOption({ label: 'Cold-side intake, revision A (IN-310)' });
  await page.getByLabel('Dyno').selectOption({ index: 1 });
  await page.getByLabel('Order of arms').selectOption('A-B-B-A');
  await page.getByLabel('Counted pulls a run').fill('2');
  await expect(page.getByText('20 pulls in all')).toBeVisible();
  await page.getByRole('button', { name: 'Save the plan' }).click();
  await expect(page.getByRole('main').getByText('Not locked')).toBeVisible();
  await page.getByRole('button', { name: 'Lock the plan' }).click();
  await expect(page.getByText(/Locked .* by Maren Holt/)).toBeVisible();
  await expect(page.getByText(/SHA-256 of the plan [0-9a-f]{64}/)).toBeVisible();
});

test('a partner shop sees its own test and no claims', async ({ page }) => {
  await enterAs(page, /Juno Farr/);
  await expect(page.getByRole('row')).toHaveCount(2);
  await expect(page.getByRole('link', { name: /Large-bore downpipe/ })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Claims' })).toHaveCount(0);
  await page.goto('/claims');
  await expect(page.getByRole('alert')).toContainText('A partner shop may not do this.');
});

test('sign-in by password, refused and taken; signed out, the way in leads back to the page asked for', async ({ page }) => {
  await page.goto('/claims');
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await page.getByLabel('E-mail').fill('ines@skerry-vale.example');
  await page.getByLabel('Password').fill('not this');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('do not belong together');
  await page.getByLabel('Password').fill('sample password');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Claims' })).toBeVisible();
});
