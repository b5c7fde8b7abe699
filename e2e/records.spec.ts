import { createHash } from 'node:crypto';
import { expect, test, type Page } from '@playwright/test';
import { choose, enterAs } from './helpers.ts';

async function pick(page: Page, label: string, phrase: string, option: RegExp): Promise<void> {
  await page.getByRole('combobox', { name: label }).click();
  await page.getByPlaceholder('type a few letters').fill(phrase);
  await page.getByRole('option', { name: option }).first().click();
}

test('a part with options, needs and an embargo is entered, changed, and copied', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/parts');
  await page.getByRole('link', { name: 'New part' }).click();
  await test.step('the part: an embargo asks for a code name', async () => {
    await page.getByLabel('Name', { exact: true }).fill('Plenum spacer');
    await page.getByLabel('SKU').fill('PS-020');
    await page.getByLabel('Maker').fill('Lowmoss');
    await choose(page.getByLabel('Category'), 'inlet');
    await page.getByLabel('Until').fill('2031-01-01');
    await page.getByRole('button', { name: 'On to the revision' }).click();
    await expect(page.getByText('An embargoed part needs a code name for everybody else.')).toBeVisible();
    await page.getByLabel('Code name').fill('Project Hirta');
    await page.getByRole('button', { name: 'Add a market' }).click();
    await choose(page.getByLabel('Class, row 1'), 'road legal');
    await page.getByRole('button', { name: 'On to the revision' }).click();
  });
  await test.step('its first revision, with an option and a part it needs', async () => {
    await page.getByRole('button', { name: 'Add an option' }).click();
    await page.getByLabel('Option, row 1').fill('height');
    await page.getByLabel('Settings, with commas between, row 1').fill('12 mm');
    await page.getByRole('button', { name: 'Add the part' }).click();
    await expect(page.getByText('An option has at least two settings.')).toBeVisible();
    await page.getByLabel('Settings, with commas between, row 1').fill('12 mm, 20 mm');
    await pick(page, 'Part it needs', 'inlet adaptor', /Inlet adaptor/);
    await page.getByLabel('Replace when fitting').fill('plenum gasket\nbolts');
    await page.getByRole('button', { name: 'Add the part' }).click();
  });
  await expect(page.getByRole('heading', { level: 1, name: 'Plenum spacer' })).toBeVisible();
  await expect(page.getByText('under embargo until 1 Jan 2031, code name Project Hirta')).toBeVisible();
  await expect(page.getByRole('main')).toContainText('height: 12 mm / 20 mm');
  await expect(page.getByRole('main')).toContainText('Inlet adaptor');
  await expect(page.getByRole('main')).toContainText('plenum gasket, bolts');
  await test.step('the embargo is lifted', async () => {
    await page.getByRole('button', { name: 'Change', exact: true }).click();
    await page.getByRole('dialog').getByLabel('Until').fill('');
    await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click();
    await expect(page.getByText(/under embargo/)).toHaveCount(0);
  });
  await test.step('a copy wants an SKU of its own', async () => {
    await page.getByRole('link', { name: 'Copy' }).click();
    await page.getByRole('button', { name: 'On to the revision' }).click();
    await expect(page.getByText('Give the SKU.')).toBeVisible();
    await page.getByLabel('SKU').fill('PS-020');
    await page.getByRole('button', { name: 'On to the revision' }).click();
    await expect(page.getByRole('complementary', { name: 'Parts like it' })).toContainText(
      'Lowmoss has Plenum spacer (PS-020) in the register.',
    );
    await page.getByRole('button', { name: 'Add the part' }).click();
    await expect(
      page.getByRole('alert').filter({ hasText: 'SKU PS-020 is in the register already.' }),
    ).toBeVisible();
  });
});

test('a list that is about to change under the pointer takes no press', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/parts/new');
  await page.getByRole('button', { name: 'On to the revision' }).waitFor();
  await page.getByLabel('Name', { exact: true }).fill('Throttle spacer');
  await page.getByLabel('SKU').fill('TS-030');
  await page.getByLabel('Maker').fill('Lowmoss');
  await page.getByRole('button', { name: 'On to the revision' }).click();
  await page.getByRole('combobox', { name: 'Part it needs' }).click();
  const second = page.getByRole('option').nth(1);
  await second.hover();
  const place = await second.boundingBox();
  let answer = (): void => undefined;
  const asked = new Promise<void>((resolve) => (answer = resolve));
  await page.route(/\/api\/parts\?.*q=inlet/, async (route) => {
    await asked;
    await route.continue();
  });
  await page.getByPlaceholder('type a few letters').fill('inlet adaptor');
  await page.mouse.click(place!.x + place!.width / 2, place!.y + place!.height / 2);
  await expect(page.getByRole('listbox')).toHaveAttribute('aria-busy', 'true');
  await expect(page.getByRole('button', { name: /^Remove / })).toHaveCount(0);
  answer();
  await page.getByRole('option', { name: /Inlet adaptor/ }).click();
  await expect(page.getByRole('button', { name: 'Remove Inlet adaptor' })).toBeVisible();
});

