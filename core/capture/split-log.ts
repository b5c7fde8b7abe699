/**
 * One long log with several pulls in it: where each pull lies, and each as a file of its own, made of the very lines of
 * the log. Nothing is read anew or rounded; what a piece says is what the log says there.
 */
import { PullFileError } from '../base/errors.ts';
import { decodeText, withPlainLineEnds } from '../base/text.ts';
import { readPullFile } from './pull-file.ts';
import type { PullFile, PullFileOptions } from './pull-file-types.ts';
import { risesIn } from './sweep.ts';

/** A pull in a long log. Lines count from 1, the first and the last inclusive. */
export interface LogPiece {
  readonly fromLine: number;
  readonly toLine: number;
  readonly fromRpm: number;
  readonly toRpm: number;
  /** Time of the log at which the speed began to rise, s; null without time. */ readonly atS: number | null;
  readonly seconds: number | null;
}
export interface SplitLog {
  /** Lines above the table, with the header and a row of units. */ readonly headLines: number;
  /** Whether its pieces are pulls; else they are what the engine logged during pulls. */
  readonly hasTorque: boolean;
  readonly pieces: readonly LogPiece[];
}

/** A rise that is a pull gains at least so much, and so much of the largest rise of the log. */
const LEAST = { rpm: 800, share: 0.5 };
/** What is kept around a rise, s; in samples where the log has no time. */
const AROUND = { beforeS: 1.5, afterS: 0.8, samples: 30 };

/**
 * @param options with `torque: 'optional'` where the log may be the engine’s alone
 * @throws PullFileError where the log cannot be read, or fewer than two pulls are in it
 */
export function splitLog(bytes: Uint8Array, options: PullFileOptions = {}): SplitLog {
  const file = readPullFile(bytes, options);
  const time = file.channels.time;
  const { rises } = risesIn({ timeS: time, rpm: file.rpm, throttlePct: file.channels.throttle });
  const most = Math.max(0, ...rises.map((r) => r.gain));
  const pulls = rises.filter((r) => r.gain >= LEAST.rpm && r.gain >= LEAST.share * most);
  if (pulls.length < 2)
    throw new PullFileError(
      'NO_SWEEP',
      `${pulls.length === 1 ? 'Only one pull is' : 'No pull is'} in this log.`,
      'Attach it to its pull as it is.',
      options.file ? { file: options.file } : {},
    );
  return {
    headLines: file.unitsLine ?? file.headerLine,
    hasTorque: file.torqueNm.some(Number.isFinite),
    pieces: pulls.map(({ from, to }, k) => {
      // Two pulls share no line: what lies between them is divided in the middle.
      const first = k === 0 ? 0 : middle(pulls[k - 1].to, from) + 1;
      const last = k === pulls.length - 1 ? file.samples - 1 : middle(to, pulls[k + 1].from);
      return pieceOf(file, { from, to }, [first, last]);
    }),
  };
}
const middle = (a: number, b: number): number => Math.floor((a + b) / 2);

function pieceOf(
  file: PullFile,
  { from, to }: { from: number; to: number },
  [first, last]: readonly [number, number],
): LogPiece {
  const t = file.channels.time;
  let [a, b] = [from, to];
  if (t) {
    while (a > first && t[from] - t[a - 1] <= AROUND.beforeS) a -= 1;
    while (b < last && t[b + 1] - t[to] <= AROUND.afterS) b += 1;
  } else [a, b] = [Math.max(first, a - AROUND.samples), Math.min(last, b + AROUND.samples)];
  const lines = file.line.subarray(a, b + 1);
  return {
    fromLine: lines.reduce((m, l) => Math.min(m, l), Infinity),
    toLine: lines.reduce((m, l) => Math.max(m, l), 0),
    fromRpm: Math.round(file.rpm[from]),
    toRpm: Math.round(file.rpm[to]),
    atS: t ? t[from] : null,
    seconds: t ? t[to] - t[from] : null,
  };
}

/**
 * The file of one piece: the lines above the table, a line that says where it comes from, and its own lines.
 * @param source name and SHA-256 of the log
 */
export function pieceText(
  bytes: Uint8Array,
  { headLines }: Pick<SplitLog, 'headLines'>,
  { fromLine, toLine }: Pick<LogPiece, 'fromLine' | 'toLine'>,
  source: { readonly name: string; readonly sha256: string },
): string {
  const lines = withPlainLineEnds(decodeText(bytes).text).split('\n');
  const from = `# Part of: ${source.name.replace(/[\r\n]/g, ' ')}, lines ${fromLine} to ${toLine}, SHA-256 ${source.sha256}`;
  return [from, ...lines.slice(0, headLines), ...lines.slice(fromLine - 1, toLine), ''].join('\n');
}
