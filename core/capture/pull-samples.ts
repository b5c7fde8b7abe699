import { PullFileError } from '../base/errors.ts';
import { FUEL_DENSITY, type Unit, lambdaFromAfr, powerW, toInternal, torqueNm } from '../base/units.ts';
import { ENGINE_CHANNELS, QUANTITY_NAMES, type Quantity } from '../base/quantities.ts';
import { type Resolved, readingsIn, SPARSE } from './pull-columns.ts';
import { numberReader, hasOtherDecimal, looksMissing } from './numbers.ts';
import { MAX_RPM, MIN_SAMPLES } from './limits.ts';
import type { PlainTable } from './plain-table.ts';
import { oddRowsFinding, rowLengths } from './row-lengths.ts';
import type { PullFileOptions, PullFinding, PullFile } from './pull-file-types.ts';
import { isBlank, type Layout, usualLength } from './pull-layout.ts';
import type { Encoding } from '../base/text.ts';
import { recordedIn } from './recorded.ts';

/** Channels a gate looks at, beside those a result rests on. */
const JUDGED: ReadonlySet<Quantity> = new Set([...ENGINE_CHANNELS, 'time', 'rollerSpeed', 'vehicleSpeed']);

/** values[order[0]], values[order[1]], …: a plain loop, because `from` with a callback was half the time of reading a file. */
export function gather(values: Float64Array, order: Int32Array): Float64Array {
  const out = new Float64Array(order.length);
  for (let k = 0; k < order.length; k++) out[k] = values[order[k]]!;
  return out;
}
/** Torque from what the file has; torque and power both present are held against each other. */
export function torqueOf(
  channels: Partial<Record<Quantity, Float64Array>>,
  rpm: Float64Array,
  rollerUnit: Unit | null,
  options: PullFileOptions,
  findings: PullFinding[],
): { torque: Float64Array; from: PullFile['torqueFrom'] } {
  const { torque, power, rollerForce } = channels;
  if (torque && power) {
    const ratios: number[] = [];
    for (let i = 0; i < torque.length; i++)
      if (torque[i] > 0 && Number.isFinite(power[i]))
        ratios.push(Math.abs(power[i] / powerW(torque[i], rpm[i]) - 1));
    ratios.sort((a, b) => a - b);
    const middle = ratios[ratios.length >> 1] ?? 0;
    if (middle > 0.01)
      findings.push({
        code: 'POWER_TORQUE_MISMATCH',
        share: middle,
        message: `Power and torque in the file disagree by ${(100 * middle).toFixed(1)} % (P = T·ω); torque is used.`,
      });
  }
  if (torque) return { torque, from: 'torque' };
  if (power) return { torque: power.map((p, i) => torqueNm(p, rpm[i])), from: 'power' };
  const speed = channels.rollerSpeed
    ? rollerUnit?.dimension === 'rotation'
      ? options.rollerRadiusM === undefined
        ? undefined
        : channels.rollerSpeed.map((n) => (n * 2 * Math.PI * options.rollerRadiusM!) / 60)
      : channels.rollerSpeed
    : channels.vehicleSpeed;
  if (!speed) {
    throw new PullFileError(
      'NO_TORQUE_NOR_POWER',
      'Roller speed is in rpm and the radius of the roller is not known.',
      'Enter the roller radius of the dyno, or export torque or power.',
    );
  }
  return { torque: rollerForce!.map((f, i) => torqueNm(f * speed[i], rpm[i])), from: 'roller force' };
}
/** Order by time; a repeated or backward time stamp is a finding. File order where there is no time. */
export function timeOrder(
  time: Float64Array | undefined,
  n: number,
  lines: Int32Array,
  findings: PullFinding[],
): Int32Array {
  const order = new Int32Array(n);
  for (let i = 0; i < n; i++) order[i] = i;
  if (!time) return order;
  const broken: number[] = [];
  for (let i = 1; i < n; i++) if (!(time[i] > time[i - 1])) broken.push(i);
  if (broken.length === 0) return order;
  findings.push({
    code: 'TIME_NOT_RISING',
    message:
      `The time stamp repeats or goes back ${broken.length === 1 ? 'once' : `${broken.length} times`}; ` +
      `samples are used in the order of their time.`,
    line: lines[broken[0]],
  });
  return order.sort((a, b) => time[a] - time[b] || a - b);
}
/** Speeds no engine turns at: read in another unit, or with a lost decimal point. Nothing is worked out from them. */
function refuseImpossibleSpeed(
  rpm: Float64Array,
  order: Int32Array,
  lines: Int32Array,
  column: string,
): void {
  const at = rpm.findIndex((v) => Math.abs(v) > MAX_RPM);
  if (at >= 0)
    throw new PullFileError(
      'SPEED_IMPOSSIBLE',
      `Engine speed reads ${rpm[at].toPrecision(4)} rpm; no engine turns faster than ${MAX_RPM}.`,
      'Say in which unit it was logged, or put the row right at its source and export again.',
      { line: lines[order[at]], column },
    );
}
/**
 * Whether the last cell has fewer decimals than all those above it, which have the same number throughout: a program
 * that writes a fixed number of decimals. One that drops zeros at the end writes shorter numbers everywhere.
 */
