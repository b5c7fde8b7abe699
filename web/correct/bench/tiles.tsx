import clsx from 'clsx';
import { number, useUnits, type Units } from '../../base/format.ts';
import type { Held } from './standing.ts';

const shown = (units: Units, value: number, unit: string): { text: string; unit: string } =>
  unit === '°C'
    ? { text: number(units.temperature.of(value), 0), unit: units.temperature.unit }
    : { text: number(value, unit === 'bar' ? 2 : 1), unit };

/** What is held equal: as it is now, and where it is to be. */
export function Tiles({ held, onWrite }: { held: readonly Held[]; onWrite?: (held: Held) => void }) {
  const units = useUnits();
  if (held.length === 0) return null;
  return (
    <ul aria-label="Held equal" className="grid grid-cols-2 gap-3 md:grid-cols-4">
      {held.map((h) => (
        <li
          key={h.quantity}
          className={clsx(
            'rounded-lg border-2 bg-sheet px-4 py-3',
            h.fits === false ? 'border-ask' : 'border-rule',
          )}
        >
          <p className="text-[15px] text-soft first-letter:uppercase">
            {h.quantity.replace(/ at start$/, '')}
          </p>
          <Value held={h} units={units} />
          <p className={clsx('text-[14px]', h.fits === false ? 'text-ask' : 'text-soft')}>
            {wanted(h, units)}
          </p>
          {h.from !== 'live' && onWrite && (
            <button
              type="button"
              onClick={() => onWrite(h)}
              className="mt-1 min-h-11 w-full rounded border border-rule text-[15px] hover:border-ink"
            >
              {h.value === null ? 'Write it' : 'Write anew'}
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
function Value({ held: { value, unit }, units }: { held: Held; units: Units }) {
  if (value === null) return <p className="text-[26px] text-soft">not read</p>;
  const { text, unit: u } = shown(units, value, unit);
  return (
    <p className="text-[36px] font-semibold leading-tight">
      {text} <span className="text-[18px] font-normal text-soft">{u}</span>
    </p>
  );
}
function wanted({ target, tolerance, unit, fits }: Held, units: Units): string {
  if (target === null) return tolerance > 0 ? 'equal for all counted pulls' : 'the plan asks nothing of it';
  const [low, high] = [shown(units, target - tolerance, unit), shown(units, target + tolerance, unit)];
  const range = `${low.text} to ${high.text} ${high.unit}`;
  return fits === null ? range : fits ? `${range}, good` : `wait for ${range}`;
}
