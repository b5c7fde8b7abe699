/** Readings of the air as they are being typed: what is shown, pasted, sent and refused, by pull. */
import { useState } from 'react';
import { toast } from 'sonner';
import type { AirRequest, Pull } from '../../contract/capture/capture.ts';
import { typedNumber } from '../../core/base/typed-number.ts';
import { problemOf } from '../base/api.ts';
import { useSetAirMutation } from '../base/endpoints.ts';
import type { Units } from '../base/format.ts';
import { useKept } from '../base/use-kept.ts';
import { AIR_COLUMNS, type AirColumn } from './air-columns.ts';
import { pastedRows } from './air-paste.ts';
import { between, typedUnits, unitOf } from './air-units.ts';

export interface AirKinds {
  readonly pressureKind: AirRequest['pressureKind'];
  readonly humidityKind: AirRequest['humidityKind'];
}
/** What was typed, and the unit the column was shown in then. */
export interface Cell {
  readonly text: string;
  readonly unit: string;
  /** Came by paste, not letter by letter. */ readonly pasted?: boolean;
}
type Row = Partial<Record<AirColumn, Cell>>;
type Draft = Readonly<Record<string, Row>>;

const NOTHING: Draft = {};
const nothingTyped = (draft: Draft): boolean => Object.keys(draft).length === 0;
const rounded = (value: number, digits: number): string =>
  String(Number(value.toFixed(digits))).replace('-', '−');
const DIGITS: Record<AirColumn, number> = { temperature: 2, pressure: 3, humidity: 2 };

/** A stored reading in the person's units. */
export function stored(air: NonNullable<Pull['air']>, column: AirColumn, units: Units): string {
  if (column === 'temperature') return rounded(units.temperature.of(air.temperatureC), DIGITS.temperature);
  if (column === 'pressure') return rounded(units.pressure.of(air.pressureHpa), DIGITS.pressure);
  const relative = air.humidityKind === 'relative';
  return rounded(relative ? air.humidityValue : units.temperature.of(air.humidityValue), DIGITS.humidity);
}

/** Stored readings of a column with as many decimals as the finest of them, so that they can be compared by eye. */
export function alike(texts: readonly string[]): string[] {
  const decimals = (text: string): number => text.split('.')[1]?.length ?? 0;
  const most = Math.max(0, ...texts.map(decimals));
  return texts.map((text) => {
    if (decimals(text) === most) return text;
    return `${text.includes('.') ? text : `${text}.`}${'0'.repeat(most - decimals(text))}`;
  });
}

/** A typed cell in the unit the column is shown in now: what was typed under another is turned into it, or keeps its own. */
export function cellIn(cell: Cell, column: AirColumn, { humidityKind }: AirKinds, units: Units): string {
  const now = unitOf(column, humidityKind, units);
  if (cell.unit === now) return cell.text;
  const typed = typedNumber(cell.text);
  const turned = typed.is === 'number' ? between(typed.value, cell.unit, now) : undefined;
  if (turned !== undefined) return rounded(turned, DIGITS[column]);
  // No way leads from a share to a temperature: with its unit beside it, it cannot pass for one.
  return typed.is === 'number' ? `${cell.text} ${cell.unit}` : cell.text;
}

/** Whether a stored reading is of the kind the column is in now; 10 °C of dew point must not pass for 10 % of humidity. */
export const isOfKind = (air: NonNullable<Pull['air']>, column: AirColumn, kinds: AirKinds): boolean =>
  (column !== 'humidity' || air.humidityKind === kinds.humidityKind) &&
  (column !== 'pressure' || air.pressureKind === kinds.pressureKind);

/** What was typed as a request, or what is wrong with it. */
export function requestOf(
  cells: readonly string[],
  kinds: AirKinds,
  units: Units,
): AirRequest | { why: string } {
  const read = AIR_COLUMNS.map((column, i) =>
    typedNumber(cells[i], typedUnits(column, kinds.humidityKind, units)),
  );
  const empty = AIR_COLUMNS.filter((_column, i) => read[i].is === 'empty');
  const wrong = read.find((typed) => typed.is === 'wrong');
  if (wrong?.is === 'wrong') return { why: wrong.why };
  if (empty.length > 0) return { why: `A reading has all three; ${empty.join(' and ')} is missing.` };
  const [temperature, pressure, humidity] = read.map((typed) => (typed.is === 'number' ? typed.value : NaN));
  return {
    ...kinds,
    temperatureC: units.temperature.toC(temperature),
    pressureHpa: units.pressure.toHpa(pressure),
    humidityValue: kinds.humidityKind === 'relative' ? humidity : units.temperature.toC(humidity),
  };
}

/** Cells of a draft with others over them; a row in which nothing is typed is none. */
function over(draft: Draft, cells: readonly { pull: Pull; column: AirColumn; cell: Cell }[]): Draft {
  const next: Record<string, Row> = { ...draft };
  for (const { pull, column, cell } of cells) next[pull.id] = { ...next[pull.id], [column]: cell };
  return next;
}

