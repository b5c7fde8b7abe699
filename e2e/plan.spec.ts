import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { choose, enterAs, leave, openTest } from './helpers.ts';

/** Finds one of many by a few letters, in a picker. */
async function pick(page: Page, label: string, phrase: string, option: RegExp): Promise<void> {
  await page.getByRole('combobox', { name: label }).click();
  await page.getByPlaceholder('type a few letters').fill(phrase);
  await page.getByRole('option', { name: option }).first().click();
}
/** Takes something up at its corner and puts it down at another, in steps as a hand does. */
async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
  await page.mouse.move(from.x + 20, from.y + 5);
  await page.mouse.down();
  await page.mouse.move(from.x + 40, from.y + 12, { steps: 4 });
  await page.mouse.move(to.x + 20, to.y + 5, { steps: 10 });
  await page.mouse.up();
}
const arm = (page: Page, name: RegExp) => page.getByRole('region', { name });

test('a plan is built from differences, says what it can claim and see, is locked, and amended with a reason', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await page.getByRole('link', { name: 'Plan a new test' }).click();
  await page.getByRole('button', { name: 'Save the plan' }).click();
  await expect(page.getByText('Say in a sentence what the test is to show.').first()).toBeVisible();
  await test.step('fitment by a loosely typed phrase, vehicle, dyno', async () => {
    await page
      .getByLabel('What is the test to show?')
      .fill('What does the kit give with the small pulley on pump fuel?');
    await pick(page, 'Fitment', 'brackwatter v8 4,2', /Brackwater Moor/);
    await choose(page.getByLabel('Vehicle', { exact: true }), 'SV-030 Moor, green');
    await choose(page.getByLabel('Dyno', { exact: true }), 'Cell 1, loaded roller, enclosed cell');
    await expect(page.getByLabel('Gear, nearest 1:1')).toHaveValue('4th, 1.14:1');
  });
  await test.step('the part alone is stopped: it needs its calibration', async () => {
    await choose(page.getByLabel('Part for part'), 'Supercharger kit, revision A (SC-900)');
    await choose(page.getByLabel('pulley'), '80 mm');
    await arm(page, /Arm 1/).getByRole('button', { name: 'Put it in' }).click();
    await expect(arm(page, /Arm 1/)).toContainText('must not be run without a calibration made for it');
    await expect(arm(page, /Arm 1/)).toContainText(
      'supercharger stock → Supercharger kit, revision A (pulley 80 mm)',
    );
    await expect(page.getByText('It can be saved, but not locked while a stop stands.')).toBeVisible();
    await expect(page.getByRole('complementary', { name: 'What follows from the plan' })).toContainText(
      'crank pulley is drilled and pinned',
    );
  });
  await test.step('with it, the claim names both', async () => {
    await choose(page.getByLabel('What changes in supercharger kit'), 'flash a calibration');
    await choose(page.getByLabel('Calibration for supercharger kit'), 'Moor kit, pump fuel, revision 2');
    await arm(page, /Arm 1/).getByRole('button', { name: 'Put it in' }).click();
    await expect(arm(page, /Arm 1/)).toContainText('part with its calibration');
    await expect(arm(page, /Arm 1/)).not.toContainText('must not be run');
  });
  await test.step('what it can see, and what a re-mount costs', async () => {
    const panel = page.getByRole('table', { name: 'Smallest gain the plan would show' });
    await expect(panel).toContainText(/largest gain, “up to”.*\d\.\d %/);
    const seen = async (): Promise<number> =>
      Number(
        /(\d+\.\d) %\d+ a run|(\d+\.\d) %none|(\d+\.\d) %\D*$/
          .exec(
            (await panel.getByRole('row').nth(1).textContent())!.replace(/.*?(\d+\.\d %)(\d+\.\d %)/, '$2'),
          )
          ?.slice(1)
          .find(Boolean) ?? NaN,
      );
    const oneMount = await seen();
    await page.getByLabel('strapped down anew for every run').check();
    await expect.poll(seen).toBeGreaterThan(oneMount);
    await expect(page.getByRole('complementary', { name: 'What follows from the plan' })).toContainText(
      'h off the rollers',
    );
    await expect(page.getByRole('table', { name: 'What the return to baseline buys' })).toContainText(
      /A-B.*drift bound; never published/,
    );
  });
  await test.step('its own order, moved by keyboard and by mouse', async () => {
    await choose(page.getByLabel('Add a run'), 'supercharger kit');
    const order = page.getByRole('list', { name: 'Run order' });
    await expect(order).toHaveText(/1 stock2 supercharger kit3 stock4 supercharger kit/);
    await expect(page.getByRole('radio', { name: 'Own order' })).toBeChecked();
    await page.getByRole('button', { name: 'Run 4, supercharger kit: move' }).focus();
    await page.keyboard.press('Space');
    await page.waitForTimeout(200);
    await page.keyboard.press('ArrowLeft');
    await page.waitForTimeout(200);
    await page.keyboard.press('Space');
    await expect(order).toHaveText(/1 stock2 supercharger kit3 supercharger kit4 stock/);
    await drag(
      page,
      (await page.getByRole('button', { name: 'Run 1, stock: move' }).boundingBox())!,
      (await page.getByRole('button', { name: 'Run 3, supercharger kit: move' }).boundingBox())!,
    );
    await expect(order).not.toHaveText(/1 stock2 supercharger kit3 supercharger kit4 stock/);
    await page.getByRole('radio', { name: /^A-B-A stock/ }).click();
    await expect(order).toHaveText(/1 stock2 supercharger kit3 stock$/);
  });
  await test.step('saved and locked', async () => {
    await page.getByLabel('average over the rpm range').check();
    await expect(page.getByText('Each pays for their number')).toBeVisible();
    await page.getByRole('button', { name: 'Save the plan' }).click();
    await expect(page.getByRole('main').getByText('Not locked')).toBeVisible();
    await expect(page.getByRole('main')).toContainText(
      'supercharger: stock → Supercharger kit, revision A (pulley 80 mm)',
    );
    await page.getByRole('button', { name: 'Lock the plan' }).click();
    await page.getByRole('button', { name: 'Lock it' }).click();
    await expect(page.getByText(/Locked .* by Maren Holt/)).toBeVisible();
    await expect(page.getByText(/SHA-256 of the plan [0-9a-f]{64}/)).toBeVisible();
    await expect(page.getByRole('link', { name: 'Change the plan' })).toHaveCount(0);
  });
  await test.step('amended with a reason, shown wherever the test is', async () => {
    await page.getByRole('button', { name: 'Amend with a reason' }).click();
    await page.getByLabel('Cool-down, min').fill('7');
    await page.getByRole('button', { name: 'Amend the plan' }).click();
    await expect(page.getByRole('dialog')).toContainText('Give the reason in a sentence.');
    await page.getByLabel('Reason').fill('The kit holds heat longer than the first sessions showed.');
    await page.getByRole('button', { name: 'Amend the plan' }).click();
    await expect(page.getByRole('region', { name: 'Amendments' })).toContainText('cool-down: 4 min 7 min');
    await expect(page.getByRole('navigation', { name: 'Steps of the test' })).toContainText(
      'locked, amended once',
    );
    await page
      .getByRole('navigation', { name: 'Steps of the test' })
      .getByRole('link', { name: /^Pulls/ })
      .click();
    await expect(page.getByRole('link', { name: 'plan amended once' })).toBeVisible();
    await page.goto('/tests');
    await expect(page.getByRole('row').filter({ hasText: 'plan amended' }).first()).toBeVisible();
  });
});

