/**
 * Two people at once, at two servers: approving beside everything that can change under a claim. Whatever came
 * first, nothing may be current in public that rests on what was just changed.
 * RACE_ROUNDS sets how often each pair is fired (`npm run bench -- races`: 200, with servers in processes of their own).
 */
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { CatalogueFitment, Claim, ClaimDetail, ClaimPage } from '../../contract/publish/claim.ts';
import type { PartDetail } from '../../contract/register/register.ts';
import { startApp, type Answer, type Ask, type TestApp } from './app.ts';
import { analysisOf, attach, detailOf, draft, madeSession, measuredTest } from './made-session.ts';

const ROUNDS = Number(process.env.RACE_ROUNDS ?? 6);
const OWN_PROCESSES = process.env.RACE_PROCESSES === '1';
const session = madeSession(31);

let app: TestApp;
/** At the first server. */ let manager: Ask, operator: Ask;
/** At the second. */ let managerThere: Ask, reviewerThere: Ask, operatorThere: Ask;
let testId: string;
const pullIds = new Map<string, string>();

async function setUp(): Promise<void> {
  app = await startApp();
  const here = await app.another(OWN_PROCESSES);
  const there = await app.another(OWN_PROCESSES);
  [manager, operator] = (await Promise.all(['manager', 'operator'].map((k) => app.signIn(k, here)))) as [
    Ask,
    Ask,
  ];
  [managerThere, reviewerThere, operatorThere] = (await Promise.all(
    ['manager', 'reviewer', 'operator'].map((k) => app.signIn(k, there)),
  )) as [Ask, Ask, Ask];
  testId = await measuredTest(app, { manager, operator }, session);
  for (const pull of (await detailOf(manager, testId)).pulls) pullIds.set(pull.label, pull.id);
}
const tearDown = (): Promise<void> => app.stop();
// Many rounds leave hundreds of claims behind, and every later round reads them: each action has a database of its own.
if (ROUNDS >= 50) {
  beforeEach(setUp);
  afterEach(tearDown);
} else {
  beforeAll(setUp);
  afterAll(tearDown);
}

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
/** How long the first of two takes as a rule, ms. */
let usualMs = 40;
/** Both at once, either ahead by a random part of that time, the first by up to all of it and more: both orders occur, and all between. */
async function atOnce<A, B>(one: () => Promise<A>, other: () => Promise<B>): Promise<[A, B]> {
  const lead = (1.9 * Math.random() - 0.6) * usualMs;
  const first = async () => {
    await pause(Math.max(0, -lead));
    const begun = performance.now();
    const answer = await one();
    usualMs = 0.8 * usualMs + 0.2 * (performance.now() - begun);
    return answer;
  };
  return Promise.all([first(), pause(Math.max(0, lead)).then(other)]);
}

/** A claim that waits for approval, from the present analysis. */
async function claimInReview(): Promise<Claim> {
  const { analysis } = await analysisOf(manager, testId);
  const mine = (await manager<ClaimPage>('GET', '/claims?limit=200')).body.items.find(
    (c) => c.analysisId === analysis!.id && (c.state === 'returned' || c.state === 'draft'),
  );
  const made = mine
    ? { body: mine, status: 201 }
    : await draft(manager, testId, { answer: 'Known, and of no weight for what was measured.' });
  expect(made.status, JSON.stringify(made.body)).toBe(201);
  expect((await manager('POST', `/claims/${made.body.id}/submit`)).status).toBe(204);
  await answerEarlierRounds(made.body.id);
  return made.body;
}
/** Only the change of this round may stand in the way of the approval. */
async function answerEarlierRounds(id: string): Promise<void> {
  const { openChanges } = (await manager<ClaimDetail>('GET', `/claims/${id}`)).body;
  for (const { id: changeId, kind } of openChanges)
    if (!['file', 'air', 'exclusion'].includes(kind)) {
      const reason = 'Known, and of no weight for what was measured.';
      const evidence = 'Both laid side by side.';
      expect(
        (await reviewerThere('POST', `/claims/${id}/answers`, { changeId, reason, evidence })).status,
      ).toBeLessThan(300);
    }
}
/** Takes a claim out of the way for the next round. */
async function putAside(id: string): Promise<void> {
  const { claim } = (await manager<{ claim: Claim }>('GET', `/claims/${id}`)).body;
  if (claim.state === 'in review')
    await reviewerThere('POST', `/claims/${id}/return`, { reason: 'Next round.' });
  else if (claim.state !== 'returned')
    await manager('POST', `/claims/${id}/withdraw`, { reason: 'Next round.', wrong: false });
}
async function expectCurrentOnlyOnPresentInputs(claim: Claim): Promise<void> {
  if (!(await currentCodes()).includes(claim.code)) return;
  expect((await analysisOf(manager, testId)).analysis!.id).toBe(claim.analysisId);
}
const currentCodes = async (): Promise<string[]> =>
  (await app.nobody<CatalogueFitment>('GET', '/catalogue/made-up-one')).body.claims.map((c) => c.code);

