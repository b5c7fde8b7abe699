import clsx from 'clsx';
import { useState } from 'react';
import type { ByStandard } from '../../contract/correct/by-standard.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import { STANDARD_NAMES } from '../../core/base/standards.ts';
import { Computing } from '../base/computing.tsx';
import { testsApi, useByStandardQuery } from '../base/endpoints.ts';
import { number, rpm, useUnits } from '../base/format.ts';
import { Button, ProblemNote } from '../base/ui.tsx';

/** The same test under every standard, when somebody asks: how much of the gain is the choice of the correction. */
export function UnderEveryStandard({ detail }: { detail: TestDetail }) {
  const [asked, setAsked] = useState(false);
  return (
    <section aria-label="Under every standard">
      <h2>The same test under every standard</h2>
      <p className="mb-2 max-w-[78ch] text-[12.5px] text-soft">
        Everything else as it is. Only what was planned
        {detail.plan.standard === 'none' ? '' : `, ${STANDARD_NAMES[detail.plan.standard]},`} can be claimed;
        the others are never mixed with it.
      </p>
      {asked ? <Asked detail={detail} /> : <Button onClick={() => setAsked(true)}>Work it out</Button>}
    </section>
  );
}

function Asked({ detail }: { detail: TestDetail }) {
  const { data, error, refetch } = useByStandardQuery(detail.summary.id);
  if (error) return <ProblemNote error={error} again={() => void refetch()} />;
  if (!data)
    return (
      <Computing
        what="the test under every standard"
        path={`/tests/${detail.summary.id}/standards`}
        running={testsApi.util.getRunningQueryThunk('byStandard', detail.summary.id)}
      />
    );
  return <Table detail={detail} standards={data.standards} />;
}

type Under = ByStandard['standards'][number];

function Table({ detail, standards }: { detail: TestDetail; standards: readonly Under[] }) {
  // The planned one comes first among its own; the other schools of it stand behind.
  const planned = standards.find((u) => u.standard === detail.plan.standard);
  const label = (arm: string): string => detail.arms.find((a) => a.key === arm)?.label ?? arm;
  return (
    <div tabIndex={0} role="group" aria-label="Gains under every standard" className="overflow-x-auto">
      <table className="ledger">
        <thead>
          <tr>
            <th>Standard</th>
            <th>Arm</th>
            <th className="num">Average, %</th>
            <th className="num">Interval, %</th>
            <th className="num">Against the plan’s</th>
            <th className="num">Up to, wheel</th>
          </tr>
        </thead>
        <tbody>
          {standards.map((under) =>
            under.gains.length === 0 ? (
              <tr key={under.standard + under.school} className="text-soft">
                <td>{nameOf(under)}</td>
                <td colSpan={5}>{under.why}</td>
              </tr>
            ) : (
              under.gains.map((gain) => (
                <GainRow
                  key={under.standard + under.school + gain.arm}
                  name={nameOf(under)}
                  arm={label(gain.arm)}
                  gain={gain}
                  planned={planned?.gains.find((g) => g.arm === gain.arm)}
                  isPlanned={under === planned}
                />
              ))
            ),
          )}
        </tbody>
      </table>
    </div>
  );
}

const SCHOOLS = {
  correct: '',
  'temperature only': ', temperature only',
  'do not correct': ', boosted not corrected',
};
/** Several schools of one standard are told apart; where there is one, nobody needs its name. */
const nameOf = ({ standard, school }: Under): string => STANDARD_NAMES[standard] + SCHOOLS[school];

/** Signed, but for what rounds to nothing. */
const pointsApart = (points: number): string =>
  Math.abs(points) < 0.005 ? number(0, 2) : `${points < 0 ? '−' : '+'}${number(Math.abs(points), 2)}`;

function GainRow({
  name,
  arm,
  gain,
  planned,
  isPlanned,
}: {
  name: string;
  arm: string;
  gain: Under['gains'][number];
  planned: Under['gains'][number] | undefined;
  isPlanned: boolean;
}) {
  const { power } = useUnits();
  const { average, upToKw, upToRpm } = gain;
  const apart = planned ? average.gain - planned.average.gain : NaN;
  return (
    <tr className={clsx(isPlanned && 'font-semibold')}>
      <td>
        {name}
        {isPlanned && <span className="block text-[12px] font-normal text-soft">as planned</span>}
      </td>
      <td>{arm}</td>
      <td className="num">{signedGain(average.gain)}</td>
      <td className="num">
        {signedGain(average.lower)} to {signedUpper(average.upper)}
      </td>
      <td className="num">{isPlanned || Number.isNaN(apart) ? '' : `${pointsApart(apart)} points`}</td>
      <td className="num">
        {signedGain(power.of(upToKw))} {power.unit} at {rpm(upToRpm)}
      </td>
    </tr>
  );
}
