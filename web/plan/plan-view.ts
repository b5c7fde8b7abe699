import '../../contract/base/words.ts';
import { useMemo, useState } from 'react';
import { armsInput } from '../../contract/plan/arms-input.ts';
import { PlanRequest } from '../../contract/plan/test.ts';
import type { Dyno, Planning } from '../../contract/register/register.ts';
import { DEFAULT_POLICY, standardOf, type Policy } from '../../core/base/policy.ts';
import type { Standard } from '../../core/base/standards.ts';
import { assessArms } from '../../core/plan/arms.ts';
import { planHours } from '../../core/plan/hours.ts';
import { CONTROL_CHECKS } from '../../core/plan/one-way.ts';
import { protocolOf } from '../../core/plan/protocols.ts';
import type { Choice } from '../base/picker.tsx';
import {
  useFitmentQuery,
  usePlanningQuery,
  usePoliciesQuery,
  useRegisterQuery,
  useVehiclesInfiniteQuery,
} from '../register/api.ts';
import { baselineOf, partArmsOf, type Draft } from './draft.ts';
import { useFollowVehicle } from './follow-vehicle.ts';

export type PlanView = NonNullable<ReturnType<typeof usePlanView>['view']>;
type Change = (update: (draft: Draft) => Draft) => void;

/** The arms of a draft, assessed against the vehicle as its ledger has it. */
function useAssessed(draft: Draft, known: Planning | undefined) {
  return useMemo(() => {
    if (!known) return null;
    const input = armsInput(known, draft.arms, draft.fuel);
    return { input, assessment: assessArms(input) };
  }, [known, draft.arms, draft.fuel]);
}

/** Hours and cost by order of runs, as far as they can be known. */
function useHours(draft: Draft, assessed: ReturnType<typeof useAssessed>, dyno: Dyno | undefined) {
  const { pullsPerRun, warmUps, coolDownMinutes } = draft;
  return useMemo(() => {
    if (!assessed || !dyno) return null;
    const arms = new Map([assessed.assessment.baseline, ...assessed.assessment.parts].map((a) => [a.key, a]));
    return (order: readonly string[], remount: boolean, oneWay = false) =>
      planHours({
        order,
        arms,
        revisions: assessed.input.revisions,
        pullsPerRun,
        warmUps,
        coolDownMinutes,
        remount,
        ...(oneWay ? { controlChecks: CONTROL_CHECKS } : {}),
        dynoHourly: dyno.hourlyRate,
        labourHourly: dyno.labourRate,
      });
  }, [assessed, dyno, pullsPerRun, warmUps, coolDownMinutes]);
}

/** What the worker needs to say what the plan can see; null where that cannot be said yet. */
function usePrecisionInput(draft: Draft, dyno: Dyno | undefined, policy: Policy) {
  const { order, pullsPerRun, warmUps, remount, metrics } = draft;
  const baseline = baselineOf(draft).key;
  const parts = partArmsOf(draft);
  const arm = parts[0]?.key ?? '';
  const partArms = parts.length;
  const oneWay = protocolOf(draft.protocol).oneWay ?? false;
  return useMemo(
    () =>
      dyno && metrics.length > 0 && pullsPerRun >= 2
        ? {
            order,
            baseline,
            arm,
            pullsPerRun,
            warmUps,
            remount,
            oneWay,
            metrics,
            partArms,
            repeatability: dyno.repeatability,
            driftBound: dyno.driftBound ?? policy.driftBoundLpPerPull,
            confidence: policy.confidence,
            guard: policy.guard,
          }
        : null,
    [dyno, policy, order, pullsPerRun, warmUps, remount, oneWay, metrics, baseline, arm, partArms],
  );
}

/** What the contract says of the draft, told once somebody has tried to save it. */
function useChecked(draft: Draft, planned: Standard) {
  const [tried, setTried] = useState(false);
  // What is seen is what is saved, whatever policy says by then.
  const checked = PlanRequest.safeParse({ ...draft, standard: draft.standard ?? planned });
  const issues = tried && !checked.success ? checked.error.issues : [];
  return {
    issues,
    /** The plan where it can be saved; from now on what bars it is told. */
    tryIt: (): PlanRequest | undefined => {
      setTried(true);
      return checked.data;
    },
    errorAt: (name: string): string | undefined =>
      issues.find((issue) => issue.path.join('.') === name || issue.path[0] === name)?.message,
  };
}

/** A draft with all that follows from it, for the sections of the planner; no view until the register is read. */
// eslint-disable-next-line max-lines-per-function -- what a plan in the making is seen as, field by field
export function usePlanView(draft: Draft, onChange: Change, editing: boolean) {
  const { data: register, error } = useRegisterQuery();
  const { data: fitment } = useFitmentQuery(draft.fitmentId, { skip: !draft.fitmentId });
  const { data: vehiclePages } = useVehiclesInfiniteQuery(
    { q: '', fitmentId: draft.fitmentId },
    { skip: !draft.fitmentId },
  );
  const { data: planning } = usePlanningQuery(draft.vehicleId, { skip: !draft.vehicleId });
  const known = planning && planning.vehicle.id === draft.vehicleId ? planning : undefined;
  const { data: policies } = usePoliciesQuery();
  const policy =
    policies?.entries.find((e) => e.policy.version === policies.inForce)?.policy ?? DEFAULT_POLICY;
  const dyno = register?.dynos.find((d) => d.id === draft.dynoId);
  const protocol = protocolOf(draft.protocol);
  useFollowVehicle(known, onChange);
  const assessed = useAssessed(draft, known);
  const hoursOf = useHours(draft, assessed, dyno);
  const precisionInput = usePrecisionInput(draft, dyno, policy);
  const { issues, tryIt, errorAt } = useChecked(draft, standardOf(policy));
  if (!register) return { error, view: undefined };

  const set = (change: Partial<Draft>): void => onChange((d) => ({ ...d, ...change }));
  const everyArm = assessed ? [assessed.assessment.baseline, ...assessed.assessment.parts] : [];
  const view = {
    draft,
    set,
    onChange,
    editing,
    register,
    fitment,
    vehicles: vehiclePages?.pages.flatMap((p) => p.items) ?? [],
    vehiclesRead: vehiclePages !== undefined,
    known,
    dyno,
    /** The one in force. */ policy,
    protocol,
    baseline: baselineOf(draft),
    firstPart: partArmsOf(draft)[0]?.key ?? '',
    assessed,
    hoursOf,
    hours: hoursOf?.(draft.order, draft.remount, protocol.oneWay) ?? null,
    precisionInput,
    issues,
    tryIt,
    errorAt,
    /** What bars the lock. */
    stops: everyArm.flatMap((a) => a.problems).filter((p) => p.severity === 'stop'),
    chooseFitment: (choice: Choice): void => {
      if (choice.id !== draft.fitmentId)
        set({
          fitmentId: choice.id,
          vehicleId: '',
          series: [],
          arms: draft.arms.map((a) => ({ ...a, changes: [] })),
        });
    },
    chooseVehicle: (id: string): void =>
      set({
        vehicleId: id,
        series: draft.series.filter((s) => s.vehicleId !== id || protocol.series === 'visits'),
      }),
  };
  return { error, view };
}
