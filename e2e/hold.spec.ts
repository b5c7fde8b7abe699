import { expect, test, type Page } from '@playwright/test';
import { enterAs, leave, putBackUnits, read } from './helpers.ts';

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
  await expect(elsewhere.getByRole('heading', { name: 'Today' })).toBeVisible();
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

test('a session that ends in the middle of work: sign in over the page, and go on', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/schedule?week=2026-12-07');
  await read(page);
  const address = page.url();
  await page.getByRole('button', { name: /Close a dyno/ }).click();
  const closing = page.getByRole('dialog', { name: 'Close a dyno' });
  const why = `Typed before the session ended ${Date.now()}`;
  await expect(closing.getByLabel('Dyno')).toBeFocused();
  await closing.getByLabel('Reason').fill(why);
  // A click beside the dialog takes nothing away.
  await page.mouse.click(5, 500);
  await expect(closing.getByLabel('Reason')).toHaveValue(why);
  await page.context().clearCookies();
  await closing.getByRole('button', { name: 'Close it' }).click();
  const again = page.getByRole('dialog', { name: 'Your session has ended' });
  await again.getByRole('button', { name: 'Go on as Maren Holt' }).click();
  await expect(again).toBeHidden();
  await expect(closing.getByLabel('Reason')).toHaveValue(why);
  await closing.getByRole('button', { name: 'Close it' }).click();
  await expect(closing.getByRole('listitem').filter({ hasText: why })).toHaveCount(1);
  // Signed out on arriving, the way back leads to the whole address.
  await page.context().clearCookies();
  await page.goto(address);
  await page.getByRole('button', { name: /Maren Holt/ }).click();
  await expect(page).toHaveURL(address);
});

test('a claim is approved only with its evidence on the page', async ({ page }) => {
  let broken = false;
  await page.route(/\/api\/tests\/[^/]+\/(analysis|beside)/, (route) =>
    broken ? route.abort() : route.continue(),
  );
  await enterAs(page, /Ines Calloway/);
  const list = (await (await page.request.get('/api/claims?state=in%20review')).json()) as {
    items: { id: string }[];
  };
  expect(list.items.length).toBeGreaterThan(0);
  broken = true;
  await page.goto(`/claims/${list.items[0].id}`);
  const approve = page.getByRole('button', { name: 'Approve and publish' });
  await expect(page.getByRole('alert')).toContainText('cannot be reached');
  await expect(approve).toBeDisabled();
  broken = false;
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(approve).toBeEnabled();
  // Asked once more, and the way back does nothing.
  await approve.click();
  const asked = page.getByRole('alertdialog');
  await expect(asked.getByRole('button', { name: 'Go back' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(asked).toBeHidden();
  await expect(approve).toBeVisible();
});

test('what cannot be read says so where one looks, and is asked for again', async ({ page }) => {
  let broken = true;
  const reads = '**/api/{tests,claims,coverage,catalogue,schedule,fitments,vehicles,parts,dynos,audit}*';
  await enterAs(page, /Maren Holt/);
  await page.route(reads, (route) => (broken ? route.abort() : route.continue()));
  for (const path of [
    '/tests',
    '/claims',
    '/coverage',
    '/catalogue',
    '/schedule',
    '/trail',
    '/register/fitments',
    '/register/vehicles',
    '/register/parts',
  ]) {
    broken = true;
    await page.goto(path);
    await expect(page.getByRole('alert')).toContainText('cannot be reached');
    broken = false;
    await page.getByRole('button', { name: 'Try again' }).click();
    await expect(page.getByRole('alert')).toHaveCount(0);
    await expect(page.locator('main').getByRole('link').first()).toBeVisible();
    // The window is named after the page.
    const heading = (await page.getByRole('heading', { level: 1 }).textContent()) ?? '';
    await expect(page).toHaveTitle(`${heading.trim()} · Evidentia`);
  }
  await page.goto('/nowhere');
  await expect(page.getByText('There is no such page')).toBeVisible();
});

test('single keys do nothing behind a dialog, and can be turned off', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.keyboard.press('?');
  const keys = page.getByRole('dialog', { name: 'Keys' });
  await expect(keys).toBeVisible();
  await page.keyboard.press('/');
  await expect(page.getByRole('dialog')).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(keys).toBeHidden();
  await page.getByRole('button', { name: 'Units and light' }).click();
  await page.getByRole('menuitemradio', { name: 'off', exact: true }).click();
  await page.keyboard.press('Escape');
  await page.keyboard.press('?');
  await page.keyboard.press('/');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Find' })).toHaveText('Find');
  await putBackUnits(page);
});
