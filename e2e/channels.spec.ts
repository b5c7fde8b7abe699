import { expect, test } from '@playwright/test';
import { enterAs, openTest } from './helpers.ts';

test('what the logger recorded is drawn channel by channel, and read at one engine speed', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await openTest(page, 7, 'Compare');
  const log = page.getByRole('region', { name: 'What the logger recorded' });
  const lambda = log.getByRole('figure', { name: 'lambda over engine speed' });
  await expect(lambda).toContainText(/stock 0\.8\d\d/);
  await expect(lambda).toContainText(/Cold-side intake 0\.8\d\d/);
  // One line a pull that is not left out.
  await expect(lambda.locator('path.recharts-line-curve')).toHaveCount(8);
  // The arms at the same rpm, each channel with the difference and how far the pulls scatter.
  const row = log.getByRole('row', { name: /^lambda/ });
  await expect(row).toContainText(/0\.8\d\d\s*0\.8\d\d\s*[+−]?0\.0\d\d ± 0\.0\d\d/);
  const air = log.getByRole('figure', { name: 'mass air flow over engine speed' });
  const before = await air.locator('figcaption').innerText();
  const cursor = log.getByRole('slider', { name: 'Engine speed of the read-out' });
  await cursor.focus();
  await page.keyboard.press('Home');
  await expect(cursor).toHaveAttribute('aria-valuetext', /^2.000 rpm$/);
  await expect(air.locator('figcaption')).not.toHaveText(before);
  await page.keyboard.press('ArrowRight');
  await expect(log).toContainText(/At 2.050 rpm/);
  await expect(log.getByRole('figure', { name: 'intake air temperature over engine speed' })).toContainText(
    '°C',
  );
});

test('the same test is worked out under every standard, the planned one marked', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await openTest(page, 3, 'Air');
  const section = page.getByRole('region', { name: 'Under every standard' });
  await section.getByRole('button', { name: 'Work it out' }).click();
  const rows = section.getByRole('row');
  await expect(rows).toHaveCount(7);
  await expect(rows.filter({ hasText: 'as planned' })).toContainText('SAE J1349');
  await expect(rows.filter({ hasText: 'DIN 70020' })).toContainText(/[+−]0\.\d\d points/);
});