test('a ladder stage tells what it adds, and a late amendment of what is claimed makes the result indicative', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await openTest(page, 10, 'Plan');
  await page.getByRole('link', { name: 'Change the plan' }).click();
  await expect(arm(page, /Arm 3/)).toContainText(
    'Against the stage before: calibration Adder touring, revision 4',
  );
  await expect(arm(page, /Arm 2/)).toContainText('combination');
  await page.getByRole('button', { name: 'Add a stage' }).click();
  await expect(arm(page, /Arm 4/)).toContainText('This stage is the same as the one it builds on.');
  await arm(page, /Arm 4/).getByRole('button', { name: 'Remove' }).click();
  await page.getByRole('button', { name: 'Save the changes' }).click();
  await expect(page.getByRole('button', { name: 'Lock the plan' })).toBeVisible();

  await openTest(page, 4, 'Plan');
  await page.getByRole('button', { name: 'Amend with a reason' }).click();
  await choose(page.getByLabel('What is changed'), 'rpm range');
  await expect(page.getByRole('dialog')).toContainText('the result can only be indicative');
  await page.getByLabel('To, rpm').fill('5600');
  await page.getByLabel('Reason').fill('The limiter comes in earlier than the register says.');
  await page.getByRole('button', { name: 'Amend the plan' }).click();
  await page
    .getByRole('navigation', { name: 'Steps of the test' })
    .getByRole('link', { name: /^Judge/ })
    .click();
  await expect(page.getByRole('main')).toContainText(
    'After the first pull the plan was amended in what would be claimed (rpm range).',
  );
  await expect(page.getByRole('complementary')).toContainText('indicative');
});

