import { expect, test, type Page } from '@playwright/test';
import type { TestDetail } from '../contract/overview.ts';
import { asked, choose, enterAs, filesOf, lockedTest } from './helpers.ts';

const OF_DYNO = ['Time (s)', 'Engine speed (rpm)', 'Torque (N·m)', 'Throttle (%)'];
const OF_LOGGER = ['Time (s)', 'Engine speed (rpm)', 'Lambda', 'Air flow (g/s)'];
/** Some columns of a file as a file of their own, its clock ahead, λ with something added. @param of the test it is for */
function columnsOf(of: string, text: string, heads: readonly string[], ahead = 0, leaner = 0): Buffer {
  const rows = text.split('\n').filter((row) => row !== '' && !row.startsWith('#'));
  const own = rows[0].split(',');
  const lines = rows.map((row, i) => {
    const cells = row.split(',');
    return heads
      .map((head) => {
        const cell = cells[own.indexOf(head)];
        if (i === 0) return head;
        const more = head === 'Time (s)' ? ahead : head === 'Lambda' ? leaner : 0;
        return more === 0 ? cell : (Number(cell) + more).toFixed(3);
      })
      .join(',');
  });
  return Buffer.from(`# Of: ${of}\n${lines.join('\n')}\n`);
}

/** A session whose files hold what the dyno read and no more, with its air. */
async function captured(page: Page): Promise<{ id: string; textOf: (label: string) => string }> {
  const id = await lockedTest(page, { question: 'What does the log of the engine say?' });
  const { session } = filesOf('clean gain');
  const textOf = (label: string): string => session.files.find((f) => f.path === `pulls/${label}.csv`)!.text;
  for (const pull of (await asked<TestDetail>(page, `/tests/${id}`)).pulls) {
    const made = session.test.pulls.find((p) => p.id === pull.label)!.air!;
    const path = `/api/tests/${id}/pulls/${pull.id}`;
    const sent = await page.request.post(`${path}/file?name=${pull.label}.csv`, {
      data: columnsOf(id, textOf(pull.label), OF_DYNO),
      headers: { 'Content-Type': 'application/octet-stream' },
    });
    expect(sent.status(), await sent.text()).toBe(201);
    const air = {
      temperatureC: made.temperatureC,
      pressureHpa: made.pressureHpa,
      humidityValue: made.humidityPct!,
    };
    expect((await page.request.put(`${path}/air`, { data: air })).status()).toBe(204);
  }
  return { id, textOf };
}

test('a log of the engine that ran through all pulls is split, and each part joined to its pull', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const { id, textOf } = await captured(page);
  const { pulls } = await asked<TestDetail>(page, `/tests/${id}`);
  const tables = pulls.map((p, k) =>
    columnsOf(id, textOf(p.label), OF_LOGGER, 100 + 60 * k)
      .toString()
      .trim()
      .split('\n')
      .slice(1),
  );
  const long = [`# Of: ${id}`, tables[0][0], ...tables.flatMap(([, ...rows]) => rows), ''].join('\n');
  await page.goto(`/tests/${id}/pulls`);
  await page.getByRole('button', { name: 'Split a long log' }).click();
  const dialog = page.getByRole('dialog');
  await dialog
    .getByLabel('Long log')
    .setInputFiles({ name: 'engine.csv', mimeType: 'text/csv', buffer: Buffer.from(long) });
  await expect(dialog).toContainText('They have no torque: each is joined to the pull');
  await dialog.getByRole('button', { name: `Join ${pulls.length} logs` }).click();
  await expect(dialog).toHaveCount(0);
  const { pulls: there } = await asked<TestDetail>(page, `/tests/${id}`);
  for (const [k, pull] of there.entries()) {
    expect(pull.log?.name).toBe(`engine-${k + 1}.csv`);
    expect(pull.log?.offsetS).toBeCloseTo(-100 - 60 * k, 0);
    expect(pull.file?.name).toBe(`${pull.label}.csv`);
  }
});

