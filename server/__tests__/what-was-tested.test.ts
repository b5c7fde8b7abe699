/** What was tested is what the claim names: the arm decides, on every list and page. */
import { beforeAll, describe, expect, it } from 'vitest';
import type { TestPage } from '../../contract/overview.ts';
import type { CatalogueFitment, ClaimPage, Evidence } from '../../contract/publish/claim.ts';
import type { Coverage } from '../../contract/publish/coverage.ts';
import type { Calibration, Part, PartDetail } from '../../contract/register/register.ts';
import { houseWith } from './house.ts';
import { analysisOf, detailOf, draft, madeSession, measuredTest, publish } from './made-session.ts';

const { app, manager, operator, reviewer } = houseWith('manager', 'operator', 'reviewer');
let calibrationId: string, exhaustRevision: string, exhaustId: string;
beforeAll(async () => {
  calibrationId = (
    await manager<Calibration>('POST', '/calibrations', {
      name: 'Road tune',
      revision: '3',
      fileHash: 'a'.repeat(64),
    })
  ).body.id;
  exhaustId = (
    await manager<Part>('POST', '/parts', {
      part: { sku: 'TW-9', maker: 'Made', name: 'Two-way exhaust', category: 'exhaust section' },
      revision: { revision: 'A', options: [{ name: 'insert', settings: ['in', 'out'] }] },
    })
  ).body.id;
  exhaustRevision = (await manager<PartDetail>('GET', `/parts/${exhaustId}`)).body.revisions[0].id;
  await manager('PUT', '/applications', { partId: exhaustId, fitmentIds: [app.ids.fitment], fits: true });
});

let seed = 900;
const intake = () => ({
  kind: 'part fitted',
  category: 'intake',
  partRevisionId: app.ids.revision,
  settings: {},
});
const tune = () => ({ kind: 'calibration', calibrationId });
const arm = (changes: readonly unknown[], label = 'part') => ({
  arms: [
    { key: 'stock', label: 'stock', role: 'baseline', from: null, changes: [] },
    { key: 'part', label, role: 'part', from: null, changes },
  ],
});
const measured = (changes: readonly unknown[], percent = 7): Promise<string> =>
  measuredTest(app, { manager, operator }, madeSession((seed += 1), percent), {
    plan: arm(changes),
    samePart: true,
  });
const titleOf = async (id: string): Promise<string> =>
  (await manager<TestPage>('GET', '/tests')).body.items.find((t) => t.id === id)!.title;
const stateOf = async (partId: string): Promise<string> =>
  (await manager<Coverage>('GET', '/coverage')).body.rows[0].cells.find((c) => c.partId === partId)!.state;

describe('the headline is what differed', () => {
  it('a part with a calibration it does not need is the combination, everywhere, and no evidence for the part', async () => {
    const id = await measured([intake(), tune()]);
    const named = 'Part, revision A with calibration Road tune, revision 3';
    expect(await titleOf(id)).toBe(`${named}, on Made Up`);
    const claim = await publish({ manager, reviewer }, id);
    expect(claim).toMatchObject({ subject: named, subjectKind: 'combination' });
    const { claims } = (await app.nobody<CatalogueFitment>('GET', '/catalogue/made-up-one')).body;
    expect(claims.find((c) => c.code === claim.code)!.subject).toBe(named);
    expect((await app.nobody<Evidence>('GET', `/evidence/${claim.code}`)).body.claim.subject).toBe(named);
    expect(claim.conditions[0]).toBe(`${named} against stock on Made Up, 100 kW`);
    expect(await stateOf(app.ids.part)).toBe('in combination');
  });
  it('a calibration alone is the calibration’s, not a part’s', async () => {
    const id = await measured([tune()]);
    expect(await titleOf(id)).toBe('calibration Road tune, revision 3, on Made Up');
    expect((await detailOf(manager, id)).part).toBeNull();
    const claim = await publish({ manager, reviewer }, id);
    expect(claim).toMatchObject({ subject: 'calibration Road tune, revision 3', subjectKind: 'calibration' });
    expect(await stateOf(app.ids.part)).toBe('in combination');
  });
  it('the part alone is the part’s own evidence', async () => {
    const id = await measured([intake()]);
    const claim = await publish({ manager, reviewer }, id);
    expect(claim).toMatchObject({ subject: 'Part, revision A', subjectKind: 'part' });
    expect(await stateOf(app.ids.part)).toBe('published');
    // In question it is not current here either.
    await manager('POST', `/parts/${app.ids.part}/revisions`, { revision: 'B' });
    expect(await stateOf(app.ids.part)).toBe('stale');
  });
  it('tyres and fuel are told with every claim', async () => {
    const { conditions } = (await manager<ClaimPage>('GET', '/claims?limit=200')).body.items[0];
    expect(conditions.some((c) => c.includes('tyres 205/55 R16') && c.includes('fuel 95 RON'))).toBe(true);
  });
});

