import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import type { TestDetail } from '../contract/overview.ts';
import { asked, choose, enterAs, filesOf, lockedTest } from './helpers.ts';

/** One log that ran through all pulls of a session: the heads of the others left out, the time going on. */
function longLogOf(texts: readonly string[]): string {
  const tables = texts.map((text) => text.split('\n').filter((line) => line !== '' && !line.startsWith('#')));
  let t = 0;
  const rows = tables.flatMap(([, ...body]) => {
    const began = t;
    return body.map((row) => {
      const [own, ...rest] = row.split(',');
      t = began + Number(own) + 30;
      return [t.toFixed(3), ...rest].join(',');
    });
  });
  return `# Operator: invented\n${[tables[0][0], ...rows].join('\n')}\n`;
}

test('one long log is split into its nine pulls, each to its place; sent again nothing is doubled', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const id = await lockedTest(page, { question: 'Is a long log split into its pulls?' });
  const { pulls } = filesOf('clean gain');
  const log = longLogOf(pulls.map((p) => p.buffer.toString()));
  await page.goto(`/tests/${id}/pulls`);
  await page.getByRole('button', { name: 'Split a long log' }).click();
  const dialog = page.getByRole('dialog');
  await dialog
    .getByLabel('Long log')
    .setInputFiles({ name: 'tuesday.csv', mimeType: 'text/csv', buffer: Buffer.from(log) });
  await expect(dialog.getByText('9 pulls in tuesday.csv.')).toBeVisible();
  await expect(dialog.getByRole('row')).toHaveCount(10);
  await dialog.getByRole('button', { name: 'Attach 9 pulls' }).click();
  await expect(dialog).toHaveCount(0);
  const { pulls: there } = await asked<TestDetail>(page, `/tests/${id}`);
  expect(there.map((p) => p.file?.name)).toEqual(there.map((_, k) => `tuesday-${k + 1}.csv`));
  const raw = await (await page.request.get(`/api/tests/${id}/pulls/${there[3].id}/file`)).text();
  expect(raw).toMatch(
    /^# Part of: tuesday\.csv, lines \d+ to \d+, SHA-256 [0-9a-f]{64}\n# Operator: invented\n/,
  );
  // Every line of a pull is a line of the log.
  const lines = new Set(log.split('\n'));
  expect(
    raw
      .split('\n')
      .slice(1)
      .every((line) => lines.has(line)),
  ).toBe(true);

  await page.getByRole('button', { name: 'Split a long log' }).click();
  await dialog
    .getByLabel('Long log')
    .setInputFiles({ name: 'one.csv', mimeType: 'text/csv', buffer: pulls[0].buffer });
  await expect(dialog.getByRole('alert')).toContainText('Only one pull is in this log');
});

test('a folder is taken in with one bad file among good ones, which bars none of them', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  const id = await lockedTest(page, { question: 'Does one bad file bar the others?' });
  const { pulls } = filesOf('no gain');
  const folder = mkdtempSync(join(tmpdir(), 'evidentia-'));
  mkdirSync(join(folder, 'day', 'deeper'), { recursive: true });
  pulls.forEach((p, k) => writeFileSync(join(folder, 'day', k > 5 ? 'deeper' : '', p.name), p.buffer));
  writeFileSync(join(folder, 'day', 'p5.csv'), 'not a table at all\n');
  writeFileSync(join(folder, 'day', 'picture.png'), 'no pull file');
  await page.goto(`/tests/${id}/pulls`);
  await page.getByLabel('A whole folder').setInputFiles(join(folder, 'day'));
  await expect(page.getByText('8 files attached.')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Files not taken' })).toContainText(
    'p5.csv: No table of numbers',
  );
  const { pulls: there } = await asked<TestDetail>(page, `/tests/${id}`);
  expect(there.filter((p) => p.file).map((p) => p.label)).toEqual([
    'p1',
    'p2',
    'p3',
    'p4',
    'p6',
    'p7',
    'p8',
    'p9',
  ]);
  // Other bytes on arrival than were sent: nothing is stored.
  const answer = await page.request.post(
    `/api/tests/${id}/pulls/${there[4].id}/file?name=p5.csv&sha256=${'0'.repeat(64)}`,
    { data: pulls[4].buffer, headers: { 'content-type': 'application/octet-stream' } },
  );
  expect(answer.status()).toBe(422);
  expect(await answer.text()).toContain('Other bytes arrived');
});

