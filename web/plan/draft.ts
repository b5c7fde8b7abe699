/** A plan while it is being built, and how it changes as a whole when its protocol does. */
import { USUAL_CONTROLS } from '../../core/plan/controls.ts';
import { USUAL_TIMES } from '../../core/plan/hours.ts';
import { protocolOf, type ProtocolKey } from '../../core/plan/protocols.ts';
import type { PlannedArmInput, PlanRequest } from '../../contract/plan/test.ts';
import type { TestDetail } from '../../contract/overview.ts';

/** `spare`: arms another protocol had room for; they come back with one that takes them, and are never sent. */
export type Draft = PlanRequest & { readonly spare?: readonly PlannedArmInput[] };

export const BASELINE: PlannedArmInput = {
  key: 'stock',
  label: 'stock',
  role: 'baseline',
  from: null,
  changes: [],
};
const partArm = (n: number, from: string | null): PlannedArmInput => ({
  key: n === 1 ? 'part' : `part-${n}`,
  label: n === 1 ? 'part' : `part ${n}`,
  role: 'part',
  from,
  changes: [],
});

export const BLANK_DRAFT: Draft = {
  question: '',
  fitmentId: '',
  vehicleId: '',
  dynoId: '',
  partnerId: null,
  controlId: null,
  series: [],
  band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
  metrics: ['upTo'],
  protocol: 'A-B-A',
  arms: [BASELINE, partArm(1, null)],
  order: ['stock', 'part', 'stock'],
  pullsPerRun: 3,
  warmUps: 3,
  remount: false,
  startSensor: null,
  coolDownMinutes: USUAL_TIMES.coolDownMinutes,
  gear: '',
  fuel: '',
  controls: USUAL_CONTROLS.map((c) => ({ ...c })),
  photographs: ['strapping', 'part fitted'],
  logs: ['lambda', 'intake air temperature'],
  notBefore: null,
  due: null,
  priority: 5,
};

export const baselineOf = (draft: Pick<Draft, 'arms'>): PlannedArmInput =>
  draft.arms.find((a) => a.role === 'baseline')!;
export const partArmsOf = (draft: Pick<Draft, 'arms'>): PlannedArmInput[] =>
  draft.arms.filter((a) => a.role === 'part');
/** An own order with every arm in it: one that came back from another protocol is run before the closing baseline. */
function ownOrder(draft: Draft): string[] {
  const baseline = baselineOf(draft).key;
  const kept = draft.order.filter((key) => draft.arms.some((a) => a.key === key));
  const missing = partArmsOf(draft).flatMap((a) => (kept.includes(a.key) ? [] : [a.key]));
  const closes = kept.length > 1 && kept.at(-1) === baseline;
  return closes ? [...kept.slice(0, -1), ...missing, baseline] : [...kept, ...missing];
}
/** The order a protocol runs its arms in; an own order is kept as far as it runs every arm. */
const ordered = (draft: Draft): Draft =>
  draft.protocol === 'custom'
    ? { ...draft, order: ownOrder(draft) }
    : {
        ...draft,
        order: [
          ...protocolOf(draft.protocol).order(
            baselineOf(draft).key,
            partArmsOf(draft).map((a) => a.key),
          ),
        ],
      };

