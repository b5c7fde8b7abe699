import { expect, test, type Page } from '@playwright/test';
import { simulateSession } from '../bench/judge/simulate.ts';
import { scenarioOf } from '../demo/plan/scenario.ts';
import { DEMO_TESTS } from '../demo/plan/tests.ts';
import { enterAs, planLikeTest8, read, testDetail } from './helpers.ts';

/** Presses keys and counts them; the keyboard is all there is. */
function keyboard(page: Page) {
  let pressed = 0;
  return {
    count: () => pressed,
    async press(...keys: string[]): Promise<void> {
      for (const key of keys) await page.keyboard.press(key);
      pressed += keys.length;
    },
    async type(text: string): Promise<void> {
      await page.keyboard.type(text);
      pressed += text.length;
    },
    /** Tab until something has the focus. */
    async to(name: RegExp, most = 60): Promise<void> {
      for (let i = 0; i < most; i++) {
        await page.keyboard.press('Tab');
        pressed += 1;
        const at = await page.evaluate(() => {
          const el = document.activeElement;
          const label = el?.id
            ? document.querySelector(`label[for="${CSS.escape(el.id)}"]`)?.textContent
            : '';
          return `${el?.getAttribute('aria-label') ?? ''} ${label ?? ''} ${el?.textContent ?? ''}`.trim();
        });
        if (name.test(at)) return;
      }
      throw new Error(`Tab never came to ${String(name)}`);
    },
    /** Goes to a page, record or deed by the finder. */
    async find(words: string, option: RegExp): Promise<void> {
      await this.press('/');
      await expect(page.getByPlaceholder(/^Any record/)).toBeFocused();
      await this.type(words);
      await expect(page.getByRole('option', { name: option }).first()).toBeVisible();
      await expect(page.getByRole('option', { selected: true })).toHaveText(option);
      await this.press('Enter');
    },
  };
}

/** A test like test 8, locked, with files of another session of the bench; the keyboard begins at its air. */
async function measuredTest(page: Page) {
  const scenario = scenarioOf(DEMO_TESTS.find((t) => t.key === 'ready to capture')!);
  const session = simulateSession({ ...scenario, seed: scenario.seed + 4711 });
  await enterAs(page, /Maren Holt/);
  const ask = page.request;
  const id = await planLikeTest8(page, 'The whole job by keyboard alone?');
  expect((await ask.post(`/api/tests/${id}/lock`, { data: {} })).ok()).toBe(true);
  const { pulls, summary } = await testDetail(page, id);
  for (const pull of pulls.filter((p) => p.counted)) {
    const file = session.files.find((f) => f.path === `pulls/${pull.label}.csv`)!;
    const sent = await ask.post(`/api/tests/${id}/pulls/${pull.id}/file?name=${pull.label}.csv`, {
      headers: { 'content-type': 'application/octet-stream' },
      data: Buffer.from(file.text),
    });
    expect(sent.ok()).toBe(true);
  }
  return {
    number: summary.number,
    air: session.test.pulls.filter((p) => p.counted !== false).map((p) => p.air!),
  };
}

test('the whole job by keyboard alone: air, comparison, claim, review', async ({ page }) => {
  const { number, air } = await measuredTest(page);
  const keys = keyboard(page);
  await keys.find(String(number), new RegExp(`^${number} ·`));
  await read(page);
  await keys.to(/^Air/);
  await keys.press('Enter');
  await read(page);
  const before = keys.count();
  // Nine readings as a weather station writes them, pasted into the first cell.
  await keys.to(/^temperature of /);
  await page.evaluate(
    (text) => {
      const data = new DataTransfer();
      data.setData('text', text);
      const paste = new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true });
      document.activeElement!.dispatchEvent(paste);
    },
    air.map((a) => [a.temperatureC, a.pressureHpa, a.humidityPct].join('\t')).join('\n'),
  );
  await keys.press('Shift');
  await keys.to(/^Save 9 readings/);
  await keys.press('Enter');
  await expect(page.getByText('9 readings saved.')).toBeVisible();
  const forAir = keys.count() - before;
  // 209 when it was first counted.
  expect(forAir).toBeLessThan(80);
  await page.reload();
  await read(page);
  await keys.to(/^Claim(?!s)/);
  await keys.press('Enter');
  await read(page);
  await keys.to(/^Draft this claim/);
  await keys.press('Enter');
  await expect(page.getByRole('button', { name: 'Send to review' })).toBeVisible();
  const claim = new URL(page.url()).pathname;
  await keys.to(/^Send to review/);
  await keys.press('Enter');
  await expect(page.getByText('Sent to review.')).toBeVisible();
  await keys.find('sign out', /^Sign out/);
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await enterAs(page, /Ines Calloway/);
  await page.goto(claim);
  await expect(page.getByRole('button', { name: 'Approve and publish' })).toBeEnabled();
  await keys.to(/^Approve and publish/);
  await keys.press('Enter');
  const asked = page.getByRole('alertdialog');
  await expect(asked).toBeVisible();
  await keys.to(/^Publish|^Approve/);
  await keys.press('Enter');
  await expect(page.getByText(/approved by Ines Calloway/)).toBeVisible();
  process.stdout.write(
    `    key presses: ${forAir} for nine air readings, ${keys.count()} for the whole job\n`,
  );
});