/** @param owner whose draft it is, so that people who share a device do not meet each other's */
// eslint-disable-next-line max-lines-per-function -- the ways one draft is changed
export function useAirDraft(
  testId: string,
  owner: string,
  pulls: readonly Pull[],
  kinds: AirKinds,
  units: Units,
) {
  const [setAir] = useSetAirMutation();
  const [draft, setDraft] = useKept<Draft>(`air:${testId}:${owner}`, NOTHING, nothingTyped);
  const [problems, setProblems] = useState<Record<string, string>>({});
  const [saving, setSaving] = useState(false);
  const changed = pulls.filter((pull) => draft[pull.id]);

  const read = pulls.filter((pull) => pull.air);
  const kept = Object.fromEntries(
    AIR_COLUMNS.map((column) => {
      const ofKind = read.filter((pull) => isOfKind(pull.air!, column, kinds));
      const texts = alike(ofKind.map((pull) => stored(pull.air!, column, units)));
      return [column, new Map(ofKind.map((pull, i) => [pull.id, texts[i]]))];
    }),
  ) as Record<AirColumn, Map<string, string>>;
  const shown = (pull: Pull, column: AirColumn): string => {
    const cell = draft[pull.id]?.[column];
    return cell ? cellIn(cell, column, kinds, units) : (kept[column].get(pull.id) ?? '');
  };
  /** A stored reading of another kind than the column is in now, with what it is; empty where there is none. */
  const otherwise = (pull: Pull, column: AirColumn): string => {
    if (!pull.air || isOfKind(pull.air, column, kinds)) return '';
    const { humidityKind, pressureKind } = pull.air;
    const what = column === 'pressure' ? pressureKind : humidityKind;
    return `${stored(pull.air, column, units)} ${unitOf(column, humidityKind, units)} ${what}`;
  };
  const cellOf = (column: AirColumn, text: string): Cell => ({
    text,
    unit: unitOf(column, kinds.humidityKind, units),
  });
  const change = (pull: Pull, column: AirColumn, text: string): void =>
    setDraft((now) => over(now, [{ pull, column, cell: cellOf(column, text) }]));
  const paste = (text: string, row: number, column: number): boolean => {
    const rows = pastedRows(
      text,
      row,
      column,
      pulls.map(({ label }) => label),
    );
    if (!rows) return false;
    setDraft((now) =>
      over(
        now,
        rows.map((cell) => ({
          pull: pulls[cell.row],
          column: cell.column,
          cell: { ...cellOf(cell.column, cell.text), pasted: true },
        })),
      ),
    );
    return true;
  };
  const isRead = (pull: Pull): boolean => AIR_COLUMNS.every((column) => shown(pull, column).trim() !== '');
  const isBare = (pull: Pull): boolean => AIR_COLUMNS.every((column) => shown(pull, column).trim() === '');
  /** Gives pulls without a reading the one of the pull before them, or all pulls that of the first. */
  const fill = (from: 'before' | 'first'): void => {
    const cells: { pull: Pull; column: AirColumn; cell: Cell }[] = [];
    let source: Pull | undefined;
    for (const pull of pulls) {
      if (isRead(pull) && (from === 'before' || !source)) source = pull;
      else if (source && (from === 'first' || isBare(pull)))
        for (const column of AIR_COLUMNS)
          cells.push({ pull, column, cell: cellOf(column, shown(source, column)) });
    }
    setDraft((now) => over(now, cells));
  };
  /** Sends one reading; what is wrong with it, or nothing. */
  const send = async (pull: Pull): Promise<string | undefined> => {
    const air = requestOf(
      AIR_COLUMNS.map((column) => shown(pull, column)),
      kinds,
      units,
    );
    if ('why' in air) return air.why;
    const source = AIR_COLUMNS.every((column) => draft[pull.id]?.[column]?.pasted) ? 'pasted' : 'typed';
    const answer = await setAir({ testId, pullId: pull.id, air: { ...air, source } });
    return 'error' in answer ? problemOf(answer.error).message : undefined;
  };
  const drop = (ids: readonly string[]): void =>
    setDraft((now) => Object.fromEntries(Object.entries(now).filter(([id]) => !ids.includes(id))));
  /** Sends what was changed; what is refused stays as typed, with the reason. */
  const save = async (): Promise<void> => {
    setSaving(true);
    const bad: Record<string, string> = {};
    for (const pull of changed) {
      const problem = await send(pull);
      if (problem) bad[pull.id] = problem;
    }
    const sent = changed.filter((pull) => !bad[pull.id]).map((pull) => pull.id);
    drop(sent);
    setProblems(bad);
    setSaving(false);
    if (sent.length > 0) toast.success(`${sent.length} ${sent.length === 1 ? 'reading' : 'readings'} saved.`);
  };
  const discard = (): void => {
    drop(changed.map(({ id }) => id));
    setProblems({});
  };
  const isTyped = (pull: Pull, column: AirColumn): boolean => draft[pull.id]?.[column] !== undefined;
  return {
    shown,
    otherwise,
    change,
    paste,
    fill,
    save,
    discard,
    saving,
    changed,
    problems,
    isTyped,
    isRead,
    isBare,
  };
}
