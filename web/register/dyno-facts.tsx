import { STANDARD_NAMES } from '../../core/base/standards.ts';
import { WEEKDAYS, type DynoDetail } from '../../contract/register/register.ts';
import { day, number } from '../base/format.ts';
import { SOURCES } from './dyno-form.tsx';
import { Facts } from './layout.tsx';

type Dyno = DynoDetail['dyno'];

/** How far pulls scatter on a dyno, as it is registered. */
export function Repeatability({ dyno: d }: { dyno: Dyno }) {
  return (
    <section>
      <h2 className="mb-2">Repeatability, registered</h2>
      <table className="ledger max-w-[520px]">
        <thead>
          <tr>
            <th>Source</th>
            <th className="num">SD</th>
            <th className="num">Degrees of freedom</th>
          </tr>
        </thead>
        <tbody>
          {SOURCES.map(([key, name, what]) => {
            const known = d.repeatability[key];
            return (
              <tr key={key}>
                <td>
                  {name}
                  <span className="block text-[12px] text-soft">{what}</span>
                </td>
                <td className="num">
                  {known ? (
                    `${number(Math.sqrt(known.variance), 2)} %`
                  ) : (
                    <span className="text-soft">not registered</span>
                  )}
                </td>
                <td className="num">{known ? number(known.df, 1) : ''}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

export function DynoFacts({ dyno: d }: { dyno: Dyno }) {
  return (
    <Facts
      rows={[
        ['Drive', `${d.drive}, ${d.cell} cell`],
        ['Fan', d.fan || 'not entered'],
        ['Samples', d.samplingHz ? `${d.samplingHz} a second` : 'not entered'],
        ['Factor of its own', STANDARD_NAMES[d.appliesStandard]],
        ['Last calibrated', d.lastCalibratedOn ? day(d.lastCalibratedOn) : 'not entered'],
        ['Radius of the roller', d.rollerRadiusM === null ? 'not on record' : `${d.rollerRadiusM} m`],
        ['Drift bound', d.driftBound === null ? 'house policy' : `${d.driftBound} % a pull`],
        [
          'Open',
          d.opening.length
            ? d.opening.map((o) => (
                <span key={`${o.day}${o.from}`} className="block">
                  {WEEKDAYS[o.day - 1]} {o.from} to {o.to}
                </span>
              ))
            : 'no hours entered: nothing can be placed',
        ],
        ['Time zone', d.timeZone],
        ['Rates', `${number(d.hourlyRate, 0)} ${d.currency} a dyno hour, ${number(d.labourRate, 0)} labour`],
      ]}
    />
  );
}
