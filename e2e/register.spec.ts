import { expect, test } from '@playwright/test';
import { choose, enterAs, leave, read } from './helpers.ts';

test('the ledger answers what was on the car, and a wrong entry is put right in sight of everybody', async ({
  page,
}) => {
  await enterAs(page, /Tobias Rask/);
  await page.getByRole('link', { name: 'Register', exact: true }).click();
  await page.getByRole('link', { name: 'Vehicles' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'SV-033' })).toContainText('not stock');
  await page.getByRole('link', { name: 'SV-014 Tern, grey' }).click();
  const answer = page.getByRole('region', { name: 'What was on it' });
  await expect(answer).toContainText('This is stock.');
  await answer.getByLabel('The question is about: day').fill('25 Sep 2026');
  await answer.getByLabel('The question is about: time').fill('12:00');
  await expect(answer).toContainText('Not stock');
  await expect(answer).toContainText('exhaust section: Touring silencer, revision A');
  await page.getByRole('button', { name: 'Write an entry' }).click();
  await choose(page.getByLabel('What', { exact: true }), 'A part was fitted');
  await choose(page.getByLabel('Part', { exact: true }), 'Rear silencer, revision B (exhaust section)');
  await page.getByLabel('Done: day').fill('10 Oct 2026');
  await page.getByLabel('Done: time').fill('09:00');
  await page.getByLabel('Odometer, km').fill('100');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await answer.getByLabel('The question is about: day').fill('20.10.2026');
  await answer.getByLabel('The question is about: time').fill('12:00');
  await expect(answer).toContainText('Rear silencer, revision B');
  await page
    .getByRole('row')
    .filter({ hasText: 'Rear silencer' })
    .getByRole('button', { name: 'Put right' })
    .click();
  await choose(page.getByLabel('What', { exact: true }), 'Nothing: it did not happen');
  await page.getByRole('button', { name: 'Put it right' }).click();
  await expect(page.getByText('Say why the entry is put right.')).toBeVisible();
  await page.getByLabel('Why it is put right').fill('It went onto the blue Tern.');
  await page.getByRole('button', { name: 'Put it right' }).click();
  await expect(answer).toContainText('Not known to be stock');
  await expect(answer).not.toContainText('Rear silencer');
  await expect(page.getByRole('row').filter({ hasText: 'Rear silencer, revision B fitted' })).toContainText(
    'put right later',
  );
});

test('rows from a spreadsheet are previewed with errors by row, put right and imported', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/fitments');
  await page.getByRole('link', { name: 'Paste or import rows' }).click();
  const head = [
    'Maker',
    'Model',
    'Output variant',
    'Market',
    'Year from',
    'Engine code',
    'Displacement cc',
    'Cylinders',
    'Aspiration',
    'Ignition',
    'Fuel',
    'Driven wheels',
    'Rated power kW',
    'Rated torque Nm',
    'Rated to',
    'Family',
    'Units a year',
  ];
  const row = (model: string, units: string) => [
    'Oriel',
    model,
    '74 kW',
    'EU',
    '2020',
    'O14N',
    '1395',
    '4',
    'natural',
    'spark',
    'petrol 95 RON',
    'front',
    '74',
    '132',
    'ISO 1585',
    'O14',
    units,
  ];
  const table = (...rows: string[][]) => [head, ...rows].map((r) => r.join('\t')).join('\n');
  await page
    .getByLabel('Rows')
    .fill(
      table(row('Wren 1.4 van', 'plenty'), row('Wren 1.4 hatchback', '8 000'), row('Wren 1.4 saloon', '900')),
    );
  await page.getByRole('button', { name: 'Show what would change' }).click();
  const preview = page.getByRole('region', { name: 'Preview' });
  await expect(
    preview.getByRole('row').filter({ hasText: 'Units a year“plenty” is not a number.' }),
  ).toContainText('2');
  await expect(preview).toContainText(/Units a year: \d{4} 8000/);
  await expect(page.getByRole('button', { name: /^Import/ })).toBeDisabled();
  await page
    .getByLabel('Rows')
    .fill(
      table(row('Wren 1.4 van', '1 200'), row('Wren 1.4 hatchback', '8 000'), row('Wren 1.4 saloon', '900')),
    );
  await page.getByRole('button', { name: 'Show what would change' }).click();
  await page.getByRole('button', { name: 'Import 3 rows' }).click();
  await expect(page.getByText('2 added, 1 changed.')).toBeVisible();
  await page.goto('/register/fitments');
  await page.getByLabel('Find a fitment').fill('wrenn 1,4 van 2021');
  await expect(page.getByRole('link', { name: /Oriel Wren 1.4 van/ })).toBeVisible();
  await expect(page.getByRole('table', { name: 'Fitments' }).getByRole('link')).toHaveCount(1);
});

