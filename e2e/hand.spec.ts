import { expect, test, type Page } from '@playwright/test';
import { choose, enterAs, idOfTest, planLikeTest8, read, testDetail } from './helpers.ts';

test('units belong to the account: another device reads in them, and so does every page', async ({
  page,
  browser,
}) => {
  await enterAs(page, /Maren Holt/);
  const prefer = async (...units: string[]): Promise<void> => {
    await page.getByRole('button', { name: 'Units and light' }).click();
    for (const unit of units) await page.getByRole('menuitemradio', { name: unit, exact: true }).click();
    await page.keyboard.press('Escape');
  };
  await prefer('hp', 'lb·ft', '°F', 'inHg');
  const device = await (await browser.newContext()).newPage();
  await enterAs(device, /Maren Holt/);
  await expect(device.getByRole('button', { name: 'Units and light' })).toHaveText('hp · lb·ft');
  const third = await idOfTest(device, 3);
  await device.goto(`/tests/${third}/run-sheet`);
  await read(device);
  await expect(device.getByRole('columnheader', { name: 'Air, °F' }).first()).toBeVisible();
  await expect(device.getByRole('columnheader', { name: 'Pressure, inHg' }).first()).toBeVisible();
  await device.goto('/catalogue/oriel-tern-1-8-estate-103-kw-eu');
  await expect(device.getByText(/rated 138 hp and/)).toBeVisible();
  await expect(device.getByText(/turned into your unit from the claim’s kW/).first()).toBeVisible();
  await device.getByRole('link', { name: 'See the pulls it rests on' }).first().click();
  await expect(device.getByRole('cell', { name: /°F, .* inHg/ }).first()).toBeVisible();
  await expect(device.getByRole('main')).not.toContainText(/\d °C/);
  await device.goto('/register/fitments');
  await device
    .getByRole('link', { name: /Tern 1\.8 estate/ })
    .first()
    .click();
  await device.getByRole('button', { name: 'Change', exact: true }).click();
  await expect(device.getByLabel('Power', { exact: true })).toHaveValue(/^138\./);
  await device.getByRole('button', { name: 'Cancel' }).click();
  await device.context().close();
  await prefer('kW', 'N·m', '°C', 'hPa');
  await expect(page.getByRole('button', { name: 'Units and light' })).toHaveText('kW · N·m');
});

test('views are kept under a name, lists sort, and many tests are done at once', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.getByLabel('Filter tests by words').fill('sprat');
  await expect(page).toHaveURL(/q=sprat/);
  await page.getByRole('button', { name: 'No.' }).click();
  await expect(page).toHaveURL(/sort=oldest/);
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('menuitem', { name: 'Keep this view …' }).click();
  await page.getByLabel('Name').fill('Sprats, oldest first');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await page.goto('/tests');
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('menuitem', { name: 'Sprats, oldest first', exact: true }).click();
  await expect(page.getByLabel('Filter tests by words')).toHaveValue('sprat');
  const numbers = await page
    .getByRole('table', { name: 'Tests' })
    .getByRole('cell', { name: /^\d+$/ })
    .allTextContents();
  expect(numbers.map(Number)).toEqual(numbers.map(Number).sort((a, b) => a - b));
  expect(numbers.length).toBeGreaterThan(1);

  await page.goto('/tests');
  await read(page);
  await page.getByLabel('Choose test 10').check();
  await page.getByLabel('Choose test 3', { exact: true }).check();
  const deeds = page.getByRole('group', { name: 'With the chosen tests' });
  await expect(deeds).toContainText('2 tests chosen');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    deeds.getByRole('button', { name: 'Export as CSV' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('tests.csv');
  await deeds.getByRole('button', { name: 'Assign …' }).click();
  await choose(page.getByLabel('Who runs it'), /Juno Farr/);
  await page.getByRole('dialog').getByRole('button', { name: 'Assign', exact: true }).click();
  await expect(page.getByText('Assigned: one test.')).toBeVisible();
});

test('the finder takes the first hit on Enter, does deeds, and so does the picker', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.keyboard.press('/');
  await expect(page.getByPlaceholder(/^Any record/)).toBeFocused();
  await page.keyboard.type('fell road');
  await expect(page.getByRole('option', { name: /Fell Road rollers/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: /Fell Road/ })).toBeVisible();
  await page.keyboard.press('/');
  await expect(page.getByPlaceholder(/^Any record/)).toBeFocused();
  await page.keyboard.type('dark');
  await expect(page.getByRole('option', { name: /Dark, for the dyno cell/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'cell');
  // Printed it is dark on white all the same.
  await page.emulateMedia({ media: 'print' });
  const [ink, paper] = await page.evaluate(() => {
    const style = getComputedStyle(document.body);
    return [style.color, style.backgroundColor];
  });
  expect([ink, paper]).toEqual(['rgb(0, 0, 0)', 'rgb(255, 255, 255)']);
  await page.emulateMedia({ media: null });
  await page.goto('/tests/new');
  await page.getByRole('combobox', { name: 'Fitment' }).focus();
  await page.keyboard.press('Enter');
  // Enter before the answer is there waits for it.
  await page.keyboard.type('ferry minibus');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('combobox', { name: 'Fitment' }).first()).toContainText('Halden Ferry');
});

test('a place that is refused says in the dialog what would fit, and takes it', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  // A session that fits into a day.
  const { number } = (await testDetail(page, await planLikeTest8(page, 'Where would it fit?'))).summary;
  await page.goto('/schedule');
  await read(page);
  await page.getByRole('button', { name: new RegExp(`^${number} `) }).click();
  const dialog = page.getByRole('dialog', { name: `Place test ${number}` });
  await expect(dialog.getByText('the next free place')).toBeVisible();
  await dialog.getByLabel('Day').fill('2031-03-09');
  await dialog.getByRole('button', { name: 'Place it' }).click();
  await expect(dialog.getByRole('alert')).toContainText('does not lie in the opening hours');
  await dialog
    .getByRole('button', { name: /It would fit on \w{3} \d+ Mar 2031, \d\d:\d\d \(Europe\/Oslo\)/ })
    .click();
  await expect(dialog.getByLabel('Day')).not.toHaveValue('9 Mar 2031');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(dialog).toBeHidden();
});

