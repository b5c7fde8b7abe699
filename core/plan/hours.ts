/** Hours and cost of a plan. Times are house policy; installs come from the parts' own records. */
import { DEFAULT_POLICY } from '../base/policy.ts';
import type { Configuration } from '../register/ledger.ts';
import type { PartCategory, PartRevision } from '../register/parts.ts';
import { partsHandled } from './arms.ts';
import { type AssessedArm } from './arm-types.ts';
import { CONTROL_PULLS } from './one-way.ts';

/** Usual times in a cell (common practice; policy). */
export const USUAL_TIMES = {
  setUpMinutes: 30,
  strapMinutes: 20,
  pullMinutes: 2,
  coolDownMinutes: 4,
  warmUpCoolDownMinutes: 2,
  flashMinutes: 10,
  settingMinutes: 10,
} as const;

export interface HoursInput {
  /** Keys of arms in run order. */
  readonly order: readonly string[];
  readonly arms: ReadonlyMap<string, Pick<AssessedArm, 'configuration'>>;
  readonly revisions: ReadonlyMap<string, PartRevision>;
  readonly pullsPerRun: number;
  readonly warmUps: number;
  readonly coolDownMinutes: number;
  /** Strapped down anew for every run: swaps are done off the rollers. */
  readonly remount: boolean;
  /** Times a control vehicle is measured beside the arms. */ readonly controlChecks?: number;
  readonly dynoHourly: number;
  readonly labourHourly: number;
}
export interface PlanHours {
  readonly pulls: number;
  readonly counted: number;
  /** Minutes by what they go on. */
  readonly minutes: {
    readonly setUp: number;
    readonly strapping: number;
    readonly pulls: number;
    readonly coolDowns: number;
    readonly installs: number;
    readonly settings: number;
    /** Control vehicle, strapped down and measured; where there is one. */ readonly control?: number;
  };
  /** Time the dyno is taken, installs off the rollers left out, h. */
  readonly dynoHours: number;
  /** Work off the rollers, h. */
  readonly offDynoHours: number;
  readonly cost: number;
}

/** Work on the car between two arms, min: parts off and on, calibrations flashed, settings changed. */
function changeMinutes(
  from: Configuration,
  to: Configuration,
  revisions: HoursInput['revisions'],
): { installs: number; settings: number } {
  const { fitted, removed } = partsHandled(from, to);
  const installs =
    60 *
    (fitted.reduce((sum, id) => sum + (revisions.get(id)?.installHours ?? 0), 0) +
      removed.reduce((sum, id) => sum + (revisions.get(id)?.removeHours ?? 0), 0));
  const reset = Object.entries(to.parts).some(([category, part]) => {
    const before = from.parts[category as PartCategory];
    return (
      before?.partRevisionId === part.partRevisionId &&
      JSON.stringify(before.settings) !== JSON.stringify(part.settings)
    );
  });
  return {
    installs,
    settings:
      (from.calibrationId !== to.calibrationId ? USUAL_TIMES.flashMinutes : 0) +
      (reset ? USUAL_TIMES.settingMinutes : 0),
  };
}

const changesOf = ({ order, arms, revisions }: Pick<HoursInput, 'order' | 'arms' | 'revisions'>) =>
  order.slice(1).map((key, i) => {
    const [from, to] = [arms.get(order[i])?.configuration, arms.get(key)?.configuration];
    return from && to ? changeMinutes(from, to, revisions) : { installs: 0, settings: 0 };
  });

/** Minutes at the dyno that pulls and strappings take: what every session has, whatever is changed in it. */
export function drivenMinutes({
  runs,
  pullsPerRun,
  warmUps,
  coolDownMinutes,
  remount,
}: Pick<HoursInput, 'pullsPerRun' | 'warmUps' | 'coolDownMinutes' | 'remount'> & { readonly runs: number }) {
  const [counted, uncounted] = [runs * pullsPerRun, runs * warmUps];
  return {
    strapping: USUAL_TIMES.strapMinutes * (remount ? runs : 1),
    pulls: (counted + uncounted) * USUAL_TIMES.pullMinutes,
    coolDowns: counted * coolDownMinutes + uncounted * USUAL_TIMES.warmUpCoolDownMinutes,
  };
}

