/** The same test under every correction standard: how much the gain hangs on the choice. Never mixed within a test. */
import { EvidentiaError } from '../base/errors.ts';
import type { Policy } from '../base/policy.ts';
import {
  BOOSTED_SCHOOLS,
  isBoosted,
  schoolFor,
  STANDARDS,
  type BoostedSchool,
  type Standard,
} from '../base/standards.ts';
import type { PullFile } from '../capture/pull-file-types.ts';
import type { TestDefinition } from '../capture/test-definition.ts';
import { isRefused } from '../compare/result.ts';
import type { OnStep } from '../base/on-step.ts';
import { analyseTest } from './analyse-test.ts';

/** The gain of one arm under one standard. Per cent of the baseline, kW at the wheel, rpm. */
export interface GainUnder {
  readonly arm: string;
  readonly average: { readonly gain: number; readonly lower: number; readonly upper: number };
  readonly upToPct: number;
  readonly upToKw: number;
  readonly upToRpm: number;
}
export interface UnderStandard {
  readonly standard: Standard;
  /** How boosted engines are corrected in it; `correct` for all others. */ readonly school: BoostedSchool;
  /** Empty where the standard does not cover this engine, with the reason. */
  readonly gains: readonly GainUnder[];
  readonly why: string | null;
}

/**
 * Analyses the test once under each standard, with everything else as it is. Files are read once.
 *
 * @param readFile bytes of a file named in the definition; undefined when it is not there
 */
export function underEveryStandard(
  test: TestDefinition,
  readFile: (file: string) => Uint8Array | undefined,
  policy: Policy,
  onStep?: OnStep,
): UnderStandard[] {
  let parsed: ReadonlyMap<string, PullFile> | undefined;
  const own = schoolFor(test.engine, {
    standard: test.standard,
    school: test.boostedSchool ?? policy.boostedSchool,
  });
  const others =
    isBoosted(test.engine) && test.standard !== 'none' ? BOOSTED_SCHOOLS.filter((s) => s !== own) : [];
  const all = [
    ...STANDARDS.map((standard) => ({ standard, school: schoolFor(test.engine, { standard, school: own }) })),
    // The other schools under the planned standard, to be seen beside it.
    ...others.map((school) => ({ standard: test.standard, school })),
  ];
  return all.map(({ standard, school }, i) => {
    try {
      const analysis = analyseTest({ ...test, standard, boostedSchool: school }, readFile, {
        policy,
        ...(parsed ? { parsed } : {}),
        ...(onStep ? { onStep: (done, of) => onStep(i * of + done, all.length * of) } : {}),
      });
      parsed ??= analysis.files;
      const gains = analysis.result.contrasts.flatMap((c): GainUnder[] =>
        isRefused(c)
          ? []
          : [
              {
                arm: c.arm,
                average: {
                  gain: c.relative.bandAverage.gain,
                  lower: c.relative.bandAverage.lower,
                  upper: c.relative.bandAverage.upper,
                },
                upToPct: c.relative.upTo.gain,
                upToKw: c.power.upTo.gain,
                upToRpm: c.power.upTo.rpm,
              },
            ],
      );
      return {
        standard,
        school,
        gains,
        why: gains.length > 0 ? null : 'No contrast of this test can be computed.',
      };
    } catch (error) {
      if (error instanceof EvidentiaError) return { standard, school, gains: [], why: error.what };
      throw error;
    }
  });
}
