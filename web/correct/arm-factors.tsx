import { STANDARD_NAMES } from '../../core/base/standards.ts';
import type { AirShown } from '../../contract/correct/air.ts';
import type { Pull } from '../../contract/capture/capture.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { number } from '../base/format.ts';
import { Mark } from '../base/ui.tsx';

/** Shares of a factor by which arms may lie apart before it is asked, and before it fails. */
const [ASKED, FAILS] = [0.01, 0.02];

/** How far apart the arms' mean factors lie: what they share cancels in the gain. */
export function ArmFactors({
  detail,
  pulls,
  air,
}: {
  detail: TestDetail;
  pulls: readonly Pull[];
  air: Readonly<Record<string, AirShown>>;
}) {
  const { standard } = detail.plan;
  const factors = pulls.flatMap((p) => {
    const f = air[p.label]?.factors[standard];
    return typeof f === 'number' ? [{ arm: p.arm, f }] : [];
  });
  const mean = (arm: string): number => {
    const own = factors.filter((x) => x.arm === arm);
    return own.reduce((s, x) => s + x.f, 0) / own.length;
  };
  const armMeans = detail.arms.map((a) => ({ label: a.label, mean: mean(a.key) }));
  const apart = Math.max(...armMeans.map((a) => a.mean)) / Math.min(...armMeans.map((a) => a.mean)) - 1;
  if (factors.length < 2 || !Number.isFinite(apart)) return null;
  return (
    <p>
      {standard === 'none'
        ? 'Not corrected for air; arms’ mean factors'
        : `Arms’ mean factors by ${STANDARD_NAMES[standard]}`}
      : {armMeans.map((a) => `${a.label} ${number(a.mean, 4)}`).join(', ')}.{' '}
      <Mark tone={apart <= ASKED ? 'stands' : apart <= FAILS ? 'ask' : 'loss'}>
        {number(100 * apart, 2)} % apart
      </Mark>{' '}
      <span className="text-soft">(what the arms share cancels in the gain; policy allows 1 %)</span>
    </p>
  );
}
