import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { readTestFile } from '../contract/judge/test-file.ts';
import { analyseTest, isRefused } from '../core/judge/analyse-test.ts';
import { claimRounded, signedGain } from '../core/base/rounding.ts';
import { DEMO_DYNOS } from '../demo/register/vehicles.ts';
import { choose, enterAs, filesOf, leave, openTest, putBackUnits } from './helpers.ts';

test('nine pull files become a published claim that leads back to their bytes', async ({ page }) => {
  const { session, pulls } = filesOf('ready to capture');
  const cell = DEMO_DYNOS.find((d) => d.key === 'cell-1')!;
  const computed = analyseTest(
    { ...readTestFile(session.test), repeatability: cell.repeatability },
    (file) => pulls.find((p) => `pulls/${p.name}` === file)!.buffer,
  ).result.contrasts[0];
  if (isRefused(computed)) throw new Error(computed.code);
  const expected = claimRounded(computed.power.upTo.gain, 'kW');

  await test.step('the operator drops the files', async () => {
    await enterAs(page, /Tobias Rask/);
    await openTest(page, 8, 'Pulls');
    await expect(page.getByText('warm-up pulls of run 1')).toBeVisible();
    await page.getByLabel('Pull files').setInputFiles(pulls);
    await expect(page.getByText('9 files attached.')).toBeVisible();
    for (const n of [1, 5, 9])
      await expect(page.getByRole('row').filter({ hasText: `p${n}.csv` })).toContainText('usable');
  });
  await test.step('and enters the air, the first by hand, the rest pasted from a spreadsheet', async () => {
    await page.getByRole('link', { name: /^Air/ }).click();
    const counted = session.test.pulls.filter((p) => p.counted !== false);
    await page.getByLabel('temperature of p1').fill(String(counted[0].air!.temperatureC));
    await page.getByLabel('pressure of p1').fill(String(counted[0].air!.pressureHpa).replace('.', ','));
    await page.getByLabel('humidity of p1').fill(String(counted[0].air!.humidityPct));
    const rows = counted
      .slice(1)
      .map((p) => [p.air!.temperatureC, p.air!.pressureHpa, p.air!.humidityPct].join('\t'))
      .join('\n');
    await page.getByLabel('temperature of p2').evaluate((input, text) => {
      const data = new DataTransfer();
      data.setData('text', text);
      input.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
      );
    }, rows);
    await expect(page.getByLabel('humidity of p9')).toHaveValue(String(counted[8].air!.humidityPct));
    await page.getByRole('button', { name: 'Save 9 readings' }).click();
    await expect(page.getByText('9 readings saved.')).toBeVisible();
    await expect(page.getByText(/Arms’ mean factors by SAE J1349/)).toBeVisible();
  });
  await test.step('sees every pull corrected', async () => {
    await page.getByRole('link', { name: /^Pulls/ }).click();
    await expect(page.getByRole('row').filter({ hasText: 'p9.csv' })).toContainText(/0\.9\d{3}|1\.0\d{3}/);
    await expect(page.getByRole('list', { name: 'Account of the pulls' })).toContainText('9 analysed');
    await leave(page);
  });
  await test.step('the manager sees the gain with its band, and what may be claimed', async () => {
    await enterAs(page, /Maren Holt/);
    await openTest(page, 8, 'Compare');
    const ribbon = page.getByRole('slider', { name: 'Gain over stock by rpm, %' });
    await ribbon.focus();
    await page.keyboard.press('End');
    const last = computed.relative.curve.at(-1)!;
    await expect(ribbon).toHaveAttribute(
      'aria-valuetext',
      new RegExp(`6.500 rpm: gain \\${signedGain(last.gain)} %`),
    );
    await expect(page.getByRole('complementary')).toContainText(`${signedGain(computed.power.upTo.gain)} kW`);
    await page.getByRole('button', { name: 'Units and light' }).click();
    await page.getByRole('menuitemradio', { name: 'hp', exact: true }).click();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('complementary')).toContainText(
      `${signedGain(computed.power.upTo.gain / 0.7456998715822702)} hp`,
    );
  });
  await test.step('reads the gates and drafts', async () => {
    await page.getByRole('link', { name: 'See the gates' }).click();
    for (const gate of [
      'plan locked',
      'design',
      'mounting',
      'warm-up',
      'repeats',
      'repeatability',
      'factor',
      'same sweep',
      'effect',
      'losses told',
    ])
      await expect(page.getByRole('main').getByText(gate, { exact: true })).toBeVisible();
    await page.getByRole('link', { name: 'Draft a claim' }).click();
    // The manager reads in hp now; the claim is made in kW all the same.
    await choose(page.getByLabel('Unit', { exact: true }), 'kW');
    await expect(page.getByRole('article')).toContainText(`Up to +${expected} kW at the wheel, SAE J1349`);
    await page.getByRole('button', { name: 'Draft this claim' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toContainText(`Up to +${expected} kW`);
    await page.getByRole('button', { name: 'Send to review' }).click();
    await expect(page.getByText('who drafted a claim cannot approve it')).toBeVisible();
    await expect(page.getByRole('button', { name: /Approve/ })).toHaveCount(0);
    await putBackUnits(page);
    await leave(page);
  });
  await test.step('another person approves', async () => {
    await enterAs(page, /Ines Calloway/);
    await page.getByRole('link', { name: 'Claims', exact: true }).click();
    await expect(page.getByText(/wait.* for your review/)).toBeVisible();
    await page
      .getByRole('row')
      .filter({ hasText: 'in review' })
      .filter({ hasText: 'Tubular manifold' })
      .getByRole('link')
      .click();
    await page.getByRole('button', { name: 'Approve and publish' }).click();
    await page.getByRole('button', { name: 'Publish it' }).click();
    await expect(page.getByText(/approved by Ines Calloway/)).toBeVisible();
    await leave(page);
  });
  await test.step('anyone reads it, and one click leads to the pulls, whose files download byte for byte', async () => {
    await page.goto('/catalogue/oriel-tern-1-8-estate-103-kw-eu');
    const article = page.getByRole('article').first();
    await expect(article.getByTestId('claim-wording')).toContainText(
      `Up to +${expected} kW at the wheel, SAE J1349`,
    );
    await expect(article).toContainText('On the vehicle tested: SV-014 Tern, grey');
    await article.getByRole('link', { name: 'See the pulls it rests on' }).click();
    await expect(page.getByRole('heading', { name: 'What this claim rests on' })).toBeVisible();
    for (const name of ['p1.csv', 'p6.csv']) {
      const [download] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('link', { name: new RegExp(name) }).click(),
      ]);
      expect(readFileSync(await download.path()).equals(pulls.find((p) => p.name === name)!.buffer)).toBe(
        true,
      );
    }
  });
});
