/** From the lines of devices to a pull file: delimited text like any other, so that whoever has it can read it. */
import type { Quantity } from '../../base/quantities.ts';
import { channelGuess, channelHeader, channelOf, type RecordedChannel } from './channel-meaning.ts';
import { readBetween } from './read-between.ts';
import { alignLog, type Alignment } from './align-log.ts';

/** What one device said during a recording, in the order of its samples. */
export interface DeviceRecord {
  readonly name: string;
  readonly channels: readonly RecordedChannel[];
  readonly samples: readonly (readonly (number | null)[])[];
}
export interface ToCompose {
  /** Lines of the preamble, `key: value`. */ readonly about: readonly string[];
  readonly dyno: DeviceRecord;
  readonly log?: DeviceRecord | undefined;
}
export interface Composed {
  readonly text: string;
  readonly alignment: Alignment | undefined;
}

const cell = (text: string): string => (/[",\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
const quantityOf = (channel: RecordedChannel): Quantity | undefined => channelGuess(channel).quantity;
const column = (record: DeviceRecord, index: number): Float64Array =>
  Float64Array.from(record.samples, (values) => values[index] ?? NaN);

/**
 * Writes the recording of a dyno as a pull file, with the channels of the engine’s log at the dyno’s moments. What the
 * dyno said stands as it said it; the log is shifted in time until its engine speed meets the dyno’s, and read between
 * its samples. A log that fits nowhere is left out, and the preamble says so.
 */
export function composeRecording({ about, dyno, log }: ToCompose): Composed {
  const joined = log && log.samples.length > 1 ? join(dyno, log) : undefined;
  const said = [
    ...about,
    ...(joined
      ? [
          `Engine log: ${log!.name}, shifted by ${joined.alignment.offsetS.toFixed(2)} s to meet the engine speed ` +
            `(correlation ${joined.alignment.correlation.toFixed(4)}), read between its samples`,
        ]
      : log
        ? ['Engine log: not joined, its engine speed meets that of the pull nowhere']
        : []),
  ];
  const header = [...dyno.channels, ...(joined?.channels ?? [])].map((c) => cell(channelHeader(c))).join(',');
  const rows = dyno.samples.map((values, i) =>
    [...dyno.channels.map((_, k) => values[k] ?? null), ...(joined?.rows[i] ?? [])]
      .map((v) => (v === null ? '' : String(v)))
      .join(','),
  );
  return {
    text: `${said.map((line) => `# ${line}\n`).join('')}${[header, ...rows].join('\n')}\n`,
    alignment: joined?.alignment,
  };
}

interface Joined {
  readonly alignment: Alignment;
  readonly channels: readonly RecordedChannel[];
  readonly rows: readonly (readonly (number | null)[])[];
}
const DIGITS = 4;
function join(dyno: DeviceRecord, log: DeviceRecord): Joined | undefined {
  const of = (record: DeviceRecord) => ({
    t: channelOf(record.channels, 'time'),
    rpm: channelOf(record.channels, 'engineSpeed'),
  });
  const [a, b] = [of(dyno), of(log)];
  if (a.t < 0 || a.rpm < 0 || b.t < 0 || b.rpm < 0) return undefined;
  const logT = column(log, b.t);
  const alignment = alignLog(
    { t: column(dyno, a.t), rpm: column(dyno, a.rpm) },
    { t: logT, rpm: column(log, b.rpm) },
  );
  if (!alignment) return undefined;
  const own = new Set(dyno.channels.map(quantityOf));
  const taken = log.channels.flatMap((channel, index) => {
    const quantity = quantityOf(channel);
    return index === b.t || index === b.rpm || (quantity && own.has(quantity)) ? [] : [{ channel, index }];
  });
  const shifted = logT.map((t) => t + alignment.offsetS);
  const values = taken.map(({ index }) => column(log, index));
  let from = 0;
  const rows = dyno.samples.map((sample) => {
    const at = sample[a.t] ?? NaN;
    if (!Number.isFinite(at)) return taken.map(() => null);
    while (from + 1 < shifted.length && shifted[from + 1] < at) from += 1;
    return values.map((v) => {
      const value = readBetween(shifted, v, at, from);
      return value === null ? null : Number(value.toFixed(DIGITS));
    });
  });
  return { alignment, channels: taken.map(({ channel }) => channel), rows };
}