test('one test of two settings is compared arm by arm, and each pays for their number', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await openTest(page, 15, 'Compare');
  await expect(page.getByRole('button', { name: 'insert out' })).toHaveAttribute('aria-pressed', 'true');
  const gain = page.getByRole('slider', { name: /^Gain over stock/ });
  await gain.focus();
  await page.keyboard.press('End');
  await expect(gain).toHaveAttribute('aria-valuetext', /gain \+[2-5]/);
  await page.getByRole('button', { name: 'insert in' }).click();
  await expect(page.getByRole('complementary')).toContainText('no gain substantiated');
  await page.getByRole('link', { name: 'See the gates' }).click();
  await expect(page.getByRole('complementary')).toContainText('no gain shown');
  await page.getByRole('button', { name: 'insert out' }).click();
  await expect(page.getByText('off the centre of its bracket')).toBeVisible();
  await page.getByRole('link', { name: 'Draft a claim' }).click();
  await expect(page.getByRole('article')).toContainText(
    'Two-way exhaust, revision A (insert out) against stock',
  );
});

test('sessions are suggested, placed by hand, moved by keyboard and by mouse, and exported', async ({
  page,
}) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/tests/new');
  await page.getByLabel('What is the test to show?').fill('A short look for the calendar.');
  await pick(page, 'Fitment', 'ferry minibus', /Halden Ferry/);
  await choose(page.getByLabel('Vehicle', { exact: true }), { index: 1 });
  await choose(page.getByLabel('Dyno', { exact: true }), 'Cell 1, loaded roller, enclosed cell');
  await choose(page.getByLabel('Part for part'), 'Touring silencer, revision A (RS-310)');
  await arm(page, /Arm 1/).getByRole('button', { name: 'Put it in' }).click();
  await page.getByRole('button', { name: 'Save the plan' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Touring silencer');
  await leave(page);
  await enterAs(page, /Tobias Rask/);
  await page.getByRole('link', { name: 'Schedule', exact: true }).click();
  await page.getByRole('button', { name: 'Suggest places' }).click();
  const suggestion = page.getByRole('region', { name: 'Suggestion' });
  await expect(suggestion).toContainText('has no place: it takes longer than any one day');
  const ours = suggestion.getByRole('listitem').filter({ hasText: 'Touring silencer' });
  await expect(ours).toContainText('18 pulls');
  await ours.getByRole('button', { name: 'Place it' }).click();
  await expect(page.getByText('Placed.')).toBeVisible();
  const session = page.getByRole('button', { name: /Test \d+, Touring silencer/ });
  await test.step('a place outside the opening hours is refused, and it can be taken out again', async () => {
    await page.goto('/tests');
    await page.getByRole('link', { name: /Touring silencer/ }).click();
    await page
      .getByRole('navigation', { name: 'Steps of the test' })
      .getByRole('link', { name: /^Plan/ })
      .click();
    await page
      .getByRole('complementary')
      .getByRole('link', { name: /\d\d:\d\d/ })
      .click();
    await session.click();
    await page.getByLabel('Day', { exact: true }).fill('2031-03-08');
    await page.getByRole('button', { name: 'Move it' }).click();
    await expect(page.getByText('does not lie in the opening hours')).toBeVisible();
    await page.getByRole('button', { name: 'Take it out of the calendar' }).click();
    await page.getByRole('button', { name: 'Take it out', exact: true }).click();
    await expect(session).toHaveCount(0);
  });
  // A week that is empty but for what is placed now, whenever the test is run.
  await page.setViewportSize({ width: 1280, height: 1400 });
  await page.goto('/schedule?from=2031-03-03');
  await test.step('by mouse onto a day', async () => {
    const from = (await page
      .getByRole('button', { name: /Touring silencer, revision A, on Halden Ferry/ })
      .boundingBox())!;
    const day = (await page.locator('[data-dyno="Cell 1"][data-day="2031-03-04"]').boundingBox())!;
    await drag(page, from, { x: day.x, y: day.y + 34 });
    await expect(session).toHaveAttribute('aria-label', /Tue 4 Mar 09:00 to/);
  });
  await test.step('by keyboard, a day on and a quarter of an hour later', async () => {
    await session.focus();
    await page.keyboard.press('ArrowRight');
    await expect(session).toHaveAttribute('aria-label', /Wed 5 Mar 09:00 to/);
    await session.focus();
    await page.keyboard.press('ArrowDown');
    await expect(session).toHaveAttribute('aria-label', /Wed 5 Mar 09:15 to/);
  });
  await test.step('given out as a calendar file and as a run sheet', async () => {
    const [calendar] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'Calendar file' }).click(),
    ]);
    expect(readFileSync(await calendar.path(), 'utf8').replace(/\r\n[ \t]/g, '')).toContain(
      'DTSTART:20310305T081500Z',
    );
    await session.click();
    await page.getByRole('link', { name: 'Open the plan' }).click();
    await page.getByRole('link', { name: 'Print' }).click();
    await expect(page.getByRole('heading', { name: /Run sheet, test/ })).toBeVisible();
    await expect(page.getByText('NOT LOCKED')).toBeVisible();
    const [sheet] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'CSV' }).click(),
    ]);
    expect(readFileSync(await sheet.path(), 'utf8').split('\r\n')).toHaveLength(20);
  });
});

