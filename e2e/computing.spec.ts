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
