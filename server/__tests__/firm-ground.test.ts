/** What stands under a claim: tried carelessly and on purpose, over HTTP and past the service in the database. */
import { describe, expect, it } from 'vitest';
import type { AnalysisState } from '../../contract/judge/analysis.ts';
import type { TestFile } from '../../contract/judge/test-file.ts';
import type { CatalogueFitment, ClaimDetail, ClaimPage, Evidence } from '../../contract/publish/claim.ts';
import type { PartDetail } from '../../contract/register/register.ts';
import { DEFAULT_POLICY } from '../../core/base/policy.ts';
import { isRefused } from '../../core/judge/analyse-test.ts';
import { ensureHouse } from '../base/house.ts';
import type { Ask } from './app.ts';
import { houseWith } from './house.ts';
import { analysisOf, attach, detailOf, draft, madeSession, measuredTest, publish } from './made-session.ts';

const { app, manager, operator, reviewer, second } = houseWith('manager', 'operator', 'reviewer', 'second');

let seed = 500;
const text = (value: string): Uint8Array => new TextEncoder().encode(value);
const measured = (options: Parameters<typeof measuredTest>[3] = {}, session = madeSession((seed += 1))) =>
  measuredTest(app, { manager, operator }, session, options).then((id) => ({ id, session }));
const pullId = async (id: string, label: string): Promise<string> =>
  (await detailOf(manager, id)).pulls.find((p) => p.label === label)!.id;
const findings = async (id: string) => (await analysisOf(manager, id)).analysis!.result.findings;
const codes = async (id: string): Promise<string[]> => (await findings(id)).map((f) => f.code);
const current = async (): Promise<string[]> =>
  (await app.nobody<CatalogueFitment>('GET', '/catalogue/made-up-one')).body.claims.map((c) => c.code);
const claimOf = async (id: string): Promise<ClaimDetail> =>
  (await manager<ClaimDetail>('GET', `/claims/${id}`)).body;
const exclude = async (id: string, label: string, reason = 'wheel slip') =>
  operator<{ error?: { code: string } }>('POST', `/tests/${id}/pulls/${await pullId(id, label)}/exclusion`, {
    reason,
    note: '',
  });

describe('the lock cannot be laundered', () => {
  it('a file that was there before the lock counts, also after it has been replaced', async () => {
    const session = madeSession((seed += 1));
    const { id } = (await manager<{ id: string }>('POST', '/tests', app.plan())).body;
    const first = await pullId(id, 'p1');
    await attach(operator, id, first, session.bytesOf('p1'));
    await manager('POST', `/tests/${id}/lock`);
    // Sent again after the lock, in other bytes.
    await attach(operator, id, first, text(`${session.textOf('p1')}\n`));
    for (const pull of (await detailOf(manager, id)).pulls.filter((p) => p.counted)) {
      if (pull.label !== 'p1') await attach(operator, id, pull.id, session.bytesOf(pull.label));
      await operator('PUT', `/tests/${id}/pulls/${pull.id}/air`, session.airOf(pull.label));
    }
    expect(await codes(id)).toContain('PLAN_LOCKED_LATE');
    expect(await draft(manager, id)).toMatchObject({
      status: 409,
      body: { error: { code: 'NOT_CLAIMABLE' } },
    });
    await expect(app.pool.query('delete from pull_files where pull_id = $1', [first])).rejects.toThrow(
      /superseded/,
    );
    await expect(
      app.pool.query("update pull_files set attached_at = '2027-01-01' where pull_id = $1", [first]),
    ).rejects.toThrow(/superseded/);
  });
  it('a file that says it was recorded before the lock is believed', async () => {
    const { id, session } = await measured();
    expect(await codes(id)).toContain('PLAN_LOCKED');
    await attach(operator, id, await pullId(id, 'p3'), text(`# Date: 2026-11-03\n${session.textOf('p3')}`));
    expect(await codes(id)).toContain('PLAN_LOCKED_LATE');
    // Taking the tell-tale away again does not make it unseen.
    await attach(operator, id, await pullId(id, 'p3'), session.bytesOf('p3'));
    expect(await codes(id)).toContain('PLAN_LOCKED_LATE');
  });
});

