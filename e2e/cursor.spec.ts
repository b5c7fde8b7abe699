import { expect, test } from '@playwright/test';
import { enterAs, idOfTest, read } from './helpers.ts';

test('one cursor reads the gain, the arms and the log, and its place can be sent to somebody else', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const id = await idOfTest(page, 4);
  await page.goto(`/tests/${id}/compare`);
  await read(page);
  const gain = page.getByRole('slider', { name: /Gain over stock by rpm/ });
  await gain.focus();
  await page.keyboard.press('Home');
  for (let k = 0; k < 2; k++) await page.keyboard.press('PageUp');
  const at = Number(await gain.getAttribute('aria-valuenow'));
  await expect(page).toHaveURL(new RegExp(`[?&]at=${at}`));

  // The arms' curves and the log are read at the same engine speed.
  const power = page.getByRole('figure', { name: /Power at the wheel/ });
  await expect(power).toContainText(/stock \d+\.\d/);
  const log = page.getByRole('slider', { name: 'Engine speed of the read-out' });
  const words = `${String(at).replace(/(\d)(\d{3})$/, '$1\\s?$2')} rpm`;
  await expect(log).toHaveAttribute('aria-valuetext', new RegExp(`^${words}$`));
  const there = await power.textContent();

  // Another page opened by the address stands at the same place.
  const other = await page.context().newPage();
  await other.goto(page.url());
  await expect(other.getByRole('slider', { name: /Gain over stock by rpm/ })).toHaveAttribute(
    'aria-valuenow',
    String(at),
  );
  await expect(other.getByRole('figure', { name: /Power at the wheel/ })).toHaveText(there!);
  await other.close();

  // The pointer over one of the small charts moves all of them, and gives the place back when it leaves.
  const torque = page.getByRole('figure', { name: /Torque at the wheel/ });
  const box = (await torque.locator('svg.recharts-surface').first().boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.75, box.y + box.height / 2, { steps: 3 });
  await expect(gain).not.toHaveAttribute('aria-valuenow', String(at));
  await page.mouse.move(2, 2);
  await expect(gain).toHaveAttribute('aria-valuenow', String(at));

  // Keys move it though the pointer rests over a chart.
  await gain.focus();
  const over = (await gain.boundingBox())!;
  await page.mouse.move(over.x + over.width * 0.6, over.y + over.height / 2);
  await page.keyboard.press('End');
  await expect(gain).toHaveAttribute('aria-valuenow', (await gain.getAttribute('aria-valuemax'))!);
  await page.mouse.move(2, 2);
  await page.keyboard.press('Escape');
  await expect(page).not.toHaveURL(/[?&]at=/);
});

test('a single pull is picked out of the others, with its own numbers; the unit stays as it was chosen', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const id = await idOfTest(page, 3);
  await page.goto(`/tests/${id}/compare`);
  const pulls = page.getByRole('group', { name: 'Single pulls' });
  await expect(pulls.getByRole('button')).toHaveCount(9);
  await pulls.getByRole('button', { name: 'p5', exact: true }).click();
  const section = page.getByRole('region', { name: 'Curves of the arms' });
  await expect(section).toContainText(
    /p5 on average [+−]?\d\.\d\d % from the mean of its arm’s 2 other pulls/,
  );
  await expect(page).toHaveURL(/[?&]pull=p5/);
  await page.getByRole('group', { name: 'Unit of the gain' }).getByRole('button', { name: 'kW' }).click();
  await expect(page).toHaveURL(/[?&]in=power/);
  await expect(page).toHaveURL(/[?&]pull=p5/);
  await expect(page.getByRole('slider', { name: 'Gain over stock by rpm, kW' })).toBeVisible();

  // Without a word in the address the device remembers it.
  await page.goto(`/tests/${id}/compare`);
  await expect(page.getByRole('slider', { name: 'Gain over stock by rpm, kW' })).toBeVisible();
  await page.getByRole('group', { name: 'Unit of the gain' }).getByRole('button', { name: '%' }).click();
  await expect(page.getByRole('slider', { name: 'Gain over stock by rpm, %' })).toBeVisible();

  const sweep = page.getByRole('figure', { name: 'Engine speed over time' });
  await expect(sweep).toContainText(/stock \d+\.\d\d s/);
});
