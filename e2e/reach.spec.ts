import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { enterAs, openTest, read } from './helpers.ts';

const violations = async (page: Page): Promise<string[]> =>
  (await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze()).violations.map(
    (v) =>
      `${v.id}: ${v.nodes
        .map((n) => n.target.join(' '))
        .slice(0, 3)
        .join(' | ')}`,
  );

/** Pages by theme. The dark theme shares every component: there a page of each kind is enough. */
const PAGES: Record<'paper' | 'cell', readonly string[]> = {
  paper: [
    '/tests',
    ...['plan', 'pulls', 'air', 'compare', 'judge', 'claim'].map((step) => `test 3, ${step}`),
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
    '/register/policy',
    '/register/import/parts',
  ],
  cell: ['test 3, plan', 'test 3, compare', '/tests/new', '/coverage', '/schedule', '/register/fitments/new'],
};

for (const theme of ['paper', 'cell'] as const) {
  test.describe(`WCAG 2 A and AA by axe, ${theme}`, () => {
    test.beforeEach(async ({ page }) => {
      await page.addInitScript(
        (t) => localStorage.setItem('evidentia-preferences', JSON.stringify({ theme: t })),
        theme,
      );
    });
    test('/sign-in', async ({ page }) => {
      await page.goto('/sign-in');
      expect(await violations(page)).toEqual([]);
    });
    for (const name of PAGES[theme])
      test(name, async ({ page }) => {
        await enterAs(page, /Maren Holt/);
        const step = /^test 3, (.)(.*)$/.exec(name);
        if (step) await openTest(page, 3, `${step[1].toUpperCase()}${step[2]}`);
        else await page.goto(name);
        await read(page);
        expect(await violations(page)).toEqual([]);
      });
  });
}

test('the finder opens by key and goes to a test; keys are listed', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.keyboard.press('/');
  await page.getByPlaceholder(/^A test, a claim/).fill('rear sil');
  await page.getByRole('option', { name: /^3 · Rear silencer/ }).click();
  await expect(page.getByRole('heading', { level: 1, name: /Rear silencer/ })).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
});

test('an unknown page says where to go', async ({ page }) => {
  await page.goto('/nowhere');
  await expect(page.getByText('There is no such page')).toBeVisible();
});
