import { Link } from 'react-router';
import type { TestDetail } from '../../contract/overview.ts';
import type { Contrast, Corroboration, LogEvidence, Mechanism } from '../../core/compare/result.ts';
import clsx from 'clsx';
import { headSpeed } from '../../core/plan/drive-speed.ts';
import { number, rpm, signed, useUnits } from '../base/format.ts';
import { EVIDENCE_WORDS, SAYS } from './evidence-words.ts';

const MECHANISMS: Record<Mechanism, string> = {
  measured: 'What the part acts upon was logged and has moved as it should.',
  'consistent with the log':
    'The flows go with the power; what the part itself acts upon was not logged, or has not moved beyond the noise.',
  hypothesis: 'The log does not show why. A reason for the gain would be a guess and is not published.',
};

/** The gain held against the engine's own log: what goes with it, what speaks against it, and what neither can show. */
export function LogEvidenceTable({ detail, contrast }: { detail: TestDetail; contrast: Contrast }) {
  const { log } = contrast;
  if (!log)
    return (
      <section aria-label="What the log says of the gain" className="mt-4 pb-4">
        <h2>What the log says of the gain</h2>
        <p className="mt-1 max-w-prose text-soft">
          Nothing: the logs of these pulls hold no airflow, no fuel flow and nothing this kind of part acts
          upon. Any reason for the gain is a hypothesis.{' '}
          <Link to={`/tests/${detail.summary.id}/pulls`}>Attach the engine’s log</Link> to change that.
        </p>
      </section>
    );
  return (
    <section aria-label="What the log says of the gain" className="mt-4 pb-4">
      <h2>What the log says of the gain</h2>
      <p className="mt-1 max-w-prose text-soft">
        Mechanism: <b className="text-ink">{log.mechanism}</b>. {MECHANISMS[log.mechanism]} As observed, with
        the limits of the repeated pulls.
      </p>
      <Rows log={log} />
      <FuelPower log={log} contrast={contrast} />
      <DriveSpeed detail={detail} contrast={contrast} />
    </section>
  );
}

function Rows({ log }: { log: Corroboration }) {
  const units = useUnits();
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="The gain against the log, table">
      <table className="ledger mt-2">
        <thead>
          <tr>
            <th>Logged</th>
            <th className="num">Change</th>
            <th className="num">Against the power</th>
            <th>Says</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <td>
              Power
              <span className="block text-[12.5px] text-soft">
                as observed, before any correction for air
              </span>
            </td>
            <td className="num whitespace-nowrap">{inWords(log.power, '%')}</td>
            <td className="num">–</td>
            <td className="text-soft">what the rest is held against</td>
          </tr>
          {log.rows.map((row) => (
            <tr key={row.of}>
              <td>
                {EVIDENCE_WORDS[row.of].name}
                <span className="block text-[12.5px] text-soft">{EVIDENCE_WORDS[row.of].cannot}</span>
              </td>
              <td className="num whitespace-nowrap">{changeOf(row, units)}</td>
              <td className="num whitespace-nowrap">
                {row.toPower ? `${signed(row.toPower.gain)} points` : '–'}
                {row.toPower && (
                  <span className="block text-[12.5px] text-soft">
                    {signed(row.toPower.lower)} to {signed(row.toPower.upper)}
                  </span>
                )}
              </td>
              <td>
                {!row.direct && !row.toPower ? (
                  <span className="text-soft">told beside it</span>
                ) : (
                  <span className={row.says === 'against' ? 'font-semibold text-loss' : 'font-semibold'}>
                    {SAYS[row.says]}
                  </span>
                )}
                {row.direct && (
                  <span className="block text-[12.5px] text-soft">what this part acts upon</span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const inWords = (
  { gain, lower, upper }: LogEvidence['change'],
  unit: string,
  of = (v: number): number => v,
  digits = 1,
): string =>
  `${signed(of(gain), digits)} ${unit} (${signed(of(lower), digits)} to ${signed(of(upper), digits)})`;

function changeOf({ unit, change }: LogEvidence, { temperature, pressure }: ReturnType<typeof useUnits>) {
  if (unit === 'K') return inWords(change, temperature.unit, temperature.ofDifference);
  if (unit === 'hPa') return inWords(change, pressure.unit, pressure.of, pressure.digits);
  return inWords(change, unit, undefined, unit === 'rpm' ? 0 : 1);
}

/** What the fuel could make at the crank, beside what came off the wheels: an estimate, with how little is known of it. */
function FuelPower({ log: { fuelPower }, contrast }: { log: Corroboration; contrast: Contrast }) {
  const { power } = useUnits();
  if (!fuelPower) return null;
  const wheel = (of: 'arm' | 'against'): number =>
    contrast.power.curve.reduce((sum, p) => sum + p[of], 0) / contrast.power.curve.length;
  const range = ({ low, high }: { low: number; high: number }): string =>
    `${number(power.of(low), 0)} to ${number(power.of(high), 0)} ${power.unit}`;
  return (
    <p className="mt-2 max-w-prose text-[12.5px] text-soft">
      Estimate from the fuel flow: on average over the range the fuel could make {range(fuelPower.against)} at
      the crank in the baseline and {range(fuelPower.arm)} with the part, where{' '}
      {number(power.of(wheel('against')), 0)} and {number(power.of(wheel('arm')), 0)} {power.unit} came off
      the wheels. How much fuel an engine needs for its power is known within these limits only; the two arms
      share it.
    </p>
  );
}

/** How fast the pulleys turn the head at the top of the range, against what its maker allows. */
function DriveSpeed({ detail, contrast }: { detail: TestDetail; contrast: Contrast }) {
  const drive = detail.arms.find((arm) => arm.key === contrast.arm)?.drive;
  if (!drive) return null;
  const top = contrast.relative.curve.at(-1)!.rpm;
  const head = headSpeed(drive, top);
  return (
    <p
      className={clsx(
        'mt-2 max-w-prose text-[12.5px]',
        head.tooFast ? 'font-semibold text-loss' : 'text-soft',
      )}
    >
      By its pulleys the head turns {number(drive.ratio, 2)} times for each turn of the crank: {rpm(head.rpm)}{' '}
      at {rpm(top)}, without slip of the belt.{' '}
      {head.mostRpm === null
        ? 'What its maker allows is not entered.'
        : head.tooFast
          ? `Its maker allows ${rpm(head.mostRpm)}. It can burst: drive it no further, and ask its maker.`
          : `Its maker allows ${rpm(head.mostRpm)}.`}
    </p>
  );
}
