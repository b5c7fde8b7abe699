import { writeFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { choose, enterAs, filesOf, idOfTest, openTest, testDetail } from './helpers.ts';

test('files that cannot be used are refused with file, place and what to do; a question about columns is answered once', async ({
  page,
}, testInfo) => {
  const { pulls } = filesOf('half captured');
  const text = pulls[5].buffer.toString();
  await enterAs(page, /Tobias Rask/);
  await openTest(page, 6, 'Pulls');
  const give = (name: string, body: string | Buffer) =>
    page.getByLabel('Pull files').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(body) });
  const refused = page.getByRole('region', { name: 'Files not taken' });

  await give('p6.csv', '');
  await expect(refused).toContainText('p6.csv: The file is empty. Copy it from the logger again.');
  await give('p6.csv', Buffer.from([0x50, 0x4b, 3, 4, 9, 9, 9]));
  await expect(refused).toContainText('Export the sheet as CSV');
  await give('p6.csv', text.slice(0, text.lastIndexOf(',', 9000)));
  await expect(refused).toContainText('the file was cut off');
  const id = await idOfTest(page, 6);
  const p1 = (await testDetail(page, id)).pulls.find((p) => p.label === 'p1')!;
  const stored = await page.request.get(`/api/tests/${id}/pulls/${p1.id}/file`);
  await give('p6.csv', await stored.body());
  await expect(refused).toContainText('these bytes stand for pull p1 of test 6');
  const large = testInfo.outputPath('p6.csv');
  writeFileSync(large, Buffer.alloc(60 * 1024 * 1024, '1'));
  await page.getByLabel('Pull files').setInputFiles(large);
  await expect(refused).toContainText('60.0 MB; a pull file may have 50.0 MB');
  await expect(page.getByRole('row').filter({ hasText: /^p6/ })).toContainText('not captured');

  await give('p6.csv', text.replace('Torque (N·m)', 'Torque'));
  await expect(refused).toContainText('column “Torque”: The unit of torque is not stated');
  await page.getByRole('button', { name: 'Say which columns' }).click();
  const columns = page.getByRole('table', { name: 'Columns of the file' });
  const torque = columns.getByRole('row').filter({ hasText: /^Torque/ });
  await expect(torque).toContainText('torque (found)');
  await expect(torque).toContainText('not stated');
  await expect(torque.getByRole('cell').nth(1)).toContainText(/\d+\.\d.* · .*\d/);
  await expect(columns.getByRole('row').filter({ hasText: /^Engine speed/ })).toContainText('rpm (found)');
  await choose(torque.getByLabel('Unit of Torque'), 'N·m');
  await page.getByRole('button', { name: 'Read it with these columns' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'p6.csv' })).toContainText('usable');
});

test('a pull excluded late makes the published claim stale, in sight of everybody', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await openTest(page, 1, 'Pulls');
  await page.getByRole('button', { name: 'Exclude p5' }).click();
  await expect(page.getByRole('dialog')).toContainText('The result has been seen');
  await choose(page.getByLabel('Cause'), 'wheel slip');
  await page.getByRole('button', { name: 'Exclude the pull' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'p5.csv' })).toContainText('excluded: wheel slip');
  await expect(page.getByRole('navigation', { name: 'Steps of the test' })).toContainText('stale');
  await page.goto('/catalogue/oriel-tern-1-8-estate-103-kw-eu');
  await expect(page.getByText('Since publication pull p5 was excluded (wheel slip).')).toBeVisible();
});

test('air in another unit is refused where it was typed, and nothing is kept', async ({ page }) => {
  await enterAs(page, /Tobias Rask/);
  await openTest(page, 9, 'Air');
  for (const [what, value] of [
    ['temperature', '21'],
    ['pressure', '29.9'],
    ['humidity', '45'],
  ] as const)
    await page.getByLabel(`${what} of p1`).fill(value);
  await page.getByRole('button', { name: 'Save 1 reading' }).click();
  await expect(page.getByRole('alert')).toContainText('near 30 in inHg');
  // What was typed is still there, as a draft; the records have nothing of it.
  await page.reload();
  await expect(page.getByLabel('pressure of p1')).toHaveValue('29.9');
  await page.getByRole('button', { name: 'Drop what is typed' }).click();
  await expect(page.getByLabel('pressure of p1')).toHaveValue('');
});
