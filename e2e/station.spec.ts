import { expect, test } from '@playwright/test';
import type { AirFileShown } from '../contract/capture/air-file.ts';
import { enterAs, idOfTest } from './helpers.ts';

test('air is joined from the file of a station by time, asked for what it does not say, and says where it came from', async ({
  page,
}) => {
  await enterAs(page, /Tobias Rask/);
  const id = await idOfTest(page, 6);
  // When the pulls were recorded, by any file of that day.
  const probe = await page.request.post(`/api/tests/${id}/air-files?name=probe.csv`, {
    headers: { 'content-type': 'application/octet-stream' },
    data: Buffer.from(
      'Time,Air temperature (°C),Station pressure (hPa),RH (%)\n2020-01-01T00:00:00Z,20,1000,50\n2020-01-01T00:05:00Z,20,1000,50\n',
    ),
  });
  const { pulls } = (await probe.json()) as AirFileShown;
  const began = Date.parse(pulls.find((p) => p.label === 'p1')!.at!);
  const row = (minutes: number, degrees: number): string =>
    `${new Date(began + 60_000 * minutes).toISOString()};${degrees.toFixed(1).replace('.', ',')};1001,4;51`;
  const text = [
    'Zeitstempel;Lufttemperatur (°C);Luftdruck (hPa);Luftfeuchte (%)',
    row(-4, 20),
    row(4, 21),
    '',
  ].join('\n');

  await page.goto(`/tests/${id}/air`);
  await page.getByRole('button', { name: 'Station file' }).click();
  const dialog = page.getByRole('dialog', { name: /weather station/ });
  await dialog
    .getByLabel('File of the station')
    .setInputFiles({ name: 'tower.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await expect(dialog.getByRole('alert')).toContainText('read at the site or reduced to sea level');
  await dialog.getByRole('combobox', { name: 'Its pressure is' }).click();
  await page.getByRole('option', { name: 'read at the site' }).click();

  const air = dialog.getByRole('table', { name: 'Air of each pull' });
  const p1 = air.getByRole('row').filter({ hasText: /^p1/ });
  await expect(p1).toContainText('20.5 °C');
  await expect(p1).toContainText('between lines 2 and 3');
  await expect(p1).toContainText('replaces what was typed');
  await expect(air.getByRole('row').filter({ hasText: /^p5/ })).toContainText('minutes away from the pull');
  await expect(air.getByRole('row').filter({ hasText: /^p9/ })).toContainText(
    'No file is attached to it yet.',
  );
  // What was typed is replaced only where somebody says so.
  await expect(dialog.getByRole('button', { name: 'Take the air of no pulls' })).toBeDisabled();
  await p1.getByRole('checkbox').check();
  await dialog.getByRole('button', { name: 'Take the air of 1 pull' }).click();
  await expect(page.getByText('Air of 1 pull taken from tower.csv.')).toBeVisible();
  const kept = page.getByRole('row').filter({ hasText: 'joined from tower.csv' });
  await expect(kept).toHaveCount(1);
  await expect(kept.getByLabel('temperature of p1')).toHaveValue('20.5');
  await page.reload();
  await expect(kept.getByLabel('pressure of p1')).toHaveValue('1001.4');
});