describe('what is no product is told as advice', () => {
  it('an element removed is planned, measured and published as advice, never claimed', async () => {
    const id = await measured([{ kind: 'other change', text: 'air filter element removed' }], 6);
    expect(await titleOf(id)).toBe('air filter element removed, on Made Up');
    expect(await draft(manager, id)).toMatchObject({
      status: 409,
      body: { error: { code: 'NOT_A_PRODUCT' } },
    });
    const advice = await publish({ manager, reviewer }, id, { tells: 'advice', unit: '%' });
    expect(advice).toMatchObject({
      tells: 'advice',
      subjectKind: 'condition',
      wording: expect.stringMatching(/^Gives at most \+\d\.\d % on average/) as string,
    });
    const { claims } = (await app.nobody<CatalogueFitment>('GET', '/catalogue/made-up-one')).body;
    expect(claims.find((c) => c.code === advice.code)).toMatchObject({ tells: 'advice' });
  });
  it('no gain goes to the catalogue as advice; a gain that is shown is no advice', async () => {
    await app.anotherPart();
    const none = await measured([intake()], 0);
    expect((await analysisOf(manager, none)).analysis!.result.verdict).toBe('no gain shown');
    expect(await draft(manager, none)).toMatchObject({
      status: 409,
      body: { error: { code: 'NOT_CLAIMABLE' } },
    });
    const advice = await publish({ manager, reviewer }, none, { tells: 'advice', unit: '%' });
    expect(advice.wording).toMatch(/^No gain shown: at most \+/);
    await app.anotherPart();
    const gain = await measured([intake()]);
    expect(await draft(manager, gain, { tells: 'advice' })).toMatchObject({
      status: 409,
      body: { error: { code: 'GAIN_IS_SHOWN' } },
    });
  });
});

describe('settings', () => {
  it('another than the sold one stands in the first line', async () => {
    const out = {
      kind: 'part fitted',
      category: 'exhaust section',
      partRevisionId: exhaustRevision,
      settings: { insert: 'out' },
    };
    const id = await measured([out]);
    const claim = await publish({ manager, reviewer }, id);
    expect(claim.subject).toBe('Two-way exhaust, revision A (insert out)');
    expect(claim.wording).toMatch(/^With insert out \(sold with insert in\): up to \+/);
    expect(claim.disclosures).toContain('As sold (insert in) it was not tested.');
    expect(await stateOf(exhaustId)).toBe('published');
  });
});

describe('a plan says what it is run with', () => {
  it('a vehicle whose tyres nobody wrote down is refused', async () => {
    await app.pool.query("update vehicles set wheels = ''");
    expect(await manager('POST', '/tests', app.plan())).toMatchObject({
      status: 422,
      body: { error: { code: 'TYRES_UNKNOWN' } },
    });
    await operator('POST', `/vehicles/${app.ids.vehicle}/ledger`, {
      at: '2026-11-09T08:00:00Z',
      change: { kind: 'tyres', text: '205/55 R16 summer' },
      note: '',
    });
    expect((await manager('POST', '/tests', app.plan())).status).toBe(201);
  });
  it('the lock notes the facts it was planned on', async () => {
    const { body } = await manager<{ id: string }>('POST', '/tests', app.plan());
    await manager('POST', `/tests/${body.id}/lock`);
    const { plan } = (
      await manager<{ plan: Record<string, unknown> }>('GET', `/tests/${body.id}/locked-plan.json`)
    ).body;
    expect(plan).toMatchObject({
      fields: { tyres: '205/55 R16 summer' },
      plannedOn: { dyno: { record: 1, facts: 1 }, fitment: 1, policy: 'house-1' },
    });
  });
});