/** The control vehicle strapped down and measured as often as is asked, warmed up like any other. */
const controlMinutes = ({
  controlChecks = 0,
  warmUps,
  coolDownMinutes,
}: Pick<HoursInput, 'controlChecks' | 'warmUps' | 'coolDownMinutes'>): number => {
  const { strapping, pulls, coolDowns } = drivenMinutes({
    runs: controlChecks,
    pullsPerRun: CONTROL_PULLS,
    warmUps,
    coolDownMinutes,
    remount: true,
  });
  return strapping + pulls + coolDowns;
};

export function planHours(input: HoursInput): PlanHours {
  const { order, pullsPerRun, warmUps, dynoHourly, labourHourly } = input;
  const changes = changesOf(input);
  const installs = changes.reduce((sum, c) => sum + c.installs, 0);
  const settings = changes.reduce((sum, c) => sum + c.settings, 0);
  const counted = order.length * pullsPerRun;
  const uncounted = order.length * warmUps;
  const minutes = {
    setUp: USUAL_TIMES.setUpMinutes,
    ...drivenMinutes({ ...input, runs: order.length }),
    installs,
    settings,
    ...(input.controlChecks ? { control: controlMinutes(input) } : {}),
  };
  const { blocks, gapMinutes } = sessionBlocks(input);
  const dynoHours = blocks.reduce((sum, block) => sum + block.minutes, 0) / 60;
  const offDynoHours = gapMinutes.reduce((sum, gap) => sum + gap, 0) / 60;
  return {
    pulls: counted + uncounted,
    counted,
    minutes,
    dynoHours,
    offDynoHours,
    cost: dynoHours * dynoHourly + (installs / 60) * labourHourly,
  };
}

/**
 * The session as the schedule places it: one block on one mounting; a block a run where every run is strapped
 * down anew, with the swaps off the rollers between.
 */
export function sessionBlocks(input: Omit<HoursInput, 'dynoHourly' | 'labourHourly'>): {
  blocks: { minutes: number; pulls: number }[];
  gapMinutes: number[];
} {
  const { order, pullsPerRun, warmUps, coolDownMinutes, remount } = input;
  const changes = changesOf(input);
  const run =
    (pullsPerRun + warmUps) * USUAL_TIMES.pullMinutes +
    pullsPerRun * coolDownMinutes +
    warmUps * USUAL_TIMES.warmUpCoolDownMinutes;
  if (remount)
    return {
      blocks: order.map((_, i) => ({
        // The control vehicle is measured about every arm.
        minutes:
          run +
          USUAL_TIMES.strapMinutes +
          (i === 0 ? USUAL_TIMES.setUpMinutes : 0) +
          controlMinutes(input) / order.length,
        pulls: pullsPerRun + warmUps,
      })),
      gapMinutes: changes.map((c) => c.installs + c.settings),
    };
  const between = changes.reduce((sum, c) => sum + c.installs + c.settings, 0);
  return {
    blocks: [
      {
        minutes: USUAL_TIMES.setUpMinutes + USUAL_TIMES.strapMinutes + order.length * run + between,
        pulls: order.length * (pullsPerRun + warmUps),
      },
    ],
    gapMinutes: [],
  };
}

/**
 * Dyno hours one test of a part takes by default, before there is a plan: A-B-A on one mounting by house
 * policy, both swaps on the rollers.
 */
export function usualDynoHours(installHours: number, removeHours: number): number {
  const [{ minutes }] = sessionBlocks({
    order: ['A', 'B', 'A'],
    arms: new Map(),
    revisions: new Map(),
    pullsPerRun: DEFAULT_POLICY.pullsPerRun,
    warmUps: DEFAULT_POLICY.warmUpPulls,
    coolDownMinutes: USUAL_TIMES.coolDownMinutes,
    remount: false,
  }).blocks;
  return minutes / 60 + installHours + removeHours;
}
