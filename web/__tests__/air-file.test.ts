import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { ScenarioSchema } from '../../bench/capture/scenario.ts';
import { simulateSession } from '../../bench/judge/simulate.ts';
import './rendered.tsx';
import { typedNumber } from '../../core/base/typed-number.ts';
import { AIR_COLUMNS } from '../correct/air-columns.ts';
import { pastedRows } from '../correct/air-paste.ts';

const scenario = ScenarioSchema.parse(
  JSON.parse(readFileSync('demo/scenarios/oriel-tern-manifold.json', 'utf8')),
);

it('the air.csv of the simulated bench finds its pulls by name, warm-ups left out, units with the numbers', () => {
  const session = simulateSession(scenario);
  const { text } = session.files.find(({ path }) => path === 'air.csv')!;
  const counted = session.test.pulls.filter((pull) => pull.counted);
  const read = pastedRows(
    text,
    0,
    0,
    counted.map(({ id }) => id),
  )!;
  expect(read).toHaveLength(3 * counted.length);
  const UNITS = { temperature: '°C', pressure: 'hPa', humidity: '%' } as const;
  counted.forEach(({ air }, row) => {
    const [temperature, pressure, humidity] = AIR_COLUMNS.map((column) => {
      const cell = read.find((c) => c.row === row && c.column === column)!.text;
      const typed = typedNumber(cell, [{ names: [UNITS[column]] }]);
      return typed.is === 'number' ? typed.value : NaN;
    });
    expect([temperature, pressure]).toEqual([air!.temperatureC, air!.pressureHpa]);
    expect(humidity).toBeGreaterThan(0);
  });
});
