import { expect, it } from 'vitest';
import type { ContrastResult, Corroboration, LogEvidence } from '../compare/result.ts';
import { mechanismTold } from './mechanism.ts';

const row = (
  of: LogEvidence['of'],
  unit: LogEvidence['unit'],
  change: Partial<LogEvidence> = {},
): LogEvidence => ({
  of,
  unit,
  change: { gain: -6.24, lower: -7.01, upper: -5.4 },
  direct: true,
  says: 'supports',
  ...change,
});
const told = (mechanism: Corroboration['mechanism'], rows: LogEvidence[], gain = 2.4): string[] =>
  mechanismTold({
    log: { mechanism, power: { gain: 2.6, lower: 2, upper: 3 }, rows },
    relative: { bandAverage: { gain, lower: 1, upper: 4 } },
  } as unknown as ContrastResult);
const FLOW = row('airflow', '%', { direct: false, change: { gain: 2.9, lower: 2.2, upper: 3.6 } });

it('tells what the part acts upon where it was measured, with its limits, and leaves the rest', () => {
  const lines = told('measured', [
    row('charge temperature', 'K'),
    FLOW,
    row('back-pressure', 'hPa', { says: 'open' }),
  ]);
  expect(lines).toEqual([
    'Mechanism, measured: with the part charge temperature −6.2 K (−7.0 to −5.4), mean over the range, as logged in the same pulls',
  ]);
});
it('tells the flows where the log is only consistent, and that the part itself is not shown', () => {
  const [line] = told('consistent with the log', [FLOW, row('manifold pressure', 'hPa', { says: 'open' })]);
  expect(line).toContain('airflow changed as the power did, within 3 percentage points');
  // No number of the log stands beside a claim that may be smaller.
  expect(line).not.toMatch(/[+−]\d|%/);
  expect(line).toContain('is not shown');
  expect(line).not.toContain('manifold');
});
it('tells no hypothesis, no reason for what is no gain, and nothing without a log', () => {
  expect(told('hypothesis', [FLOW])).toEqual([]);
  expect(told('measured', [row('charge temperature', 'K')], -0.4)).toEqual([]);
  expect(told('consistent with the log', [row('airflow', '%', { direct: false, says: 'against' })])).toEqual(
    [],
  );
  expect(
    mechanismTold({ log: null, relative: { bandAverage: { gain: 3 } } } as unknown as ContrastResult),
  ).toEqual([]);
});
