import { expect, test } from '@playwright/test';
import { enterAs, openTest, read } from './helpers.ts';

test('numbers are taken as people type them, and what is none is refused with a word', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/vehicles');
  await page.getByRole('row').nth(1).getByRole('link').first().click();
  await page.getByRole('button', { name: 'Change' }).click();
  const odometer = page.getByLabel('Odometer, km');
  const drive = page.getByLabel('Final drive');
  await odometer.fill('123 456 miles');
  await drive.fill('3,94');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('“123 456 miles” is no number: “miles” does not belong.')).toBeVisible();
  // Nothing that was typed is gone, and the field that needs another look is where one goes on.
  await expect(odometer).toHaveValue('123 456 miles');
  await expect(drive).toHaveValue('3,94');
  await expect(odometer).toBeFocused();
  await odometer.fill('123 456 km');
  // What is sent matters here; the record stays as it is for whoever comes after.
  await page.route('**/api/vehicles/*', (route) =>
    route.request().method() === 'PUT' ? route.abort() : route.continue(),
  );
  const sent = page.waitForRequest((request) => request.method() === 'PUT');
  await page.getByRole('button', { name: 'Save' }).click();
  expect((await sent).postDataJSON()).toMatchObject({ record: { odometerKm: 123456, finalDrive: 3.94 } });
});

test('air is typed as in a table of cells, lives through a reload, and follows a switch of units', async ({
  page,
}) => {
  await enterAs(page, /Tobias Rask/);
  await openTest(page, 9, 'Air');
  const cell = (what: string, pull: string) => page.getByLabel(`${what} of ${pull}`);
  await cell('temperature', 'p1').click();
  await page.keyboard.type('21,5');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.type('1 004,2');
  await page.keyboard.press('Tab');
  await page.keyboard.type('48 %');
  await page.keyboard.press('Enter');
  await expect(cell('humidity', 'p2')).toBeFocused();
  await page.keyboard.press('ArrowUp');
  // Arriving in a cell chooses what is in it: typing goes over it.
  await page.keyboard.type('49');
  await expect(cell('humidity', 'p1')).toHaveValue('49');
  await expect(page.getByText('kept on this device')).toBeVisible();

  await page.reload();
  await read(page);
  await expect(cell('temperature', 'p1')).toHaveValue('21,5');
  const units = page.getByRole('button', { name: 'Units and light' });
  await units.click();
  await page.getByRole('menuitemradio', { name: '°F' }).click();
  await page.keyboard.press('Escape');
  await expect(cell('temperature', 'p1')).toHaveValue('70.7');
  await expect(cell('pressure', 'p1')).toHaveValue('1 004,2');
  await units.click();
  await page.getByRole('menuitemradio', { name: '°C' }).click();
  await page.keyboard.press('Escape');
  await expect(cell('temperature', 'p1')).toHaveValue('21,5');

  await page.getByRole('button', { name: 'From the pull before' }).click();
  await expect(cell('pressure', 'p9')).toHaveValue('1 004,2');
  await cell('temperature', 'p3').fill('2l');
  const second = await page.context().newPage();
  await second.goto(page.url());
  await expect(second.getByLabel('temperature of p3')).toHaveValue('2l');
  await second.close();
  const saved: unknown[] = [];
  page.on('request', (request) => {
    if (request.method() === 'PUT') saved.push(request.postDataJSON());
  });
  await page.getByRole('button', { name: /^Save/ }).click();
  await expect(page.getByText('“2l” is no number: “l” does not belong.')).toBeVisible();
  await expect(page.getByText('8 readings saved.')).toBeVisible();
  expect(saved[0]).toMatchObject({ temperatureC: 21.5, pressureHpa: 1004.2, humidityValue: 49 });
  // What was refused is still there, and can be dropped.
  await page.reload();
  await expect(cell('temperature', 'p3')).toHaveValue('2l');
  await page.getByRole('button', { name: 'Drop what is typed' }).click();
  await expect(cell('temperature', 'p3')).toHaveValue('');
});

test('rows of a file with heads find their pulls when they are pasted', async ({ page }) => {
  await enterAs(page, /Tobias Rask/);
  await openTest(page, 10, 'Air');
  await read(page);
  await page.getByLabel('temperature of p1', { exact: true }).evaluate((input) => {
    const data = new DataTransfer();
    data.setData(
      'text',
      'Position,Pull,Air temperature (°F),Pressure (kPa),Humidity (%)\n1,p2,70,100.4,48\n2,p1,71.6,100.5,47\n',
    );
    input.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  await expect(page.getByLabel('temperature of p1', { exact: true })).toHaveValue('71.6 °F');
  await expect(page.getByLabel('pressure of p2')).toHaveValue('100.4 kPa');
  await page.getByRole('button', { name: 'Drop what is typed' }).click();
});