export function cutInNumber(rows: readonly string[][], last: number, column: number, first: number): boolean {
  const decimals = (row: readonly string[]): number =>
    /[.,](\d*)\s*$/.exec(row[column] ?? '')?.[1]?.length ?? 0;
  const usual = decimals(rows[last - 1] ?? []);
  if (usual === 0 || decimals(rows[last]) >= usual) return false;
  for (let i = Math.max(first, last - 400); i < last; i++)
    if (!isBlank(rows[i]) && (rows[i][column] ?? '').trim() !== '' && decimals(rows[i]) !== usual)
      return false;
  return true;
}
/** A last line without an end that is shorter than the others, or stops inside a number: the file was cut off. */
export function refuseCutEnd(rows: readonly string[][], last: number, layout: Layout): void {
  const row = rows[last];
  const usual = usualLength(rows, layout, last);
  const action = 'Copy it from the logger again; if the logger lost the end, repeat the pull.';
  if (row.length < usual)
    throw new PullFileError(
      'TRUNCATED_FILE',
      `The last line stops after ${row.length} of ${usual} columns: the file was cut off.`,
      action,
      { line: last + 1, column: layout.header[row.length] ?? '' },
    );
  if (last > layout.dataRow + 3 && cutInNumber(rows, last, usual - 1, layout.dataRow))
    throw new PullFileError(
      'TRUNCATED_FILE',
      'The last number is shorter than every one above it and the line has no end: the file was cut off.',
      action,
      { line: last + 1, column: layout.header[usual - 1] ?? '' },
    );
}
/** Numbers as they are written, in the internal unit. */
function inUnit(values: Float64Array, unit: Unit | null): Float64Array {
  if (!unit) return values;
  if (unit.scale === 1 && unit.offset === 0) {
    // In place, and minus zero is zero, as multiplying and adding would leave it.
    for (let i = 0; i < values.length; i++) values[i] += 0;
    return values;
  }
  const out = new Float64Array(values.length);
  for (let i = 0; i < out.length; i++) out[i] = toInternal(values[i], unit);
  return out;
}

