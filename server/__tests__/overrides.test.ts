/** A reviewer lets stand what fails a gate: with a reason, for a grade less, in sight of everybody. */
import { expect, it } from 'vitest';
import { houseWith } from './house.ts';
import { analysisOf, draft, madeSession, measuredTest, type MadeSession } from './made-session.ts';

const { app, manager, operator, reviewer } = houseWith('manager', 'operator', 'reviewer');
/** As large as the ratio of two units: real on a blower, and the mark of a column under the wrong head. */
const BLOWER = 35.6;
const METRICS = { metrics: ['bandAverage', 'upTo'] };
const REASON =
  'Both heads of the files were read: N·m in each. The blower gives it, as its boost in the log says.';

/** Nothing in the log says how much air the engine drew. */
function withoutAirflow(session: MadeSession): MadeSession {
  const textOf = (label: string): string =>
    session
      .textOf(label)
      .split('\n')
      .map((line) => (line.startsWith('#') ? line : line.split(',').toSpliced(7, 1).join(',')))
      .join('\n');
  return { ...session, textOf, bytesOf: (label) => new TextEncoder().encode(textOf(label)) };
}
const findingOf = async (id: string) => {
  const { analysis } = await analysisOf(manager, id);
  const finding = analysis!.result.findings.find((f) => f.code === 'ARMS_A_UNIT_APART')!;
  return { finding, analysis: analysis! };
};
const letStand = async (ask: typeof reviewer, id: string, text = REASON, arm?: string) => {
  const { analysis } = await findingOf(id);
  const body = { analysisId: analysis.id, code: 'ARMS_A_UNIT_APART', text, ...(arm ? { arm } : {}) };
  return ask<{ error?: { code: string } }>('POST', `/tests/${id}/answers`, body);
};

it('costs a grade: one session alone says nothing in public, two say what one would', async () => {
  const first = await measuredTest(app, { manager, operator }, withoutAirflow(madeSession(890, BLOWER)), {
    plan: METRICS,
  });
  expect((await findingOf(first)).finding.state).toBe('fail');
  const barred = await draft(manager, first, { metric: 'bandAverage', unit: '%' });
  expect(barred.body.error).toMatchObject({ code: 'NOT_CLAIMABLE' });

  // The test manager answers for mixtures, but does not let a failing gate stand; nor does a reviewer without a word.
  expect((await letStand(manager, first)).status).toBe(403);
  expect((await letStand(operator, first)).status).toBe(403);
  expect((await letStand(reviewer, first, 'Fine.')).status).toBe(400);
  expect((await findingOf(first)).finding.state).toBe('fail');
  // Nor is one arm's finding let stand by an answer to another's.
  expect((await letStand(reviewer, first, REASON, 'another')).body.error?.code).toBe('FINDING_CHANGED');
  expect((await letStand(reviewer, first)).status).toBe(204);
  const now = await findingOf(first);
  expect(now.finding).toMatchObject({ state: 'caution', answer: { text: REASON, overrides: true } });
  expect(now.analysis.result).toMatchObject({ grade: 'indicative', verdict: 'claim' });
  const alone = await draft(manager, first, { metric: 'bandAverage', unit: '%' });
  expect(alone.body.error?.code).toBe('NOT_CLAIMABLE');

  // Another day: without its own override it does not count with the first.
  app.clock.now += 3 * 86_400_000;
  const second = await measuredTest(app, { manager, operator }, withoutAirflow(madeSession(891, BLOWER)), {
    plan: METRICS,
    samePart: true,
  });
  expect((await draft(manager, first, { metric: 'bandAverage', unit: '%' })).status).toBe(409);
  expect((await letStand(reviewer, second)).status).toBe(204);
  const both = await draft(manager, second, { metric: 'bandAverage', unit: '%' });
  expect(both.status).toBe(201);
  expect(both.body.grade).toBe('single');
  expect(both.body.disclosures.join(' ')).toContain(`let it stand: ${REASON}`);
});

it('nothing else that fails is let stand, and the database asks for a reviewer too', async () => {
  const id = await measuredTest(app, { manager, operator }, madeSession(892, 5, ['stock', 'part']), {
    plan: { protocol: 'A-B', order: ['stock', 'part'] },
  }).catch(() => null);
  const { rows } = await app.pool.query<{ id: string; test_id: string }>(
    'select id, test_id from analyses order by computed_at desc limit 1',
  );
  const analysis = rows[0];
  const other = { analysisId: analysis.id, code: 'AB_UNEQUAL', text: REASON };
  const refused = await reviewer<{ error: { code: string } }>(
    'POST',
    `/tests/${id ?? analysis.test_id}/answers`,
    other,
  );
  expect(refused.body.error.code).toBe('NOT_ANSWERED_BY_WORDS');
  await expect(
    app.pool.query(
      `insert into finding_answers (id, test_id, analysis_id, code, message, answer, answered_by, answered_at)
        select gen_random_uuid(), $1, $2, 'ARMS_A_UNIT_APART', 'x', $3, id, now() from people
        where role = 'test manager' limit 1`,
      [analysis.test_id, analysis.id, REASON],
    ),
  ).rejects.toThrow(/by a reviewer only/);
});
