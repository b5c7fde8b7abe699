/**
 * The same test over another window of engine speeds, with everything else as it is: what somebody looks at after the
 * result is known. Nothing can be claimed from it, however it comes out.
 */
import type { Policy } from '../base/policy.ts';
import type { TestDefinition } from '../capture/test-definition.ts';
import { isRefused, type ContrastCode, type Interval } from '../compare/result.ts';
import type { OnStep } from '../base/on-step.ts';
import { analyseTest } from './analyse-test.ts';

export interface Window {
  readonly fromRpm: number;
  readonly toRpm: number;
}
/** Averages of one arm over a window: per cent of the baseline, kW and N·m at the wheel. */
export interface WindowAverages {
  readonly arm: string;
  readonly pct: Interval;
  readonly kw: Interval;
  readonly nm: Interval;
}
export interface InWindow extends Window {
  readonly averages: readonly WindowAverages[];
  /** Arms that cannot be compared in it, by the code of why. */
  readonly refused: readonly { readonly arm: string; readonly code: ContrastCode }[];
}

const plain = ({ gain, lower, upper }: Interval): Interval => ({ gain, lower, upper });

/** @param readFile bytes of a file named in the definition; undefined when it is not there */
export function inWindow(
  test: TestDefinition,
  readFile: (file: string) => Uint8Array | undefined,
  policy: Policy,
  window: Window,
  onStep?: OnStep,
): InWindow {
  // One metric is looked at: the window pays for nothing but the number of parts.
  const narrowed = {
    ...test,
    band: { ...test.band, ...window },
    metrics: undefined,
    metric: 'bandAverage' as const,
  };
  const { contrasts } = analyseTest(narrowed, readFile, { policy, ...(onStep ? { onStep } : {}) }).result;
  return {
    ...window,
    averages: contrasts.flatMap((c) =>
      isRefused(c)
        ? []
        : [
            {
              arm: c.arm,
              pct: plain(c.relative.bandAverage),
              kw: plain(c.power.bandAverage),
              nm: plain(c.torque.bandAverage),
            },
          ],
    ),
    refused: contrasts.flatMap((c) => (isRefused(c) ? [{ arm: c.arm, code: c.code }] : [])),
  };
}
