import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { alignFiles, joinLog } from './join-log.ts';
import { readPullFile } from './pull-file.ts';

/** Engine speed of one pull over its own time: idle, a ramp that bends, and down again. */
const speed = (t: number): number =>
  t < 2 ? 1800 : t < 12 ? 1800 + 430 * (t - 2) - 6 * (t - 2) ** 2 : Math.max(1500, 5500 - 900 * (t - 12));
const file = (
  head: string,
  row: (t: number) => string,
  from: number,
  to: number,
  hz: number,
  log = false,
) => {
  const rows = Array.from({ length: Math.round((to - from) * hz) }, (_, i) => row(from + i / hz));
  return readPullFile(new TextEncoder().encode(`${head}\n${rows.join('\n')}\n`), {
    ...(log ? { torque: 'optional' as const } : {}),
  });
};
const pull = file(
  'Time (s),Engine speed (rpm),Torque (N·m),Throttle (%)',
  (t) => `${t.toFixed(3)},${speed(t).toFixed(1)},${(150 + t).toFixed(2)},${t < 2 ? 15 : 100}`,
  0,
  14,
  40,
);
/** The same engine on another clock, `ahead` of the pull’s, with channels of its own. */
const logAhead = (ahead: number) =>
  file(
    'Time (s),Engine speed (rpm),Lambda,Ignition (°),Throttle (%)',
    (t) =>
      `${(t + ahead).toFixed(3)},${speed(t).toFixed(0)},${(0.8 + t / 100).toFixed(4)},${(10 + t).toFixed(3)},50`,
    -3,
    17,
    20,
    true,
  );

describe('a log that is a file of its own', () => {
  it('is read without torque, which a pull is not', () => {
    expect(logAhead(0).channels.lambda).toBeDefined();
    expect(() =>
      file('Time (s),Engine speed (rpm),Lambda', (t) => `${t},${speed(t)},0.9`, 0, 10, 20),
    ).toThrow(/torque or power/);
  });
  it('is shifted to where the engine speeds meet, by whatever its clock is off', () => {
    fc.assert(
      fc.property(fc.integer({ min: -9000, max: 9000 }), (ms) => {
        const found = alignFiles(pull, logAhead(ms / 1000))!;
        expect(found.offsetS).toBeCloseTo(-ms / 1000, 1);
        expect(found.correlation).toBeGreaterThan(0.995);
      }),
      { numRuns: 25 },
    );
  });
  it('without engine speed lies by the clocks of both files, where both say when they began', () => {
    const stamped = (from: string, offset = 0, ahead = 0, head = 'Time (s),Lambda') =>
      file(
        `# Recorded: ${from}\n${head}`,
        (t) => `${(t + ahead).toFixed(3)},${(0.8 + (t + offset) / 100).toFixed(4)}`,
        0,
        20,
        20,
        true,
      );
    const timed = { ...pull, recorded: stamped('2026-11-10T10:00:05').recorded };
    // It began 3 s earlier; whatever its own clock shows, its first sample is of that moment.
    fc.assert(
      fc.property(fc.double({ min: -50, max: 50, noNaN: true }), (ahead) => {
        const place = alignFiles(timed, stamped('2026-11-10T10:00:02', -3, ahead))!;
        expect(place.correlation).toBeNull();
        expect(place.offsetS).toBeCloseTo(-3 - ahead, 2);
      }),
      { numRuns: 25 },
    );
    const log = stamped('2026-11-10T10:00:02', -3);
    const joined = joinLog(timed, log, alignFiles(timed, log)!.offsetS);
    expect(joined.channels.lambda![300]).toBeCloseTo(0.8 + pull.channels.time![300] / 100, 3);
    // An hour later, a day without its time, or one zone and none: nothing tells.
    for (const other of ['2026-11-10T11:00:02', '2026-11-10', '2026-11-10T10:00:02+01:00'])
      expect(alignFiles(timed, stamped(other))).toBeUndefined();
    expect(alignFiles(pull, log)).toBeUndefined();
    // Of a pull engine speed is asked for as before.
    expect(() => file('Time (s),Torque (N·m)', (t) => `${t},${100 + t}`, 0, 10, 20)).toThrow(/engine speed/);
  });
  it('of another engine meets it nowhere', () => {
    const other = file(
      'Time (s),Engine speed (rpm),Lambda',
      (t) => `${t.toFixed(2)},${(3000 + 900 * Math.sin(t * 2.1)).toFixed(0)},0.9`,
      0,
      14,
      20,
      true,
    );
    expect(alignFiles(pull, other)).toBeUndefined();
  });
  it('adds what the pull lacks, at the pull’s moments, and overwrites nothing', () => {
    const joined = joinLog(pull, logAhead(4.2), -4.2);
    expect(joined.channels.throttle).toBe(pull.channels.throttle);
    expect(joined.torqueNm).toBe(pull.torqueNm);
    const t = pull.channels.time!;
    for (const i of [0, 137, 400, t.length - 1]) {
      expect(joined.channels.lambda![i]).toBeCloseTo(0.8 + t[i] / 100, 4);
      expect(joined.channels.ignitionAdvance![i]).toBeCloseTo(10 + t[i], 2);
    }
  });
  it('says nothing beyond its own samples', () => {
    const late = joinLog(pull, logAhead(0), 8);
    const { lambda } = late.channels;
    expect(pull.channels.time!.every((t, i) => Number.isNaN(lambda![i]) === t < 5)).toBe(true);
  });
});