// eslint-disable-next-line max-lines-per-function -- one pass over the rows of a file, which may be long: nothing is walked twice
export function readSamples(
  text: string,
  encoding: Encoding,
  layout: Layout,
  rows: readonly string[][],
  columns: Resolved,
  options: PullFileOptions,
  plain?: PlainTable,
): Omit<PullFile, 'lineEnd'> {
  const { used, style } = columns;
  const parse = numberReader(style);
  const needed: readonly Quantity[] = [
    'engineSpeed',
    'torque',
    'power',
    'rollerForce',
    'rollerSpeed',
    'vehicleSpeed',
  ];
  const decisive = new Set(needed.filter((quantity) => used.has(quantity)));
  if (decisive.has('engineSpeed')) decisive.delete('vehicleSpeed');
  if (decisive.has('torque') || decisive.has('power'))
    for (const q of ['rollerForce', 'rollerSpeed', 'vehicleSpeed'] as const)
      if (!(q === 'vehicleSpeed' && !used.has('engineSpeed'))) decisive.delete(q);
  // Logged side by side at different rates, the denser one is used and the other only held against it.
  if (!plain && decisive.has('torque') && decisive.has('power')) {
    const filled = (quantity: 'torque' | 'power'): number =>
      readingsIn(rows, layout.dataRow, used.get(quantity)!.index);
    const [torque, power] = [filled('torque'), filled('power')];
    if (power < SPARSE * torque) decisive.delete('power');
    else if (torque < SPARSE * power) {
      decisive.delete('torque');
      used.delete('torque');
    }
  }
  const wanted = (quantity: Quantity): boolean =>
    options.channels !== 'needed' || decisive.has(quantity) || JUDGED.has(quantity);
  const fields = [...used]
    .filter(([quantity]) => wanted(quantity))
    .map(([quantity, column]) => ({
      quantity,
      ...column,
      decisive: decisive.has(quantity),
      values: plain ? inUnit(plain.values[column.index], column.unit) : new Float64Array(rows.length),
    }));
  const lines = plain
    ? Int32Array.from({ length: plain.count }, (_, k) => layout.dataRow + 1 + k)
    : new Int32Array(rows.length);
  const endsInLine = /[\r\n]$/.test(text);
  let lastRow = rows.length - 1;
  while (lastRow > layout.dataRow && isBlank(rows[lastRow])) lastRow -= 1;
  const { isOdd } = plain ? { isOdd: () => false } : rowLengths(rows, layout);
  let n = plain?.count ?? 0,
    bodyRows = plain?.count ?? 0,
    oddRows = 0,
    firstOdd = 0,
    dropped = 0,
    missing = 0;
  let firstText: { line: number; column: string; cell: string } | undefined;
  let otherMark: { line: number; column: string; cell: string } | undefined;
  const marks = style.thousands === '';
  for (let i = layout.dataRow; i <= lastRow && !plain; i++) {
    const row = rows[i];
    if (isBlank(row)) continue;
    bodyRows += 1;
    if (i === lastRow && !endsInLine) refuseCutEnd(rows, i, layout);
    if (isOdd(row)) {
      oddRows += 1;
      firstOdd ||= i + 1;
      continue;
    }
    let usable = true;
    let absent = false;
    for (const field of fields) {
      const cell = row[field.index] ?? '';
      const value = parse(cell);
      if (marks && !otherMark && field.decisive && hasOtherDecimal(cell, style))
        otherMark = { line: i + 1, column: field.header, cell: cell.trim() };
      if (Number.isNaN(value) && field.decisive) {
        usable = false;
        if (looksMissing(cell.trim())) absent = true;
        else firstText ??= { line: i + 1, column: field.header, cell: cell.trim() };
      }
      field.values[n] =
        Number.isNaN(value) || !field.unit ? (field.unit ? NaN : value) : toInternal(value, field.unit);
    }
    if (!usable) {
      if (absent) missing += 1;
      else dropped += 1;
      continue;
    }
    lines[n] = i + 1;
    n += 1;
  }
  if (firstText && dropped > Math.max(5, 0.01 * bodyRows)) {
    throw new PullFileError(
      'TEXT_IN_NUMBERS',
      `“${firstText.cell.slice(0, 40)}” stands where a number belongs, and ${dropped} rows in all have text like it.`,
      'Export the pull again with numbers only in this column.',
      { line: firstText.line, column: firstText.column },
    );
  }
  if (oddRows > 0) oddRowsFinding(oddRows, bodyRows, firstOdd);
  if (n < MIN_SAMPLES) {
    throw new PullFileError(
      'TOO_FEW_SAMPLES',
      `Only ${n} usable samples; a pull needs at least ${MIN_SAMPLES}.`,
      'Check that the whole pull was exported.',
      { line: layout.dataRow + 1 },
    );
  }
  const odd = oddRowsFinding(oddRows, bodyRows, firstOdd);
  const findings: PullFinding[] = odd ? [odd] : [];
  for (const { header, quantity, byName } of columns.renamed)
    findings.push({
      code: 'COLUMN_NOT_AS_NAMED',
      message:
        `“${header}” is read as ${QUANTITY_NAMES[quantity]} because somebody said so; by its name it is ` +
        `${byName ? QUANTITY_NAMES[byName] : 'not the reading itself'}.`,
      line: layout.headerRow + 1,
      column: header,
    });
  for (const { header, stated, read } of columns.overruled)
    findings.push({
      code: 'UNIT_NOT_AS_STATED',
      message: `“${header}”: the header says ${stated}, it is read in ${read} because somebody said so.`,
      line: layout.headerRow + 1,
      column: header,
    });
  for (const { header, unit, quantity } of columns.contradicted)
    findings.push({
      code: 'UNIT_OF_ANOTHER_KIND',
      message: `“${header}”: ${unit} is no unit of ${QUANTITY_NAMES[quantity]}; the name is believed, the unit is not.`,
      line: layout.headerRow + 1,
      column: header,
    });
  for (const { quantity, columns: names } of columns.several)
    findings.push({
      code: 'SEVERAL_COLUMNS',
      message:
        `${names.map((name) => `“${name}”`).join(' and ')} could each be ${QUANTITY_NAMES[quantity]}; ` +
        'none is used until somebody says which.',
      line: layout.headerRow + 1,
    });
  if (dropped > 0 && firstText)
    findings.push({
      code: 'SAMPLES_DROPPED',
      message: `${dropped} ${dropped === 1 ? 'sample' : 'samples'} left out: “${firstText.cell.slice(0, 40)}” is not a number.`,
      line: firstText.line,
      column: firstText.column,
    });
  if (otherMark)
    findings.push({
      code: 'MIXED_DECIMALS',
      message: `“${otherMark.cell}” has another decimal mark than the rest of the file; it is read as a decimal mark.`,
      line: otherMark.line,
      column: otherMark.column,
    });
  if (missing > 0)
    findings.push({
      code: 'READINGS_MISSING',
      message: `${missing} ${missing === 1 ? 'sample has' : 'samples have'} no reading in a column that is needed.`,
    });
  if (!endsInLine)
    findings.push({
      code: 'NO_FINAL_LINE_END',
      message: 'The last line has no line end; if the logger writes one, the file may have been cut.',
      line: lastRow + 1,
    });

  const order = timeOrder(fields.find((f) => f.quantity === 'time')?.values, n, lines, findings);
  const isInOrder = order.every((from, k) => from === k);
  const pick = (values: Float64Array): Float64Array =>
    isInOrder ? values.subarray(0, n) : gather(values, order);
  const channels: Partial<Record<Quantity, Float64Array>> = {};
  for (const field of fields) {
    let values = pick(field.values);
    if (field.quantity === 'lambda' && field.unit?.id === 'AFR') {
      if (!options.fuel) continue; // an air-fuel ratio says nothing until the fuel is known
      values = values.map((v) => lambdaFromAfr(v, options.fuel!));
    }
    if (field.quantity === 'fuelFlow' && field.unit?.dimension === 'massFlow') {
      if (!options.fuel) continue; // a mass is a volume once the fuel is known
      const density = FUEL_DENSITY[options.fuel];
      values = values.map((v) => v / density);
    }
    channels[field.quantity] = values;
  }
  const perSpeed = channels.vehicleSpeed && options.rpmPerKmh;
  const rpm =
    channels.engineSpeed ??
    (perSpeed ? channels.vehicleSpeed!.map((v) => v * 3.6 * perSpeed) : new Float64Array(n).fill(NaN));
  const speedHeader = (used.get('engineSpeed') ?? used.get('vehicleSpeed'))?.header ?? '';
  refuseImpossibleSpeed(rpm, order, lines, speedHeader);
  const isLog = options.torque === 'optional' && !channels.torque && !channels.power;
  const { torque, from } = isLog
    ? { torque: new Float64Array(n).fill(NaN), from: 'torque' as const }
    : torqueOf(
        channels,
        rpm,
        fields.find((f) => f.quantity === 'rollerSpeed')?.unit ?? null,
        options,
        findings,
      );
  return {
    encoding,
    delimiter: layout.delimiter,
    decimal: style.decimal,
    headerLine: layout.headerRow + 1,
    unitsLine: layout.unitsRow === null ? null : layout.unitsRow + 1,
    metadata: layout.metadata,
    columns: columns.all,
    samples: n,
    line: isInOrder ? lines.subarray(0, n) : order.map((i) => lines[i]),
    channels,
    rpm,
    torqueNm: torque,
    torqueFrom: from,
    recorded: recordedIn(
      layout.metadata,
      used.has('time') ? rows[layout.dataRow]?.[used.get('time')!.index] : undefined,
    ),
    findings,
  };
}
