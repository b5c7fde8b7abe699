import { STANDARD_NAMES } from '../../core/base/standards.ts';
import { WEEKDAYS, type DynoDetail } from '../../contract/register/register.ts';
import { day, number } from '../base/format.ts';
import { Facts } from './layout.tsx';

type Dyno = DynoDetail['dyno'];

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
