import { type PullFound } from '../../contract/capture/capture.ts';
import { type PullFile } from '../../core/capture/pull-file-types.ts';
import { latestMoment } from '../../core/capture/recorded.ts';
import { doubtsIn } from '../../core/capture/doubts/doubts-in.ts';
import { findSweep } from '../../core/capture/sweep.ts';

export const headerKey = (file: PullFile): string =>
  file.columns.map((column) => column.header).join('\u241f');

/** What the file says of when it was recorded, as it is kept beside it. */
export function recordedIn(file: PullFile, timeZone: string) {
  const { recorded } = file;
  return recorded
    ? { recordedText: recorded.text, recordedBy: new Date(latestMoment(recorded, timeZone)) }
    : {};
}

export function foundIn(file: PullFile): PullFound {
  const sweep = findSweep({ timeS: file.channels.time, rpm: file.rpm, throttlePct: file.channels.throttle });
  return {
    encoding: file.encoding,
    delimiter: file.delimiter,
    decimal: file.decimal,
    lineEnd: file.lineEnd,
    headerLine: file.headerLine,
    samples: file.samples,
    torqueFrom: file.torqueFrom,
    recorded: file.recorded?.text ?? null,
    columns: file.columns.map(({ header, quantity, unit, unitFrom }) => ({
      header,
      quantity,
      unit,
      unitFrom,
    })),
    sweep: {
      fromRpm: sweep.fromRpm,
      toRpm: sweep.toRpm,
      beganRpm: sweep.beganRpm,
      samples: sweep.indices.length,
      rampRpmPerS: Number.isFinite(sweep.rampRpmPerS) ? sweep.rampRpmPerS : null,
    },
    findings: [
      ...file.findings.map(({ code, message, line }) => ({ code, message, line })),
      ...doubtsIn(file, sweep).map(({ code, message, line }) => ({ code, message, line })),
      ...(sweep.secondRiseRpm > 0.4 * (sweep.toRpm - sweep.beganRpm)
        ? [
            {
              code: 'SECOND_RISE',
              message: `The engine speed rises a second time, by ${Math.round(sweep.secondRiseRpm)} rpm; the longest rise is used.`,
            },
          ]
        : []),
    ],
  };
}
