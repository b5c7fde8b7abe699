/**
 * Places plans on dyno days: a suggestion that a person can overrule. Pure and deterministic: the
 * opening windows come in as spans of time, so no clock or time zone is known here. All times are
 * milliseconds since 1970.
 */
export interface Span {
  readonly start: number;
  readonly end: number;
}
export interface ScheduledPlan {
  readonly id: string;
  /** Dynos it may run on; the first that is free earliest is taken. */
  readonly dynoIds: readonly string[];
  readonly vehicleId: string;
  /**
   * Blocks of the session in order: time the dyno is taken, min, with the planned pulls of each, warm-ups
   * included. Every one of them is placed or reported.
   */
  readonly blocks: readonly { readonly minutes: number; readonly pulls: number }[];
  /** Work off the rollers between block i and i + 1, min: the vehicle is taken, the dyno is free for others. */
  readonly gapMinutes: readonly number[];
  /** Plans of one key share vehicle and baseline: placed one behind the other, the car stays strapped down. */
  readonly baselineKey: string;
  /** Higher goes first. */
  readonly priority: number;
  readonly notBefore: number | null;
  readonly due: number | null;
}
/** A session in its place: the vehicle is taken from start to end, the dyno in the blocks. */
export interface Placement extends Span {
  readonly planId: string;
  readonly dynoId: string;
  readonly vehicleId: string;
  readonly blocks: readonly Span[];
}
export interface ScheduleInput {
  readonly plans: readonly ScheduledPlan[];
  /** When each dyno is open, closures taken out. */
  readonly openings: ReadonlyMap<string, readonly Span[]>;
  /** When a vehicle is there, in days of the site it would be tested at; always, where nothing is known. */
  readonly whenThere: (vehicleId: string, dynoId: string) => readonly Span[] | undefined;
  /** What stands already and is not moved. */
  readonly fixed: readonly Placement[];
  readonly from: number;
}
export type Unplaced =
  'NO_DYNO' | 'LONGER_THAN_ANY_DAY' | 'VEHICLE_NOT_THERE' | 'NO_ROOM' | 'NO_ROOM_BEFORE_DUE';
export interface Schedule {
  readonly placements: readonly Placement[];
  readonly unplaced: readonly { readonly planId: string; readonly pulls: number; readonly code: Unplaced }[];
}

const MINUTE = 60_000;
export const overlaps = (a: Span, b: Span): boolean => a.start < b.end && b.start < a.end;

/** Spans less what is taken out of them, in order. */
export function without(spans: readonly Span[], taken: readonly Span[]): Span[] {
  let left = [...spans].sort((a, b) => a.start - b.start);
  for (const gap of taken)
    left = left.flatMap((span) =>
      overlaps(span, gap)
        ? [
            { start: span.start, end: gap.start },
            { start: gap.end, end: span.end },
          ].filter((s) => s.end > s.start)
        : [span],
    );
  return left;
}

const holds = (outer: Span, inner: Span): boolean => outer.start <= inner.start && outer.end >= inner.end;
/** The blocks of a plan whose session begins at a time. */
export function blocksAt(plan: Pick<ScheduledPlan, 'blocks' | 'gapMinutes'>, start: number): Span[] {
  let at = start;
  return plan.blocks.map(({ minutes }, i) => {
    const block = { start: at, end: at + minutes * MINUTE };
    at = block.end + (plan.gapMinutes[i] ?? 0) * MINUTE;
    return block;
  });
}

/**
 * Suggests a place for every plan. Plans with a due date go first by it, then by priority; plans of
 * one baseline follow each other. A session is never split over two days: the day is an error term
 * of its own, so what does not fit into one is reported.
 */
