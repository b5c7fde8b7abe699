import { expect, test } from '@playwright/test';
import { choose, enterAs } from './helpers.ts';
import { ownFitment, ownPart, ownTest, ownVehicle } from './own-house.ts';

test('a pull left out changes what is compared, never what may be claimed upwards; put back, all is as it was', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const fitmentId = await ownFitment(page, 'Tern 1.8 of the pull');
  const vehicleId = await ownVehicle(page, fitmentId, 'SV-321 Tern, of the pull');
  const header = await ownPart(page, fitmentId, 'HD-321', 'Header of the pull', 'header');
  const change = {
    kind: 'part fitted' as const,
    category: 'header' as const,
    partRevisionId: header,
    settings: {},
  };
  const id = await ownTest(page, { fitmentId, vehicleId, changes: [change], percent: 5, seed: 3211 });
  const panel = page.getByRole('complementary', { name: 'What may be claimed' });
  const rests = panel.getByText(/3 part, 6 stock pulls|3 part, 5 stock pulls/);
  const average = async (): Promise<[number, number]> => {
    const text = (await panel.textContent())!;
    const [, gain, lower] = /Average, .*?\+(\d+\.\d) ?% \(\+(\d+\.\d)/.exec(text)!;
    return [Number(gain), Number(lower)];
  };
  await page.goto(`/tests/${id}/compare`);
  await expect(rests).toContainText('3 part, 6 stock pulls', { timeout: 60_000 });
  const whole = await average();

  await page.goto(`/tests/${id}/pulls`);
  await page.getByRole('button', { name: 'Exclude p2' }).click();
  await choose(page.getByLabel('Cause'), 'wheel slip');
  await page.getByRole('button', { name: 'Exclude the pull' }).click();
  const row = page.getByRole('row').filter({ hasText: 'p2.csv' });
  await expect(row).toContainText('excluded: wheel slip');
  await page.goto(`/tests/${id}/compare`);
  await expect(panel).toContainText('of the results with and without it, the smaller stands here', {
    timeout: 60_000,
  });
  await expect(rests).toContainText('3 part, 5 stock pulls');
  const without = await average();
  expect(without[1]).toBeLessThanOrEqual(whole[1]);

  await page.goto(`/tests/${id}/pulls`);
  await page.getByRole('button', { name: 'Restore p2' }).click();
  await expect(row).toContainText('usable');
  await page.goto(`/tests/${id}/compare`);
  await expect(rests).toContainText('3 part, 6 stock pulls', { timeout: 60_000 });
  await expect(panel).not.toContainText('with and without it');
  expect(await average()).toEqual(whole);
});
