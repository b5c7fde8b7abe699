import { expect, test, type Page } from '@playwright/test';
import type { TestDetail, TestPage } from '../contract/overview.ts';
import { DEMO_CHECKS } from '../demo/register/control.ts';
import { asked, choose, enterAs, leave } from './helpers.ts';
import { ownDyno } from './own-house.ts';

async function openCell(page: Page): Promise<void> {
  await page.goto('/register/dynos');
  await page.getByRole('link', { name: 'Cell 1' }).click();
  await expect(page.getByRole('heading', { name: 'Control vehicle' })).toBeVisible();
}
/** Files of a check of the demo as they would be on another day; one number is their own. */
const filesOn = (day: string) =>
  DEMO_CHECKS[3].pulls.map(({ name, text }, i) => ({
    name: name.replace(DEMO_CHECKS[3].day, day),
    mimeType: 'text/csv',
    buffer: Buffer.from(
      text.replaceAll(DEMO_CHECKS[3].day, day).replace(/\n/, `\n# Check of the spec ${i}\n`),
    ),
  }));

test('a check of the control vehicle is entered with its files, stands on the chart, and is crossed out with a cause', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await openCell(page);
  const car = page.getByRole('article', { name: 'SV-101 Tern, black' });
  await expect(car).toContainText('within limits');
  await expect(car.getByRole('img', { name: /24 checks, from 10 Aug 2026 to 26 Oct 2026/ })).toBeVisible();
  // On rollers of its own, so that no session of the demo is touched.
  const spare = await ownDyno(page, 'Spare rollers');
  await page.goto(`/register/dynos/${spare}`);
  await expect(page.getByText(/None named: whether the dyno drifts/)).toBeVisible();
  await page.getByRole('button', { name: 'Name a control vehicle' }).click();
  await page.getByRole('combobox', { name: 'Control vehicle' }).click();
  await page.getByPlaceholder('type a few letters').fill('SV-101');
  await page
    .getByRole('option', { name: /SV-101/ })
    .first()
    .click();
  await page.getByLabel('From, rpm').fill('3 000');
  await page.getByLabel('To, rpm').fill('6000');
  await page.getByLabel('Gear', { exact: true }).fill('4th');
  await page.getByRole('button', { name: 'Name it' }).click();
  await expect(car).toContainText('20 checks to its reference');
  await leave(page);
  await enterAs(page, /Tobias Rask/);
  await page.goto(`/register/dynos/${spare}`);
  await car.getByRole('button', { name: 'Enter a check' }).click();
  await car.getByRole('button', { name: 'Enter the check' }).click();
  await expect(car.getByText('Choose the files of 3 counted pulls or more.')).toBeVisible();
  await car.getByLabel('Files of the counted pulls').setInputFiles(filesOn('2026-11-25'));
  await expect(car.getByText(/^Kept, in this order: control-2026-11-25/)).toBeVisible();
  await car.getByLabel('Day', { exact: true }).fill('25 Nov 2026');
  await car.getByLabel('First pull, at the site').fill('14:00');
  await car.getByLabel('Temperature, °C').fill('19,5');
  await car.getByLabel('Pressure at the site, hPa').fill('1 009');
  await car.getByLabel('Humidity, %').fill('48');
  await car.getByRole('button', { name: 'Enter the check' }).click();
  const newest = car.getByRole('row').nth(1);
  await expect(newest).toContainText(/25 Nov 2026, 14:30.*by its files/, { timeout: 30_000 });
  await expect(newest).toContainText('Tobias Rask');
  const file = await page.request.get((await newest.getByRole('link').first().getAttribute('href'))!);
  expect(await file.text()).toContain('# Check of the spec 0');
  // The operator measures; whether a check was at fault the test manager says.
  await expect(newest.getByRole('button', { name: 'Cross out' })).toHaveCount(0);
  // The same recordings are no second check.
  await car.getByRole('button', { name: 'Enter a check' }).click();
  await car.getByLabel('Files of the counted pulls').setInputFiles(filesOn('2026-11-25'));
  await expect(car.getByText(/^Kept, in this order/)).toBeVisible();
  await car.getByLabel('First pull, at the site').fill('16:00');
  for (const [label, value] of [
    ['Temperature, °C', '20'],
    ['Pressure at the site, hPa', '1009'],
    ['Humidity, %', '48'],
  ])
    await car.getByLabel(label).fill(value);
  await car.getByRole('button', { name: 'Enter the check' }).click();
  await expect(car.getByText(/stands in another check already/)).toBeVisible();
  await car.getByRole('button', { name: 'Cancel' }).click();
  await leave(page);

  await enterAs(page, /Maren Holt/);
  await page.goto(`/register/dynos/${spare}`);
  await car.getByRole('row').nth(1).getByRole('button', { name: 'Cross out' }).click();
  await page.getByLabel('Reason').fill('The tank was filled with another fuel.');
  await page.getByRole('button', { name: 'Cross it out' }).click();
  await expect(car.getByRole('row').nth(1)).toContainText(
    'crossed out by Maren Holt: The tank was filled with another fuel.',
  );
});

