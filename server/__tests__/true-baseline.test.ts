/** The car on the day: its ledger outranks the plan, before a claim and after it. */
import { describe, expect, it } from 'vitest';
import type { Beside } from '../../contract/judge/beside.ts';
import type { ClaimDetail } from '../../contract/publish/claim.ts';
import type { VehicleDetail } from '../../contract/register/register.ts';
import { houseWith } from './house.ts';
import { draft, madeSession, measuredTest, publish } from './made-session.ts';

const { app, manager, operator, reviewer } = houseWith('manager', 'operator', 'reviewer');
const vehicle = () => app.ids.vehicle;
const enter = (change: object | null, at: string, more: object = {}) =>
  operator<{ error: { code: string } }>('POST', `/vehicles/${vehicle()}/ledger`, {
    at,
    change,
    note: '',
    ...more,
  });
const beside = async (id: string, gate = 'true baseline') =>
  (await manager<Beside>('GET', `/tests/${id}/beside?arm=part`)).body.findings.filter((f) => f.gate === gate);
const claimOf = async (id: string) => (await manager<ClaimDetail>('GET', `/claims/${id}`)).body.claim;
/** Takes the newest entry of the ledger back. */
async function takeBack(): Promise<void> {
  const { ledger } = (await manager<VehicleDetail>('GET', `/vehicles/${vehicle()}`)).body;
  const last = [...ledger]
    .filter((e) => !e.superseded)
    .sort((a, b) => (a.enteredAt < b.enteredAt ? 1 : -1))[0];
  const at = new Date(Date.parse(last.at)).toISOString();
  expect((await enter(null, at, { supersedes: last.id, note: 'It was another car.' })).status).toBe(204);
}
const measured = (seed: number) => measuredTest(app, { manager, operator }, madeSession(seed));

describe('the baseline by the ledger of the day', () => {
  it('is what the plan says where nothing else was written, and what is not known is said', async () => {
    const id = await measured(840);
    expect(await beside(id)).toMatchObject([{ state: 'caution', code: 'BASELINE_NOT_RECORDED' }]);
    for (const item of ['air filter', 'oil']) await enter({ kind: 'service', item }, '2026-11-01T08:00:00Z');
    await enter({ kind: 'tyres', text: '205/55 R16' }, '2026-11-01T08:00:00Z');
    expect(await beside(id)).toMatchObject([{ state: 'pass', code: 'BASELINE_AS_PLANNED' }]);
  });
  it('another tune on the car than the plan knows keeps a claim back, until the ledger is put right', async () => {
    const id = await measured(841);
    await enter({ kind: 'other change', text: 'valve of the boost control swapped' }, '2026-11-09T08:00:00Z');
    expect(await beside(id)).toMatchObject([
      {
        state: 'fail',
        code: 'BASELINE_OTHER_THAN_PLANNED',
        message: expect.stringContaining('valve of the boost') as string,
      },
    ]);
    expect((await draft(manager, id)).body.error?.code).toBe('BASELINE_OTHER_THAN_PLANNED');
    await takeBack();
    expect(await beside(id)).toMatchObject([{ state: 'pass' }]);
    // The ledger has been written in since the result: the author says why that does not matter.
    expect((await draft(manager, id)).body.error?.code).toBe('CHANGES_TO_ANSWER');
    expect((await draft(manager, id, { answer: 'The entry was of another car.' })).status).toBe(201);
  });
  it('an entry for the day that says the car was another takes a published claim out by itself', async () => {
    const id = await measured(842);
    const claim = await publish({ manager, reviewer }, id);
    await enter({ kind: 'service', item: 'coolant' }, '2026-11-08T08:00:00Z');
    // What changes nothing that is known to matter waits for a reviewer.
    expect((await claimOf(claim.id)).state).toBe('in question');
    await enter({ kind: 'other change', text: 'wider throttle body' }, '2026-11-09T09:00:00Z');
    const now = await claimOf(claim.id);
    expect(now.state).toBe('stale');
    expect(now.staleReason).toContain('ledger has an entry');
    await takeBack();
  });
  it('a worn filter on the baseline that the intake renews keeps a claim back', async () => {
    const id = await measured(843);
    const { ledger } = (await manager<VehicleDetail>('GET', `/vehicles/${vehicle()}`)).body;
    const fresh = ledger.find((e) => e.text.includes('air filter') && !e.superseded)!;
    const old = { supersedes: fresh.id, note: 'That was last year’s.' };
    await enter({ kind: 'service', item: 'air filter' }, '2025-02-01T08:00:00Z', old);
    expect(await beside(id)).toMatchObject([{ state: 'fail', code: 'WORN_AND_RENEWED' }]);
    expect((await draft(manager, id)).body.error?.code).toBe('WORN_AND_RENEWED');
  });
});
