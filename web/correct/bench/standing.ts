/** Where a session stands, from what the server says and what this device has not sent yet. */
import { CHECK_NAMES, type EntryBody } from '../../../contract/capture/bench.ts';
import type { WatchedBench } from '../../../contract/correct/bench-watch.ts';
import type { TestDetail } from '../../../contract/overview.ts';
import { channelGuess, channelOf } from '../../../core/capture/session/channel-meaning.ts';
import { airOfStation, type StationAir } from '../../../core/capture/session/station-line.ts';
import { nextAction, type NextAction } from '../../../core/capture/session/next-action.ts';
import type { SheetPull } from '../../../core/capture/session/next-place.ts';
import { QUANTITY_NAMES, type Quantity } from '../../../core/base/quantities.ts';
import { toInternal } from '../../../core/base/units.ts';
import { USUAL_TIMES } from '../../../core/plan/hours.ts';
import type { Live } from './live.ts';

export interface Place extends SheetPull {
  readonly armLabel: string;
}
export interface Written {
  readonly id: string;
  readonly body: EntryBody;
  readonly saidAt: string;
  readonly by: string | null;
  readonly pullId: string | null;
  readonly recordingId: string | null;
  /** Still on this device alone. */ readonly waits: boolean;
}
export interface Held {
  readonly quantity: string;
  readonly unit: string;
  readonly value: number | null;
  /** Read by a device at this moment, or written by hand, for which pull. */
  readonly from: 'live' | 'written' | null;
  readonly target: number | null;
  readonly tolerance: number;
  /** Within what the plan asks for; null where that is not known. */ readonly fits: boolean | null;
}

const LIVE: readonly [RegExp, Quantity][] = [
  [/intake/i, 'intakeAirTemperature'],
  [/coolant/i, 'coolantTemperature'],
  [/oil/i, 'oilTemperature'],
];

/** Steady value of a quantity, in its internal unit, from whichever device says it. */
export function liveValue(bench: WatchedBench, live: Live, quantity: Quantity): number | null {
  for (const link of bench.links) {
    const values = live.values[link.kind];
    if (!values || !link.connected || link.kind === 'station') continue;
    const index = channelOf(link.channels, quantity);
    const value = index < 0 ? null : values[index];
    if (value === null || value === undefined) continue;
    const { unit } = channelGuess(link.channels[index]);
    return unit ? toInternal(value, unit) : value;
  }
  return null;
}
export function airNow(bench: WatchedBench, live: Live): StationAir | undefined {
  const link = bench.links.find((l) => l.kind === 'station' && l.connected);
  const values = live.values.station;
  return link && values ? airOfStation(link.channels, values) : undefined;
}

/** What is held equal: as it is at this moment, or as it was last written. Against the plan, else the counted pulls. */
export function heldNow(
  detail: TestDetail,
  bench: WatchedBench,
  live: Live,
  written: readonly Written[],
): Held[] {
  const planned = detail.plan.controls.map(({ quantity, unit, target, tolerance }): Held => {
    const of = unit === '°C' ? LIVE.find(([name]) => name.test(quantity))?.[1] : undefined;
    const now = of ? liveValue(bench, live, of) : null;
    const last = written.findLast((w) => w.body.kind === 'held' && w.body.quantity === quantity)?.body;
    const value = now ?? (last?.kind === 'held' ? last.value : null);
    const starts = of ? startsOf(detail, bench, of) : [];
    const wanted = target ?? (starts.length > 0 ? starts.reduce((a, b) => a + b, 0) / starts.length : null);
    return {
      quantity,
      unit,
      value,
      from: now !== null ? 'live' : last ? 'written' : null,
      target: wanted,
      tolerance,
      fits: value === null || wanted === null ? null : Math.abs(value - wanted) <= tolerance,
    };
  });
  // What a device reads is worth seeing although the plan asks nothing of it.
  const beside = LIVE.flatMap(([name, of]): Held[] => {
    const value = liveValue(bench, live, of);
    const isPlanned = planned.some((h) => name.test(h.quantity));
    return value === null || isPlanned
      ? []
      : [
          {
            quantity: QUANTITY_NAMES[of],
            unit: '°C',
            value,
            from: 'live',
            target: null,
            tolerance: 0,
            fits: null,
          },
        ];
  });
  return [...planned, ...beside];
}
function startsOf(detail: TestDetail, bench: WatchedBench, of: Quantity): number[] {
  const counted = new Set(detail.pulls.filter((p) => p.counted).map((p) => p.id));
  return bench.recordings.flatMap((r) => {
    const start = r.pullId !== null && counted.has(r.pullId) ? r.summary?.starts[of] : undefined;
    return start === undefined ? [] : [start];
  });
}

export interface Standing {
  readonly places: readonly Place[];
  readonly written: readonly Written[];
  readonly checked: ReadonlySet<string>;
  readonly onCar: string | null;
  readonly held: readonly Held[];
  readonly action: NextAction<Place>;
}

/** @param now moment by the server’s clock, ms */
export function standingOf(
  detail: TestDetail,
  bench: WatchedBench,
  live: Live,
  waiting: readonly Pick<Written, 'id' | 'body' | 'saidAt' | 'pullId' | 'recordingId'>[],
  now: number,
): Standing {
  const sent = new Set(bench.entries.map((e) => e.id));
  const written: Written[] = [
    ...bench.entries.map((e) => ({ ...e, waits: false })),
    ...waiting.filter((w) => !sent.has(w.id)).map((w) => ({ ...w, by: null, waits: true })),
  ];
  const recorded = new Set(bench.recordings.filter((r) => r.state === 'complete').map((r) => r.pullId));
  const places = detail.pulls.map((p): Place => ({
    id: p.id,
    label: p.label,
    position: p.position,
    run: p.run,
    arm: p.arm,
    mount: p.mount,
    counted: p.counted,
    settled: p.file !== null || p.excluded !== null || recorded.has(p.id),
    armLabel: detail.arms.find((a) => a.key === p.arm)?.label ?? p.arm,
  }));
  const checked = new Set(
    written.flatMap((w) => (w.body.kind === 'checked' ? [w.body.check as string] : [])),
  );
  const fitted = written.findLast((w) => w.body.kind === 'fitted');
  const onCar = fitted?.body.kind === 'fitted' ? fitted.body.arm : (bench.recordings.at(-1)?.arm ?? null);
  const held = heldNow(detail, bench, live, written);
  return {
    places,
    written,
    checked,
    onCar,
    held,
    action: nextAction<Place>({
      isOpen: bench.session !== null && bench.session.closedAt === null,
      unchecked: CHECK_NAMES.filter((name) => !checked.has(name)),
      mountings: bench.mountings.length,
      onCar,
      sheet: places,
      recordings: bench.recordings.map((r) => ({
        ...r,
        endedAt: r.endedAt === null ? null : Date.parse(r.endedAt),
      })),
      coolDownMinutes: detail.plan.coolDownMinutes,
      warmUpCoolDownMinutes: Math.min(detail.plan.coolDownMinutes, USUAL_TIMES.warmUpCoolDownMinutes),
      waits: held.filter((h) => h.from === 'live' && h.fits === false).map((h) => h.quantity),
      now,
    }),
  };
}