describe('what comes late counts', () => {
  it('an excluded pull without its file keeps a claim waiting, unless its loss has a cause', async () => {
    const { id, session } = await measured({ without: ['p5'] });
    expect((await analysisOf(manager, id)).waitsFor[0]).toContain('p5');
    expect((await exclude(id, 'p5')).status).toBe(204);
    expect(await codes(id)).toContain('EXCLUDED_INCOMPLETE');
    expect(await draft(manager, id)).toMatchObject({
      status: 409,
      body: { error: { code: 'NOT_CLAIMABLE' } },
    });
    // Never recorded is a cause; then the rest may stand.
    const p5 = await pullId(id, 'p5');
    await operator('DELETE', `/tests/${id}/pulls/${p5}/exclusion`);
    expect((await exclude(id, 'p5', 'never recorded')).status).toBe(204);
    expect(await codes(id)).not.toContain('EXCLUDED_INCOMPLETE');
    const claim = await publish({ manager, reviewer }, id);
    expect(await current()).toContain(claim.code);
    // And when its bytes turn up after all, what stands on the test is evaluated again.
    const low = session
      .textOf('p5')
      .split('\n')
      .map((line) =>
        line.replace(
          /^((?:[^,]*,){3})([\d.]+)/,
          (_, head: string, nm: string) => `${head}${(Number(nm) * 0.93).toFixed(2)}`,
        ),
      )
      .join('\n');
    await attach(operator, id, p5, text(low));
    await operator('PUT', `/tests/${id}/pulls/${p5}/air`, session.airOf('p5'));
    expect(await current()).not.toContain(claim.code);
    const { state, staleReason } = (await claimOf(claim.id)).claim;
    expect([state, staleReason]).toEqual(['stale', expect.stringContaining('the file of pull p5')]);
  });
  it('bytes that change nothing leave the claim standing, and it is said who looked', async () => {
    const { id, session } = await measured({ without: ['p5'] });
    await exclude(id, 'p5', 'log lost in transfer');
    const claim = await publish({ manager, reviewer }, id);
    const warmUp = (await detailOf(manager, id)).pulls.find((p) => !p.counted)!;
    await attach(operator, id, warmUp.id, text(`${session.textOf('p1')}\n\n`));
    expect(await current()).toContain(claim.code);
    const { answers, openChanges } = await claimOf(claim.id);
    expect(openChanges).toEqual([]);
    expect(answers.at(-1)).toMatchObject({
      person: 'Evidentia',
      reason: expect.stringContaining('still holds') as string,
    });
  });
  it('“never recorded” is no cause for a pull that has a file', async () => {
    const { id } = await measured();
    expect(await exclude(id, 'p2', 'never recorded')).toMatchObject({
      status: 409,
      body: { error: { code: 'RECORDED_ALL_THE_SAME' } },
    });
  });
  it('a restored exclusion leaves its trace, and the pull cannot be changed past the trail', async () => {
    const { id } = await measured();
    const p4 = await pullId(id, 'p4');
    await exclude(id, 'p4');
    await operator('DELETE', `/tests/${id}/pulls/${p4}/exclusion`);
    const { rows } = await app.pool.query(
      'select act, reason, seen_result from pull_exclusions where pull_id = $1 order by id',
      [p4],
    );
    expect(rows).toMatchObject([
      { act: 'excluded', reason: 'wheel slip' },
      { act: 'restored', reason: 'wheel slip' },
    ]);
    await expect(
      app.pool.query(
        "update pulls set excluded_reason = 'x', excluded_by = $2, excluded_at = now() where id = $1",
        [p4, app.ids.operator],
      ),
    ).rejects.toThrow(/entries of pull_exclusions/);
    await expect(app.pool.query('delete from pull_exclusions where pull_id = $1', [p4])).rejects.toThrow(
      /written once/,
    );
  });
  it('the smaller of with and without holds for number, range and words together', async () => {
    const { id } = await measured();
    await exclude(id, 'p5');
    const { analysis } = await analysisOf(manager, id);
    const contrast = analysis!.result.contrasts[0];
    if (isRefused(contrast)) throw new Error('refused');
    const less = [contrast, contrast.withExcluded!].reduce((a, b) =>
      b.power.upTo.gain < a.power.upTo.gain ? b : a,
    );
    const { body } = await draft(manager, id);
    expect(body.rpm).toBe(less.power.upTo.rpm);
    expect(body.conditions.some((c) => c.includes(`${less.pulls.arm} part and`))).toBe(true);
    expect(body.disclosures).toContainEqual(expect.stringContaining('smaller of the results'));
  });
});

