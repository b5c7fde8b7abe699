/** Metrics of every contrast stand as rows beside the result they come from, and lists read those. */
import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import type { TestPage, TestSummary } from '../../contract/overview.ts';
import { sayingLess } from '../../core/compare/result.ts';
import { isRefused } from '../../core/judge/analyse-test.ts';
import { houseWith } from './house.ts';
import { analysisOf, attach, detailOf, draft, madeSession, measuredTest } from './made-session.ts';

const { app, manager, operator } = houseWith('manager', 'operator');

interface Row {
  position: number;
  with_excluded: boolean;
  refused: string | null;
  up_to_kw: number | null;
  up_to_kw_rpm: number | null;
  average_pct_lower: number | null;
  peak_kw_upper: number | null;
  proven_losses: number | null;
}
const rowsOf = async (id: string): Promise<Row[]> =>
  (
    await app.pool.query<Row>(
      'select c.* from contrasts c join tests t on t.current_analysis_id = c.analysis_id where t.id = $1 order by position, with_excluded',
      [id],
    )
  ).rows;
const summaryOf = async (id: string): Promise<TestSummary> =>
  (await manager<TestPage>('GET', '/tests')).body.items.find((t) => t.id === id)!;

describe('results as rows', () => {
  it('say what the result says, with and without what was left out, and the list reads the smaller', async () => {
    const id = await measuredTest(app, { manager, operator }, madeSession(951));
    const before = (await analysisOf(manager, id)).analysis!.result.contrasts[0];
    expect(await rowsOf(id)).toHaveLength(1);
    const p5 = (await detailOf(manager, id)).pulls.find((p) => p.label === 'p5')!.id;
    await operator('POST', `/tests/${id}/pulls/${p5}/exclusion`, { reason: 'wheel slip', note: '' });
    const [contrast] = (await analysisOf(manager, id)).analysis!.result.contrasts;
    if (isRefused(contrast) || isRefused(before)) throw new Error('refused');
    const rows = await rowsOf(id);
    expect(rows.map((r) => r.with_excluded)).toEqual([false, true]);
    [contrast, contrast.withExcluded!].forEach((c, i) =>
      expect(rows[i]).toMatchObject({
        position: 0,
        refused: null,
        up_to_kw: c.power.upTo.gain,
        up_to_kw_rpm: c.power.upTo.rpm,
        average_pct_lower: c.relative.bandAverage.lower,
        peak_kw_upper: c.power.peakToPeak.upper,
        proven_losses: c.relative.losses.length,
      }),
    );
    const less = sayingLess(contrast, (c) => c.power.upTo.gain).power.upTo;
    expect(await summaryOf(id)).toMatchObject({ upToKw: less.gain, upToRpm: less.rpm, verdict: 'claim' });
  });

  it('are written once', async () => {
    await expect(app.pool.query('update contrasts set up_to_kw = 99')).rejects.toThrow(/written once/);
    await expect(app.pool.query('delete from contrasts')).rejects.toThrow(/written once/);
    await expect(
      app.pool.query(
        'insert into contrasts (analysis_id, position, with_excluded, arm, against, design, refused, ' +
          "up_to_kw) select id, 7, false, 'a', 'b', 'A-B', 'TOO_SHORT', 9 from analyses limit 1",
      ),
    ).rejects.toThrow(/refused_or_measured/);
  });

  it('a contrast that cannot be analysed has a row that says why, and the list asks', async () => {
    const id = await measuredTest(app, { manager, operator }, madeSession(952));
    // Every pull of the part is left out: there is nothing to compare.
    const { pulls } = await detailOf(manager, id);
    for (const label of ['p4', 'p5', 'p6']) {
      const pull = pulls.find((p) => p.label === label)!;
      await operator('POST', `/tests/${id}/pulls/${pull.id}/exclusion`, { reason: 'fault code', note: '' });
    }
    await analysisOf(manager, id);
    expect(await rowsOf(id)).toMatchObject([{ refused: 'ERROR_NO_DATA', up_to_kw: null }]);
    const { stages } = await summaryOf(id);
    expect(stages.find((s) => s.stage === 'compare')).toMatchObject({
      state: 'asks',
      note: 'cannot be compared',
    });
  });

  it('what cannot be analysed is remembered, not tried again at every look, until its inputs change', async () => {
    const session = madeSession(953);
    const id = await measuredTest(app, { manager, operator }, session);
    const p5 = (await detailOf(manager, id)).pulls.find((p) => p.label === 'p5')!.id;
    // A recording at one engine speed has no sweep. It is refused when it is sent, so it is put there as an older
    // version, which did not look, could have left it.
    const rows = Array.from({ length: 300 }, (_, i) => `${(i / 20).toFixed(2)},3000,${120 + (i % 3)}`);
    const steady = Buffer.from(`Time (s),Engine speed (rpm),Torque (N·m)\n${rows.join('\n')}\n`);
    const sha256 = createHash('sha256').update(steady).digest('hex');
    await app.pool.query(
      'insert into raw_files (sha256, bytes, size, stored_at, stored_by) values ($1, $2, $3, now(), $4)',
      [sha256, steady, steady.length, app.ids.operator],
    );
    await app.pool.query('update pull_files set current = false where pull_id = $1', [p5]);
    await app.pool.query(
      `insert into pull_files (id, pull_id, sha256, name, found, attached_at, attached_by)
       select gen_random_uuid(), $1, $2, 'steady.csv', found, now(), attached_by from pull_files where pull_id = $1`,
      [p5, sha256],
    );
    const first = await analysisOf(manager, id);
    expect(first.problem?.code).toBeTruthy();
    expect(first.analysis).toBeNull();
    const kept = async () =>
      (
        await app.pool.query<{ code: string; failed_at: Date }>(
          'select code, failed_at from failed_analyses where test_id = $1',
          [id],
        )
      ).rows;
    const before = await kept();
    expect(before).toMatchObject([{ code: first.problem!.code }]);
    expect((await analysisOf(manager, id)).problem).toEqual(first.problem);
    expect(await kept()).toEqual(before);
    await attach(operator, id, p5, session.bytesOf('p5'), 'p5.csv');
    expect((await analysisOf(manager, id)).problem).toBeNull();
    await expect(app.pool.query('delete from failed_analyses')).rejects.toThrow(/written once/);
  });

  it('an end where a vehicle scattered far more is told to who plans on it next', async () => {
    const id = await measuredTest(app, { manager, operator }, madeSession(954));
    await analysisOf(manager, id);
    const planning = async () =>
      (await manager<{ noisyEnds: unknown[] }>('GET', `/vehicles/${app.ids.vehicle}/planning`)).body
        .noisyEnds;
    expect(await planning()).toEqual([]);
    // The same result, with the scatter of its upper end as a rougher session would have it.
    const end = { side: 'high', rpm: 6100, times: 2.2 };
    await app.pool.query(
      `with rough as (insert into analyses (id, test_id, number, inputs_hash, inputs, result, curves, policy, software_version, computed_at)
         select gen_random_uuid(), test_id, number + 1, 'rough', inputs, jsonb_set(result,
           '{contrasts,0,scatter,noisyEnd}', $2), curves, policy, software_version, computed_at
         from analyses where test_id = $1 returning id, test_id)
       update tests t set current_analysis_id = rough.id from rough where t.id = rough.test_id`,
      [id, JSON.stringify(end)],
    );
    const { number } = (await detailOf(manager, id)).summary;
    expect(await planning()).toEqual([{ test: number, ...end }]);
  });
});

describe('one pull of the part is no evidence', () => {
  it('leaving out all but one keeps the result indicative, and nothing can be drafted from it', async () => {
    const id = await measuredTest(app, { manager, operator }, madeSession(955));
    const { pulls } = await detailOf(manager, id);
    for (const label of ['p4', 'p6']) {
      const pull = pulls.find((p) => p.label === label)!;
      await operator('POST', `/tests/${id}/pulls/${pull.id}/exclusion`, { reason: 'wheel slip', note: '' });
    }
    const { result } = (await analysisOf(manager, id)).analysis!;
    const codes = result.findings.map((f) => f.code);
    expect(codes).toContain('ARM_SCATTER_UNKNOWN');
    expect(codes).toContain('REPEATS_FEW');
    expect(result.grade).toBe('indicative');
    const refused = await draft(manager, id);
    expect(refused.status).toBe(409);
    expect(refused.body.error?.code).toBe('NOT_CLAIMABLE');
  });
});
