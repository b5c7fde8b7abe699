import { expect, test } from '@playwright/test';
import { enterAs, read } from './helpers.ts';

test('a printed figure is registered, doubted where it contradicts itself, attached, and leads to a plan, not a claim', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/before');
  await read(page);
  await page.getByRole('button', { name: 'Register one' }).click();
  const choose = async (what: string, words: string): Promise<void> => {
    await page.getByRole('combobox', { name: what }).click();
    await page.getByPlaceholder(/./).last().fill(words);
    await page.getByRole('option').first().click();
  };
  await choose('Fitment', 'Adder');
  await choose('Part', 'downpipe');
  await page.getByLabel('Where it comes from').fill('Leaflet in the showroom, undated');
  await page
    .getByRole('textbox', { name: 'What is printed' })
    .fill('stock 300 hp at 5252\nabout twenty more');
  await page.getByRole('button', { name: 'Register it' }).click();
  await expect(page.getByText(/Line 2: Write a line as/)).toBeVisible();
  await page
    .getByRole('textbox', { name: 'What is printed' })
    .fill('stock 300 hp at 5252\nstock 300 N·m at 5252\ngain 20 hp');
  // What was typed is there after a reload.
  await page.reload();
  await page.getByRole('button', { name: 'Register one' }).click();
  await expect(page.getByLabel('Where it comes from')).toHaveValue('Leaflet in the showroom, undated');
  await expect(page.getByRole('combobox', { name: 'Fitment' })).toContainText('Adder');
  await page.getByRole('button', { name: 'Register it' }).click();
  const entry = page.getByRole('article').filter({ hasText: 'Leaflet in the showroom' });
  await expect(entry).toContainText('do not belong together');
  await expect(entry).toContainText('It would fit were the torque in lb·ft');
  await entry.locator('input[type=file]').setInputFiles({
    name: 'leaflet.png',
    mimeType: 'image/png',
    buffer: Buffer.from('a picture of the leaflet'),
  });
  await expect(entry.getByRole('link', { name: /leaflet\.png/ })).toBeVisible();
  // Coverage shows it as something that has yet to be tested, and leads to its plan.
  await page.goto('/coverage?q=Adder');
  await read(page);
  await page
    .getByRole('link', {
      name: /downpipe on .*: untested.*a figure from before is registered\. Plan a test/i,
    })
    .first()
    .click();
  await expect(page).toHaveURL(/\/tests\/new\?fitment=/);
  await page.goto('/register/before');
  await entry.getByRole('button', { name: 'Cross out' }).click();
  await page.getByLabel('Reason').fill('It was of another car.');
  await page.getByRole('button', { name: 'Cross it out' }).click();
  await expect(entry).toContainText('It was of another car.');
});
