import { expect, test } from '@playwright/test';
import { enterAs, leave, openTest, putBackUnits } from './helpers.ts';

test('a claim with a proven loss is returned, sent again, published with its disclosure, and withdrawn', async ({
  page,
}) => {
  await test.step('the reviewer sees the loss and returns the claim', async () => {
    await enterAs(page, /Ines Calloway/);
    await page.getByRole('link', { name: 'Claims', exact: true }).click();
    await page
      .getByRole('row')
      .filter({ hasText: 'Rear silencer', hasNotText: 'stale' })
      .getByRole('link')
      .click();
    await expect(page.getByText(/▼ Proven loss: −\d\.\d % near/)).toBeVisible();
    await page.getByRole('button', { name: 'Return with a reason' }).click();
    const send = page.getByRole('dialog').getByRole('button', { name: 'Return it' });
    await send.click();
    await expect(page.getByRole('dialog')).toContainText('Say why, in 5 characters or more');
    await page.getByLabel('Reason').fill('Say which fuel was used on both days.');
    await send.click();
    await expect(page.getByText('Say which fuel was used on both days.')).toBeVisible();
    await leave(page);
  });
  await test.step('the author sends it again', async () => {
    await enterAs(page, /Maren Holt/);
    await page.getByRole('link', { name: 'Claims', exact: true }).click();
    await page
      .getByRole('row')
      .filter({ hasText: 'Rear silencer', hasNotText: 'stale' })
      .getByRole('link')
      .click();
    await page.getByRole('button', { name: 'Send to review' }).click();
    await expect(page.getByText('Another person reviews it')).toBeVisible();
    await leave(page);
  });
  await test.step('it is published with the loss told, then withdrawn in sight', async () => {
    await enterAs(page, /Ines Calloway/);
    await page.getByRole('link', { name: 'Claims', exact: true }).click();
    await page
      .getByRole('row')
      .filter({ hasText: 'Rear silencer', hasNotText: 'stale' })
      .getByRole('link')
      .click();
    // Whatever has been written into the car's ledger for days before the session is answered first.
    await expect(page.getByRole('heading', { name: 'Conditions' })).toBeVisible();
    const open = page.getByRole('button', { name: 'It does not touch the claim' });
    for (let left = await open.count(); left > 0; left--) {
      await open.first().click();
      await page.getByLabel('Reason').fill('It was done before both arms alike.');
      await page.getByRole('button', { name: 'Keep the answer' }).click();
      await expect(open).toHaveCount(left - 1);
    }
    await page.getByRole('button', { name: 'Approve and publish' }).click();
    await page.getByRole('button', { name: 'Publish it' }).click();
    await page.getByRole('link', { name: 'In the catalogue' }).click();
    const article = page.getByRole('article').filter({ hasText: 'Rear silencer', hasNotText: 'Stale:' });
    await expect(article).toContainText(/▼ Proven loss/);
    await page.goBack();
    await page.getByRole('button', { name: 'Withdraw' }).click();
    await page.getByLabel('Reason').fill('The silencer is being revised.');
    await page.getByRole('button', { name: 'Withdraw it' }).click();
    await expect(page.getByText('Say whether the number was wrong.')).toBeVisible();
    await page.getByLabel('Was its number wrong?').click();
    await page.getByRole('option', { name: /^Yes/ }).click();
    await page.getByRole('button', { name: 'Withdraw it' }).click();
    await expect(page.getByText('it stays visible as withdrawn')).toBeVisible();
    await page.goto('/corrections?why=wrong');
    const correction = page.getByRole('list', { name: 'Corrections' }).getByRole('listitem');
    await expect(correction.filter({ hasText: 'Rear silencer' })).toContainText(
      'The silencer is being revised.',
    );
    await expect(correction.first()).toContainText('found wrong');
    await page.goto('/catalogue/oriel-tern-1-8-estate-103-kw-eu');
    await expect(
      page.getByRole('article').filter({ hasText: 'Rear silencer', hasNotText: 'Stale:' }),
    ).toContainText('Withdrawn: The silencer is being revised.');
  });
});

