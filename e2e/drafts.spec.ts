import { expect, test, type Page } from '@playwright/test';
import { choose, enterAs, idOfTest, leave, read, testDetail } from './helpers.ts';

const openFitment = async (page: Page): Promise<void> => {
  await page.goto('/register/fitments');
  await page.getByRole('link', { name: /Wren 1\.4 hatchback/ }).click();
  await page.getByRole('button', { name: 'Change', exact: true }).click();
};

test('a form lives through reload, a second tab and leaving, which asks; saved it is no draft', async ({
  page,
  context,
}) => {
  await enterAs(page, /Maren Holt/);
  await openFitment(page);
  const tyres = page.getByLabel('Stock tyres');
  const typed = `175/65 R14 ${Date.now() % 1000}`;
  await tyres.fill(typed);
  await page.reload();
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await expect(tyres).toHaveValue(typed);
  await expect(page.getByText(/^Draft, not saved yet/)).toBeVisible();
  const tab = await context.newPage();
  await tab.goto(page.url());
  await tab.getByRole('button', { name: 'Change', exact: true }).click();
  await expect(tab.getByLabel('Stock tyres')).toHaveValue(typed);
  await tab.getByLabel('Stock tyres').fill(`${typed} 82T`);
  await expect(tyres).toHaveValue(`${typed} 82T`);
  // Shown in both, kept once: nothing goes to and fro between them.
  const kept = (): Promise<string | null> =>
    page.evaluate(() => {
      const key = Object.keys(localStorage).find((k) => k.startsWith('evidentia-draft:form:fitment'));
      return key ? localStorage.getItem(key) : null;
    });
  const once = await kept();
  expect(once).toContain(`${typed} 82T`);
  await page.waitForTimeout(500);
  expect(await kept()).toBe(once);
  await tab.close();
  // Leaving asks; staying changes nothing.
  await page.getByRole('link', { name: 'Tests', exact: true }).click();
  const asked = page.getByRole('dialog', { name: 'Leave without saving?' });
  await asked.getByRole('button', { name: 'Stay' }).click();
  await expect(tyres).toHaveValue(`${typed} 82T`);
  await page.getByRole('link', { name: 'Tests', exact: true }).click();
  await asked.getByRole('button', { name: 'Leave' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Tests' })).toBeVisible();
  await page.goBack();
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await expect(tyres).toHaveValue(`${typed} 82T`);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Changed.')).toBeVisible();
  await page.getByRole('link', { name: 'Tests', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Tests' })).toBeVisible();
  await page.goBack();
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await expect(page.getByText(/^Draft, not saved yet/)).toHaveCount(0);
});

test('signing out in the middle of a form asks nothing, and the draft is there afterwards', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await openFitment(page);
  const typed = `185/60 R15 ${Date.now() % 1000}`;
  await page.getByLabel('Stock tyres').fill(typed);
  await leave(page);
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await enterAs(page, /Maren Holt/);
  await openFitment(page);
  await expect(page.getByLabel('Stock tyres')).toHaveValue(typed);
  await page.getByRole('button', { name: 'Drop the draft' }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
});

test('two people change one record: what the other wrote is taken over or told, never overwritten unseen', async ({
  page,
  browser,
}) => {
  await enterAs(page, /Maren Holt/);
  await openFitment(page);
  const other = await (await browser.newContext()).newPage();
  await enterAs(other, /Maren Holt/);
  await openFitment(other);
  const [family, tyres] = [`T${Date.now() % 10_000}`, '165/70 R14'];
  await other.getByLabel('Units sold a year').fill('4321');
  await other.getByLabel('Stock tyres').fill(family);
  await other.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(other.getByText('Changed.')).toBeVisible();
  await page.getByLabel('Stock tyres').fill(tyres);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Somebody else has changed this record since you opened it.')).toBeVisible();
  const told = page.getByRole('status', { name: 'Changed by somebody else' });
  await expect(told).toContainText('Units sold a year');
  await expect(told).toContainText('taken over here');
  await expect(told).toContainText(`${family}; you have written something else`);
  await expect(page.getByLabel('Units sold a year')).toHaveValue('4321');
  await expect(page.getByLabel('Stock tyres')).toHaveValue(tyres);
  await told.getByRole('button', { name: 'Take theirs' }).click();
  await expect(page.getByLabel('Stock tyres')).toHaveValue(family);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Changed.')).toBeVisible();
  await other.context().close();
});

test('a plan lives through a reload, and the arms of one protocol through another', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/tests/new');
  await read(page);
  await page.getByLabel('What is the test to show?').fill('Does the draft live?');
  await page.getByRole('radio', { name: /^Ladder/ }).check();
  await page.getByLabel('Counted pulls a run').fill('4');
  await page.reload();
  await expect(page.getByLabel('What is the test to show?')).toHaveValue('Does the draft live?');
  await expect(page.getByLabel('Counted pulls a run')).toHaveValue('4');
  await expect(page.getByRole('radio', { name: /^Ladder/ })).toBeChecked();
  await page.getByRole('button', { name: 'Drop the draft' }).click();
  await expect(page.getByLabel('What is the test to show?')).toHaveValue('');
});

test('one plan on two devices: who saves late sees what the other changed', async ({ page, browser }) => {
  await enterAs(page, /Maren Holt/);
  const id = await idOfTest(page, 9);
  await page.goto(`/tests/${id}/plan/edit`);
  await read(page);
  const detail = await testDetail(page, id);
  await page.getByLabel('Counted pulls a run').fill('5');
  // On the other another question is written.
  const other = await (await browser.newContext()).newPage();
  await enterAs(other, /Maren Holt/);
  await other.goto(`/tests/${id}/plan/edit`);
  await other.getByLabel('What is the test to show?').fill(`${detail.question} And above 5 000 rpm?`);
  await other.getByRole('button', { name: 'Save the changes' }).click();
  await expect(other.getByRole('button', { name: 'Lock the plan' })).toBeVisible();
  await page.getByRole('button', { name: 'Save the changes' }).click();
  await expect(page.getByText('Somebody else has changed the plan since you opened it.')).toBeVisible();
  await expect(page.getByRole('status', { name: 'Changed by somebody else' })).toContainText('question');
  await expect(page.getByLabel('What is the test to show?')).toHaveValue(/And above 5 000 rpm\?$/);
  await expect(page.getByLabel('Counted pulls a run')).toHaveValue('5');
  await page.getByRole('link', { name: 'Cancel' }).click();
  await other.context().close();
});

test('several entries of one day are written into a ledger without opening the form again', async ({
  page,
}) => {
  await enterAs(page, /Tobias Rask/);
  await page.goto('/register/vehicles');
  await page.getByRole('link', { name: /SV-026/ }).click();
  await page.getByRole('button', { name: 'Write an entry' }).click();
  await page.getByLabel('Odometer, km').fill('73 000');
  await choose(page.getByLabel('Renewed'), 'air filter');
  await page.getByRole('button', { name: 'Write it and go on to another' }).click();
  await expect(page.getByText('Written.').first()).toBeVisible();
  await expect(page.getByLabel('Odometer, km')).toHaveValue('73 000');
  await choose(page.getByLabel('Renewed'), { index: 1 });
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByRole('region', { name: 'Ledger' }).getByText(/73.000/)).toHaveCount(2);
});
