import clsx from 'clsx';
import { Link, useOutletContext } from 'react-router';
import type { TestDetail } from '../../contract/overview.ts';
import type { Finding } from '../../core/judge/finding.ts';
import {
  isOverridden,
  outcomeOf,
  shownVerdict,
  type ShownVerdict,
  type Verdict,
} from '../../core/judge/verdict.ts';
import { useAnalysisQuery } from '../base/endpoints.ts';
import { dayTime } from '../base/format.ts';
import { buttonClass, Empty, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { isRefused } from '../../core/compare/result.ts';
import { ArmChoice, useArm } from '../compare/arm-choice.tsx';
import { Told } from '../base/told.tsx';
import { useBesideQuery } from './api.ts';
import { AnswerFinding } from './answer-finding.tsx';
import { Term } from '../base/term.tsx';
import { NamedPulls } from './named-pulls.tsx';
import { Mending } from './mending.tsx';
import { UncertaintyBudget } from './uncertainty-budget.tsx';

const TONE = { pass: 'stands', caution: 'ask', fail: 'loss' } as const;
const VERDICTS: Record<ShownVerdict, string> = {
  'claim for the combination only':
    'The pulls support a claim of what was changed together; none of it is shown to give the gain alone.',
  'needs a confirming test':
    'The best of several settings was picked by its result: it asks for a test of its own.',
  claim: 'The pulls support a claim.',
  'no gain shown': 'No gain is shown. That is a result: it can be told as advice.',
  'depends on the option': 'Some settings show a gain, others do not: each is claimed or told for itself.',
  loss: 'A loss is shown. That is a result: it can be told as advice.',
  'send back to design': 'The part loses on average: tell it as advice, and send it back to who designed it.',
  'needs more pulls': 'A look worth following: more pulls are needed before anything is claimed.',
  'not usable': 'A gate fails: nothing may be claimed from this session as it stands.',
};

/** Verdicts that another session might change. */
const MENDED: ReadonlySet<Verdict> = new Set(['no gain shown', 'needs more pulls', 'not usable']);
const BARRED: Readonly<Record<string, string>> = {
  NOT_SHOWN_TOGETHER: 'This test alone shows a gain; all tests of the part together do not.',
};
const BARRED_BY_THE_CAR = 'The pulls show a gain, but the baseline was not what it is held to be.';

/** The gates, each with what was found, why it matters and what would mend it; then the uncertainty budget. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function JudgePage() {
  const detail = useOutletContext<TestDetail>();
  const arm = useArm(detail);
  const { data: state, error, refetch } = useAnalysisQuery(detail.summary.id);
  const { currentData, error: unread } = useBesideQuery({ testId: detail.summary.id, arm });
  const beside: readonly Finding[] = currentData?.findings ?? [];
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!state)
    return (
      <main className="p-6">
        <Loading what="the gates" />
      </main>
    );
  if (!state.analysis)
    return (
      <main className="p-6">
        {state.problem ? (
          <ProblemNote message={state.problem.message} />
        ) : (
          <Empty title="Nothing to judge yet">The gates wait for {state.waitsFor.join(', and for ')}.</Empty>
        )}
      </main>
    );
  const { result, number: analysisNumber, at, softwareVersion, policyVersion } = state.analysis;
  const contrast = result.contrasts.find((c) => c.arm === arm) ?? result.contrasts[0];
  const facts = detail.arms.find((a) => a.key === contrast.arm)?.facts;
  const { verdict, grade } = outcomeOf(result.findings, contrast.arm, facts?.product ?? false);
  const order = { fail: 0, caution: 1, pass: 2 };
  const ofTheTest = result.findings.filter((f) => f.arm === undefined || f.arm === contrast.arm);
  const findings: Finding[] = [...ofTheTest].sort((a, b) => order[a.state] - order[b.state]);
  const count = (s: Finding['state']): number => findings.filter((f) => f.state === s).length;
  const notBeside = beside.find((f) => f.state === 'fail');
  const shown = shownVerdict(verdict, facts?.subject.kind, notBeside?.code);
  const overridden = isOverridden(result.findings, contrast.arm);
  const claimable = verdict === 'claim' && (grade !== 'indicative' || overridden) && !notBeside;
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1fr)_300px]">
      <main className="min-w-0 px-[22px] py-4">
        <ArmChoice detail={detail} />
        {notBeside && <BesideList findings={beside} unread={unread} />}
        <div className="mb-2 flex flex-wrap items-baseline gap-4">
          <h2>Gates</h2>
          <Mark tone="stands">{count('pass')} pass</Mark>
          {count('caution') > 0 && <Mark tone="ask">{count('caution')} caution</Mark>}
          {count('fail') > 0 && <Mark tone="loss">{count('fail')} fail</Mark>}
        </div>
        <GateList
          findings={findings}
          pullsOf={detail}
          answers={{ testId: detail.summary.id, analysisId: state.analysis.id }}
        />
        {!notBeside && <BesideList findings={beside} unread={unread} />}
      </main>
      <aside className="border-l border-rule bg-sheet px-[18px] py-4">
        <div className="text-[12.5px] text-soft">Verdict</div>
        <p
          className={clsx(
            'font-display text-[22px] font-semibold leading-tight',
            claimable
              ? 'text-stands'
              : verdict === 'loss' || verdict === 'send back to design'
                ? 'text-loss'
                : 'text-ink',
          )}
        >
          {shown}
        </p>
        <p className="mt-1 text-soft">
          {notBeside && verdict === 'claim' ? (BARRED[notBeside.code] ?? BARRED_BY_THE_CAR) : VERDICTS[shown]}
        </p>
        <p className="mt-2">
          <Term name="grade">Grade</Term> <b>{grade}</b>{' '}
          <span className="text-soft">
            {grade === 'single'
              ? 'one vehicle: “on the vehicle tested”'
              : overridden
                ? 'internal only: what a reviewer let stand costs a grade'
                : 'internal only'}
          </span>
        </p>
        {claimable && (
          <Link
            to={`/tests/${detail.summary.id}/claim${detail.arms.length > 2 ? `?arm=${contrast.arm}` : ''}`}
            className={clsx(buttonClass('main'), 'mt-3 w-full')}
          >
            Draft a claim
          </Link>
        )}
        {shown === 'needs a confirming test' && (
          <Link
            to={`/tests/new?like=${detail.summary.id}&only=${contrast.arm}`}
            className={clsx(buttonClass('plain'), 'mt-3 w-full')}
          >
            Plan its confirming test
          </Link>
        )}
        {!isRefused(contrast) && MENDED.has(verdict) && (
          <Mending
            detail={detail}
            contrast={contrast}
            failing={findings.filter((f) => f.state === 'fail').map((f) => f.gate)}
          />
        )}
        {!isRefused(contrast) && <UncertaintyBudget contrast={contrast} />}
        <p className="mt-6 border-t border-rule pt-2 text-[12px] text-soft">
          Analysis {analysisNumber}, {dayTime(at)}. Software {softwareVersion}, policy {policyVersion}.
          Analyses are never edited, only superseded.
        </p>
      </aside>
    </div>
  );
}

interface AnswersOf {
  readonly testId: string;
  readonly analysisId: string;
}
/** Findings one below the other, each with why it matters and what mends it. */
function GateList({
  findings,
  answers,
  pullsOf,
}: {
  findings: readonly Finding[];
  answers?: AnswersOf;
  /** The test whose pulls they name; none where they speak of others. */ pullsOf?: TestDetail;
}) {
  const named = {
    testId: pullsOf?.summary.id ?? '',
    labels: pullsOf?.pulls.map((pull) => pull.label) ?? [],
  };
  return (
    <ul className="border-t-[1.5px] border-ink">
      {findings.map((f) => (
        <li
          key={`${f.gate}${f.code}${f.message}`}
          className="grid grid-cols-[92px_116px_1fr] gap-x-3 border-b border-rule py-2.5"
        >
          <Mark tone={TONE[f.state]}>{f.state}</Mark>
          <b>{f.gate}</b>
          <div>
            <p>
              <NamedPulls {...named}>{f.message}</NamedPulls>
            </p>
            {f.why && (
              <p className="text-[12.5px] text-soft">
                <Told>{f.why}</Told>
              </p>
            )}
            {f.state !== 'pass' && f.mend && (
              <p className="text-[12.5px]">
                <b>What mends it: </b>
                <NamedPulls {...named}>{f.mend}</NamedPulls>
              </p>
            )}
            {answers && <AnswerFinding {...answers} finding={f} />}
          </div>
        </li>
      ))}
    </ul>
  );
}

/** What lies beyond the session; above its gates where it bars a claim. */
function BesideList({ findings, unread }: { findings: readonly Finding[]; unread: unknown }) {
  return (
    <section className="mb-6 mt-6 first:mt-0">
      <h2 className="mb-1">Beyond this session</h2>
      <p className="mb-2 text-[12.5px] text-soft">
        The car on the day, by its ledger, and every other finished test of this part on this fitment.
      </p>
      {unread !== undefined && <ProblemNote error={unread} />}
      <GateList findings={findings} />
    </section>
  );
}