test('no gain, a look without return and a half-captured test each say what they are', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await openTest(page, 2, 'Judge');
  await expect(page.getByText('No gain is shown. That is a result')).toBeVisible();
  await openTest(page, 2, 'Compare');
  await expect(page.getByText('no gain substantiated')).toBeVisible();
  await openTest(page, 2, 'Claim');
  await expect(page.getByRole('heading', { name: 'Draft advice' })).toBeVisible();
  await expect(page.getByText(/No gain shown: at most \+/)).toBeVisible();
  await openTest(page, 5, 'Judge');
  await expect(page.getByText('no return to baseline, a drift bound is added')).toBeVisible();
  await expect(page.getByText('this one is 1.0958')).toBeVisible();
  await openTest(page, 9, 'Compare');
  await expect(page.getByText('The comparison waits for the files of p1')).toBeVisible();
});

test('the curve can be read as a table, in the units chosen, which are kept', async ({ page }) => {
  await enterAs(page, /Edda Lunn/);
  await page.getByRole('button', { name: 'Units and light' }).click();
  await page.getByRole('menuitemradio', { name: 'PS', exact: true }).click();
  await page.getByRole('menuitemradio', { name: 'lb·ft', exact: true }).click();
  await page.keyboard.press('Escape');
  await openTest(page, 4, 'Compare');
  await page.getByRole('button', { name: 'table' }).click();
  await expect(page.getByRole('columnheader', { name: 'Gain, PS' })).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: /^3.000/ })).toContainText('+');
  await page.reload();
  await expect(page.getByText('Torque at the wheel, lb·ft')).toBeVisible();
  await openTest(page, 4, 'Pulls');
  await expect(page.getByRole('button', { name: /Replace|Exclude|Choose files/ })).toHaveCount(0);
  await putBackUnits(page);
});

test('no gain is told as advice, by the same path as a claim', async ({ page }) => {
  await enterAs(page, /Maren Holt/);
  await openTest(page, 2, 'Claim');
  await page.getByRole('button', { name: 'Draft this advice' }).click();
  await page.getByRole('button', { name: 'Send to review' }).click();
  await expect(page.getByText('Another person reviews it')).toBeVisible();
  const address = page.url();
  await leave(page);
  await enterAs(page, /Ines Calloway/);
  await page.goto(address);
  await page.getByRole('button', { name: 'Approve and publish' }).click();
  await page.getByRole('button', { name: 'Publish it' }).click();
  await page.getByRole('link', { name: 'In the catalogue' }).click();
  await expect(page.getByRole('heading', { name: 'Advice' })).toBeVisible();
  await expect(page.getByText(/No gain shown: at most \+/).first()).toBeVisible();
});

test('a newer revision puts a claim in question, in sight, until a reviewer answers it', async ({ page }) => {
  await enterAs(page, /Ines Calloway/);
  await page.getByRole('link', { name: 'Claims', exact: true }).click();
  const published = page.getByRole('row').filter({ hasText: 'published' }).first();
  const subject = (await published.getByRole('cell').nth(1).textContent()) ?? '';
  await published.getByRole('link').first().click();
  const address = page.url();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  const detail = (await (await page.request.get(`/api${new URL(address).pathname}`)).json()) as {
    claim: { testId: string; code: string };
  };
  const test_ = (await (await page.request.get(`/api/tests/${detail.claim.testId}`)).json()) as {
    part: { partId: string };
  };
  await leave(page);
  await enterAs(page, /Maren Holt/);
  const revised = await page.request.post(`/api/parts/${test_.part.partId}/revisions`, {
    data: { revision: 'Z9', changeNote: 'another bracket' },
  });
  expect(revised.status(), subject).toBe(201);
  await leave(page);
  await page.goto(`/evidence/${detail.claim.code}`);
  await expect(page.getByText('In question: the part has a newer revision, Z9.')).toBeVisible();
  await enterAs(page, /Ines Calloway/);
  await page.goto(address);
  await expect(page.getByText(/in question/).first()).toBeVisible();
  const answer = page.getByRole('listitem').filter({ hasText: 'Z9' }).getByRole('button');
  await answer.click();
  await page.getByLabel('What was changed').fill('The bracket carries no flow.');
  await page.getByRole('button', { name: 'Keep the answer' }).click();
  await expect(page.getByText('Say what was compared, and by whom.')).toBeVisible();
  await page.getByLabel('On what evidence').fill('Both drawings, side by side, by the maker and me.');
  await page.getByRole('button', { name: 'Keep the answer' }).click();
  await expect(page.getByText(/On the evidence: Both drawings/)).toBeVisible();
  await expect(page.getByText('The bracket carries no flow')).toBeVisible();
  await expect(answer).toHaveCount(0);
});
