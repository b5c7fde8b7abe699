import { Link } from 'react-router';
import type { PlanRequest } from '../../contract/plan/test.ts';
import { Button, Loading, ProblemNote } from '../base/ui.tsx';
import { ArmsSection, OrderSection, ProtocolSection } from './design-sections.tsx';
import { DraftFound } from '../base/draft-found.tsx';
import { OthersChanged } from '../base/others-changed.tsx';
import { FIELD_NAMES } from './amend-words.ts';
import type { PlanDraft } from './use-plan-draft.ts';
import { HeldSection } from './held-section.tsx';
import { usePlanView, type PlanView } from './plan-view.ts';
import { QuestionSection } from './question-section.tsx';
import { WhatFollows } from './what-follows.tsx';
import { WindowSection } from './window-section.tsx';

/** Builds a plan: what is asked, arms as differences, protocol, pulls; beside it what would follow from it, as it is built. */
export function PlanBuilder({
  plan,
  onSave,
  saving,
  problem,
  verb,
  editing = false,
}: {
  plan: PlanDraft;
  onSave: (plan: PlanRequest) => void;
  saving: boolean;
  problem: unknown;
  verb: string;
  editing?: boolean;
}) {
  const { error, view } = usePlanView(plan.draft, plan.onChange, editing);
  if (error) return <ProblemNote error={error} />;
  if (!view) return <Loading what="the register" />;
  return (
    <div className="grid gap-x-8 gap-y-6 xl:grid-cols-[minmax(0,1fr)_minmax(0,404px)]">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          const request = view.tryIt();
          if (request) onSave(request);
        }}
        // Whatever somebody types or chooses makes it a draft; what follows by itself does not. On the way up: the fields
        // have their change first, and are not drawn anew under it.
        onChange={plan.touch}
        onClick={plan.touch}
        noValidate
        className="grid min-w-0 content-start gap-6"
      >
        {plan.foundFrom && <DraftFound at={plan.foundFrom} onDrop={plan.drop} />}
        <OthersChanged
          theirs={plan.theirs}
          labelOf={(name) => FIELD_NAMES[name] ?? name}
          onTake={plan.take}
        />
        <QuestionSection view={view} />
        <ProtocolSection view={view} />
        <ArmsSection view={view} />
        <OrderSection view={view} />
        <WindowSection view={view} />
        <HeldSection view={view} />
        <SaveRow view={view} saving={saving} problem={problem} verb={verb} onCancel={plan.drop} />
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
  onCancel,
}: {
  view: PlanView;
  saving: boolean;
  problem: unknown;
  verb: string;
  onCancel: () => void;
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
        <Link to="/tests" onClick={onCancel}>
          Cancel
        </Link>
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
