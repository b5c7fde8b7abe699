import { expect, test } from '@playwright/test';
import { enterAs } from './helpers.ts';

test('the finder opens by key and goes to a test; keys are listed', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.keyboard.press('/');
  await page.getByPlaceholder(/^Any record/).fill('rear sil');
  await page.getByRole('option', { name: /^3 · Rear silencer/ }).click();
  await expect(page.getByRole('heading', { level: 1, name: /Rear silencer/ })).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
});

test('an unknown page says where to go', async ({ page }) => {
  await page.goto('/nowhere');
  await expect(page.getByText('There is no such page')).toBeVisible();
});

test('each public page has its own title, description and one address', async ({ page }) => {
  for (const [path, about] of [
    ['/catalogue?q=tern', 'Catalogue: What our tests support'],
    ['/catalogue/oriel-tern-1-8-estate-103-kw-eu', 'Oriel Tern 1.8 estate: '],
  ]) {
    await page.goto(path);
    await expect(page.locator('meta[name=description]')).toHaveAttribute('content', new RegExp(`^${about}`));
    await expect(page.locator('link[rel=canonical]')).toHaveAttribute(
      'href',
      new URL(path.split('?')[0], page.url()).href,
    );
  }
});