describe('a left-out pull is made again at the end of its run', () => {
  it('as one pull, marked so, with the sheet moved down behind it', async () => {
    const session = madeSession((seed += 1));
    const { id } = (await manager<{ id: string }>('POST', '/tests', app.plan())).body;
    await manager('POST', `/tests/${id}/lock`);
    const before = (await detailOf(manager, id)).pulls;
    for (const label of ['p1', 'p2', 'p3'])
      await attach(operator, id, before.find((p) => p.label === label)!.id, session.bytesOf(label));
    await exclude(id, 'p2', 'aborted pull');
    const repeat = (label: string) =>
      pullId(id, label).then((of) =>
        manager<{ error?: { code: string } }>('POST', `/tests/${id}/amendments`, {
          reason: 'The pull was aborted and is made again.',
          changes: { repeatedPull: { pullId: of } },
        }),
      );
    expect(await repeat('p3')).toMatchObject({ status: 409, body: { error: { code: 'NOT_LEFT_OUT' } } });
    expect((await repeat('p2')).status).toBe(204);
    expect(await repeat('p2')).toMatchObject({ status: 409, body: { error: { code: 'REPEATED_ALREADY' } } });
    const { pulls, amendments } = await detailOf(manager, id);
    expect(pulls).toHaveLength(before.length + 1);
    expect(pulls.find((p) => p.label === 'p2r')).toMatchObject({
      position: 7,
      run: 1,
      arm: 'stock',
      counted: true,
      repeats: 'p2',
    });
    expect(pulls.map((p) => p.position)).toEqual(pulls.map((_, i) => i + 1));
    expect(amendments[0].changes[0]).toMatchObject({ field: 'repeatedPull' });
    // Once a later run has been recorded, the run is over.
    await attach(operator, id, pulls.find((p) => p.label === 'p4')!.id, session.bytesOf('p4'));
    await exclude(id, 'p1', 'aborted pull');
    expect(await repeat('p1')).toMatchObject({ status: 409, body: { error: { code: 'RUN_IS_OVER' } } });
  });
});

describe('facts of the dyno in time', () => {
  const edit = async (change: Record<string, unknown>) => {
    const { dyno } = (await manager<{ dyno: Record<string, unknown> }>('GET', `/dynos/${app.ids.dyno}`)).body;
    const { id: _i, version, ...record } = dyno;
    return manager('PUT', `/dynos/${app.ids.dyno}`, { version, record: { ...record, ...change } });
  };
  it('an edit from now on moves no result of before, and its claim stays', async () => {
    const { id } = await measured();
    const claim = await publish({ manager, reviewer }, id);
    const was = (await analysisOf(manager, id)).analysis!;
    expect(
      (await edit({ repeatability: { curve: { variance: 0.05, df: 60 } }, validFrom: null })).status,
    ).toBe(200);
    expect((await analysisOf(manager, id)).analysis!.id).toBe(was.id);
    expect(await current()).toContain(claim.code);
  });
  it('an entry that corrects the record back to then puts the claim in question at once', async () => {
    const { id } = await measured();
    const claim = await publish({ manager, reviewer }, id);
    expect(await current()).toContain(claim.code);
    expect(
      (await edit({ repeatability: { mount: { variance: 0.4, df: 9 } }, validFrom: '2026-11-01' })).status,
    ).toBe(200);
    expect(await current()).not.toContain(claim.code);
    expect((await claimOf(claim.id)).claim.state).toBe('in question');
    // Opening the result evaluates it; the registered mount variance changes nothing on one mounting, so it holds.
    await attach(operator, id, (await detailOf(manager, id)).pulls[0].id, madeSession(9).bytesOf('p1'));
    expect((await claimOf(claim.id)).claim.state).toBe('published');
  });
  it('no interval rests on a history: it is held against the scatter, with ten degrees of freedom at the most', async () => {
    await edit({ repeatability: { bandAverage: { variance: 0.3, df: 10 } }, validFrom: '2026-11-01' });
    const { id } = await measured();
    const seen = async () => {
      const { contrasts, findings } = (await analysisOf(manager, id)).analysis!.result;
      if (isRefused(contrasts[0])) throw new Error('refused');
      return { contrast: contrasts[0], gate: findings.find((f) => f.gate === 'repeatability')! };
    };
    const ten = await seen();
    await edit({ repeatability: { bandAverage: { variance: 0.3, df: 400 } }, validFrom: '2026-11-01' });
    expect(await seen()).toEqual(ten);
    await edit({ repeatability: { bandAverage: { variance: 30, df: 10 } }, validFrom: '2026-11-01' });
    const wild = await seen();
    expect(wild.contrast).toEqual(ten.contrast);
    expect(wild.gate.code).toBe('SCATTER_FAR_BELOW_HISTORY');
    expect(wild.gate.code).not.toBe(ten.gate.code);
    await edit({ repeatability: {}, validFrom: '2026-11-01' });
  });
});

