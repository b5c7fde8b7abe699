/** Logs that come as files of their own: joined, shifted, taken off; what they say reaches the judgement and the public. */
import { describe, expect, it } from 'vitest';
import type { PullLogShown } from '../../contract/capture/pull-log.ts';
import type { TestChannels } from '../../contract/capture/channels.ts';
import type { Evidence } from '../../contract/publish/claim.ts';
import { houseWith } from './house.ts';
import { analysisOf, attach, detailOf, madeSession, measuredTest, publish } from './made-session.ts';

const { app, manager, operator, reviewer } = houseWith('manager', 'operator', 'reviewer');

/** Some columns of a pull’s file as a file of their own, its clock ahead by so many seconds. */
function columnsOf(text: string, heads: readonly string[], ahead = 0): Uint8Array {
  const rows = text.split('\n').filter((row) => row !== '' && !row.startsWith('#'));
  const own = rows[0].split(',');
  const at = heads.map((head) => own.indexOf(head));
  const lines = rows.map((row, i) => {
    const cells = row.split(',');
    return at.map((k) => (i > 0 && k === 0 ? (Number(cells[0]) + ahead).toFixed(3) : cells[k])).join(',');
  });
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}
const OF_DYNO = ['Time (s)', 'Engine speed (rpm)', 'Roller speed (km/h)', 'Torque (N·m)', 'Throttle (%)'];
const OF_LOGGER = ['Time (s)', 'Engine speed (rpm)', 'Lambda', 'Air flow (g/s)'];
const made = madeSession(201, 7);
const split = { ...made, bytesOf: (label: string) => columnsOf(made.textOf(label), OF_DYNO) };
const logOf = (label: string, ahead: number) => columnsOf(made.textOf(label), OF_LOGGER, ahead);
const path = (testId: string, pullId: string) => `/tests/${testId}/pulls/${pullId}/log`;
const codes = async (id: string): Promise<string[]> =>
  (await analysisOf(manager, id)).analysis!.result.findings.map((f) => f.code);