test('what cannot be undone has a plan of its own: its price beside A-B-A, with a control vehicle on the run sheet', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const { items } = await asked<TestPage>(page, '/tests?limit=200');
  const kit = items.find((t) => t.protocol === 'options' && t.fitment.includes('Moor'))!;
  const { arms } = await asked<TestDetail>(page, `/tests/${kit.id}`);
  await page.goto(`/tests/new?like=${kit.id}&only=${arms.at(-1)!.key}`);
  await page.getByRole('radio', { name: /What cannot be undone/ }).click();
  await expect(page.getByText(/cams, drilled pulleys, blower kits/).first()).toBeVisible();
  await expect(page.getByText(/The variance of days is not registered for Cell 1/)).toBeVisible();
  const prices = page.getByRole('table', { name: 'What the return to baseline buys' });
  await expect(prices.getByRole('row').filter({ hasText: 'A-B-A' })).toContainText(/\d+\.\d.*\d\.\d %/);
  await expect(prices.getByRole('row').filter({ hasText: 'A-A-B-B' })).toContainText(/\d+\.\d.*\d\.\d %/);
  await expect(page.getByText(/Control vehicle.*before and after each arm/).first()).toBeVisible();
  await page.getByLabel('What is the test to show?').fill('What does the kit give, which stays on the car?');
  await page.getByRole('button', { name: 'Save the plan' }).click();
  await expect(
    page.getByText('Name the control vehicle that is measured before and after each arm.').first(),
  ).toBeVisible();
  await choose(page.getByLabel('Control vehicle', { exact: true }), 'SV-101 Tern, black');
  await page.getByRole('button', { name: 'Save the plan' }).click();
  await expect(page.getByText('The plan is saved.')).toBeVisible();
  await expect(page.getByText('SV-101 Tern, black, measured before and after each arm')).toBeVisible();
  const id = /tests\/([0-9a-f-]{36})/.exec(page.url())![1];
  await page.goto(`/tests/${id}/run-sheet`);
  await expect(
    page.getByText(/Nothing returns to the baseline.*SV-101 Tern, black before the first run/),
  ).toBeVisible();
});

test('a plan without return is refused for a part that can come off again', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  const { items } = await asked<TestPage>(page, '/tests?limit=200');
  const like = items.find((t) => t.number === 1)!;
  await page.goto(`/tests/new?like=${like.id}`);
  await page.getByRole('radio', { name: /What cannot be undone/ }).click();
  await choose(page.getByLabel('Control vehicle', { exact: true }), 'SV-101 Tern, black');
  await page.getByRole('button', { name: 'Save the plan' }).click();
  await expect(
    page.getByText(/By the register no part of this plan has a step that cannot be undone/).first(),
  ).toBeVisible();
});