// eslint-disable-next-line max-lines-per-function -- one search; its parts share the calendar that is being filled
export function suggestSchedule({ plans, openings, whenThere, fixed, from }: ScheduleInput): Schedule {
  const placements: Placement[] = [];
  const unplaced: { planId: string; pulls: number; code: Unplaced }[] = [];
  const standing = (): Placement[] => [...fixed, ...placements];
  const always: Span[] = [{ start: -Infinity, end: Infinity }];

  // eslint-disable-next-line max-lines-per-function -- one search; its parts share the calendar that is being filled
  const place = (plan: ScheduledPlan, after: Placement | undefined): Placement | Unplaced => {
    const earliest = Math.max(from, plan.notBefore ?? from);
    const known = plan.dynoIds.filter((id) => openings.has(id));
    if (known.length === 0) return 'NO_DYNO';
    const session = blocksAt(plan, 0);
    const length = session.at(-1)!.end;
    if (!known.some((id) => openings.get(id)!.some((span) => span.end - span.start >= length)))
      return 'LONGER_THAN_ANY_DAY';
    let best: Placement | undefined;
    let sawVehicle = false;
    for (const dynoId of known) {
      const open = openings.get(dynoId)!;
      const vehicleFree = without(
        whenThere(plan.vehicleId, dynoId) ?? always,
        standing().filter((p) => p.vehicleId === plan.vehicleId),
      );
      const dynoFree = without(
        open,
        standing()
          .filter((p) => p.dynoId === dynoId)
          .flatMap((p) => p.blocks),
      );
      const fits = (start: number): boolean => {
        const whole = { start, end: start + length };
        // One day: the session lies in one opening; its blocks where the dyno is free, all of it where the vehicle is.
        return (
          open.some((span) => holds(span, whole)) &&
          vehicleFree.some((span) => holds(span, whole)) &&
          session.every((block) =>
            dynoFree.some((span) => holds(span, { start: start + block.start, end: start + block.end })),
          )
        );
      };
      if (open.some((span) => vehicleFree.some((free) => overlaps(span, free) && span.end > earliest)))
        sawVehicle = true;
      // The earliest place begins where something begins to be free, for one block or another.
      const candidates = [
        earliest,
        ...dynoFree.flatMap((span) => session.map((block) => span.start - block.start)),
        ...vehicleFree.map((span) => span.start),
        ...(after ? [after.end] : []),
      ]
        .filter((t) => Number.isFinite(t) && t >= earliest)
        .sort((a, b) => a - b);
      // Right behind its sibling costs no second strapping: it wins over an earlier place elsewhere.
      const start =
        after?.dynoId === dynoId && after.end >= earliest && fits(after.end)
          ? after.end
          : candidates.find(fits);
      if (start === undefined) continue;
      const found = {
        planId: plan.id,
        dynoId,
        vehicleId: plan.vehicleId,
        start,
        end: start + length,
        blocks: blocksAt(plan, start),
      };
      if (after && start === after.end && after.dynoId === dynoId) return found;
      if (!best || start < best.start) best = found;
    }
    if (!best) return sawVehicle ? 'NO_ROOM' : 'VEHICLE_NOT_THERE';
    return plan.due !== null && best.end > plan.due ? 'NO_ROOM_BEFORE_DUE' : best;
  };

  const groups = new Map<string, ScheduledPlan[]>();
  for (const plan of [...plans].sort(byUrgency))
    groups.set(plan.baselineKey, [...(groups.get(plan.baselineKey) ?? []), plan]);
  for (const group of [...groups.values()].sort((a, b) => byUrgency(a[0], b[0]))) {
    let last: Placement | undefined;
    for (const plan of group) {
      const placed = place(plan, last);
      if (typeof placed === 'string')
        unplaced.push({
          planId: plan.id,
          pulls: plan.blocks.reduce((sum, block) => sum + block.pulls, 0),
          code: placed,
        });
      else {
        placements.push(placed);
        last = placed;
      }
    }
  }
  return {
    placements: placements.sort((a, b) => a.start - b.start || (a.planId < b.planId ? -1 : 1)),
    unplaced,
  };
}

function byUrgency(a: ScheduledPlan, b: ScheduledPlan): number {
  return (a.due ?? Infinity) - (b.due ?? Infinity) || b.priority - a.priority || (a.id < b.id ? -1 : 1);
}

export type PlacementProblem = 'OUTSIDE_OPENING' | 'DYNO_TAKEN' | 'VEHICLE_TAKEN' | 'VEHICLE_NOT_THERE';

/** What stands against a placement a person chose; empty when it may stand. */
export function placementProblems(
  placement: Placement,
  { openings, whenThere, fixed }: Pick<ScheduleInput, 'openings' | 'whenThere' | 'fixed'>,
): PlacementProblem[] {
  const others = fixed.filter((p) => p.planId !== placement.planId);
  const inside = (spans: readonly Span[]): boolean => spans.some((span) => holds(span, placement));
  const problems: PlacementProblem[] = [];
  if (!inside(openings.get(placement.dynoId) ?? [])) problems.push('OUTSIDE_OPENING');
  if (
    others.some(
      (p) =>
        p.dynoId === placement.dynoId && p.blocks.some((a) => placement.blocks.some((b) => overlaps(a, b))),
    )
  )
    problems.push('DYNO_TAKEN');
  if (others.some((p) => p.vehicleId === placement.vehicleId && overlaps(p, placement)))
    problems.push('VEHICLE_TAKEN');
  const there = whenThere(placement.vehicleId, placement.dynoId);
  if (there && !inside(there)) problems.push('VEHICLE_NOT_THERE');
  return problems;
}

const QUARTER = 15 * MINUTE;
/**
 * The next place one plan would fit, beginning on a quarter of an hour; undefined where there is none in the openings
 * that are given. What is due is not looked at: a place after it is better than none.
 */
export function nextPlace(
  plan: ScheduledPlan,
  { openings, whenThere, fixed, from }: Omit<ScheduleInput, 'plans'>,
): Placement | undefined {
  return suggestSchedule({
    plans: [{ ...plan, due: null }],
    openings,
    whenThere,
    fixed: fixed.filter((p) => p.planId !== plan.id),
    from: Math.ceil(from / QUARTER) * QUARTER,
  }).placements[0];
}