test('a log is joined to its pull and shifted by hand; a lean mixture in it is answered for before a claim', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  const { id, textOf } = await captured(page);
  await page.goto(`/tests/${id}/pulls`);
  await page.getByRole('button', { name: 'Add log of p1' }).click();
  const dialog = page.getByRole('dialog');
  const csv = { mimeType: 'text/csv' };

  // What is no log says why, in the dialog, and leaves it open for another file.
  await dialog
    .getByLabel('File of the log')
    .setInputFiles({ ...csv, name: 'notes.csv', buffer: Buffer.from(`Note\n${'cold\n'.repeat(30)}`) });
  await expect(dialog.getByRole('alert')).toBeVisible();
  await dialog
    .getByLabel('File of the log')
    .setInputFiles({ ...csv, name: 'log-1.csv', buffer: columnsOf(id, textOf('p1'), OF_LOGGER, 7.5) });
  await expect(dialog).toContainText(/meets the engine speed of the pull when shifted by −7\.[45]\d s/);
  await expect(dialog).toContainText('It adds lambda or air-fuel ratio, mass air flow.');
  await expect(dialog.getByRole('figure', { name: /Engine speed of pull and log/ })).toBeVisible();
  await dialog.getByLabel('Shift, s').fill('-3,2');
  await dialog.getByRole('button', { name: 'Keep this shift' }).click();
  await expect(page.getByText(/is shifted by −3\.20 s/)).toBeVisible();
  await dialog.getByRole('button', { name: 'As it was found' }).click();
  await dialog.getByRole('button', { name: 'Keep this shift' }).click();
  await expect(dialog.getByRole('button', { name: 'Keep this shift' })).toBeDisabled();
  await dialog.getByRole('button', { name: 'Close' }).last().click();
  await expect(page.getByRole('row').filter({ hasText: /^p1/ })).toContainText(/log-1\.csv, shifted by −7\./);

  for (const pull of (await asked<TestDetail>(page, `/tests/${id}`)).pulls.slice(1)) {
    const leaner = pull.arm === 'stock' ? 0 : 0.06;
    const sent = await page.request.post(`/api/tests/${id}/pulls/${pull.id}/log?name=log.csv`, {
      data: columnsOf(id, textOf(pull.label), OF_LOGGER, 2, leaner),
      headers: { 'Content-Type': 'application/octet-stream' },
    });
    expect(sent.status(), await sent.text()).toBe(201);
  }

  await page.goto(`/tests/${id}/compare`);
  const log = page.getByRole('region', { name: 'What the logger recorded' });
  await expect(log.getByRole('row', { name: /^lambda/ })).toContainText(/\+0\.0[56]\d ± 0\.00\d/);
  const crank = page.getByRole('region', { name: 'Estimate at the crank' });
  await expect(crank).toContainText(/assumed to take 15 % of the engine’s power/);
  await crank.getByLabel('Share, %').fill('80');
  await expect(crank.getByRole('status')).toHaveText('A loss of 0 to 40 % can be meant.');
  await choose(crank.getByLabel('Losses'), 'measured while coasting down');
  for (const [i, [rpm, kw]] of [
    ['2000', '2,5'],
    ['7000', '11'],
  ].entries()) {
    await crank.getByLabel('At, rpm').nth(i).fill(rpm);
    await crank
      .getByLabel(/^Lost, kW/)
      .nth(i)
      .fill(kw);
  }
  await expect(crank).toContainText(
    /losses measured while coasting \(2\.5 kW at 2.000 rpm, 11\.0 kW at 7.000 rpm\)/,
  );

  await page.goto(`/tests/${id}/judge`);
  const lean = page.getByRole('listitem').filter({ hasText: 'Leaner than λ 0.92' });
  await expect(lean).toContainText('fail');
  await expect(page.getByRole('link', { name: 'Draft a claim' })).toHaveCount(0);
  await lean.getByRole('button', { name: 'Answer for it' }).click();
  await dialog.getByLabel('Reason').fill('too short');
  await dialog.getByRole('button', { name: 'Answer', exact: true }).click();
  await expect(dialog).toContainText(/in 20 characters or more/);
  await dialog
    .getByLabel('Reason')
    .fill('Sensor read 0.06 lean against a second one all day; plugs looked at.');
  await dialog.getByRole('button', { name: 'Answer', exact: true }).click();
  await expect(lean).toContainText('Answered by Maren Holt: Sensor read 0.06 lean');
  await expect(lean).toContainText('caution');
});
