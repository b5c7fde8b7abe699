import { isRefused, type CurvePoint } from '../../core/compare/result.ts';
import type { TestResult } from '../../core/judge/analyse-test.ts';
import type { Evidence } from '../../contract/publish/claim.ts';

/** Far finer than any line or read-out, and a third of the bytes of full precision. */
const near = (value: number): number => Number(value.toPrecision(6));
const asDrawn = ({ rpm, gain, lower, upper }: CurvePoint): CurvePoint => ({
  rpm,
  gain: near(gain),
  lower: near(lower),
  upper: near(upper),
});

/**
 * The evidence with no more of its result than the page of the claim draws: the standard, and of the claimed arm the
 * relative gain. The whole result stays at the address of the evidence itself; a reader on a slow line does not wait for it.
 */
export function drawnEvidence(evidence: Evidence): Evidence {
  const { standard, school, contrasts } = evidence.result as TestResult;
  const shown = contrasts.find((c) => c.arm === evidence.claim.arm) ?? contrasts[0];
  const drawn = isRefused(shown)
    ? shown
    : {
        arm: shown.arm,
        relative: { unit: '%', curve: shown.relative.curve.map(asDrawn), upTo: shown.relative.upTo },
      };
  return { ...evidence, result: { standard, ...(school ? { school } : {}), contrasts: [drawn] } };
}
