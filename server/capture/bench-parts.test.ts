/** Pieces of the recorder, each by itself: lines into rows, gaps, the logger’s moments, turns, and devices that lie. */
import { createServer, type Server, type Socket } from 'node:net';
import fc from 'fast-check';
import { afterEach, describe, expect, it } from 'vitest';
import { BENCH_PROTOCOL, MOST_LINE } from '../../contract/capture/device-protocol.ts';
import { inTurn } from '../base/in-turn.ts';
import { linkDevice, type DeviceLink } from './device-link.ts';
import { chunksOf } from './live-recording.ts';
import { loggerTimeline } from './logger-timeline.ts';
import { missingRanges, numbersIn, speedTorqueOf } from './recording-parts.ts';

const AT = new Date('2026-11-24T10:00:00Z');

describe('lines that wait', () => {
  it('become rows of numbers that follow each other, and every line stands in one of them, in turn', () => {
    const numbers = fc.uniqueArray(fc.nat(60), { maxLength: 40 });
    fc.assert(
      fc.property(numbers, numbers, (dyno, logger) => {
        const waiting = [
          ...dyno.map((n) => ({ device: 'dyno' as const, n, line: `d${n}` })),
          ...logger.map((n) => ({ device: 'logger' as const, n, line: `l${n}` })),
        ];
        const rows = chunksOf('r', waiting, AT);
        const back = rows.flatMap((row) =>
          row.lines.split('\n').map((line, k) => ({ device: row.device, n: row.from + k, line })),
        );
        expect(back).toEqual(waiting);
        for (const row of rows) expect(row.lines.split('\n')).toHaveLength(row.count);
      }),
    );
  });
});

describe('what is missing of a recording', () => {
  it('is what is neither kept nor lost, in stretches that do not touch', () => {
    const set = fc.uniqueArray(fc.nat(40)).map((list) => new Set(list));
    fc.assert(
      fc.property(fc.nat(40), set, set, (count, have, lost) => {
        const ranges = missingRanges(count, have, lost);
        const named = new Set(
          ranges.flatMap(({ from, to }) => Array.from({ length: to - from + 1 }, (_, k) => from + k)),
        );
        for (let n = 0; n < 45; n++) expect(named.has(n)).toBe(n < count && !have.has(n) && !lost.has(n));
        for (let k = 1; k < ranges.length; k++) expect(ranges[k].from).toBeGreaterThan(ranges[k - 1].to + 1);
      }),
    );
  });
  it('is told by the numbers of lines, of which there may be none', () => {
    expect(numbersIn(['{"n":4,"values":[]}', '{"n":9,"values":[]}'])).toEqual([4, 9]);
    expect(numbersIn(undefined)).toEqual([]);
  });
  it('is drawn by time, speed and torque, wherever a dyno has them', () => {
    const line = JSON.stringify({ type: 'sample', n: 0, values: [150.2, 12.5, 3100] });
    const channels = [
      { name: 'Drehmoment', unit: 'Nm' },
      { name: 'Zeit', unit: 's' },
      { name: 'Drehzahl', unit: '1/min' },
    ];
    expect(speedTorqueOf(channels, line)).toEqual([12.5, 3100, 150.2]);
    expect(speedTorqueOf([{ name: 'Torque', unit: 'Nm' }], line)).toEqual([null, null, 150.2]);
  });
});

describe('the moments of a logger', () => {
  const sample = (n: number, clock?: string) => ({
    type: 'sample' as const,
    n,
    values: [1],
    ...(clock ? { clock } : {}),
  });
  it('are those of its own clock, brought to ours; without one, when it was heard', () => {
    const timeline = loggerTimeline();
    // Three seconds ahead, and heard two seconds late.
    expect(timeline.add(sample(1, '2026-11-24T10:00:03.000Z'), 'a', AT.getTime() + 2000, 3000)).toBe(
      AT.getTime(),
    );
    expect(timeline.add(sample(2), 'b', AT.getTime() + 500, 3000)).toBe(AT.getTime() + 500);
    expect(timeline.since(AT.getTime() + 100)).toMatchObject([{ n: 2, line: 'b' }]);
  });
  it('of long ago are let go, and the last ten seconds are not', () => {
    const timeline = loggerTimeline();
    for (let n = 0; n < 2000; n++) timeline.add(sample(n), String(n), AT.getTime() + 50 * n, 0);
    const last = AT.getTime() + 50 * 1999;
    expect(timeline.since(last - 9900)).toHaveLength(199);
    expect(timeline.since(0).length).toBeLessThan(800);
  });
});

describe('work in turn', () => {
  it('is done in the order it was asked for, and goes on after one that failed', async () => {
    const errors: string[] = [];
    const done: number[] = [];
    const turn = inTurn((error) => errors.push(error.message));
    turn.next(async () => {
      await new Promise((resolve) => setTimeout(resolve, 20));
      done.push(1);
      turn.next(() => Promise.resolve(done.push(3)));
    });
    turn.next(() => Promise.reject(new Error('away')));
    turn.next(() => Promise.resolve(done.push(2)));
    await turn.idle();
    expect(done).toEqual([1, 2, 3]);
    expect(errors).toEqual(['away']);
  });
});

describe('a device that is not what it should be', () => {
  const ends: (() => void)[] = [];
  afterEach(() => {
    for (const end of ends.splice(0)) end();
  });
  const hello = (more: object = {}) => ({
    type: 'hello',
    protocol: BENCH_PROTOCOL,
    device: 'dyno',
    name: 'test',
    clock: AT.toISOString(),
    channels: [{ name: 'Time', unit: 's' }],
    ...more,
  });
  /** What is said of a device that greets each connection in some way; resolved once something is. */
  async function heard(greet: (socket: Socket) => void, host = '127.0.0.1'): Promise<string> {
    const server: Server = createServer((socket) => {
      socket.on('error', () => undefined);
      ends.push(() => socket.destroy());
      greet(socket);
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    ends.push(() => server.close());
    const { port } = server.address() as { port: number };
    return new Promise((resolve) => {
      const link: DeviceLink = linkDevice(
        { kind: 'dyno', host, port },
        {
          arrived: (message) => resolve(`arrived: ${message.name}`),
          left: (why) => resolve(why),
          said: (message) => resolve(`said: ${message.type}`),
        },
      );
      ends.push(() => link.close());
    });
  }
  const lines =
    (...messages: unknown[]) =>
    (socket: Socket) => {
      for (const m of messages) socket.write(typeof m === 'string' ? m : `${JSON.stringify(m)}\n`);
    };

  it('is heard when it greets as it should', async () =>
    expect(await heard(lines(hello()))).toBe('arrived: test'));
  it.each([
    [
      'says something before it says what it is',
      [{ type: 'now', clock: AT.toISOString(), values: [1] }],
      /what it is first/,
    ],
    [
      'is of another kind than registered',
      [hello({ device: 'station' })],
      /a station answers where a dyno is registered/,
    ],
    ['speaks another protocol', [hello({ protocol: 'other/1' })], /no message/],
    ['sends what is no JSON', ['hello there\n'], /no message: hello there/],
    ['sends a line without an end', ['x'.repeat(MOST_LINE + 10)], /more than/],
  ])('%s: it is cut off, and why is said', async (_, said, why) =>
    expect(await heard(lines(...said))).toMatch(why),
  );
  it.each(['8.8.8.8', '203.0.113.7'])('is never spoken to outside the house: %s', async (host) =>
    expect(await heard(() => undefined, host)).toContain('is not in the house’s own network'),
  );
});
