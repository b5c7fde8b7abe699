import type { Contrast, ContrastResult, RefusedContrast } from '../../core/compare/result.ts';
import { isRefused, type TestResult } from '../../core/judge/analyse-test.ts';
import type { contrasts } from './tables.ts';

type Row = typeof contrasts.$inferInsert;

/** The metrics of every contrast of a result as rows; with excluded pulls put back beside it, where there are any. */
export const contrastRows = (analysisId: string, { contrasts: all }: TestResult): Row[] =>
  all.flatMap((contrast, position) => rowsOf(contrast).map((row) => ({ analysisId, position, ...row })));

function rowsOf(contrast: Contrast | RefusedContrast): Omit<Row, 'analysisId' | 'position'>[] {
  const { arm, against, design } = contrast;
  if (isRefused(contrast)) return [{ arm, against, design, withExcluded: false, refused: contrast.code }];
  const { withExcluded } = contrast;
  return [measured(contrast, false), ...(withExcluded ? [measured(withExcluded, true)] : [])];
}

function measured(c: ContrastResult, withExcluded: boolean): Omit<Row, 'analysisId' | 'position'> {
  const { relative, power, torque } = c;
  return {
    arm: c.arm,
    against: c.against,
    design: c.design,
    withExcluded,
    upToPct: relative.upTo.gain,
    upToPctRpm: relative.upTo.rpm,
    upToKw: power.upTo.gain,
    upToKwRpm: power.upTo.rpm,
    upToNm: torque.upTo.gain,
    upToNmRpm: torque.upTo.rpm,
    averagePct: relative.bandAverage.gain,
    averagePctLower: relative.bandAverage.lower,
    averagePctUpper: relative.bandAverage.upper,
    peakKw: power.peakToPeak.gain,
    peakKwLower: power.peakToPeak.lower,
    peakKwUpper: power.peakToPeak.upper,
    peakAtEdge: power.peakToPeak.atEdge,
    worstPct: relative.worst.gain,
    worstPctRpm: relative.worst.rpm,
    provenLosses: relative.losses.length,
  };
}