let turn = 0;
const record = async () => {
  const { part } = (await manager<PartDetail>('GET', `/parts/${app.ids.part}`)).body;
  const { id: _i, version, embargoed: _e, withheld: _w, ...input } = part;
  return { version, input };
};
const dyno = async () => {
  const { dyno: row } = (await manager<{ dyno: Record<string, unknown> }>('GET', `/dynos/${app.ids.dyno}`))
    .body;
  const { id: _i, version, ...input } = row;
  return { version, input };
};

let partRecord: Awaited<ReturnType<typeof record>>;
/** What happens at the first server while the second approves; what puts it back. */
const ACTIONS: Record<
  string,
  {
    act: () => Promise<Answer>;
    /** What is read before the race begins. */ prepare?: () => Promise<void>;
    undo?: () => Promise<unknown>;
    /** Whether the change may be refused because the approval came first. */ mayBeRefused?: boolean;
    /** Whether it ends where it began: approved afterwards, the claim stands on what is there. */ putsBack?: boolean;
    /** Whether it has nothing to act on before the approval, and so never comes first. */ followsOnly?: boolean;
  }
> = {
  'excluding a pull': {
    act: () =>
      operator('POST', `/tests/${testId}/pulls/${pullIds.get('p5')}/exclusion`, {
        reason: 'wheel slip',
        note: '',
      }),
    undo: () => operator('DELETE', `/tests/${testId}/pulls/${pullIds.get('p5')}/exclusion`),
  },
  'restoring a pull': {
    putsBack: true,
    act: async () => {
      const url = `/tests/${testId}/pulls/${pullIds.get('p6')}/exclusion`;
      const first = await operator('POST', url, { reason: 'fault code', note: '' });
      await operator('DELETE', url);
      return first;
    },
  },
  'replacing a file': {
    // The same samples in other bytes: blank lines at the end.
    act: () =>
      attach(
        operator,
        testId,
        pullIds.get('p4')!,
        new TextEncoder().encode(session.textOf('p4') + '\n'.repeat((turn += 1))),
        'again.csv',
      ),
  },
  'correcting the air': {
    act: () =>
      operator('PUT', `/tests/${testId}/pulls/${pullIds.get('p2')}/air`, {
        ...session.airOf('p2'),
        temperatureC: 20 + ((turn += 1) % 90) / 100,
      }),
  },
  'amending the plan': {
    act: () =>
      manager('POST', `/tests/${testId}/amendments`, {
        reason: 'The hall is warmer than planned for.',
        changes: { coolDownMinutes: 5 + ((turn += 1) % 50) / 10 },
      }),
  },
  'writing into the ledger for a day before the session': {
    act: () =>
      operator('POST', `/vehicles/${app.ids.vehicle}/ledger`, {
        at: '2026-11-05T08:00:00Z',
        change: { kind: 'service', item: 'coolant' },
        note: `bill ${(turn += 1)}`,
      }),
  },
  'revising the part': {
    act: () => manager('POST', `/parts/${app.ids.part}/revisions`, { revision: `R${(turn += 1)}` }),
  },
  'correcting the dyno’s facts': {
    act: async () => {
      const { version, input } = await dyno();
      return manager('PUT', `/dynos/${app.ids.dyno}`, {
        version,
        record: {
          ...input,
          repeatability: { bandAverage: { variance: 0.2 + ((turn += 1) % 40) / 1000, df: 8 } },
          validFrom: '2026-11-01',
        },
      });
    },
  },
  'setting an embargo': {
    mayBeRefused: true,
    prepare: async () => {
      partRecord = await record();
    },
    act: () => {
      const { version, input } = partRecord;
      return manager('PUT', `/parts/${app.ids.part}`, {
        version,
        record: { ...input, embargoUntil: '2027-06-01', codeName: 'Project Sula' },
      });
    },
    undo: async () => {
      const { version, input } = await record();
      await manager('PUT', `/parts/${app.ids.part}`, {
        version,
        record: { ...input, embargoUntil: null, codeName: null },
      });
    },
  },
  'withdrawing it': {
    mayBeRefused: true,
    followsOnly: true,
    act: async () => {
      await pause(8);
      const [claim] = (await manager<ClaimPage>('GET', '/claims?state=published')).body.items;
      return claim
        ? manager('POST', `/claims/${claim.id}/withdraw`, {
            reason: 'On second thoughts.',
            wrong: false,
          })
        : { status: 404, body: {}, headers: new Headers(), bytes: Buffer.alloc(0) };
    },
  },
};

