import { describe, expect, it } from 'vitest';
import { inUnits, text } from '../__tests__/rendered.tsx';
import type { TestDetail } from '../../contract/overview.ts';
import type { Contrast, Corroboration, LogEvidence } from '../../core/compare/result.ts';
import { LogEvidenceTable } from './log-evidence.tsx';

const interval = (gain: number, half: number) => ({ gain, lower: gain - half, upper: gain + half });
const row = (change: Partial<LogEvidence> & Pick<LogEvidence, 'of'>): LogEvidence => ({
  unit: '%',
  change: interval(4, 1),
  direct: false,
  says: 'open',
  ...change,
});
const LOG: Corroboration = {
  mechanism: 'hypothesis',
  power: interval(4, 1),
  rows: [
    row({ of: 'charge temperature', unit: 'K', change: interval(5, 1), direct: true, says: 'against' }),
    row({ of: 'airflow', toPower: interval(-0.2, 0.5), says: 'supports' }),
    row({ of: 'airflow roughness' }),
  ],
  fuelPower: { arm: { low: 80, high: 110 }, against: { low: 78, high: 107 } },
};
const curve = [2500, 6000].map((rpm) => ({ rpm, gain: 3, lower: 2, upper: 4, arm: 74, against: 71 }));
const shown = (log: Corroboration | undefined, drive: object | null = null): string => {
  const contrast = { arm: 'part', power: { curve }, relative: { curve }, log } as unknown as Contrast;
  const detail = { summary: { id: 't' }, arms: [{ key: 'part', drive }] } as unknown as TestDetail;
  return text(<LogEvidenceTable detail={detail} contrast={contrast} />);
};

describe('what the log says of a gain', () => {
  it('tells the mechanism, what speaks against it, and that a guess is no reason', () => {
    const told = shown(LOG);
    for (const words of [
      'Mechanism: hypothesis',
      'would be a guess and is not published',
      'speaks against it what this part acts upon',
      'goes with it',
      'told beside it',
      '−0.2 points −0.7 to +0.3',
    ])
      expect(told).toContain(words);
  });
  it('gives every number with its limits, in the units of the person', () => {
    expect(shown(LOG)).toContain('+5.0 °C (+4.0 to +6.0)');
    expect(inUnits({ temperature: '°F' }, () => shown(LOG))).toContain('+9.0 °F (+7.2 to +10.8)');
  });
  it('calls power from fuel an estimate and stands it beside what came off the wheels', () => {
    expect(shown(LOG)).toContain('78 to 107 kW at the crank in the baseline and 80 to 110 kW with the part');
    expect(shown({ ...LOG, fuelPower: undefined })).not.toContain('Estimate from the fuel flow');
  });
  it('says how fast the head turns, and that it can burst where its maker allows less', () => {
    expect(shown(LOG, { ratio: 2, mostRpm: 12_500 })).toMatch(
      /12.000 rpm at 6.000 rpm.*Its maker allows 12.500 rpm\./,
    );
    expect(shown(LOG, { ratio: 2.15, mostRpm: 12_500 })).toContain('It can burst');
    expect(shown(LOG, { ratio: 2, mostRpm: null })).toContain('What its maker allows is not entered.');
  });
  it('says what would change it where nothing was logged', () => {
    expect(shown(undefined)).toContain('Any reason for the gain is a hypothesis. Attach the engine’s log');
  });
});
