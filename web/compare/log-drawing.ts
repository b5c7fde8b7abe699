/** Channels of a log as they are drawn: in the units of the person, with room above and below. */
import type { TestChannels } from '../../contract/capture/channels.ts';
import { QUANTITY_NAMES, type Quantity } from '../../core/base/quantities.ts';
import type { Units } from '../base/format.ts';

export interface Drawn {
  readonly quantity: Quantity;
  /** Scale from the internal unit; a difference has no zero point. */
  readonly scale: number;
  readonly of: (internal: number) => number;
  readonly name: string;
  readonly unit: string;
  readonly digits: number;
  readonly low: number;
  readonly high: number;
  readonly pulls: readonly {
    readonly label: string;
    readonly arm: string;
    readonly values: readonly (number | null)[];
  }[];
}
interface As {
  readonly unit: string;
  readonly digits: number;
  readonly of: (internal: number) => number;
}
const by = (unit: string, scale: number, digits: number): As => ({ unit, digits, of: (v) => v * scale });

/** What is drawn, in the order a bench looks at it; torque and power have a page of their own. */
const shown = (units: Units): Partial<Record<Quantity, As>> => {
  const degrees: As = { unit: units.temperature.unit, digits: 1, of: units.temperature.of };
  const pressure: As = {
    unit: units.pressure.unit,
    digits: units.pressure.digits,
    of: (pa) => units.pressure.of(pa / 100),
  };
  return {
    throttle: by('%', 1, 1),
    lambda: by('λ', 1, 3),
    ignitionAdvance: by('°', 1, 1),
    knockRetard: by('°', 1, 1),
    manifoldPressure: pressure,
    massAirFlow: by('g/s', 1000, 1),
    fuelFlow: by('L/h', 3.6e6, 1),
    intakeAirTemperature: degrees,
    coolantTemperature: degrees,
    oilTemperature: degrees,
    exhaustTemperature: degrees,
    inletPressure: pressure,
    chargePressure: pressure,
    chargeTemperature: degrees,
    exhaustPressure: pressure,
    superchargerSpeed: by('rpm', 1, 0),
    airTemperature: degrees,
    barometer: pressure,
    humidity: by('%', 1, 0),
    gear: by('', 1, 0),
  };
};

/** Least height of a chart as a share of its values, so that a channel at rest is drawn flat, not as noise. */
const LEAST_SHARE = 0.04;

export function drawnChannels(data: TestChannels, units: Units): Drawn[] {
  const pulls = data.pulls.filter((pull) => !pull.excluded);
  return (Object.entries(shown(units)) as [Quantity, As][]).flatMap(([quantity, { unit, digits, of }]) => {
    const series = pulls.flatMap(({ label, arm, channels }) => {
      const channel = channels[quantity];
      return channel ? [{ label, arm, values: channel.values.map((v) => (v === null ? null : of(v))) }] : [];
    });
    const all = series.flatMap((s) => s.values).filter((v): v is number => v !== null);
    if (all.length === 0) return [];
    const [least, most] = [Math.min(...all), Math.max(...all)];
    const pad = Math.max(0.06 * (most - least), (LEAST_SHARE * Math.max(Math.abs(most), 1)) / 2);
    const name = quantity === 'lambda' ? 'lambda' : QUANTITY_NAMES[quantity];
    return [
      {
        quantity,
        scale: of(1) - of(0),
        of,
        name,
        unit,
        digits,
        low: least - pad,
        high: most + pad,
        pulls: series,
      },
    ];
  });
}

/** Mean of each arm at one grid point; `null` where none of its pulls has a value there. */
export function armMeans({ pulls }: Drawn, at: number): Map<string, number | null> {
  const means = new Map<string, number | null>();
  for (const arm of new Set(pulls.map((p) => p.arm))) {
    const values = pulls.flatMap((p) => (p.arm === arm && p.values[at] != null ? [p.values[at]] : []));
    means.set(arm, values.length > 0 ? values.reduce((a, b) => a + b, 0) / values.length : null);
  }
  return means;
}
