import { STANDARD_NAMES } from '../../core/base/standards.ts';
import type { AirShown } from '../../contract/correct/air.ts';
import type { Pull } from '../../contract/capture/capture.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { number } from '../base/format.ts';
import { Mark } from '../base/ui.tsx';

/** Shares of a factor by which arms may lie apart before it is asked, and before it fails. */
const [ASKED, FAILS] = [0.01, 0.02];

const SENSORS = { temperature: 'temperature', pressure: 'barometer', humidity: 'humidity' } as const;
/** How well one factor is known by the sensors of the dyno. */
function Known({ air }: { air: readonly AirShown[] }) {
  const known = air.flatMap((a) => a.factorUncertainty ?? []);
  if (known.length === 0)
    return (
      <span className="block text-soft">
        How well a factor is known is not known: no sensor of the air is registered for this dyno.
      </span>
    );
  const most = known.reduce((a, b) => (b.pct > a.pct ? b : a));
  const shares = (Object.entries(most.shares) as [keyof typeof SENSORS, number][])
    .sort((a, b) => b[1] - a[1])
    .map(([sensor, share]) => `${SENSORS[sensor]} ${number(100 * share, 0)} %`);
  return (
    <span className="block">
      By the registered sensors a factor is known to ± {number(most.pct, 2)} %{' '}
      <span className="text-soft">
        (one standard uncertainty; of its square {shares.join(', ')}). Both arms share it: it moves their
        figures together, not the gain.
      </span>
    </span>
  );
}

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
      <Known air={pulls.flatMap((p) => air[p.label] ?? [])} />
    </p>
  );
}
