import clsx from 'clsx';
import type { ReactNode } from 'react';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';

/** One fixed pattern for a number: value, unit, interval, then what it is. */
export function Figure({
  label,
  value,
  unit,
  interval,
  note,
  tone = 'ink',
  small,
}: {
  label: ReactNode;
  value: number;
  unit: string;
  interval?: { lower: number; upper: number } | undefined;
  note?: ReactNode;
  tone?: 'ink' | 'loss';
  small?: boolean;
}) {
  return (
    <div className="border-b border-rule py-2.5">
      <div className={clsx('text-[12.5px]', tone === 'loss' ? 'text-loss' : 'text-soft')}>{label}</div>
      <div
        className={clsx(
          'font-display font-semibold leading-tight',
          small ? 'text-[18px]' : 'text-[25px]',
          tone === 'loss' && 'text-loss',
        )}
      >
        {signedGain(value)}{' '}
        <span className="font-sans text-[13px] font-normal text-soft">
          {unit}
          {interval && ` (${signedGain(interval.lower)} to ${signedUpper(interval.upper)})`}
        </span>
      </div>
      {note && <div className="text-[12.5px] text-soft">{note}</div>}
    </div>
  );
}