test('a partner shop sees its own tests and no claims', async ({ page }) => {
  await enterAs(page, /Juno Farr/);
  await expect(page.getByRole('row')).toHaveCount(3);
  await expect(page.getByRole('link', { name: /Large-bore downpipe/ })).toBeVisible();
  for (const name of ['Claims', 'Register', 'Coverage', 'Schedule'])
    await expect(page.getByRole('link', { name })).toHaveCount(0);
  await page.goto('/claims');
  await expect(page.getByRole('heading', { name: 'This page is for others' })).toBeVisible();
});

test('sign-in by password, refused and taken; signed out, the way in leads back to the page asked for', async ({
  page,
}) => {
  await page.goto('/claims');
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await page.getByLabel('E-mail').fill('ines@skerry-vale.example');
  await page.getByLabel('Password').fill('not this');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('do not belong together');
  await page.getByLabel('Password').fill('sample password');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Claims' })).toBeVisible();
});

test('twelve pulls are better planned as A-B-B-A, and one press does it', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await page.goto('/tests');
  await page
    .getByRole('link', {
      name: /Supercharger kit, revision A \(pulley 92 mm\) with .* revision 2, on Brackwater/,
    })
    .click();
  await page.getByRole('link', { name: 'Change the plan' }).click();
  const panel = page.getByRole('complementary', { name: 'What follows from the plan' });
  await expect(panel.getByRole('table', { name: 'Smallest gain the plan would show' })).toBeVisible();
  await expect(panel).not.toContainText('the same twelve pulls');
  await page.getByLabel('Counted pulls a run').fill('4');
  await expect(panel).toContainText(/the same twelve pulls see [\d.]+ % instead of [\d.]+ %/);
  const [better, plain] = /see ([\d.]+) % instead of ([\d.]+) %/
    .exec(await panel.innerText())!
    .slice(1)
    .map(Number);
  expect(better).toBeLessThan(plain);
  await panel.getByRole('button', { name: 'Plan it so' }).click();
  await expect(page.getByRole('radio', { name: /A-B-B-A/ })).toBeChecked();
  await expect(page.getByLabel('Counted pulls a run')).toHaveValue('3');
  await expect(panel.getByRole('table', { name: 'Smallest gain the plan would show' })).toContainText(
    `${better.toFixed(1)} %`,
  );
});
