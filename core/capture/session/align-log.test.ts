import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readPullFile } from '../pull-file.ts';
import { alignLog } from './align-log.ts';
import { composeRecording } from './recording-file.ts';

/** Steady, a ramp that flattens a little, lift: what a pull looks like to any recorder. */
const speedAt = (t: number): number =>
  t < 1 ? 1900 : t < 12 ? 1900 + 430 * (t - 1) - 3 * (t - 1) ** 2 : Math.max(900, 6300 - 1200 * (t - 12));
const trace = (from: number, to: number, hz: number, shift: number, noise: (i: number) => number) => {
  const n = Math.floor((to - from) * hz);
  const t = Array.from({ length: n }, (_, i) => from + i / hz);
  return { t: t.map((x) => x + shift), rpm: t.map((x, i) => speedAt(x) + noise(i)) };
};

describe('two clocks on one car', () => {
  it('meet at the offset they were shifted by, whatever rate and noise each has', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -60, max: 60, noNaN: true }),
        fc.integer({ min: 8, max: 60 }),
        fc.double({ min: -3, max: 0.5, noNaN: true }),
        (shift, hz, from) => {
          const pull = trace(0, 15, 40, 0, (i) => Math.sin(i * 7.1));
          const log = trace(from, 16, hz, shift, (i) => 4 * Math.sin(i * 3.3));
          const found = alignLog(pull, log);
          expect(found?.offsetS).toBeCloseTo(-shift, 1);
          expect(found!.correlation).toBeGreaterThan(0.999);
        },
      ),
      { numRuns: 60 },
    );
  });
  it('do not meet where the log is of another engine, or too short', () => {
    const pull = trace(0, 15, 40, 0, () => 0);
    const other = { t: pull.t, rpm: pull.t.map((t) => 2000 + 900 * Math.sin(t)) };
    expect(alignLog(pull, other)).toBeUndefined();
    expect(
      alignLog(
        pull,
        trace(3, 4, 40, 0, () => 0),
      ),
    ).toBeUndefined();
  });
});

describe('a recording as a pull file', () => {
  const dyno = {
    name: 'dyno',
    channels: [
      { name: 'Time', unit: 's' },
      { name: 'Engine speed', unit: 'rpm' },
      { name: 'Torque', unit: 'N·m' },
    ],
    samples: Array.from({ length: 500 }, (_, i) => [i / 40, speedAt(i / 40), 150.25]),
  };
  const log = (shift: number) => ({
    name: 'logger',
    channels: [
      { name: 'Time', unit: 's' },
      { name: 'Engine speed', unit: 'rpm' },
      { name: 'Lambda', unit: '' },
      { name: 'Throttle', unit: '%' },
    ],
    samples: Array.from({ length: 320 }, (_, i) => [
      i / 20 - 2 + shift,
      speedAt(i / 20 - 2),
      1 - speedAt(i / 20 - 2) / 100_000,
      i === 100 ? null : 99,
    ]),
  });
  const bytes = (text: string) => new TextEncoder().encode(text);

  it('is read again as what was recorded, the log at the moments of the dyno', () => {
    const { text, alignment } = composeRecording({
      about: ['Recorded: 2026-11-24T10:00:00Z'],
      dyno,
      log: log(37.4),
    });
    expect(alignment?.offsetS).toBeCloseTo(-37.4, 1);
    const file = readPullFile(bytes(text));
    expect(file.samples).toBe(500);
    expect(file.recorded?.day).toBe('2026-11-24');
    expect([...file.rpm]).toEqual(dyno.samples.map((s) => s[1]));
    // Lambda was made from the speed: at every moment it is that of the speed then.
    const lambda = file.channels.lambda!;
    for (let i = 60; i < 440; i += 20) expect(lambda[i]).toBeCloseTo(1 - speedAt(i / 40) / 100_000, 4);
    // Beside the one reading that is missing nothing is made up.
    expect(file.channels.throttle!.filter((v) => Number.isNaN(v)).length).toBeGreaterThan(0);
  });
  it.each([0, 1, 2, 3, 5])('is read where the log comes %d samples later', (late) => {
    const first = late / 40;
    const samples = log(0).samples.filter(([t]) => (t ?? 0) >= first);
    const { text } = composeRecording({ about: [], dyno, log: { ...log(0), samples } });
    const file = readPullFile(bytes(text));
    expect(file.samples).toBe(500);
    expect(file.channels.lambda!.filter(Number.isFinite).length).toBeGreaterThan(400);
  });
  it('is written without a log that fits nowhere, and says so', () => {
    const stranger = { ...log(0), samples: log(0).samples.map(([t]) => [t, 3000, 0.9, 99]) };
    const { text, alignment } = composeRecording({ about: [], dyno, log: stranger });
    expect(alignment).toBeUndefined();
    expect(text).toContain('not joined');
    expect(readPullFile(bytes(text)).channels.lambda).toBeUndefined();
  });
});
