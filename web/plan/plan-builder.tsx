import { Link } from 'react-router';
import type { PlanRequest } from '../../contract/plan/test.ts';
import { Button, Loading, ProblemNote } from '../base/ui.tsx';
import { ArmsSection, OrderSection, ProtocolSection } from './design-sections.tsx';
import type { Draft } from './draft.ts';
import { HeldSection } from './held-section.tsx';
import { usePlanView, type PlanView } from './plan-view.ts';
import { QuestionSection } from './question-section.tsx';
import { WhatFollows } from './what-follows.tsx';
import { WindowSection } from './window-section.tsx';

/** Builds a plan: what is asked, arms as differences, protocol, pulls; beside it what would follow from it, as it is built. */
export function PlanBuilder({
  draft,
  onChange,
  onSave,
  saving,
  problem,
  verb,
  editing = false,
}: {
  draft: Draft;
  /** Changes the draft as it then is: what was typed and what follows from a choice never overwrite each other. */
  onChange: (update: (draft: Draft) => Draft) => void;
  onSave: (plan: PlanRequest) => void;
  saving: boolean;
  problem: unknown;
  verb: string;
  editing?: boolean;
}) {
  const { error, view } = usePlanView(draft, onChange, editing);
  if (error) return <ProblemNote error={error} />;
  if (!view) return <Loading what="the register" />;
  return (
    <div className="grid gap-x-8 gap-y-6 xl:grid-cols-[minmax(0,1fr)_minmax(0,404px)]">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          const plan = view.tryIt();
          if (plan) onSave(plan);
        }}
        noValidate
        className="grid min-w-0 content-start gap-6"
      >
        <QuestionSection view={view} />
        <ProtocolSection view={view} />
        <ArmsSection view={view} />
        <OrderSection view={view} />
        <WindowSection view={view} />
        <HeldSection view={view} />
        <SaveRow view={view} saving={saving} problem={problem} verb={verb} />
      </form>
      <WhatFollows view={view} />
    </div>
  );
}

function SaveRow({
  view: { issues, stops },
  saving,
  problem,
  verb,
}: {
  view: PlanView;
  saving: boolean;
  problem: unknown;
  verb: string;
}) {
  return (
    <>
      {issues.length > 0 && (
        <p role="alert" className="text-loss">
          {issues[0].message}
          {issues.length > 1 ? ` And ${issues.length - 1} more above.` : ''}
        </p>
      )}
      <ProblemNote error={problem} />
      <div className="flex flex-wrap items-center gap-3">
        <Button kind="main" type="submit" disabled={saving}>
          {verb}
        </Button>
        <Link to="/tests">Cancel</Link>
        {stops.length > 0 && (
          <span className="text-[12.5px] text-ask">
            It can be saved, but not locked while{' '}
            {stops.length === 1 ? 'a stop stands' : `${stops.length} stops stand`}.
          </span>
        )}
      </div>
    </>
  );
}
