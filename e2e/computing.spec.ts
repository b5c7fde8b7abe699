import { expect, test } from '@playwright/test';
import { enterAs, openTest } from './helpers.ts';

test('a comparison that takes long says how far it is, is stopped, and asked for again', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  // The answer is held on its way: how far the server is with it is told by a server that computes.
  const held: (() => void)[] = [];
  await page.route(/\/api\/tests\/[^/]+\/analysis$/, async (route) => {
    await new Promise<void>((resolve) => held.push(resolve));
    await route.continue().catch(() => undefined);
  });
  let done = 3;
  await page.route(/\/api\/under-way\?/, (route) => route.fulfill({ json: { done: (done += 1), of: 20 } }));
  await openTest(page, 3, 'Compare');
  const bar = page.getByRole('progressbar', { name: 'Computing the comparison' });
  await expect(bar).toBeVisible();
  await expect(bar).toHaveAttribute('value', /^[2-9]\d$/);
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByRole('alert')).toContainText('Stopped before it was computed.');
  await page.unroute(/\/api\/tests\/[^/]+\/analysis$/);
  held.forEach((release) => release());
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByLabel(/Gain over stock by rpm/)).toBeVisible();
  await expect(bar).toHaveCount(0);
});

test('a list that is open stays where it is, whatever arrives above it', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  let answer = (): void => undefined;
  const asked = new Promise<void>((resolve) => (answer = resolve));
  await page.route(/\/api\/tests\/[^/]+\/uses$/, async (route) => {
    await asked;
    await route.continue();
  });
  await openTest(page, 3, 'Compare');
  const crank = page.getByRole('region', { name: 'Estimate at the crank' });
  await crank.getByLabel('Losses').click();
  const measured = page.getByRole('option', { name: 'measured while coasting down' });
  await expect(measured).toBeInViewport({ ratio: 1 });
  await expect(page.locator('tr', { hasText: 'towing' })).toHaveCount(0);
  answer();
  // What is behind an open list is hidden from assistive technology: it is looked for by what it is.
  await expect(page.locator('tr', { hasText: 'towing' })).toBeAttached();
  await expect(measured).toBeInViewport({ ratio: 1 });
  await measured.click();
  await expect(crank.getByLabel(/^Lost, kW/).first()).toBeVisible();
});
