import { expect, test } from '@playwright/test';
import { enterAs, idOfTest, read } from './helpers.ts';

test('a use is entered, averages a comparison, is changed in a new version and put away again', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/uses');
  await page.getByRole('button', { name: 'New use' }).click();
  await page.getByLabel('Name').fill('narrow lane');
  await page.getByLabel('What it stands for').fill('Second gear between walls.');
  const points = page.getByLabel('Speed and weight');
  await points.fill('60 1, 40 1');
  await page.getByRole('button', { name: 'Use it', exact: true }).click();
  await expect(page.getByText('Each point lies at a higher speed than the one before.')).toBeVisible();
  await points.fill('50 1, 95 1');
  await expect(page.getByRole('img', { name: 'Weights: 1 at 50 %, 1 at 95 %' })).toBeVisible();
  await page.getByRole('button', { name: 'Use it', exact: true }).click();
  const lane = page.getByRole('region', { name: 'narrow lane' });
  await expect(lane).toContainText('version 1');

  const id = await idOfTest(page, 3);
  await page.goto(`/tests/${id}/compare`);
  await read(page);
  const byUse = page.getByRole('region', { name: 'Gain by use' });
  const row = byUse.getByRole('row').filter({ hasText: 'narrow lane' });
  await expect(row).toContainText(/[+−]\d\.\d %/);
  await expect(byUse).toContainText('none of it can be claimed');
  // This silencer loses low down: towing pays for what the track gains.
  await expect(byUse.getByRole('row').filter({ hasText: 'track' })).toContainText(/\+\d\.\d %/);

  await page.goto('/register/uses');
  await page.getByRole('button', { name: 'Change narrow lane' }).click();
  await page.getByLabel('Speed and weight').fill('45 0, 55 1, 95 1');
  await page.getByRole('button', { name: 'Save as a new version' }).click();
  await expect(lane).toContainText('version 2');
  await lane.getByText('Versions before it').click();
  await expect(lane).toContainText('50 1, 95 1');
  await page.getByRole('button', { name: 'Change narrow lane' }).click();
  await page.getByRole('button', { name: 'Use it no longer' }).click();
  await expect(lane).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Use narrow lane again' })).toBeVisible();
});

test('all tests of a part stand together, and lead to the order in which parts are worth it', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const id = await idOfTest(page, 3);
  await page.goto(`/tests/${id}/compare`);
  const together = page.getByRole('region', { name: 'All tests of this part here' });
  await expect(together).toContainText('Test 3, this one');
  await expect(together).toContainText('One session: it speaks of this vehicle on the day it was tested.');
  await page.getByRole('link', { name: 'Order of upgrades for this fitment' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Order of upgrades' })).toBeVisible();
  const order = page.getByRole('list', { name: 'Order of upgrades' });
  await expect(order.getByRole('listitem').first()).toContainText(/[+−]\d+\.\d\d % for 100 EUR/);
  await page.getByRole('button', { name: 'by the gain alone' }).click();
  const places = order.getByRole('listitem');
  const gains = (await places.allTextContents()).map((t) => Number(/\+(\d+\.\d) %/.exec(t)![1]));
  expect(gains.length).toBeGreaterThan(1);
  expect(gains).toEqual([...gains].sort((a, b) => b - a));
});
