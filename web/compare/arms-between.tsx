import type { TestDetail } from '../../contract/overview.ts';
import type { BetweenArms, PairTold } from '../../core/compare/between-arms.ts';
import type { SettingTrend } from '../../core/compare/setting-trend.ts';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import { number, rpm, signed, useUnits } from '../base/format.ts';
import { Told } from '../base/told.tsx';
import { Mark } from '../base/ui.tsx';

const SAID: Readonly<Record<BetweenArms['kind'], { title: string; note: string }>> = {
  stages: {
    title: 'Each stage over the one before',
    note:
      'Measured in this order. In another order a stage may give another gain: stages do not add up, and none of ' +
      'these can be claimed for the part alone.',
  },
  'all pairs': {
    title: 'The parts against each other',
    note:
      'Every pair, adjusted so that all of them hold together. Where the limits lie on both sides of nothing, the two ' +
      'are not told apart.',
  },
};

/** Parts of a test against each other: stages of a ladder, or every pair. */
export function ArmsBetween({
  detail,
  between,
  trend,
}: {
  detail: TestDetail;
  between: BetweenArms;
  trend?: SettingTrend | undefined;
}) {
  const armOf = (key: string) => detail.arms.find((a) => a.key === key);
  const { title, note } = SAID[between.kind];
  const isLadder = between.kind === 'stages';
  return (
    <section aria-labelledby="between" className="mb-6">
      <h2 id="between" className="mb-1">
        {title}
      </h2>
      <p className="mb-2 max-w-prose text-[12.5px] text-soft">{note}</p>
      {trend && <Trend trend={trend} />}
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={`${title}, table`}>
        <table className="ledger">
          <thead>
            <tr>
              <th>{isLadder ? 'Stage' : 'Part'}</th>
              <th>Over</th>
              {isLadder && <th>What changes</th>}
              <th className="num">Average</th>
              <th className="num">Up to</th>
              <th>Difference</th>
            </tr>
          </thead>
          <tbody>
            {between.pairs.map((pair) => (
              <tr key={`${pair.arm} ${pair.against}`}>
                <td>
                  <Told>{armOf(pair.arm)?.label ?? pair.arm}</Told>
                </td>
                <td>
                  <Told>{armOf(pair.against)?.label ?? pair.against}</Told>
                </td>
                {isLadder && <td className="text-soft">{whatChanges(armOf(pair.arm))}</td>}
                <Gains pair={pair} />
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** Along a straight line over the settings; what was picked as the best is not thereby shown to be. */
function Trend({ trend: { name, unit, from, to, settings, change } }: { trend: SettingTrend }) {
  const isProven = change.lower > 0 || change.upper < 0;
  const span = `${number(from, from % 1 ? 1 : 0)} to ${number(to, to % 1 ? 1 : 0)} ${unit}`;
  return (
    <p className="mb-2 max-w-prose">
      <b>
        From {span} of {name}: {signed(change.gain)} %
      </b>{' '}
      <span className="text-soft">
        ({signedGain(change.lower)} to {signedUpper(change.upper)}) along a straight line through {settings}{' '}
        settings. {isProven ? 'The trend is proven.' : 'No trend is proven.'} Nothing between the settings was
        measured, and the best of them was picked: it needs a confirming test of its own.
      </span>
    </p>
  );
}

function Gains({ pair: { average: a, upTo, why } }: { pair: PairTold }) {
  const { power } = useUnits();
  if (!a || !upTo)
    return (
      <td colSpan={3} className="text-soft">
        <Told>{why ?? ''}</Told>
      </td>
    );
  return (
    <>
      <td className="num">
        <b>{signedGain(a.gain)} %</b>{' '}
        <span className="text-soft">
          ({signedGain(a.lower)} to {signedUpper(a.upper)})
        </span>
      </td>
      <td className="num">
        {upTo.kw > 0 ? `${number(power.of(upTo.kw), 1)} ${power.unit} at ${rpm(upTo.rpm)}` : 'none shown'}
      </td>
      <td>
        {a.lower > 0 ? (
          <Mark tone="stands">proven</Mark>
        ) : a.upper < 0 ? (
          <Mark tone="loss">less, proven</Mark>
        ) : (
          <span className="text-soft">not told apart</span>
        )}
      </td>
    </>
  );
}

/** What the stage adds to the one it builds on, in words. */
function whatChanges(arm: TestDetail['arms'][number] | undefined): string {
  const kinds = new Set(arm?.changes.map((c) => c.kind));
  if (kinds.size === 1 && kinds.has('calibration')) return 'the calibration alone';
  if (kinds.has('calibration')) return 'parts with a calibration';
  return kinds.has('part fitted') ? 'parts' : [...kinds].join(', ');
}