test('a calibration is known by the hash of its file, which stays on this machine', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/calibrations');
  await page.getByRole('button', { name: 'New calibration' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Sprat touring');
  await page.getByRole('button', { name: 'Add the calibration' }).click();
  await expect(page.getByText('Choose the file: its SHA-256 names the calibration.')).toBeVisible();
  const body = Buffer.from('a calibration that nobody else has');
  const uploads: string[] = [];
  page.on('request', (request) => {
    if (request.postData()?.includes('nobody else')) uploads.push(request.url());
  });
  await page
    .getByLabel('Calibration file')
    .setInputFiles({ name: 'sprat.bin', mimeType: 'application/octet-stream', buffer: body });
  const hash = createHash('sha256').update(body).digest('hex');
  await expect(page.getByText(hash)).toBeVisible();
  await pick(page, 'Fitment', 'sprat 85', /Sprat 1.0 T, 85 kW/);
  await page.getByLabel('Fuel', { exact: true }).fill('98 RON');
  await page.getByRole('button', { name: 'Add the calibration' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'Sprat touring' })).toContainText(hash.slice(0, 12));
  await expect(page.getByRole('row').filter({ hasText: 'Sprat touring' })).toContainText(
    'Quillon Sprat 1.0 T, 85 kW',
  );
  expect(uploads).toEqual([]);
});

test('a dyno gets its scatter and opening hours, and its sensors say when they are due', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/dynos');
  await expect(page.getByRole('row').filter({ hasText: 'Fell Road' })).toContainText('not registered');
  await page.getByRole('link', { name: 'Fell Road rollers' }).click();
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await page.getByLabel('SD of Mounting, per cent').fill('0.7');
  await page.getByLabel('Degrees of freedom of Mounting').fill('8');
  await page.getByRole('button', { name: 'Add an opening' }).click();
  await choose(page.getByLabel('Day, row 4'), 'Friday');
  await page.getByLabel('to, row 4').fill('07:00');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('It would close before it opens.')).toBeVisible();
  await page.getByLabel('to, row 4').fill('12:00');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('button', { name: 'Close the form' })).toHaveCount(0);
  await expect(page.getByRole('row').filter({ hasText: 'one strapping-down against another' })).toContainText(
    /0\.70 %8\.0/,
  );
  await expect(page.getByText('Friday 08:00 to 12:00')).toBeVisible();
  await page.goto('/register/dynos');
  await page.getByRole('link', { name: 'Cell 1' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'RH-0994' })).toContainText('since 3 Nov 2026');
  await page.getByRole('button', { name: 'Enter a sensor or a calibration' }).click();
  await page.getByLabel('Quantity').fill('humidity');
  await page.getByLabel('Serial number').fill('RH-0994');
  await page.getByLabel('Standard uncertainty').fill('1.5');
  await page.getByLabel('Unit', { exact: true }).fill('% RH');
  await page.getByLabel('Due again').fill('2035-11-01');
  await page.getByRole('button', { name: 'Enter it' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'RH-0994' })).toContainText('1.5 % RH');
  await expect(page.getByRole('row').filter({ hasText: 'RH-0994' })).not.toContainText('since');
});

test('a vehicle is registered by an operator, found, and planned with its gear nearest to 1:1', async ({
  page,
}) => {
  await enterAs(page, /Tobias Rask/);
  await page.goto('/register/vehicles');
  await page.getByRole('link', { name: 'New vehicle' }).click();
  await page.getByRole('button', { name: 'Add the vehicle' }).click();
  await expect(page.getByText('Choose the fitment.')).toBeVisible();
  await pick(page, 'Fitment', 'holm chassis', /Holm 2.2 D chassis cab/);
  await page.getByLabel('Plate or asset tag').fill('SV-040 Holm, cab');
  await page.getByLabel('Odometer, km').fill('15000');
  for (const [i, [name, ratio]] of (
    [
      ['3rd', '1.42'],
      ['4th', '1.03'],
    ] as const
  ).entries()) {
    await page.getByRole('button', { name: 'Add a gear' }).click();
    await page.getByLabel(`Gear, row ${i + 1}`).fill(name);
    await page.getByLabel(`Ratio, row ${i + 1}`).fill(ratio);
  }
  await page.getByRole('button', { name: 'Add the vehicle' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'SV-040 Holm, cab' })).toBeVisible();
  await expect(page.getByRole('main')).toContainText('4th, 1.03:1');
  await expect(page.getByText('Begin with tyres, fuel and the last service')).toBeVisible();
  await page.goto('/register/vehicles');
  await page.getByLabel('Find a vehicle').fill('chassis cab');
  await expect(page.getByRole('row').filter({ hasText: 'SV-040' })).toContainText('not known');
});

test('a dyno is closed for a day with its reason, and opened again', async ({ page }) => {
  await enterAs(page, /Tobias Rask/);
  await page.goto('/schedule?from=2031-05-05');
  await page.getByRole('button', { name: 'Close a dyno' }).click();
  await page.getByLabel('First day').fill('2031-05-06');
  await page.getByLabel('Last day').fill('2031-05-06');
  await page.getByLabel('Reason').fill('load cell calibration');
  await page.getByRole('button', { name: 'Close it' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Done' }).click();
  const day = page.locator('[data-dyno="Cell 1"][data-day="2031-05-06"]');
  await expect(day).toContainText('closed: load cell calibration');
  await page.getByRole('button', { name: 'Close a dyno' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Reopen' }).click();
  await page.getByRole('button', { name: 'Reopen it' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Done' }).click();
  await expect(day).not.toContainText('closed');
});

test('the application grid is walked by arrow keys, and a mark is kept', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/applications?part=panel');
  const first = page.getByRole('checkbox', { name: /Panel filter fits Brackwater Moor/ });
  await expect(first).not.toBeChecked();
  await first.focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('checkbox', { name: /Panel filter fits Halden Ferry/ })).toBeFocused();
  await page.keyboard.press('Space');
  await expect(page.getByRole('checkbox', { name: /Panel filter fits Halden Ferry/ })).toBeChecked();
  await page.reload();
  await expect(page.getByRole('checkbox', { name: /Panel filter fits Halden Ferry/ })).toBeChecked();
});
