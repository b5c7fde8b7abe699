/** Readings of the air as they are being typed: what is shown, pasted, sent and refused, by pull. */
import { useState } from 'react';
import { toast } from 'sonner';
import type { AirRequest, Pull } from '../../contract/capture/capture.ts';
import { problemOf } from '../base/api.ts';
import { useSetAirMutation } from '../base/endpoints.ts';
import type { useUnits } from '../base/format.ts';

export const AIR_COLUMNS = ['temperature', 'pressure', 'humidity'] as const;
export type AirColumn = (typeof AIR_COLUMNS)[number];
export interface AirKinds {
  readonly pressureKind: AirRequest['pressureKind'];
  readonly humidityKind: AirRequest['humidityKind'];
}
type Units = ReturnType<typeof useUnits>;
type Draft = Record<string, Partial<Record<AirColumn, string>>>;

/** Reads what a person typed: decimal point or comma. */
const typed = (text: string): number => (text.trim() === '' ? NaN : Number(text.trim().replace(',', '.')));
const rounded = (value: number, digits: number): string => String(Number(value.toFixed(digits)));

/** A stored reading in the person's units. */
export function stored(air: NonNullable<Pull['air']>, column: AirColumn, units: Units): string {
  if (column === 'temperature') return rounded(units.temperature.of(air.temperatureC), 2);
  if (column === 'pressure') return rounded(units.pressure.of(air.pressureHpa), 3);
  const relative = air.humidityKind === 'relative';
  return rounded(relative ? air.humidityValue : units.temperature.of(air.humidityValue), 2);
}
/** What was typed as a request, or nothing when a cell is no number. */
export function requestOf(cells: readonly string[], kinds: AirKinds, units: Units): AirRequest | undefined {
  const [temperature, pressure, humidity] = cells.map(typed);
  if ([temperature, pressure, humidity].some(Number.isNaN)) return undefined;
  return {
    ...kinds,
    temperatureC: units.temperature.toC(temperature),
    pressureHpa: units.pressure.toHpa(pressure),
    humidityValue: kinds.humidityKind === 'relative' ? humidity : units.temperature.toC(humidity),
  };
}

export function useAirDraft(testId: string, pulls: readonly Pull[], kinds: AirKinds, units: Units) {
  const [setAir] = useSetAirMutation();
  const [draft, setDraft] = useState<Draft>({});
  const [problems, setProblems] = useState<Record<string, string>>({});
  const [saving, setSaving] = useState(false);
  const changed = pulls.filter((pull) => draft[pull.id]);

  const shown = (pull: Pull, column: AirColumn): string =>
    draft[pull.id]?.[column] ?? (pull.air ? stored(pull.air, column, units) : '');
  const change = (pull: Pull, column: AirColumn, value: string): void =>
    setDraft((now) => ({ ...now, [pull.id]: { ...now[pull.id], [column]: value } }));
  /** Rows from a spreadsheet fill downwards and to the right from a cell; a single value is pasted as usual. */
  const paste = (text: string, row: number, column: number): boolean => {
    const lines = text.trim().split(/\r?\n/);
    const cells = lines.map((line) => line.split(/\t|;/).map((cell) => cell.trim()));
    if (cells.length === 1 && cells[0].length === 1) return false;
    setDraft((now) => {
      const next = { ...now };
      cells.forEach((line, i) =>
        line.forEach((cell, k) => {
          const [pull, name] = [pulls[row + i], AIR_COLUMNS[column + k]];
          if (pull && name) next[pull.id] = { ...next[pull.id], [name]: cell };
        }),
      );
      return next;
    });
    return true;
  };
  /** Sends one reading; what is wrong with it, or nothing. */
  const send = async (pull: Pull): Promise<string | undefined> => {
    const cells = AIR_COLUMNS.map((column) => shown(pull, column));
    const air = requestOf(cells, kinds, units);
    if (!air) return 'Temperature, pressure and humidity must all be numbers.';
    const answer = await setAir({ testId, pullId: pull.id, air });
    return 'error' in answer ? problemOf(answer.error).message : undefined;
  };
  /** Sends what was changed; what is refused stays as typed, with the reason. */
  const save = async (): Promise<void> => {
    setSaving(true);
    const bad: Record<string, string> = {};
    for (const pull of changed) {
      const problem = await send(pull);
      if (problem) bad[pull.id] = problem;
    }
    const kept = changed.filter((pull) => !bad[pull.id]).map((pull) => pull.id);
    setDraft((now) => Object.fromEntries(Object.entries(now).filter(([id]) => !kept.includes(id))));
    setProblems(bad);
    setSaving(false);
    if (kept.length > 0) toast.success(`${kept.length} ${kept.length === 1 ? 'reading' : 'readings'} saved.`);
  };
  const isTyped = (pull: Pull, column: AirColumn): boolean => draft[pull.id]?.[column] !== undefined;
  return { shown, change, paste, save, saving, changed, problems, isTyped };
}
