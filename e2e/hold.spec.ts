import { expect, test, type Page } from '@playwright/test';
import { enterAs, leave, read } from './helpers.ts';

/** Lets a request reach the server and loses its answer. */
async function loseAnswers(page: Page, path: string, times: number): Promise<() => number> {
  let lost = 0;
  await page.route(path, async (route) => {
    if (route.request().method() !== 'POST' || lost >= times) return route.continue();
    lost += 1;
    await route.fetch();
    return route.abort('connectionreset');
  });
  return () => lost;
}

test('a closure whose answer was lost, twice, stands once in the calendar', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  const why = `Bearings of the retarder ${Date.now()}`;
  const lost = await loseAnswers(page, '**/api/schedule/closures', 2);
  await page.goto('/schedule');
  await read(page);
  await page.getByRole('button', { name: /Close a dyno/ }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Reason').fill(why);
  await dialog.getByRole('button', { name: 'Close it' }).click();
  await expect(dialog.getByRole('alert')).toContainText('cannot be reached');
  await dialog.getByRole('button', { name: 'Close it' }).click();
  await expect.poll(lost).toBe(2);
  await dialog.getByRole('button', { name: 'Close it' }).click();
  await expect(page.getByText('Closed.')).toBeVisible();
  await expect(dialog.getByRole('listitem').filter({ hasText: why })).toHaveCount(1);
});

test('the trail tells who did what, and leads to it', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.getByRole('button', { name: /test manager/ }).click();
  await page.getByRole('menuitem', { name: 'Audit trail' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Audit trail' })).toBeVisible();
  await expect(page.getByRole('row').nth(1)).toContainText('signed in');
  await page.getByRole('button', { name: 'claim', exact: true }).click();
  await page.getByLabel('Find entries by person or deed').fill('published');
  const row = page.getByRole('row').nth(1);
  await expect(row).toContainText('claim published');
  await row.getByRole('link').click();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(page).toHaveURL(/\/claims\//);
});

test('a new password takes the present one, and ends the sessions elsewhere', async ({ page, browser }) => {
  const signIn = async (on: Page, password: string): Promise<void> => {
    await on.goto('/sign-in');
    await on.getByLabel('E-mail').fill('ines@skerry-vale.example');
    await on.getByLabel('Password').fill(password);
    await on.getByRole('button', { name: 'Sign in', exact: true }).click();
  };
  const change = async (present: string, next: string): Promise<void> => {
    await page.getByRole('button', { name: /reviewer|manager|operator|editor|shop/ }).click();
    await page.getByRole('menuitem', { name: 'Change password' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Password now').fill(present);
    await dialog.getByLabel('New password').fill(next);
    await dialog.getByRole('button', { name: 'Change password' }).click();
  };
  const elsewhere = await (await browser.newContext()).newPage();
  await signIn(page, 'sample password');
  await signIn(elsewhere, 'sample password');
  await expect(elsewhere.getByRole('heading', { name: 'Tests' })).toBeVisible();
  await change('not this one', 'another sample password');
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('alert')).toContainText('is another');
  await dialog.getByLabel('Password now').fill('sample password');
  await dialog.getByRole('button', { name: 'Change password' }).click();
  await expect(dialog.getByRole('heading', { name: 'The password is changed' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Close' }).first().click();
  await elsewhere.reload();
  await expect(elsewhere.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  // As it was, for whoever comes after.
  await change('another sample password', 'sample password');
  await expect(dialog.getByRole('heading', { name: 'The password is changed' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Close' }).first().click();
  await leave(page);
});