describe('the register moves on', () => {
  it('a newer revision puts the claim in question until a reviewer says why it does not matter', async () => {
    const { id } = await measured();
    const claim = await publish({ manager, reviewer }, id);
    await manager('POST', `/parts/${app.ids.part}/revisions`, {
      revision: 'B',
      changeNote: 'another gasket',
    });
    expect(await current()).not.toContain(claim.code);
    expect((await app.nobody<Evidence>('GET', `/evidence/${claim.code}`)).body).toMatchObject({
      claim: { state: 'in question' },
      since: [expect.stringContaining('newer revision, B')],
    });
    const [change] = (await claimOf(claim.id)).openChanges;
    const answer = (ask: Ask, reason: string, evidence?: string) =>
      ask<{ error?: { code: string } }>('POST', `/claims/${claim.id}/answers`, {
        changeId: change.id,
        reason,
        ...(evidence === undefined ? {} : { evidence }),
      });
    expect((await answer(manager, 'I know better than that.')).status).toBe(403);
    expect((await answer(reviewer, 'fine')).status).toBe(400);
    // Another revision than was tested: a reason alone is none, the evidence for it stays with the claim.
    const why = 'The gasket does not touch the flow; measured by the maker.';
    expect((await answer(reviewer, why)).body.error?.code).toBe('EVIDENCE_MISSING');
    expect(await current()).not.toContain(claim.code);
    const evidence = 'Flow sheet 12 of the maker, both revisions.';
    expect((await answer(reviewer, why, evidence)).status).toBe(204);
    expect(await current()).toContain(claim.code);
    expect((await claimOf(claim.id)).answers.at(-1)).toMatchObject({ person: 'reviewer', evidence });
    await expect(app.pool.query('delete from change_answers')).rejects.toThrow(/written once/);
  });
  it('an entry in the ledger for the day touches it, one for a later day does not', async () => {
    const { id } = await measured();
    const claim = await publish({ manager, reviewer }, id);
    const enter = (at: string) =>
      operator('POST', `/vehicles/${app.ids.vehicle}/ledger`, {
        at,
        change: { kind: 'service', item: 'oil' },
        note: '',
      });
    app.clock.now += 30 * 86_400_000;
    expect((await enter('2026-12-01T08:00:00Z')).status).toBe(204);
    expect(await current()).toContain(claim.code);
    expect((await enter('2026-11-08T08:00:00Z')).status).toBe(204);
    expect(await current()).not.toContain(claim.code);
    const [change] = (await claimOf(claim.id)).openChanges;
    expect(change.kind).toBe('ledger');
    await reviewer('POST', `/claims/${claim.id}/answers`, {
      changeId: change.id,
      reason: 'The oil was renewed before both arms alike.',
    });
    expect(await current()).toContain(claim.code);
  });
  it('what was measured cannot be waved through', async () => {
    const { id } = await measured();
    const { body: claim } = await draft(manager, id);
    await manager('POST', `/claims/${claim.id}/submit`);
    await exclude(id, 'p6');
    const [change] = (await claimOf(claim.id)).openChanges;
    expect(
      await second('POST', `/claims/${claim.id}/answers`, {
        changeId: change.id,
        reason: 'It looks alike to me.',
      }),
    ).toMatchObject({ status: 409, body: { error: { code: 'EVALUATED_NOT_ANSWERED' } } });
    expect(await reviewer('POST', `/claims/${claim.id}/approve`)).toMatchObject({
      status: 409,
      body: { error: { code: 'ANALYSIS_SUPERSEDED' } },
    });
    // Nor past the service.
    await expect(
      app.pool.query(
        "update claims set state = 'published', reviewer_id = $2, published_at = now() where id = $1",
        [claim.id, app.ids.reviewer],
      ),
    ).rejects.toThrow(/rests on inputs that have changed/);
  });
  it('what was put back as it was does not stand in the way, and says so', async () => {
    const { id } = await measured();
    const { body: claim } = await draft(manager, id);
    await manager('POST', `/claims/${claim.id}/submit`);
    await exclude(id, 'p6');
    expect((await reviewer('POST', `/claims/${claim.id}/approve`)).status).toBe(409);
    await operator('DELETE', `/tests/${id}/pulls/${await pullId(id, 'p6')}/exclusion`);
    expect((await reviewer('POST', `/claims/${claim.id}/approve`)).status).toBe(204);
    expect(await current()).toContain(claim.code);
    const { answers, openChanges } = await claimOf(claim.id);
    expect(openChanges).toEqual([]);
    expect(answers.at(-1)!.reason).toMatch(/^Put back as it was/);
  });
});