test('what was published is taken over by the catalogue editor, and marked', async ({ page }) => {
  await enterAs(page, /Edda Lunn/);
  await page.getByRole('link', { name: 'To take over' }).click();
  const item = page.getByRole('article').filter({ hasText: 'Published: put it on the shelf' }).first();
  await expect(item).toContainText('new');
  const wording = await item.locator('p.font-display').innerText();
  await item.getByRole('button', { name: 'It is on the shelf' }).click();
  await expect(page.getByRole('region', { name: 'Taken over last' })).toContainText(wording);
  await page.reload();
  await expect(page.getByText(/new since your last visit/)).toHaveCount(0);
});

/** Every link a person meets, and what the server answered on the pages behind them. */
async function refusedOnTheWay(page: Page, most: number): Promise<string[]> {
  const refused: string[] = [];
  page.on('response', (r) => {
    if (r.status() === 403) refused.push(`${new URL(page.url()).pathname}: ${new URL(r.url()).pathname}`);
  });
  const kind = (path: string): string => path.replace(/[0-9a-f-]{36}/g, 'id').split('?')[0];
  const [met, ahead] = [new Set<string>(), ['/tests', '/catalogue']];
  while (ahead.length > 0 && met.size < most) {
    const path = ahead.shift()!;
    if (met.has(kind(path))) continue;
    met.add(kind(path));
    await page.goto(path);
    await read(page);
    for (const link of await page
      .locator('a[href^="/"]')
      .evaluateAll((all) => all.map((a) => a.getAttribute('href')!)))
      if (!link.startsWith('/api')) ahead.push(link);
      else if (!met.has(kind(link))) {
        met.add(kind(link));
        if ((await page.request.get(link)).status() === 403) refused.push(`${path}: ${link}`);
      }
  }
  expect(met.size).toBeGreaterThan(10);
  return refused;
}
test('the partner shop never meets a link that is refused; a page of the house says it is for others', async ({
  page,
}) => {
  await enterAs(page, /Juno Farr/);
  expect(await refusedOnTheWay(page, 40)).toEqual([]);
  await page.goto('/schedule');
  await expect(page.getByRole('heading', { level: 1, name: 'This page is for others' })).toBeVisible();
});

test('focus goes into each dialog and back to where it came from', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  const { items } = (await (await page.request.get('/api/tests?limit=200')).json()) as {
    items: { id: string; number: number }[];
  };
  const at = (number: number, step: string): string =>
    `/tests/${items.find((t) => t.number === number)!.id}/${step}`;
  const { items: parts } = (await (await page.request.get('/api/parts')).json()) as {
    items: { id: string }[];
  };
  for (const [path, opener] of [
    ['/tests', /^Find/],
    ['/schedule', 'Close a dyno'],
    [at(3, 'plan'), 'Amend with a reason'],
    [at(9, 'plan'), 'Lock the plan'],
    [at(3, 'pulls'), /^Exclude p1$/],
    [`/register/parts/${parts[0].id}`, 'Change'],
    [`/register/parts/${parts[0].id}`, 'New revision'],
  ] as [string, string | RegExp][]) {
    await page.goto(path);
    await read(page);
    const button = page.getByRole('button', { name: opener, exact: typeof opener === 'string' }).first();
    await button.focus();
    await page.keyboard.press('Enter');
    const dialog = page.locator('[role=dialog], [role=alertdialog]');
    await expect(dialog, `${path} ${opener}`).toBeVisible();
    await expect
      .poll(() => dialog.evaluate((d) => d.contains(document.activeElement)), `into ${opener}`)
      .toBe(true);
    await page.keyboard.press('Escape');
    await expect(dialog).toBeHidden();
    await expect(button, `back to ${opener}`).toBeFocused();
  }
  for (const [item, name] of [
    [/^Keys/, 'Keys'],
    ['Change password', /password/],
  ] as const) {
    const menu = page.getByRole('button', { name: /Maren Holt, test manager/ });
    await menu.click();
    await page.getByRole('menuitem', { name: item }).click();
    await expect(page.getByRole('dialog', { name })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await expect(menu, `back to the menu from ${String(name)}`).toBeFocused();
  }
});

test('a word of the trade explains itself where it stands', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/tests');
  await page.getByRole('link', { name: /^Rear silencer/ }).click();
  await page.getByRole('link', { name: /^Compare/ }).click();
  await page.getByRole('button', { name: 'degrees of freedom' }).click();
  await expect(page.getByRole('dialog')).toContainText('How many independent repeats');
});
