import { expect, test } from '@playwright/test';
import type { CatalogueFitment } from '../contract/publish/claim.ts';
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

test('Enter before the answer is there waits for it, and more letters take it back', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  let answer = (): void => undefined;
  const asked = new Promise<void>((resolve) => (answer = resolve));
  await page.route(/\/api\/find\?q=3$/, async (route) => {
    await asked;
    await route.continue();
  });
  await page.keyboard.press('/');
  await page.getByPlaceholder(/^Any record/).pressSequentially('3');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Looking …')).toBeVisible();
  answer();
  await expect(page.getByRole('heading', { level: 1, name: /Rear silencer/ })).toBeVisible();
  // The answer comes after the letters, however slowly a machine types.
  let later = (): void => undefined;
  const held = new Promise<void>((resolve) => (later = resolve));
  await page.route(/\/api\/find\?q=rear(\+|%20)silx$/, async (route) => {
    await held;
    // Taken back, it may be gone.
    await route.continue().catch(() => undefined);
  });
  await page.keyboard.press('/');
  await page.getByPlaceholder(/^Any record/).pressSequentially('rear silx');
  await page.keyboard.press('Enter');
  await page.keyboard.type('yz');
  later();
  await expect(page.getByText('Nothing by that name.')).toBeVisible();
  await expect(page.getByPlaceholder(/^Any record/)).toBeVisible();
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

test('a first visit to a public page costs less than 200 kB on the wire', async ({ page, browser }) => {
  const fitment = '/catalogue/oriel-tern-1-8-estate-103-kw-eu';
  // Whatever tests before have made of its claim: evidence stays readable.
  const { claims, former } = (await (await page.request.get(`/api${fitment}`)).json()) as CatalogueFitment;
  for (const path of ['/catalogue', fitment, `/evidence/${[...claims, ...former][0].code}`]) {
    const reader = await (await browser.newContext()).newPage();
    const wire = await reader.context().newCDPSession(reader);
    await wire.send('Network.enable');
    let bytes = 0;
    wire.on('Network.loadingFinished', (e) => (bytes += e.encodedDataLength));
    await reader.goto(path);
    await expect(reader.getByRole('heading', { level: 1 })).toBeVisible();
    await reader.evaluate(() => document.fonts.ready);
    await reader.waitForLoadState('networkidle');
    expect(bytes, path).toBeGreaterThan(100_000);
    expect(bytes, path).toBeLessThan(200_000);
    await reader.context().close();
  }
});