describe('policy', () => {
  const enter = (version: string, change: object = {}) =>
    manager<{ error?: { code: string } }>('POST', '/policies', {
      policy: { ...DEFAULT_POLICY, version, ...change },
      reason: 'Agreed in the review of this autumn.',
    });
  it('is a row with a version, never edited, and is read by every analysis', async () => {
    const { id } = await measured();
    const before = await codes(id);
    expect(before).toContain('REPEATS_ENOUGH');
    expect((await enter('house-2', { pullsPerRun: 4 })).status).toBe(201);
    expect((await analysisOf(manager, id)).analysis!.policyVersion).toBe('house-2');
    expect(await codes(id)).toContain('REPEATS_FEW');
    expect(await enter('house-2')).toMatchObject({ status: 409, body: { error: { code: 'VERSION_TAKEN' } } });
    expect((await enter('house-x', { factorArms: { pass: 0.03, caution: 0.01 } })).status).toBe(422);
    expect((await operator('POST', '/policies', {})).status).toBe(403);
    await expect(app.pool.query("update policies set reason = 'x'")).rejects.toThrow(/written once/);
    await enter('house-3');
  });
  it('decides smoothing, confidence and guard of plans made under it, and the locked plan keeps its own', async () => {
    await enter('house-4', { smoothingRpm: 300, confidence: 0.9, guard: 'usual' });
    const { id } = await measured();
    expect((await detailOf(manager, id)).plan).toMatchObject({
      smoothingRpm: 300,
      confidence: 0.9,
      guard: 'usual',
    });
    expect((await manager<{ plan: object }>('GET', `/tests/${id}/locked-plan.json`)).body).toMatchObject({
      plan: { fields: { guard: 'usual' } },
    });
    await enter('house-5');
    const [contrast] = (await analysisOf(manager, id)).analysis!.result.contrasts;
    expect(!isRefused(contrast) && contrast.scatter).toMatchObject({ guard: 'usual' });
    expect((await manager<TestFile>('GET', `/tests/${id}/test.json`)).body).toMatchObject({ guard: 'usual' });
    await expect(app.pool.query("update tests set guard = 'strict' where id = $1", [id])).rejects.toThrow(
      /locked/,
    );
    await manager('POST', '/tests', app.plan());
    await expect(app.pool.query("update tests set guard = 'none' where locked_at is null")).rejects.toThrow(
      /guard_is_known/,
    );
  });
  it('a tighter one puts claims in question at once, and they go or stay by their evidence', async () => {
    const { id } = await measured();
    const claim = await publish({ manager, reviewer }, id);
    await enter('house-6', { scatter: { ...DEFAULT_POLICY.scatter, mostPct: 0.01 } });
    expect(await current()).not.toContain(claim.code);
    for (let i = 0; i < 100 && (await claimOf(claim.id)).claim.state === 'in question'; i++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    expect((await claimOf(claim.id)).claim).toMatchObject({
      state: 'stale',
      staleReason: expect.stringContaining('house policy is now house-6') as string,
    });
    await enter('house-7');
  });
  it('a claim older than it lets them stand leaves the shelf', async () => {
    const { id } = await measured();
    const claim = await publish({ manager, reviewer }, id);
    expect(await current()).toContain(claim.code);
    const was = app.clock.now;
    app.clock.now += 37 * 31 * 86_400_000;
    expect(await current()).not.toContain(claim.code);
    app.clock.now = was;
    expect((await claimOf(claim.id)).claim).toMatchObject({
      state: 'stale',
      staleReason: expect.stringContaining('36 months') as string,
    });
  });
});

describe('published means a snapshot', () => {
  it('names, fitment and test file stay as they were approved, whatever the register says later', async () => {
    const { id } = await measured();
    const claim = await publish({ manager, reviewer }, id);
    const before = (await app.nobody<Evidence>('GET', `/evidence/${claim.code}`)).body;
    const file = (await app.nobody<TestFile>('GET', `/evidence/${claim.code}/test.json`)).body;
    const { part } = (await manager<PartDetail>('GET', `/parts/${app.ids.part}`)).body;
    const { id: _i, version, embargoed: _e, withheld: _w, ...record } = part;
    await manager('PUT', `/parts/${app.ids.part}`, { version, record: { ...record, name: 'Renamed since' } });
    const fitment = (
      await manager<{ fitment: Record<string, unknown> }>('GET', `/fitments/${app.ids.fitment}`)
    ).body.fitment;
    const { id: _f, slug: _s, version: fitmentVersion, ...facts } = fitment;
    expect(
      (
        await manager('PUT', `/fitments/${app.ids.fitment}`, {
          version: fitmentVersion,
          record: { ...facts, unitsPerYear: 99 },
        })
      ).status,
    ).toBe(200);
    const after = (await app.nobody<Evidence>('GET', `/evidence/${claim.code}`)).body;
    expect(after.claim.subject).toBe(before.claim.subject);
    expect(after.claim.conditions).toEqual(before.claim.conditions);
    expect(after.since).toEqual([expect.stringContaining('record of the fitment has been changed')]);
    expect((await app.nobody<TestFile>('GET', `/evidence/${claim.code}/test.json`)).body).toEqual(file);
    await expect(
      app.pool.query("update claims set snapshot = '{}' where id = $1", [claim.id]),
    ).rejects.toThrow(/stays/);
    await manager('PUT', `/parts/${app.ids.part}`, { version: version + 1, record });
  });
});

describe('a wrong answer about a column is put right without sending the file again', () => {
  it('the bytes stay, the reading changes, and a published claim goes', async () => {
    const session = madeSession((seed += 1));
    const bare = (label: string): Uint8Array => text(session.textOf(label).replace('Torque (N·m)', 'Torque'));
    const { id } = (await manager<{ id: string }>('POST', '/tests', app.plan())).body;
    await manager('POST', `/tests/${id}/lock`);
    const wrong = encodeURIComponent(JSON.stringify({ torque: { column: 'Torque', unit: 'lb·ft' } }));
    for (const pull of (await detailOf(manager, id)).pulls.filter((p) => p.counted)) {
      const answer = await operator(
        'POST',
        `/tests/${id}/pulls/${pull.id}/file?name=x.csv&columns=${wrong}`,
        bare(pull.label),
      );
      expect(answer.status).toBe(201);
      await operator('PUT', `/tests/${id}/pulls/${pull.id}/air`, session.airOf(pull.label));
    }
    const peak = async (): Promise<number> =>
      (await analysisOf(manager, id)).analysis!.result.pulls[0].peakTorque!.nm;
    const tooMuch = await peak();
    const { file } = (await detailOf(manager, id)).pulls.find((p) => p.label === 'p1')!;
    expect(
      (
        await operator('PUT', `/tests/${id}/pulls/${await pullId(id, 'p1')}/columns`, {
          torque: { column: 'Torque', unit: 'N·m' },
        })
      ).status,
    ).toBe(200);
    const again = (await detailOf(manager, id)).pulls.find((p) => p.label === 'p1')!.file!;
    expect(again.sha256).toBe(file!.sha256);
    expect(again.found.columns.find((c) => c.quantity === 'torque')).toMatchObject({
      unit: 'N·m',
      unitFrom: 'caller',
    });
    expect((await peak()) / tooMuch).toBeCloseTo(1 / 1.3558179483314, 6);
  });
});

describe('every analysis says what it read', () => {
  it('what an earlier version computed is in question under a newer one, even if the earlier never served here', async () => {
    const { id } = await measured();
    const claim = await publish({ manager, reviewer }, id);
    expect(await current()).toContain(claim.code);
    // The analyses of these tests are by version “test”, of which no server has written anything down.
    await ensureHouse({ ...app.needs, softwareVersion: 'a newer one' });
    expect(await current()).not.toContain(claim.code);
    expect((await claimOf(claim.id)).openChanges).toMatchObject([
      { kind: 'software', what: expect.stringContaining('a newer one') as string },
    ]);
  });
  it('and lists take the one that stands, not the one with the highest number', async () => {
    const { id } = await measured();
    const first = (await analysisOf(manager, id)).analysis!;
    const { rows } = await app.pool.query<{ kind: string; n: number }>(
      'select kind, count(*)::int as n from analysis_inputs where analysis_id = $1 group by kind order by kind',
      [first.id],
    );
    expect(Object.fromEntries(rows.map((r) => [r.kind, r.n]))).toMatchObject({
      file: 18,
      air: 18,
      exclusion: 18,
      plan: 1,
      ledger: 1,
      vehicle: 1,
      fitment: 1,
      dyno: 1,
      sensor: 1,
      policy: 1,
      software: 1,
      'part revision': 1,
    });
    await exclude(id, 'p5');
    expect((await manager<AnalysisState>('GET', `/tests/${id}/analysis`)).body.analysis!.number).toBe(
      first.number + 1,
    );
    await operator('DELETE', `/tests/${id}/pulls/${await pullId(id, 'p5')}/exclusion`);
    const { rows: now } = await app.pool.query<{ id: string }>(
      'select current_analysis_id as id from tests where id = $1',
      [id],
    );
    expect(now[0].id).toBe(first.id);
    const { items: body } = (await manager<ClaimPage>('GET', '/claims')).body;
    expect(body.every((c) => c.testId !== id)).toBe(true);
  });
});

describe('what was measured and then changes takes its claim off the shelf', () => {
  it.each<[string, (id: string, session: ReturnType<typeof madeSession>) => Promise<unknown>, string]>([
    [
      'an air reading corrected',
      async (id, session) =>
        operator('PUT', `/tests/${id}/pulls/${await pullId(id, 'p2')}/air`, {
          ...session.airOf('p2'),
          temperatureC: session.airOf('p2').temperatureC + 0.1,
        }),
      'the air reading of pull p2 was corrected',
    ],
    [
      'a file replaced',
      async (id, session) =>
        attach(operator, id, await pullId(id, 'p8'), text(`${session.textOf('p8')}\n\n`)),
      'the file of pull p8 was replaced',
    ],
    ['a pull excluded', (id) => exclude(id, 'p6'), 'pull p6 was excluded (wheel slip)'],
  ])('%s', async (_what, change, reason) => {
    const { id, session } = await measured();
    const claim = await publish({ manager, reviewer }, id);
    await change(id, session);
    expect(await current()).not.toContain(claim.code);
    expect((await claimOf(claim.id)).claim).toMatchObject({
      state: 'stale',
      staleReason: `Since publication ${reason}.`,
    });
  });
  it('a pull restored', async () => {
    const { id } = await measured();
    await exclude(id, 'p6');
    const claim = await publish({ manager, reviewer }, id);
    await operator('DELETE', `/tests/${id}/pulls/${await pullId(id, 'p6')}/exclusion`);
    expect((await claimOf(claim.id)).claim).toMatchObject({
      state: 'stale',
      staleReason: 'Since publication pull p6 was restored.',
    });
  });
});