describe('a log as a file of its own', () => {
  it('is shifted to its pull, read by the gates, and told with the claim', async () => {
    const id = await measuredTest(app, { manager, operator }, split);
    expect(await codes(id)).toEqual(expect.arrayContaining(['MIXTURE_NOT_LOGGED', 'FLOW_NOT_LOGGED']));
    const { pulls } = await detailOf(manager, id);
    const counted = pulls.filter((p) => p.counted);
    for (const [i, pull] of counted.entries()) {
      const answer = await operator<PullLogShown>(
        'POST',
        `${path(id, pull.id)}?name=log-${pull.label}.csv`,
        logOf(pull.label, i - 3.4),
      );
      expect(answer.status).toBe(201);
      expect(answer.body.offsetS).toBeCloseTo(3.4 - i, 1);
      expect(answer.body.adds).toEqual(['lambda or air-fuel ratio', 'mass air flow']);
    }
    expect(await codes(id)).toEqual(expect.arrayContaining(['MIXTURE_SAFE', 'FLOW_AGREES']));
    const channels = (await manager<TestChannels>('GET', `/tests/${id}/channels`)).body;
    expect(channels.pulls[0].channels.lambda!.values[40]).toBeCloseTo(0.88, 1);

    const claim = await publish({ manager, reviewer }, id);
    const evidence = (await app.nobody<Evidence>('GET', `/evidence/${claim.code}`)).body;
    expect(evidence.pulls.find((p) => p.label === 'p1')!.log).toMatchObject({ name: 'log-p1.csv' });
    const raw = await app.nobody('GET', `/evidence/${claim.code}/pulls/p1/log`);
    expect(Buffer.from(raw.bytes)).toEqual(Buffer.from(logOf('p1', -3.4)));
    const test = (
      await app.nobody<{ pulls: { log?: { file: string } }[] }>('GET', `/evidence/${claim.code}/test.json`)
    ).body;
    expect(test.pulls.filter((p) => p.log)).toHaveLength(counted.length);

    // Shifted by hand it is told; taken off, what it said is not known any more. Either puts the claim in question.
    expect((await operator('PUT', path(id, counted[0].id), { offsetS: 9 })).status).toBe(204);
    expect(await codes(id)).toContain('LOG_SHIFTED_BY_HAND');
    expect((await operator('DELETE', path(id, counted[0].id))).status).toBe(204);
    expect(await codes(id)).toContain('MIXTURE_NOT_LOGGED');
    expect((await operator('GET', path(id, counted[0].id))).status).toBe(404);

    // Another file of the pull has no log until one is joined to it.
    const second = counted[1];
    await attach(operator, id, second.id, new TextEncoder().encode(made.textOf(second.label)), 'whole.csv');
    expect((await detailOf(manager, id)).pulls.find((p) => p.id === second.id)!.log ?? null).toBeNull();
  });

  it('is refused where it is none, and stands for nothing without a pull', async () => {
    const id = await measuredTest(app, { manager, operator }, madeSession(202), { without: ['p9'] });
    const pulls = (await detailOf(manager, id)).pulls;
    const of = (label: string) => pulls.find((p) => p.label === label)!;
    const join = (label: string, bytes: Uint8Array, ask = operator) =>
      ask<{ error?: { code: string } }>('POST', `${path(id, of(label).id)}?name=log.csv`, bytes);
    expect((await join('p9', logOf('p1', 0))).body.error?.code).toBe('NO_FILE_YET');
    expect((await join('p1', madeSession(202).bytesOf('p1'))).body.error?.code).toBe('SAME_FILE_TWICE');
    const noSpeed = new TextEncoder().encode(`Time (s),Lambda\n${'0,0.9\n'.repeat(50)}`);
    expect((await join('p1', noSpeed)).body.error?.code).toBe('NO_ENGINE_SPEED');
    expect((await join('p1', logOf('p1', 0), reviewer)).status).toBe(403);
    const { rows } = await app.pool.query<{ n: number }>(
      'select count(*)::int as n from pull_logs where pull_id = $1',
      [of('p1').id],
    );
    expect(rows[0].n).toBe(0);
    // A log of one pull is not that of another, however alike their engine speeds are.
    expect((await join('p1', logOf('p1', 1.5))).status).toBe(201);
    expect((await join('p4', logOf('p1', 1.5))).body.error?.code).toBe('SAME_FILE_TWICE');
    expect((await join('p1', logOf('p1', 1.5))).status).toBe(201);
    // Of another engine it is kept where somebody insists, and the judgement says so.
    const other = new TextEncoder().encode(
      [
        'Time (s),Engine speed (rpm),Lambda',
        ...Array.from({ length: 400 }, (_, i) => `${i / 20},${3000 + 900 * Math.sin(i / 9)},0.8`),
        '',
      ].join('\n'),
    );
    expect((await join('p2', other)).status).toBe(201);
    expect((await operator<PullLogShown>('GET', path(id, of('p2').id))).body.foundOffsetS).toBeNull();
  });

  it('without engine speed lies by the clocks of both files, and the judgement says so', async () => {
    const recorded = '# Recorded: 2026-11-12T10:00:03';
    const own = madeSession(203);
    const clocked = {
      ...own,
      bytesOf: (label: string) => new TextEncoder().encode(`${recorded}\n${own.textOf(label)}`),
    };
    const id = await measuredTest(app, { manager, operator }, clocked);
    const p1 = (await detailOf(manager, id)).pulls.find((p) => p.label === 'p1')!;
    const log = (head: string) =>
      new TextEncoder().encode(
        [
          head,
          'Time (s),Lambda',
          ...Array.from({ length: 300 }, (_, i) => `${i / 20},${0.8 + i / 5000}`),
          '',
        ].join('\n'),
      );
    expect(
      (
        await operator<{ error?: { code: string } }>(
          'POST',
          `${path(id, p1.id)}?name=l.csv`,
          log('# No: clock'),
        )
      ).body.error?.code,
    ).toBe('NO_ENGINE_SPEED');
    const joined = await operator<PullLogShown>('POST', `${path(id, p1.id)}?name=l.csv`, log(recorded));
    expect(joined.status).toBe(201);
    expect(joined.body).toMatchObject({ correlation: null, log: { t: [], rpm: [] } });
    expect(joined.body.foundOffsetS).not.toBeNull();
    expect(await codes(id)).toContain('LOG_BY_CLOCK');
    expect((await detailOf(manager, id)).pulls.find((p) => p.id === p1.id)!.log).toMatchObject({
      byClock: true,
    });
    expect((await operator('PUT', path(id, p1.id), { offsetS: 40 })).status).toBe(204);
    const after = await codes(id);
    expect(after).toContain('LOG_SHIFTED_BY_HAND');
    expect(after).not.toContain('LOG_BY_CLOCK');
  });

  it('cannot be changed behind the history of its pull', async () => {
    await expect(app.pool.query('update pull_logs set offset_s = 1')).rejects.toThrow(/superseded/);
    await expect(app.pool.query('delete from pull_logs')).rejects.toThrow(/superseded/);
  });
});
