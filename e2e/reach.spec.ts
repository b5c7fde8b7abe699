import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { enterAs, openTest } from './helpers.ts';

const violations = async (page: Page): Promise<string[]> =>
  (await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze()).violations.map(
    (v) =>
      `${v.id}: ${v.nodes
        .map((n) => n.target.join(' '))
        .slice(0, 3)
        .join(' | ')}`,
  );

for (const theme of ['paper', 'cell'] as const) {
  test(`pages pass the WCAG 2 A and AA checks of axe, ${theme}`, async ({ page }) => {
    await page.addInitScript(
      (t) => localStorage.setItem('evidentia-preferences', JSON.stringify({ theme: t })),
      theme,
    );
    await page.goto('/sign-in');
    expect(await violations(page)).toEqual([]);
    await enterAs(page, /Maren Holt/);
    expect(await violations(page)).toEqual([]);
    // The dark theme shares every component: there a page of each kind is enough.
    const whole = theme === 'paper';
    for (const step of whole ? ['Plan', 'Pulls', 'Air', 'Compare', 'Judge', 'Claim'] : ['Plan', 'Compare']) {
      await openTest(page, 3, step);
      await page.waitForLoadState('networkidle');
      expect(await violations(page), step).toEqual([]);
    }
    for (const path of whole
      ? [
          '/claims',
          '/tests/new',
          '/catalogue',
          '/coverage',
          '/coverage?view=next',
          '/schedule',
          '/register/fitments',
          '/register/fitments/new',
          '/register/vehicles',
          '/register/parts',
          '/register/parts/new',
          '/register/applications',
          '/register/calibrations',
          '/register/dynos/new',
          '/register/import/parts',
        ]
      : ['/tests/new', '/coverage', '/schedule', '/register/fitments/new']) {
      await page.goto(path);
      await page.waitForLoadState('networkidle');
      expect(await violations(page), path).toEqual([]);
    }
  });
}

test('the finder opens by key and goes to a test; keys are listed', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.keyboard.press('/');
  await page.getByPlaceholder('A test, a claim, a page …').fill('rear sil');
  await page.getByRole('option', { name: /^3 · Rear silencer/ }).click();
  await expect(page.getByRole('heading', { level: 1, name: /Rear silencer/ })).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
});

test('an unknown page says where to go', async ({ page }) => {
  await page.goto('/nowhere');
  await expect(page.getByText('There is no such page')).toBeVisible();
});
