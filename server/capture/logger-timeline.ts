/** What a logger said in the last seconds, each reading with its moment by our clock. */
import type { DeviceMessage } from '../../contract/capture/device-protocol.ts';

type Sample = Extract<DeviceMessage, { type: 'sample' }>;
export interface LoggerTimeline {
  /**
   * @param received moment it came, ms @param clockOff by how much the logger's clock is ahead of ours, ms
   * @returns moment it was read, ms: by its own clock where it says so, else when it came
   */
  add(sample: Sample, line: string, received: number, clockOff: number): number;
  /** Readings from a moment on. */
  since(from: number): { n: number; line: string }[];
}
const KEPT_MS = 10_000;

export function loggerTimeline(): LoggerTimeline {
  let kept: { at: number; n: number; line: string }[] = [];
  return {
    add(sample, line, received, clockOff) {
      const at = sample.clock === undefined ? received : Date.parse(sample.clock) - clockOff;
      kept.push({ at, n: sample.n, line });
      if (kept.length > 500 && kept[0].at < at - KEPT_MS) kept = kept.filter((k) => k.at >= at - KEPT_MS);
      return at;
    },
    since: (from) => kept.filter((k) => k.at >= from).sort((a, b) => a.n - b.n),
  };
}
