import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Locator, type Page } from '@playwright/test';
import type { TestDetail } from '../contract/overview.ts';
import { asked, enterAs, lockedTest } from './helpers.ts';

const strip = (page: Page): Locator => page.getByRole('region', { name: 'Run sheet' });
const next = (page: Page): Locator => page.getByRole('region', { name: 'Next' });
const recorded = (page: Page, label: string): Locator =>
  strip(page)
    .getByRole('listitem')
    .filter({ hasText: new RegExp(`${label}, recorded`) });
async function startPull(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^Start/ }).click();
}
async function isOnCar(page: Page): Promise<void> {
  await next(page)
    .getByRole('button', { name: /is on the car/ })
    .click();
  await page.getByRole('dialog').getByRole('button', { name: 'It is on the car' }).click();
}

test('an A-B-A session from the checks to the last pull, with a lost connection and a server that is killed', async ({
  page,
  browser,
}) => {
  test.setTimeout(420_000);
  await enterAs(page, /Maren Holt/);
  const id = await lockedTest(page, {
    question: 'Does the bench lose anything?',
    pullsPerRun: 2,
    coolDownMinutes: 1,
    controls: [
      { quantity: 'intake air at start', target: null, tolerance: 8, unit: '°C' },
      { quantity: 'tyre pressure', target: 2.4, tolerance: 0.1, unit: 'bar' },
    ],
  });
  await page.goto(`/tests/${id}/bench`);
  await next(page).getByRole('button', { name: 'Open the session' }).click();
  const devices = page.getByRole('list', { name: 'Devices' }).getByRole('listitem');
  await expect(devices).toHaveCount(3);
  await expect(devices.filter({ hasText: 'away' })).toHaveCount(0);

  // Nothing runs before the checks are done.
  for (const deed of [/^Start/, /^Extra pull/])
    await expect(page.getByRole('button', { name: deed })).toBeDisabled();

  // Somebody else follows it on a screen of their own.
  const other = await (await browser.newContext({ viewport: { width: 820, height: 1180 } })).newPage();
  await enterAs(other, /reviewer/);
  await other.goto(`/tests/${id}/bench`);
  await expect(next(other)).toContainText('Check');
  await expect(other.getByRole('button', { name: /^Start/ })).toHaveCount(0);

  // What is ticked while the network is away is kept, through a reload, and sent once it is back.
  const checks = page.getByRole('list', { name: 'Checks' }).getByRole('button');
  await page.route('**/api/tests/*/bench/entries', (route) => route.abort('connectionreset'));
  for (const check of await checks.all()) await check.click();
  await expect(page.getByText(/8 entries wait to be sent/)).toBeVisible();
  await page.reload();
  await expect(page.getByText(/8 entries wait to be sent/)).toBeVisible();
  await page.unroute('**/api/tests/*/bench/entries');
  await expect(page.getByText(/wait to be sent/)).toHaveCount(0);
  await expect(next(other)).toContainText('Strap the car down');

  await next(page)
    .getByLabel(/How it is strapped/)
    .fill('four straps, marks painted');
  await next(page).getByRole('button', { name: 'It is strapped down' }).click();
  await isOnCar(page);
  // What no device reads is written by hand.
  const tyres = page
    .getByRole('list', { name: 'Held equal' })
    .getByRole('listitem')
    .filter({ hasText: 'tyre pressure' });
  await tyres.getByRole('button', { name: 'Write it' }).click();
  await page.getByRole('dialog').getByRole('textbox').fill('2,38');
  await page.getByRole('dialog').getByRole('button', { name: 'Write it' }).click();
  await expect(tyres).toContainText('2.38');

  // The first pull breaks off in the middle, and is made whole from the buffer of the dyno.
  await page.getByRole('button', { name: 'Stand-ins' }).click();
  await page
    .getByRole('dialog')
    .getByLabel(/connection lost/)
    .click();
  await expect(page.getByRole('dialog').getByLabel(/connection lost/)).toBeChecked();
  await page.keyboard.press('Escape');
  await startPull(page);
  await expect(page.getByText(/Not whole: \d+ samples arrived/)).toBeVisible();
  await expect(recorded(page, 'p1')).toBeVisible();
  await page.getByRole('button', { name: 'Stand-ins' }).click();
  await page
    .getByRole('dialog')
    .getByLabel(/connection lost/)
    .click();
  await expect(page.getByRole('dialog').getByLabel(/connection lost/)).not.toBeChecked();
  await page.keyboard.press('Escape');

  // In the middle of the second the server is killed; the pull goes on, and so does the session.
  await startPull(page);
  await expect(page.getByLabel('The pull as it runs')).toContainText(/[2-5].\d{3} rpm/);
  const file = process.env.SERVER_PID_FILE;
  if (file) process.kill(Number(readFileSync(file, 'utf8')), 'SIGKILL');
  await expect(recorded(page, 'p2')).toBeVisible();
  await expect(recorded(other, 'p2')).toBeVisible();

  await expect(next(page)).toContainText('Have on the car');
  await isOnCar(page);
  await startPull(page);
  await expect(other.getByLabel('The pull as it runs')).toContainText('rpm');
  await expect(recorded(page, 'p3')).toBeVisible();
  await page.keyboard.press('t');
  await page.getByRole('dialog').getByRole('button', { name: 'felt normal' }).click();
  await expect(page.getByRole('region', { name: 'Record' })).toContainText('felt normal');
  await startPull(page);
  await expect(recorded(page, 'p4')).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes[0].html}`)).toEqual([]);
  expect((await new AxeBuilder({ page: other }).analyze()).violations.map((v) => v.id)).toEqual([]);

  // Too early to unstrap: said, and asked for when the session is closed all the same.
  await expect(page.getByText(/Do not unstrap yet/)).toBeVisible();
  await isOnCar(page);
  await startPull(page);
  await expect(recorded(page, 'p5')).toBeVisible();
  await startPull(page);
  await expect(next(page)).toContainText('All is there');
  await page.getByRole('button', { name: 'Close session' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Close the session' }).click();
  await expect(next(page)).toContainText('Open the session');

  const detail = await asked<TestDetail>(page, `/tests/${id}`);
  expect(detail.pulls.map((p) => [p.label, p.file !== null, p.air?.source])).toEqual(
    ['p1', 'p2', 'p3', 'p4', 'p5', 'p6'].map((label) => [label, true, 'live station']),
  );
  await page.goto(`/tests/${id}/judge`);
  await expect(page.getByText(/Every pull was made in its place on the run sheet/)).toBeVisible();
});
