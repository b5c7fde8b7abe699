import type { NoisyEndSeen } from '../../contract/register/register.ts';
import { number, rpm } from '../base/format.ts';
import { Button } from '../base/ui.tsx';
import { without, type Window } from './window-without.ts';

/** What past tests of the vehicle say of the ends of the window planned. */
export function NoisyEnds<W extends Window>({
  seen,
  band,
  onChange,
}: {
  seen: readonly NoisyEndSeen[];
  band: W;
  onChange: (band: W) => void;
}) {
  return seen.map((end) => {
    const narrower = without(band, end);
    return (
      narrower && (
        <div key={`${end.test} ${end.side}`} className="flex items-center gap-3 text-[12.5px]">
          <p className="min-w-0 flex-1 text-ask">
            In test {end.test} the pulls of this vehicle scattered {number(end.times, 1)} times as much{' '}
            {end.side === 'low' ? 'below' : 'above'} {rpm(end.rpm)} as elsewhere. Inside the rpm range that
            costs width everywhere.
          </p>
          <Button onClick={() => onChange(narrower)}>Leave it out</Button>
        </div>
      )
    );
  });
}
