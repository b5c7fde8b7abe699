/** Pages and command line say the same of every published claim of the demo, to the last digit shown. */
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import type { Pull } from '../contract/capture/capture.ts';
import type { TestPage } from '../contract/overview.ts';
import type { ClaimPage, Evidence } from '../contract/publish/claim.ts';
import { isRefused, type TestResult } from '../core/judge/analyse-test.ts';
import { enterAs } from './helpers.ts';

const plain = (text: string): string => text.replace(/[\u202f\u00a0]/g, ' ').replace(/\s+/g, ' ');

/** What `evidentia analyse` prints of a test, by line. The first contrast is the arm claimed, or its block is found by name. */
function printed(folder: string, arm: string): Record<string, string> {
  let out: string;
  try {
    out = execFileSync(process.execPath, ['bin/evidentia.mjs', 'analyse', join(folder, 'test.json')], {
      encoding: 'utf8',
    });
  } catch (error) {
    // A failing finding is exit status 1; the result is printed all the same.
    out = String((error as { stdout: string }).stdout);
  }
  const own = out.slice(out.indexOf(`\n${arm} against`) + 1);
  const line = (name: string): string =>
    plain(new RegExp(`^ {2}${name} +(.+)$`, 'm').exec(own)?.[1] ?? `no line “${name}”`);
  return {
    upTo: /^[+−][\d.]+ kW/.exec(line('up to'))?.[0] ?? line('up to'),
    average: line('band average'),
    peak: line('peak to peak').split(',')[0],
    worst: line('worst').split(' at ')[0],
  };
}

const json = async <T>(page: Page, path: string): Promise<T> =>
  (await (await page.request.get(path)).json()) as T;

/** A test with its raw files in a folder of its own, as anyone would lay them out for the command line. */
async function laidOut(page: Page, testFile: string, files: readonly [string, string][]): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'agree-'));
  mkdirSync(join(folder, 'pulls'));
  writeFileSync(join(folder, 'test.json'), await (await page.request.get(testFile)).body());
  for (const [label, path] of files)
    writeFileSync(join(folder, 'pulls', `${label}.csv`), await (await page.request.get(path)).body());
  return folder;
}

test('every number of every demo test: comparison, list and command line', async ({ page }) => {
  test.setTimeout(300_000);
  await enterAs(page, /Maren Holt/);
  let compared = 0;
  const { items } = await json<TestPage>(page, '/api/tests?limit=200');
  for (const { id, title } of items) {
    const { analysis } = await json<{ analysis: { result: TestResult } | null }>(
      page,
      `/api/tests/${id}/analysis`,
    );
    const contrast = analysis?.result.contrasts[0];
    if (!contrast || isRefused(contrast)) continue;
    compared += 1;
    const { pulls } = await json<{ pulls: Pull[] }>(page, `/api/tests/${id}`);
    const folder = await laidOut(
      page,
      `/api/tests/${id}/test.json`,
      pulls.filter((p) => p.file).map((p) => [p.label, `/api/tests/${id}/pulls/${p.id}/file`]),
    );
    const said = printed(folder, contrast.arm);
    await page.goto(`/tests/${id}/compare`);
    const aside = page.getByRole('complementary');
    await expect(aside).toBeVisible();
    const shown = plain(await aside.innerText());
    const { upTo, ...intervals } = said;
    for (const [what, text] of Object.entries(intervals)) expect(shown, `${title}: ${what}`).toContain(text);
    const row = page.getByRole('row').filter({ has: page.locator(`a[href^="/tests/${id}"]`) });
    await page.goto('/tests');
    if (upTo.startsWith('+')) {
      expect(shown, `${title}: up to`).toContain(upTo);
      expect(plain(await row.innerText()), `${title} in the list`).toContain(upTo);
    } else expect(shown, `${title}: up to`).toContain('no gain substantiated');
    expect(plain(await row.innerText()), `${title}: average in the list`).toContain(
      said.average.split(' ')[0],
    );
  }
  expect(compared).toBeGreaterThan(5);
});

test('a claim reads the same on its own page, as evidence and in the catalogue', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  const claims = (await json<ClaimPage>(page, '/api/claims?limit=200')).items.filter(
    (c) => c.publishedAt !== null,
  );
  expect(claims.length).toBeGreaterThan(0);
  for (const claim of claims) {
    const evidence = await json<Evidence>(page, `/api/evidence/${claim.code}`);
    expect(evidence.claim).toMatchObject({
      wording: claim.wording,
      value: claim.value,
      subject: claim.subject,
    });
    await page.goto(`/claims/${claim.id}`);
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(claim.wording);
    for (const path of [`/evidence/${claim.code}`, `/catalogue/${claim.fitmentSlug}`]) {
      await page.goto(path);
      await expect(page.getByText(claim.wording).first()).toBeVisible();
      await expect(page.getByText(claim.subject).first()).toBeVisible();
    }
  }
});
