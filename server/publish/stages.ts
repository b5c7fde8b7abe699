import type { TestStage, TestSummary } from '../../contract/overview.ts';
import type { ClaimState } from '../../contract/publish/claim.ts';
import type { PullCounts } from '../capture/pull-counts.ts';
import type { Standing } from '../judge/standing.ts';
import type { TestRow } from '../plan/repository.ts';

type Stage = TestSummary['stages'][number];

const stage = (name: TestStage, state: Stage['state'], note: string): Stage => ({ stage: name, state, note });

/** Verdicts from which a claim or advice can be drafted. */
const TELLABLE: ReadonlySet<string> = new Set([
  'claim',
  'depends on the option',
  'no gain shown',
  'loss',
  'send back to design',
]);

function planStage({ lockedAt, amendmentCount }: TestRow['test']): Stage {
  if (!lockedAt) return stage('plan', 'asks', 'not locked');
  const amended = amendmentCount === 1 ? 'once' : `${amendmentCount} times`;
  return stage('plan', 'done', amendmentCount ? `locked, amended ${amended}` : 'locked');
}

function judgeStage(standing: Standing): Stage {
  // A gain that is not shown is a result, not something to mend.
  const { failing, cautions, verdict } = standing;
  if (failing) return stage('judge', 'asks', `${failing} failing`);
  if (verdict !== 'claim') return stage('judge', 'done', verdict);
  return stage(
    'judge',
    'done',
    cautions ? `passes, ${cautions} ${cautions === 1 ? 'caution' : 'cautions'}` : 'all gates pass',
  );
}

function claimStage(standing: Standing | undefined, claim: ClaimState | undefined): Stage {
  if (claim) return stage('claim', claim === 'published' ? 'done' : 'asks', claim);
  const tellable = standing && TELLABLE.has(standing.verdict) && standing.grade !== 'indicative';
  return stage(
    'claim',
    tellable ? 'open' : 'waits',
    standing && standing.verdict !== 'claim' ? standing.verdict : 'not drafted',
  );
}

/** Where each stage of a test stands, and what it waits for. The view `test_places_now` says of the same which ask for a person. */
export function stagesOf(
  test: TestRow['test'],
  pulls: PullCounts,
  standing: Standing | undefined,
  claim: ClaimState | undefined,
): Stage[] {
  const complete = pulls.missing ? undefined : standing;
  const { counted, withFile, withAir, excluded } = pulls;
  return [
    planStage(test),
    stage(
      'pulls',
      withFile === counted ? 'done' : 'open',
      `${withFile} of ${counted}${excluded ? `, ${excluded} excluded` : ''}`,
    ),
    stage('air', withAir === counted ? 'done' : 'open', `${withAir} of ${counted} readings`),
    ...(complete
      ? [
          stage(
            'compare',
            complete.refused ? 'asks' : 'done',
            complete.refused ? 'cannot be compared' : complete.design,
          ),
          judgeStage(complete),
        ]
      : pulls.missing
        ? [
            stage('compare', 'waits', 'waits for pulls and air'),
            stage('judge', 'waits', 'waits for a result'),
          ]
        : [stage('compare', 'open', 'to be evaluated'), stage('judge', 'open', 'to be evaluated')]),
    claimStage(complete, claim),
  ];
}
