import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readPullFile } from './pull-file.ts';
import { pieceText, splitLog } from './split-log.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const SOURCE = { name: 'day.csv', sha256: 'ab'.repeat(32) };

/** A session in one log: idle, pull, idle … each pull with its own torque, 40 samples a second. */
function longLog(
  torques: readonly number[],
  { header = 'Time (s),Engine speed (rpm),Torque (Nm),Throttle (%)', comma = false } = {},
) {
  const rows: string[] = [];
  let t = 0;
  const row = (rpm: number, torque: number, throttle: number): void => {
    const cells = [t.toFixed(3), rpm.toFixed(1), torque.toFixed(2), throttle.toFixed(0)];
    rows.push(comma ? cells.map((c) => c.replace('.', ',')).join(';') : cells.join(','));
    t += 1 / 40;
  };
  for (const torque of torques) {
    for (let k = 0; k < 120; k++) row(1800 + 3 * Math.sin(k), 20, 15);
    for (let k = 0; k < 400; k++) row(1800 + 11 * k, torque + Math.sin(k / 30), 100);
    for (let k = 0; k < 80; k++) row(6200 - 40 * k, -15, 0);
  }
  return `# Operator: invented\n${header}\n${rows.join('\n')}\n`;
}

describe('one long log with several pulls', () => {
  it('is split into each of them, and each piece is read as that pull', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 90, max: 400 }), { minLength: 2, maxLength: 9 }), (torques) => {
        const log = bytes(longLog(torques));
        const split = splitLog(log);
        expect(split.pieces).toHaveLength(torques.length);
        split.pieces.forEach((piece, k) => {
          const file = readPullFile(bytes(pieceText(log, split, piece, SOURCE)));
          expect(Math.max(...file.torqueNm)).toBeGreaterThan(torques[k] - 1.5);
          expect(Math.max(...file.torqueNm)).toBeLessThan(torques[k] + 1.5);
          expect(file.rpm[0]).toBeLessThan(1900);
          expect(Math.max(...file.rpm)).toBeCloseTo(6200, 0);
          expect(file.metadata['Part of']).toContain(SOURCE.sha256);
          expect(file.metadata.Operator).toBe('invented');
        });
        // No line stands in two pieces.
        for (let k = 1; k < split.pieces.length; k++)
          expect(split.pieces[k].fromLine).toBeGreaterThan(split.pieces[k - 1].toLine);
      }),
      { numRuns: 25 },
    );
  });
  it('is split by engine speed alone where only the engine was logged', () => {
    const log = longLog([150, 160, 170], {
      header: 'Time (s),Engine speed (rpm),Air flow (g/s),Throttle (%)',
    });
    expect(() => splitLog(bytes(log))).toThrow(/torque/);
    const split = splitLog(bytes(log), { torque: 'optional' });
    expect(split.hasTorque).toBe(false);
    expect(split.pieces).toHaveLength(3);
    expect(splitLog(bytes(longLog([150, 160])), { torque: 'optional' }).hasTorque).toBe(true);
  });
  it('keeps decimal commas and units as they stand', () => {
    const log = bytes(
      longLog([150, 160], { header: 'Zeit (s);Drehzahl (1/min);Drehmoment (Nm);Gaspedal (%)', comma: true }),
    );
    const split = splitLog(log);
    const text = pieceText(log, split, split.pieces[1], SOURCE);
    expect(readPullFile(bytes(text)).decimal).toBe(',');
    // Every line of the piece is a line of the log.
    const lines = new Set(new TextDecoder().decode(log).split('\n'));
    for (const line of text.split('\n').slice(1)) expect(lines.has(line)).toBe(true);
  });
  it('works without time and without throttle', () => {
    const log = longLog([150, 160, 170])
      .split('\n')
      .map((line) => (line.startsWith('#') || line === '' ? line : line.split(',').slice(1, 3).join(',')))
      .join('\n');
    expect(splitLog(bytes(log)).pieces).toHaveLength(3);
  });
  it('of one pull is refused, with what to do', () =>
    expect(() => splitLog(bytes(longLog([150])))).toThrow(/Only one pull is in this log.*Attach it/));
});