test('a fitment is copied from a sibling, a part gets a revision, and the applications say where it fits', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/fitments');
  await page.getByLabel('Find a fitment').fill('holm van 92');
  await page
    .getByRole('link', { name: /Varrick Holm 2.2 D van/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: 'Family V22' })).toBeVisible();
  await expect(page.getByText(/output \d+ kW, tested \d+ kW/).first()).toBeVisible();
  await page.getByRole('link', { name: 'Copy' }).click();
  await page.getByRole('button', { name: 'Add the fitment' }).click();
  await expect(page.getByText('Give the output variant.')).toBeVisible();
  await page.getByLabel('Output variant').fill('121 kW');
  await page.getByLabel('Power', { exact: true }).fill('121');
  await page.getByRole('button', { name: 'Add the fitment' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Varrick Holm 2.2 D van' })).toBeVisible();
  await page.goto('/register/parts');
  await page.getByRole('link', { name: /Front intercooler/ }).click();
  await page.getByRole('button', { name: 'New revision' }).click();
  await page.getByRole('dialog').getByLabel('Revision', { exact: true }).fill('C');
  await page.getByRole('dialog').getByLabel('What changed').fill('thicker core');
  await page.getByRole('button', { name: 'Write the revision' }).click();
  await expect(page.getByRole('heading', { name: 'Revision C the newest' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Revision B' })).toBeVisible();
  await page.getByRole('link', { name: 'Change the applications' }).click();
  const box = page.getByLabel('Front intercooler fits Varrick Holm 2.2 D van, 121 kW');
  await expect(box).not.toBeChecked();
  await box.click();
  await expect(box).toBeChecked();
  await page.goto('/coverage?q=holm%20121');
  await expect(
    page.getByRole('link', {
      name: /Front intercooler on Varrick Holm 2.2 D van, 121 kW: untested. Plan a test/,
    }),
  ).toBeVisible();
});

test('coverage shows how far the evidence has come, family by family, and leads to the plan of what is worth testing', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await page.getByRole('link', { name: 'Coverage', exact: true }).click();
  await expect(
    page.getByRole('link', { name: /Cat-back exhaust on Halden Ferry.*no gain shown/ }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Families' }).click();
  await choose(page.getByRole('combobox', { name: 'Family' }), 'Q10');
  await expect(page.getByRole('row').filter({ hasText: 'Q10 A' })).toHaveCount(1);
  await expect(page.getByRole('row').filter({ hasText: 'Q10 B' })).toHaveCount(2);
  await expect(
    page.getByLabel(/Cold-side intake on Quillon Sprat 1.0 T van.*a sibling has been measured/),
  ).toBeVisible();
  await choose(page.getByRole('combobox', { name: 'Family' }), 'all families');
  await page.getByRole('button', { name: 'Worth testing next' }).click();
  const first = page.getByRole('row').nth(1);
  await expect(first).toContainText(/Panel filter|Short-ram/);
  await page.getByLabel('Fitments', { exact: true }).fill('wren hatchback');
  await page
    .getByRole('row')
    .filter({ hasText: 'Wren 1.4 hatchback' })
    .first()
    .getByRole('link', { name: 'Plan a test' })
    .click();
  await expect(page.getByRole('heading', { name: 'Plan a new test' })).toBeVisible();
  await expect(page.getByRole('complementary')).toContainText('not known to be stock');
  await expect(page.getByRole('region', { name: /Arm 1/ })).toContainText('part alone');
});

test('an embargoed part is read by its code name by who has no clearance, on every screen', async ({
  page,
}) => {
  await enterAs(page, /Tobias Rask/);
  const secret = /Resonance|CX-771/i;
  for (const [path, code] of [
    ['/tests', true],
    ['/coverage', true],
    ['/schedule', false],
    ['/register/parts', true],
    ['/register/applications', true],
    ['/register/vehicles', false],
    ['/catalogue', false],
  ] as const) {
    await page.goto(path);
    await read(page);
    if (code) await expect(page.locator('body'), path).toContainText('Project Corrie');
    expect(await page.locator('body').innerText(), path).not.toMatch(secret);
  }
  await page.goto('/tests');
  await page.getByRole('link', { name: /Project Corrie/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Project Corrie, revision P2');
  await page
    .getByRole('navigation', { name: 'Steps of the test' })
    .getByRole('link', { name: /^Plan/ })
    .click();
  await read(page);
  expect(await page.locator('body').innerText()).not.toMatch(secret);
  await page.getByRole('link', { name: 'Print' }).click();
  await expect(page.getByRole('heading', { name: /Run sheet/ })).toBeVisible();
  expect(await page.locator('body').innerText()).not.toMatch(secret);
  await page.goto('/register/parts');
  await page.getByRole('link', { name: /Project Corrie/ }).click();
  await expect(page.getByText('under embargo: you read its code name')).toBeVisible();
  await expect(page.getByRole('main')).toContainText('withheld');
  await leave(page);
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/parts');
  await expect(page.getByRole('link', { name: /Resonance inlet plenum/ })).toBeVisible();
});