describe(`approving beside a change, ${ROUNDS} times each`, () => {
  it.each(Object.entries(ACTIONS))(
    '%s',
    async (_name, { act, prepare, undo, mayBeRefused = false, putsBack = false, followsOnly = false }) => {
      const seen = { published: 0, refused: 0 };
      for (let round = 0; round < ROUNDS; round++) {
        const claim = await claimInReview();
        await prepare?.();
        const [approved, changed] = await atOnce(
          () => reviewerThere('POST', `/claims/${claim.id}/approve`),
          act,
        );
        expect([204, 409], JSON.stringify(approved.body)).toContain(approved.status);
        expect(changed.status, JSON.stringify(changed.body)).toBeLessThan(mayBeRefused ? 500 : 300);
        seen[approved.status === 204 ? 'published' : 'refused'] += 1;
        // Whichever came first: once the change is made, the claim is not current for anybody.
        if (putsBack) await expectCurrentOnlyOnPresentInputs(claim);
        else if (changed.status < 300) expect(await currentCodes()).not.toContain(claim.code);
        else if (approved.status === 204) expect(await currentCodes()).toContain(claim.code);
        await undo?.();
        await putAside(claim.id);
      }
      expect(seen.published + seen.refused).toBe(ROUNDS);
      // In many rounds both orders occur, or the race is none.
      if (ROUNDS >= 50 && !followsOnly)
        expect(Math.min(seen.published, seen.refused), JSON.stringify(seen)).toBeGreaterThan(0);
      if (process.env.RACE_ROUNDS)
        process.stdout.write(`  ${_name}: approved ${seen.published}, refused ${seen.refused}\n`);
    },
    1_800_000,
  );
});

describe('the same thing twice at once happens once', () => {
  it('an exclusion: the second is told, and one entry stands in the trail', async () => {
    const url = `/tests/${testId}/pulls/${pullIds.get('p7')}/exclusion`;
    for (let round = 0; round < ROUNDS; round++) {
      const [a, b] = await atOnce(
        () => operator('POST', url, { reason: 'wheel slip', note: 'from here' }),
        () => operatorThere('POST', url, { reason: 'boost leak', note: 'from there' }),
      );
      expect([a.status, b.status].sort()).toEqual([204, 409]);
      const { rows } = await app.pool.query<{ act: string; reason: string }>(
        'select act, reason from pull_exclusions where pull_id = $1 order by id desc limit 2',
        [pullIds.get('p7')],
      );
      expect(rows[0]).toEqual({ act: 'excluded', reason: a.status === 204 ? 'wheel slip' : 'boost leak' });
      expect(rows[1]?.act).not.toBe('excluded');
      const [c, d] = await atOnce(
        () => operator('DELETE', url),
        () => operatorThere('DELETE', url),
      );
      expect([c.status, d.status].sort()).toEqual([204, 409]);
    }
  }, 600_000);

  it('a draft: one claim, and the other is told of it', async () => {
    for (let round = 0; round < ROUNDS; round++) {
      await analysisOf(manager, testId);
      const why = { answer: 'Known, and of no weight for what was measured.' };
      // Nothing may be left of the round before: put aside in a way that nobody has in the application.
      await app.pool.query('alter table claims disable trigger claims_move_in_steps');
      for (const claim of (await manager<ClaimPage>('GET', '/claims?limit=200')).body.items)
        if (['draft', 'returned', 'in review'].includes(claim.state)) {
          await app.pool.query(
            "update claims set state = 'withdrawn', fell_by = 'set aside', fell_at = now() where id = $1",
            [claim.id],
          );
        }
      await app.pool.query('alter table claims enable trigger claims_move_in_steps');
      const [a, b] = await atOnce(
        () => draft(manager, testId, why),
        () => draft(managerThere, testId, why),
      );
      expect([a.status, b.status].sort(), JSON.stringify([a.body, b.body])).toEqual([201, 409]);
    }
  }, 600_000);

  it('a dyno is not closed over a session that is placed at that moment', async () => {
    const { body } = await manager<{ id: string }>('POST', '/tests', app.plan());
    for (let round = 0; round < ROUNDS; round++) {
      const [placed, closed] = await atOnce(
        () =>
          manager('POST', '/schedule/bookings', {
            placements: [{ testId: body.id, dynoId: app.ids.dyno, start: '2026-12-14T08:00:00Z' }],
          }),
        () =>
          managerThere('POST', '/schedule/closures', {
            dynoId: app.ids.dyno,
            start: '2026-12-14T00:00:00Z',
            end: '2026-12-15T00:00:00Z',
            reason: 'Calibration of the load cell',
          }),
      );
      expect([placed.status < 300, closed.status < 300].filter(Boolean)).toHaveLength(1);
      await app.pool.query('delete from bookings; delete from closures');
    }
  }, 600_000);
});
