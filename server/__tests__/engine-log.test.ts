/** What the engine's own log says bars a claim: part throttle, another gear, knock, a lean mixture that nobody answered for. */
import { describe, expect, it } from 'vitest';
import type { ClaimDetail } from '../../contract/publish/claim.ts';
import type { Ask } from './app.ts';
import { houseWith } from './house.ts';
import { analysisOf, attach, detailOf, draft, madeSession, measuredTest, publish } from './made-session.ts';

const { app, manager, operator, reviewer } = houseWith('manager', 'operator', 'reviewer');

const PART = ['p4', 'p5', 'p6'];
const STOCK = ['p1', 'p2', 'p3', 'p7', 'p8', 'p9'];
/** Changes the values of one column of a file, or adds one. */
function column(text: string, head: string, of: (value: number, rpm: number) => number): string {
  const rows = text.split('\n');
  const at = rows.findIndex((row) => row.startsWith('Time'));
  const heads = rows[at].split(',');
  const [index, rpm] = [heads.indexOf(head), heads.indexOf('Engine speed (rpm)')];
  return rows
    .map((row, i) => {
      if (i < at || row === '') return row;
      if (i === at) return index < 0 ? `${row},${head}` : row;
      const cells = row.split(',');
      cells[index < 0 ? cells.length : index] = of(Number(cells[index] ?? 0), Number(cells[rpm])).toFixed(3);
      return cells.join(',');
    })
    .join('\n');
}
function session(seed: number, change: (text: string, label: string) => string) {
  const made = madeSession(seed, 7);
  return {
    ...made,
    bytesOf: (label: string) => new TextEncoder().encode(change(made.textOf(label), label)),
  };
}
const failing = async (id: string) =>
  (await analysisOf(manager, id))
    .analysis!.result.findings.filter((f) => f.state === 'fail')
    .map((f) => f.code);
const tried = async (seed: number, change: (text: string, label: string) => string) => {
  const id = await measuredTest(app, { manager, operator }, session(seed, change));
  return { id, codes: await failing(id), status: (await draft(manager, id)).status };
};

describe('the log of the engine', () => {
  it.each([
    [
      'stock pulls at part throttle',
      'PART_THROTTLE',
      STOCK,
      (text: string) => column(text, 'Throttle (%)', (v) => 0.86 * v),
    ],
    [
      'the part in another gear',
      'OTHER_GEAR',
      PART,
      (text: string) => column(text, 'Roller speed (km/h)', (v) => 1.31 * v),
    ],
    [
      'knock in one arm',
      'KNOCK_UNEQUAL',
      PART,
      (text: string) => column(text, 'Knock retard (deg)', () => 1.6),
    ],
  ])('bars a claim: %s', async (_what, code, labels, change) => {
    const { codes, status } = await tried(101, (text, label) => {
      const all = code === 'KNOCK_UNEQUAL' ? column(text, 'Knock retard (deg)', () => 0) : text;
      return labels.includes(label) ? change(all) : all;
    });
    expect(codes).toContain(code);
    expect(status).toBe(409);
  });

  it('tells where the arms’ mixtures differ, and where airflow bears the gain out', async () => {
    const id = await measuredTest(
      app,
      { manager, operator },
      session(102, (text, label) => (PART.includes(label) ? column(text, 'Lambda', (v) => v - 0.04) : text)),
    );
    const { findings } = (await analysisOf(manager, id)).analysis!.result;
    expect(findings.find((f) => f.code === 'MIXTURE_DIFFERS')?.message).toMatch(/λ −0\.04/);
    expect(findings.find((f) => f.code === 'FLOW_AGREES')?.state).toBe('pass');
    expect((await draft(manager, id)).status).toBe(201);
  });
});

describe('a lean mixture', () => {
  const lean = (by: number) => (text: string, label: string) =>
    PART.includes(label) ? column(text, 'Lambda', (v, rpm) => (rpm > 5500 ? v + by : v)) : text;
  const answerTo = async (ask: Ask, id: string, text: string, code = 'LEAN_MIXTURE') =>
    ask<{ error?: { code: string } }>('POST', `/tests/${id}/answers`, {
      analysisId: (await analysisOf(manager, id)).analysis!.id,
      code,
      text,
    });
  const TEXT = 'Both sensors checked against a second one; plugs looked at, no sign of heat.';

  it('is published only after somebody answered for it, and anew when the files say something else', async () => {
    const id = await measuredTest(app, { manager, operator }, session(103, lean(0.1)));
    expect(await failing(id)).toEqual(['LEAN_MIXTURE']);
    expect((await draft(manager, id)).status).toBe(409);
    expect((await answerTo(operator, id, TEXT)).status).toBe(403);
    expect((await answerTo(reviewer, id, 'fine')).status).toBe(400);
    expect((await answerTo(reviewer, id, TEXT, 'PART_THROTTLE')).body.error?.code).toBe(
      'NOT_ANSWERED_BY_WORDS',
    );
    expect((await answerTo(reviewer, id, TEXT)).status).toBe(204);
    expect((await answerTo(reviewer, id, TEXT)).body.error?.code).toBe('FINDING_CHANGED');
    const { findings } = (await analysisOf(manager, id)).analysis!.result;
    expect(findings.find((f) => f.code === 'LEAN_MIXTURE')).toMatchObject({
      state: 'caution',
      answer: { text: TEXT },
    });
    const claim = await publish({ manager, reviewer }, id);
    // Whoever reads the claim is told what barred it, and that somebody answered.
    const read = (await manager<ClaimDetail>('GET', `/claims/${claim.id}`)).body.claim;
    expect(read.disclosures.join(' ')).toMatch(/Leaner than λ 0.92 at full load.+ has answered for it/);
    await expect(
      app.pool.query(`update finding_answers set answer = 'something else that was never said'`),
    ).rejects.toThrow(/append-only|never|change/i);

    // Another file says another mixture: the answer was not to that, and the claim does not stand on.
    const pull = (await detailOf(manager, id)).pulls.find((p) => p.label === 'p5')!;
    await attach(operator, id, pull.id, session(103, lean(0.16)).bytesOf('p5'), 'p5-again.csv');
    expect(await failing(id)).toContain('LEAN_MIXTURE');
    const after = (await manager<ClaimDetail>('GET', `/claims/${claim.id}`)).body;
    expect(after.claim.state).toBe('stale');
  });
});
