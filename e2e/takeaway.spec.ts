import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { strFromU8, unzipSync } from 'fflate';
import type { TestDetail } from '../contract/overview.ts';
import { asked, enterAs, idOfTest, openTest } from './helpers.ts';

async function saved(page: Page, button: RegExp): Promise<{ name: string; bytes: Buffer }> {
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: button }).first().click();
  const file = await download;
  return { name: file.suggestedFilename(), bytes: readFileSync(await file.path()) };
}

test('a drawing leaves with its conditions printed in it, as SVG and as PNG', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await openTest(page, 3, 'Compare');
  const svg = await saved(page, /Save “Gain over stock.* as SVG/);
  expect(svg.name).toBe('test-3-gain.svg');
  const text = svg.bytes.toString('utf8');
  for (const words of ['Test 3', 'SAE J1349', '3 pulls', '6 pulls', 'Verdict: claim', 'not a', 'proven loss'])
    expect(text).toContain(words);
  // Colours are written out: nothing of the page is needed to draw it.
  expect(text).not.toMatch(/var\(--|class=/);
  expect(text).toMatch(/@font-face\{.*data:font\/woff2/);
  const png = await saved(page, /Save “Power at the wheel.* as PNG/);
  expect(png.name).toBe('test-3-power.png');
  expect(png.bytes.subarray(1, 4).toString('latin1')).toBe('PNG');
  const [width, height] = [png.bytes.readUInt32BE(16), png.bytes.readUInt32BE(20)];
  expect(width).toBeGreaterThan(600);
  expect(height).toBeGreaterThan(500);
});

test('the curve leaves as a table of every point, with the conditions above', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await enterAs(page, /Maren Holt/);
  await openTest(page, 3, 'Compare');
  await page.getByRole('button', { name: 'table', exact: true }).click();
  const csv = await saved(page, /^CSV file$/);
  expect(csv.name).toBe('test-3-curve.csv');
  const lines = csv.bytes.toString('utf8').split('\r\n');
  const body = lines.filter((line) => !line.startsWith('#'));
  expect(lines[0]).toMatch(/^# Test 3: Rear silencer/);
  expect(body[0]).toContain('"gain, %","lower, %","upper, %"');
  expect(body).toHaveLength(1 + 81);
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page.getByText('Copied, every point of the curve, for a spreadsheet.')).toBeVisible();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied.split('\n')[1].split('\t')[1]).toBe(body[1].split(',')[1]);
});

test('beside the gain stand where a torque is reached, the time of the sweep and what more would buy', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await openTest(page, 3, 'Compare');
  const further = page.getByRole('region', { name: 'What else the curves show, table' });
  // This silencer loses low down: the same torque comes later, at a proven distance.
  const reached = further.getByRole('row').filter({ hasText: '90 % of the baseline’s most' });
  await expect(reached).toContainText(/\+\d+ rpm \(\+\d+ to \+\d+\)/);
  await expect(further.getByRole('row').filter({ hasText: 'by the curves' })).toContainText(/−\d\.\d %/);
  await expect(further).toContainText('where a brake holds the rate, the clock says nothing of the part');
  const log = page.getByRole('region', { name: 'What the log says of the gain' });
  await expect(log).toContainText('Mechanism: measured');
  await expect(log.getByRole('row').filter({ hasText: 'Exhaust back-pressure' })).toContainText(
    /−\d+\.\d hPa.*goes with it/,
  );
  const buys = page.getByRole('region', { name: 'What more would buy' });
  const halves = (await buys.textContent())!.match(/±(\d\.\d\d) %/g)!.map((t) => Number(t.slice(1, 5)));
  expect(halves).toHaveLength(4);
  expect(halves[1]).toBeLessThan(halves[0]);
  await expect(buys).toContainText('until some are registered');
  await expect(page.getByRole('region', { name: 'Shortcuts' })).toContainText('60 · 57');
});

test('the maker of a part is sent how it fitted, what was found and the pulls, in one file', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const { part } = await asked<TestDetail>(page, `/tests/${await idOfTest(page, 3)}`);
  await page.goto(`/register/parts/${part!.partId}`);
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Feedback for its maker' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toMatch(/^feedback-.*\.zip$/);
  const files = unzipSync(new Uint8Array(readFileSync(await file.path())));
  const text = strFromU8(files['feedback.html']);
  expect(text).toContain(part!.name);
  expect(text).toMatch(/Test 3: .*Tern/);
  expect(text).toMatch(/Power at the wheel on average from .* rpm/);
  expect(Object.keys(files).filter((path) => path.startsWith('test-3/'))).toHaveLength(9);
});
