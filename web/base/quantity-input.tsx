import { useState, type ComponentProps } from 'react';
import { DISPLAY_UNITS } from '../../core/base/units.ts';
import { useUnits } from './format.ts';
import { NumberInput, type NumberTyped } from './number-input.tsx';

/** Kept in kW and N·m: how many SI units one of them is. */
const SI = { power: 1000, torque: 1 } as const;
/** Six figures: a value goes there and back unchanged to a watt. */
const rounded = (value: number): number => Number(value.toPrecision(6));

/**
 * A power (kept in kW) or a torque (kept in N·m), shown and typed in the person's unit, which stands beside it; any
 * other unit of the kind may be typed after the number.
 */
export function QuantityInput({
  of,
  value,
  onChange,
  ...rest
}: Omit<ComponentProps<typeof NumberInput>, 'units'> & { of: 'power' | 'torque' }) {
  const { unit } = useUnits()[of];
  const scales: Readonly<Record<string, number>> = DISPLAY_UNITS[of];
  const per = SI[of] * scales[unit];
  const [typed, setTyped] = useState<{ kept: NumberTyped; shown: NumberTyped; unit: string }>();
  const isOwn = typed && typed.unit === unit && Object.is(typed.kept, value ?? null);
  const units = [
    { names: [unit] },
    ...Object.keys(scales)
      .filter((name) => name !== unit)
      .map((name) => ({
        names: [name],
        toField: (n: number) => rounded((n / scales[name]) * scales[unit]),
      })),
  ];
  return (
    <span className="flex items-center gap-1.5">
      <NumberInput
        {...rest}
        className="w-full min-w-0"
        units={units}
        value={isOwn ? typed.shown : typeof value === 'number' ? rounded(value * per) : (value ?? null)}
        onChange={(shown) => {
          const kept = typeof shown === 'number' ? rounded(shown / per) : shown;
          setTyped({ kept, shown, unit });
          onChange(kept);
        }}
      />
      <span className="shrink-0 text-soft">{unit}</span>
    </span>
  );
}
