import { useMemo } from 'react';
import type { Contrast } from '../../core/compare/result.ts';
import type { PullCurve } from '../../core/compare/pull-results.ts';
import type { useUnits } from '../base/format.ts';
import type { ArmSeries } from './arm-curves.tsx';

/** Curves of all pulls of a test on one grid. */
export interface Curves {
  readonly rpm: readonly number[];
  readonly pulls: readonly PullCurve[];
}
type Of = (value: number) => number;
interface Mean {
  readonly rpm: number;
  readonly arm: number;
  readonly against: number;
}

/** Single pulls of both arms and the arms' means, in the person's units. `label`: what the arm is called. */
export function useArmSeries(
  curves: Curves,
  contrast: Contrast,
  label: string,
  units: ReturnType<typeof useUnits>,
): { power: ArmSeries[]; torque: ArmSeries[] } {
  const { power, torque } = units;
  return useMemo(
    () => ({
      power: seriesOf(curves, contrast, 'powerKw', contrast.power.curve, label, power.of),
      torque: seriesOf(curves, contrast, 'torqueNm', contrast.torque.curve, label, torque.of),
    }),
    [curves, contrast, label, power, torque],
  );
}

function seriesOf(
  { rpm, pulls }: Curves,
  contrast: Contrast,
  pick: 'powerKw' | 'torqueNm',
  means: readonly Mean[],
  label: string,
  of: Of,
): ArmSeries[] {
  const at = new Map(means.map((mean) => [mean.rpm, mean]));
  const mean = (arm: 'arm' | 'against'): (number | null)[] =>
    rpm.map((r) => {
      const known = at.get(r);
      return known === undefined ? null : of(known[arm]);
    });
  const single = pulls
    .filter((p) => p.counted && !p.excluded && (p.arm === contrast.arm || p.arm === contrast.against))
    .map((p): ArmSeries => ({
      id: p.id,
      label: p.id,
      arm: p.arm === contrast.arm ? 'part' : 'stock',
      kind: 'pull',
      values: p[pick].map((v) => (v === null ? null : of(v))),
    }));
  return [
    ...single,
    { id: 'stock', label: 'stock', arm: 'stock', kind: 'mean', values: mean('against') },
    { id: 'part', label, arm: 'part', kind: 'mean', values: mean('arm') },
  ];
}
