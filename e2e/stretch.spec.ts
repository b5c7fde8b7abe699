import { expect, test } from '@playwright/test';
import { enterAs, idOfTest, read } from './helpers.ts';

test('a stretch drawn over the gain gives its average, is in the address, and is no claim', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const id = await idOfTest(page, 3);
  await page.goto(`/tests/${id}/compare`);
  await read(page);
  const curve = page.getByRole('slider', { name: /Gain over stock by rpm/ });
  const box = (await curve.boundingBox())!;
  const y = box.y + box.height / 2;
  await page.mouse.move(box.x + box.width * 0.3, y);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.5, y, { steps: 4 });
  await page.mouse.move(box.x + box.width * 0.7, y, { steps: 4 });
  await page.mouse.up();
  const told = page.getByRole('region', { name: 'Average over a stretch' });
  await expect(told).toContainText(/on average [+−]?\d\.\d % \(/);
  await expect(told).toContainText('Chosen after the result was seen: it cannot be claimed.');
  await expect(page).toHaveURL(/[?&]from=\d+&to=\d+/);
  const before = await told.textContent();

  // The address alone brings it back; another unit of the account is followed elsewhere.
  await page.reload();
  await expect(told).toContainText(/on average/);
  expect(await told.textContent()).toBe(before);

  // By keyboard: from the middle, ten points further at a time.
  await page.getByRole('button', { name: 'Drop it' }).click();
  await expect(told).toHaveCount(0);
  await curve.focus();
  await page.keyboard.press('Home');
  for (let k = 0; k < 3; k++) await page.keyboard.press('Shift+PageDown');
  await expect(told).toHaveCount(0);
  for (let k = 0; k < 3; k++) await page.keyboard.press('Shift+PageUp');
  await expect(told).toContainText(/2\s?500 to 4\s?000 rpm/);
  await expect(told).toContainText(/on average/);
  for (let k = 0; k < 2; k++) await page.keyboard.press('Shift+PageDown');
  await expect(told).toContainText('less tells too little');
  await page.keyboard.press('Escape');
  await expect(told).toHaveCount(0);
  await expect(page).not.toHaveURL(/from=/);

  const refused = await page.request.get(`/api/tests/${id}/window?fromRpm=100&toRpm=1500`);
  expect(refused.status()).toBe(409);
  expect((await page.request.get(`/api/tests/${id}/window?fromRpm=3000&toRpm=3500`)).status()).toBe(400);
});
