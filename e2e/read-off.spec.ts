import { expect, test, type Page } from '@playwright/test';
import { enterAs, read } from './helpers.ts';

/** Where the printed graph has 2 000 and 7 000 rpm, 0 and 200, in a picture of 900 × 600 pixels. */
const X = { low: 100, high: 800 };
const Y = { low: 540, high: 60 };
const at = (rpm: number, value: number) => ({
  x: X.low + ((rpm - 2000) / 5000) * (X.high - X.low),
  y: Y.low + (value / 200) * (Y.high - Y.low),
});
/** A curve from 60 at 2 000 to 160 at 7 000, drawn as a picture. */
async function printedGraph(page: Page): Promise<Buffer> {
  const [from, to] = [at(2000, 60), at(7000, 160)];
  const data = await page.evaluate(
    ({ from, to, X, Y }) => {
      const canvas = Object.assign(document.createElement('canvas'), { width: 900, height: 600 });
      const pen = canvas.getContext('2d')!;
      pen.fillStyle = '#fff';
      pen.fillRect(0, 0, 900, 600);
      pen.fillStyle = '#000';
      pen.font = '18px sans-serif';
      pen.fillText('2000', X.low - 20, Y.low + 30);
      pen.fillText('7000', X.high - 20, Y.low + 30);
      pen.fillText('200', X.low - 50, Y.high + 6);
      pen.strokeRect(X.low, Y.high, X.high - X.low, Y.low - Y.high);
      pen.moveTo(from.x, from.y);
      pen.lineTo(to.x, to.y);
      pen.stroke();
      return canvas.toDataURL('image/png').split(',')[1];
    },
    { from, to, X, Y },
  );
  return Buffer.from(data, 'base64');
}

test('points are read off a picture of a graph with pointer and keyboard, and kept with it', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/before');
  await read(page);
  const file = { name: 'printed.png', mimeType: 'image/png', buffer: await printedGraph(page) };
  await page.getByRole('button', { name: 'Register one' }).click();
  await page.getByRole('button', { name: 'Read points off a picture' }).click();
  const dialog = page.getByRole('dialog');
  const choose = dialog.locator('input[type=file]');
  await choose.setInputFiles({
    ...file,
    name: 'notes.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from('no'),
  });
  await expect(dialog).toContainText('notes.txt is no picture that can be shown');
  await choose.setInputFiles(file);
  const picture = dialog.getByRole('application');
  await expect(picture).toBeVisible();
  const click = async ({ x, y }: { x: number; y: number }): Promise<void> => {
    const box = (await picture.boundingBox())!;
    await picture.click({ position: { x: (x * box.width) / 900, y: (y * box.height) / 600 } });
  };
  // Both marks of the speed axis on one place are told, and set again.
  for (const place of [at(2000, 0), at(2000, 0), at(2000, 0), at(2000, 200)]) await click(place);
  await dialog.getByLabel('A low engine speed').fill('2000');
  await dialog.getByLabel('A high engine speed').fill('7 000');
  await dialog.getByLabel('A low value').fill('0');
  await dialog.getByLabel('A high value').fill('200');
  await expect(dialog).toContainText('set them farther apart');
  await dialog.getByRole('button', { name: 'set its place again' }).nth(1).click();
  await click(at(7000, 0));
  for (const rpm of [3000, 4500]) await click(at(rpm, 60 + (rpm - 2000) / 50));
  const points = dialog.getByRole('list', { name: 'Points' }).getByRole('listitem');
  await expect(points).toHaveCount(2);
  const figureOf = async (n: number): Promise<[number, number]> => {
    const [, value, rpm] = /^stock ([\d.]+) hp at (\d+)/.exec((await points.nth(n).textContent())!)!;
    return [Number(value), Number(rpm)];
  };
  // A click is as fine as the picture is shown: within two of its pixels.
  for (const [n, rpm] of [3000, 4500].entries()) {
    const [value, speed] = await figureOf(n);
    expect(Math.abs(speed - rpm)).toBeLessThanOrEqual(20);
    expect(Math.abs(value - (60 + (rpm - 2000) / 50))).toBeLessThanOrEqual(1.2);
  }
  // By keyboard from the last click: 20 pixels to the right, set, and taken away again.
  await picture.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Enter');
  await expect(points).toHaveCount(3);
  const stepRpm = (await figureOf(2))[1] - (await figureOf(1))[1];
  expect(Math.abs(stepRpm - (20 / 700) * 5000)).toBeLessThanOrEqual(15);
  await dialog.getByRole('button', { name: 'Take away point 3' }).click();
  // A reload in the middle: the same picture finds its marks and points.
  await page.reload();
  await page.getByRole('button', { name: 'Register one' }).click();
  await page.getByRole('button', { name: 'Read points off a picture' }).click();
  await choose.setInputFiles(file);
  await expect(dialog).toContainText('This picture was marked before on this device.');
  await expect(points).toHaveCount(2);
  await dialog.getByRole('button', { name: 'Take over 2 points' }).click();
  const figures = page.getByRole('textbox', { name: 'What is printed' });
  await expect(figures).toHaveValue(/^stock \S+ hp at \d+\nstock \S+ hp at \d+$/);
  for (const [what, words] of [
    ['Fitment', 'Adder'],
    ['Part', 'downpipe'],
  ]) {
    await page.getByRole('combobox', { name: what }).click();
    await page.getByPlaceholder(/./).last().fill(words);
    await page.getByRole('option').first().click();
  }
  await page.getByLabel('Where it comes from').fill('Brochure with a straight curve, page 3');
  await page.getByRole('button', { name: 'Register it' }).click();
  const entry = page.getByRole('article').filter({ hasText: 'Brochure with a straight curve' });
  await expect(entry.getByRole('link', { name: /printed\.png/ })).toBeVisible();
  await expect(entry).toContainText('printed graph · Brochure');
  await expect(entry).toContainText('not tested');
});

test('figures in a note that cannot belong together are told as it is typed', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/register/before');
  await read(page);
  const entry = page.getByRole('article').first();
  await entry.getByRole('button', { name: 'Cross out' }).click();
  const reason = page.getByLabel('Reason');
  await reason.fill('It says 131 hp and 131 N·m at 4000 rpm.');
  await expect(page.getByRole('dialog')).toContainText('do not belong together: that torque makes 73.6 hp');
  await reason.fill('It says 131 hp at 5600 rpm.');
  await expect(page.getByRole('dialog')).not.toContainText('do not belong together');
});
