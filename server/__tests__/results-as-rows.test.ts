/** Metrics of every contrast stand as rows beside the result they come from, and lists read those. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestSummary } from '../../contract/overview.ts';
import { sayingLess } from '../../core/compare/result.ts';
import { isRefused } from '../../core/judge/analyse-test.ts';
import { startApp, type Ask, type TestApp } from './app.ts';
import { analysisOf, detailOf, madeSession, measuredTest } from './made-session.ts';

let app: TestApp;
let manager: Ask, operator: Ask;
beforeAll(async () => {
  app = await startApp();
  [manager, operator] = (await Promise.all(['manager', 'operator'].map((key) => app.signIn(key)))) as [
    Ask,
    Ask,
  ];
});
afterAll(async () => {
  await app.stop();
});

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
  (await manager<TestSummary[]>('GET', '/tests')).body.find((t) => t.id === id)!;

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
        "insert into contrasts (analysis_id, position, with_excluded, arm, against, design, refused, up_to_kw) select id, 7, false, 'a', 'b', 'A-B', 'TOO_SHORT', 9 from analyses limit 1",
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
});