/** The same plan under another protocol: arms are kept as far as it takes them, and added where it needs more. */
export function withProtocol(draft: Draft, protocol: ProtocolKey): Draft {
  const {
    parts: { least, most },
    cumulative,
    series,
    oneWay,
  } = protocolOf(protocol);
  const all = [...partArmsOf(draft), ...(draft.spare ?? [])];
  let parts = all.slice(0, most);
  while (parts.length < least)
    parts = [...parts, { ...partArm(nextNumber([...draft.arms, ...all, ...parts]), null) }];
  parts = parts.map((arm, i) => ({ ...arm, from: cumulative && i > 0 ? parts[i - 1].key : null }));
  return ordered({
    ...draft,
    protocol,
    arms: [baselineOf(draft), ...parts],
    spare: all.slice(most),
    series: series ? draft.series : [],
    // Strapped down anew belongs to a plan without return; leaving it leaves that behind.
    remount: oneWay || (protocol !== 'A-B' && draft.protocol !== 'one-way' && draft.remount),
    controlId: oneWay ? draft.controlId : null,
  });
}
const nextNumber = (arms: readonly PlannedArmInput[]): number => {
  for (let n = 1; ; n++) if (!arms.some((a) => a.key === partArm(n, null).key)) return n;
};
export function withArmAdded(draft: Draft): Draft {
  const parts = partArmsOf(draft);
  const arm = partArm(
    nextNumber([...draft.arms, ...(draft.spare ?? [])]),
    protocolOf(draft.protocol).cumulative ? (parts.at(-1)?.key ?? null) : null,
  );
  const next = { ...draft, arms: [...draft.arms, arm] };
  return draft.protocol === 'custom' ? { ...next, order: [...draft.order, arm.key] } : ordered(next);
}
export function withoutArm(draft: Draft, key: string): Draft {
  const gone = draft.arms.find((a) => a.key === key);
  const arms = draft.arms
    .filter((a) => a.key !== key)
    .map((a) => (a.from === key ? { ...a, from: gone?.from ?? null } : a));
  return ordered({ ...draft, arms, order: draft.order.filter((k) => k !== key) });
}
export const withArm = (draft: Draft, key: string, change: Partial<PlannedArmInput>): Draft => ({
  ...draft,
  arms: draft.arms.map((a) => (a.key === key ? { ...a, ...change } : a)),
});
/** An order of one's own: whatever protocol it came from, it is one now. */
export const withOrder = (draft: Draft, order: string[]): Draft => ({
  ...draft,
  order,
  protocol: 'custom',
  controlId: null,
});

/** A plan that exists, as a draft. */
export function draftOf({ question, fitment, vehicle, dyno, plan, arms }: TestDetail): Draft {
  return {
    question,
    fitmentId: fitment.id,
    vehicleId: vehicle.id,
    dynoId: dyno.id,
    partnerId: plan.partnerId,
    controlId: plan.controlId,
    series: [],
    standard: plan.standard,
    band: plan.band,
    metrics: plan.metrics,
    protocol: plan.protocol as ProtocolKey,
    arms: arms.map(({ key, label, role, from, changes }) => ({ key, label, role, from, changes })),
    order: plan.order,
    pullsPerRun: plan.pullsPerRun,
    warmUps: plan.warmUps,
    remount: plan.remount,
    startSensor: plan.startSensor,
    coolDownMinutes: plan.coolDownMinutes,
    gear: plan.gear,
    fuel: plan.fuel,
    controls: plan.controls,
    photographs: plan.photographs as Draft['photographs'],
    logs: plan.logs as Draft['logs'],
    notBefore: plan.notBefore,
    due: plan.due,
    priority: plan.priority,
  };
}

/** Orders that a plan may be asked for in an address, with the letters of their runs. */
const ASKED_ORDERS: ReadonlySet<string> = new Set<ProtocolKey>(['A-B-A', 'A-B-B-A']);

/** A plan as that of another test, with so many pulls a run and in the order that is asked for; dates are its own. */
export function likeDraft(detail: TestDetail, asked: URLSearchParams): Draft {
  const { summary, question } = detail;
  const draft = {
    ...draftOf(detail),
    notBefore: null,
    due: null,
    question: `${question} Again after test ${summary.number}.`,
  };
  const pulls = Number(asked.get('pulls'));
  const only = draft.arms.find((arm) => arm.role === 'part' && arm.key === asked.get('only'));
  // One arm alone is run by itself: the order of all of them is none for it.
  const order = asked.get('order') ?? (only ? 'A-B-A' : '');
  const arms = only ? draft.arms.filter((arm) => arm.role === 'baseline' || arm === only) : draft.arms;
  const parts = arms.filter((arm) => arm.role === 'part');
  const runs =
    ASKED_ORDERS.has(order) && parts.length === 1
      ? {
          protocol: order as ProtocolKey,
          order: order
            .split('-')
            .map((letter) => (letter === 'A' ? arms.find((a) => a.role === 'baseline')!.key : parts[0].key)),
        }
      : {};
  // Two days are two tests of one plan.
  const visits =
    asked.get('days') === '2' && 'protocol' in runs && runs.protocol === 'A-B-A'
      ? {
          protocol: 'repeat' as const,
          series: [{ vehicleId: draft.vehicleId, dynoId: draft.dynoId }],
        }
      : {};
  const remount = asked.get('remount');
  const returns = 'protocol' in runs;
  return {
    ...draft,
    arms,
    ...runs,
    ...visits,
    ...(returns ? { controlId: null } : {}),
    ...(remount === null ? {} : { remount: remount === 'yes' }),
    ...(Number.isInteger(pulls) && pulls >= 2 && pulls <= 20 ? { pullsPerRun: pulls } : {}),
  };
}