test('a photograph is kept with its words, and the copy that is passed on says nothing of place or camera', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const id = await lockedTest(page, { question: 'Is what the camera says of itself left behind?' });
  await page.goto(`/tests/${id}/pulls`);
  const section = page.getByRole('region', { name: 'Photographs' });
  await expect(section).toContainText('None yet');
  const buffer = await sharp({ create: { width: 800, height: 600, channels: 3, background: '#5a6b52' } })
    .withExif({ IFD0: { Make: 'Invented' }, IFD3: { GPSLatitude: '51/1 0/1 0/1', GPSLatitudeRef: 'N' } })
    .jpeg()
    .toBuffer();
  await section.getByLabel('Picture').setInputFiles({ name: 'strap.jpg', mimeType: 'image/jpeg', buffer });
  await section.getByLabel('What it shows').fill('Front strap, mark at 12 o’clock');
  await choose(section.getByLabel('Arm on the car'), 'stock');
  await section.getByRole('button', { name: 'Keep it' }).click();
  await section.getByRole('button', { name: /Front strap/ }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('says where it was taken');
  await expect(dialog.getByRole('img')).toHaveJSProperty('naturalWidth', 800);
  const href = await dialog.getByRole('link', { name: 'Copy to pass on' }).getAttribute('href');
  const copy = await (await page.request.get(href!)).body();
  expect((await sharp(copy).metadata()).exif).toBeUndefined();
  const raw = await dialog.getByRole('link', { name: 'As it came' }).getAttribute('href');
  expect((await (await page.request.get(raw!)).body()).equals(buffer)).toBe(true);
});

test('a photograph waits on the device while nobody answers, and goes on in the middle after a cut', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const id = await lockedTest(page, { question: 'Is a photograph taken without a network kept?' });
  const noise = { type: 'gaussian' as const, mean: 128, sigma: 60 };
  const buffer = await sharp({
    create: { width: 2000, height: 1500, channels: 3, background: '#000', noise },
  })
    .jpeg({ quality: 92 })
    .toBuffer();
  expect(buffer.length).toBeGreaterThan(2 * 1024 * 1024);
  let away = true;
  let cuts = 2;
  const starts: string[] = [];
  await page.route('**/api/uploads/**', (route) => {
    const start = new URL(route.request().url()).searchParams.get('start');
    if (away) return route.abort('connectionreset');
    if (start === null) return route.continue();
    starts.push(start);
    // The second part does not get through, twice.
    return start !== '0' && (cuts -= 1) >= 0 ? route.abort('connectionreset') : route.continue();
  });
  await page.goto(`/tests/${id}/pulls`);
  const section = page.getByRole('region', { name: 'Photographs' });
  await section.getByLabel('Picture').setInputFiles({ name: 'bay.jpg', mimeType: 'image/jpeg', buffer });
  await section.getByLabel('What it shows').fill('Engine bay before the pulls');
  await section.getByRole('button', { name: 'Keep it' }).click();
  await expect(section).toContainText('One photograph is on this device only');
  await page.reload();
  await expect(section).toContainText('One photograph is on this device only');
  away = false;
  await expect(section.getByRole('button', { name: /Engine bay/ })).toBeVisible({ timeout: 60_000 });
  await expect(section).not.toContainText('on this device only');
  // No part that had arrived was sent again.
  expect(starts.filter((s) => s === '0')).toHaveLength(1);
  expect(starts.filter((s) => s === String(1024 * 1024)).length).toBe(3);
  const { photographs } = await asked<{ photographs: { id: string }[] }>(page, `/tests/${id}/photographs`);
  expect(photographs).toHaveLength(1);
  const raw = await page.request.get(`/api/tests/${id}/photographs/${photographs[0].id}/file`);
  expect((await raw.body()).equals(buffer)).toBe(true);
});
