import clsx from 'clsx';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { useOutletContext } from 'react-router';
import { toast } from 'sonner';
import { CAPTURE } from '../../contract/base/roles.ts';
import type { AirRequest, Pull } from '../../contract/capture/capture.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { STANDARD_NAMES, STANDARDS } from '../../core/base/standards.ts';
import { problemOf, useSessionQuery } from '../base/api.ts';
import { useAnalysisQuery, useSetAirMutation } from '../base/endpoints.ts';
import { number, useUnits } from '../base/format.ts';
import { Button, Field, Mark, ProblemNote, Select } from '../base/ui.tsx';

const COLUMNS = ['temperature', 'pressure', 'humidity'] as const;
type Column = (typeof COLUMNS)[number];
type Draft = Record<string, Partial<Record<Column, string>>>;
const HUMIDITY_NAMES = { relative: 'relative, %', 'dew point': 'dew point', 'wet bulb': 'wet bulb' } as const;

/** Reads what a person typed: decimal point or comma. */
const typed = (text: string): number => (text.trim() === '' ? NaN : Number(text.trim().replace(',', '.')));

/** Air of every pull: the reading, the dry pressure, the factor, and what each standard would say. */
export function AirPage() {
  const detail = useOutletContext<TestDetail>();
  const { data: session } = useSessionQuery();
  const { data: state } = useAnalysisQuery(detail.summary.id);
  const [setAir] = useSetAirMutation();
  const units = useUnits();
  const counted = detail.pulls.filter((p) => p.counted);
  const known = counted.find((p) => p.air)?.air;
  const [draft, setDraft] = useState<Draft>({});
  const [kind, setKind] = useState<AirRequest['humidityKind']>(known?.humidityKind ?? 'relative');
  const [pressureKind, setPressureKind] = useState<AirRequest['pressureKind']>(
    known?.pressureKind ?? 'station',
  );
  const [problems, setProblems] = useState<Record<string, string>>({});
  const [saving, setSaving] = useState(false);
  const table = useRef<HTMLTableElement>(null);
  const mayEdit = session?.person && CAPTURE.includes(session.person.role);
  const standard = detail.plan.standard;

  const shown = (pull: Pull, column: Column): string => {
    const own = draft[pull.id]?.[column];
    if (own !== undefined || !pull.air) return own ?? '';
    if (column === 'temperature')
      return String(Number(units.temperature.of(pull.air.temperatureC).toFixed(2)));
    if (column === 'pressure') return String(Number(units.pressure.of(pull.air.pressureHpa).toFixed(3)));
    return String(
      Number(
        (pull.air.humidityKind === 'relative'
          ? pull.air.humidityValue
          : units.temperature.of(pull.air.humidityValue)
        ).toFixed(2),
      ),
    );
  };
  const change = (pull: Pull, column: Column, value: string): void =>
    setDraft((now) => ({ ...now, [pull.id]: { ...now[pull.id], [column]: value } }));
  /** Rows from a spreadsheet fill downwards and to the right from where they are pasted. */
  const onPaste = (event: ClipboardEvent, row: number, column: number): void => {
    const lines = event.clipboardData
      .getData('text')
      .trim()
      .split(/\r?\n/)
      .map((line) => line.split(/\t|;/).map((cell) => cell.trim()));
    if (lines.length === 1 && lines[0].length === 1) return;
    event.preventDefault();
    setDraft((now) => {
      const next = { ...now };
      lines.forEach((cells, i) =>
        cells.forEach((cell, k) => {
          const pull = counted[row + i];
          const name = COLUMNS[column + k];
          if (pull && name) next[pull.id] = { ...next[pull.id], [name]: cell };
        }),
      );
      return next;
    });
  };
  const onKey = (event: KeyboardEvent, row: number, column: number): void => {
    const to =
      event.key === 'Enter' || event.key === 'ArrowDown'
        ? row + 1
        : event.key === 'ArrowUp'
          ? row - 1
          : undefined;
    if (to === undefined) return;
    event.preventDefault();
    table.current?.querySelector<HTMLInputElement>(`[data-cell="${to}-${column}"]`)?.focus();
  };
  const changed = counted.filter((pull) => draft[pull.id]);
  const save = async (): Promise<void> => {
    setSaving(true);
    const bad: Record<string, string> = {};
    const kept: string[] = [];
    for (const pull of changed) {
      const [temperature, pressure, humidity] = COLUMNS.map((column) => typed(shown(pull, column))) as [
        number,
        number,
        number,
      ];
      if ([temperature, pressure, humidity].some(Number.isNaN)) {
        bad[pull.id] = 'Temperature, pressure and humidity must all be numbers.';
        continue;
      }
      const answer = await setAir({
        testId: detail.summary.id,
        pullId: pull.id,
        air: {
          temperatureC: units.temperature.toC(temperature),
          pressureHpa: units.pressure.toHpa(pressure),
          pressureKind,
          humidityKind: kind,
          humidityValue: kind === 'relative' ? humidity : units.temperature.toC(humidity),
        },
      });
      if ('error' in answer) bad[pull.id] = problemOf(answer.error).message;
      else kept.push(pull.id);
    }
    setDraft((now) => Object.fromEntries(Object.entries(now).filter(([id]) => !kept.includes(id))));
    setProblems(bad);
    setSaving(false);
    if (kept.length > 0) toast.success(`${kept.length} ${kept.length === 1 ? 'reading' : 'readings'} saved.`);
  };
  const factors = counted.flatMap((p) => {
    const f = state?.air[p.label]?.factors[standard];
    return typeof f === 'number' ? [{ arm: p.arm, f }] : [];
  });
  const mean = (arm: string): number => {
    const own = factors.filter((x) => x.arm === arm);
    return own.reduce((s, x) => s + x.f, 0) / own.length;
  };
  const armMeans = detail.arms.map((a) => ({ label: a.label, mean: mean(a.key) }));
  const apart = Math.max(...armMeans.map((a) => a.mean)) / Math.min(...armMeans.map((a) => a.mean)) - 1;

  return (
    <main className="grid gap-4 px-[22px] py-4">
      {mayEdit && (
        <div className="flex flex-wrap items-end gap-4">
          <Field label="Pressure is">
            <Select
              value={pressureKind}
              onChange={(e) => setPressureKind(e.target.value as AirRequest['pressureKind'])}
            >
              <option value="station">station pressure, read at the dyno</option>
              <option value="sea level">reduced to sea level (site at {detail.dyno.siteHeightM} m)</option>
            </Select>
          </Field>
          <Field label="Humidity is">
            <Select value={kind} onChange={(e) => setKind(e.target.value as AirRequest['humidityKind'])}>
              {Object.entries(HUMIDITY_NAMES).map(([id, name]) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </Select>
          </Field>
          <p className="mr-auto max-w-72 self-end text-[12.5px] text-soft">
            Read where the engine breathes. Rows copied from a spreadsheet can be pasted into the first cell.
          </p>
          <Button kind="main" disabled={changed.length === 0 || saving} onClick={() => void save()}>
            Save {changed.length || ''} {changed.length === 1 ? 'reading' : 'readings'}
          </Button>
        </div>
      )}
      <div className="overflow-x-auto">
        <table ref={table} className="ledger">
          <thead>
            <tr>
              <th>Pull</th>
              <th>Arm</th>
              <th>Temperature, {units.temperature.unit}</th>
              <th>Pressure, {units.pressure.unit}</th>
              <th>Humidity, {kind === 'relative' ? '%' : units.temperature.unit}</th>
              <th className="num">Dry pressure, {units.pressure.unit}</th>
              <th className="num">Density altitude, m</th>
              {STANDARDS.filter((s) => s !== 'none').map((s) => (
                <th key={s} className={clsx('num', s === standard && 'text-ink!')}>
                  {STANDARD_NAMES[s]}
                  {s === standard && (
                    <>
                      <br />
                      (house)
                    </>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {counted.map((pull, row) => {
              const air = state?.air[pull.label];
              return (
                <tr key={pull.id}>
                  <td className="font-semibold">{pull.label}</td>
                  <td>{detail.arms.find((a) => a.key === pull.arm)?.label ?? pull.arm}</td>
                  {COLUMNS.map((column, k) => (
                    <td key={column}>
                      {mayEdit ? (
                        <input
                          inputMode="decimal"
                          data-cell={`${row}-${k}`}
                          aria-label={`${column} of ${pull.label}`}
                          aria-invalid={problems[pull.id] !== undefined}
                          value={shown(pull, column)}
                          onChange={(e) => change(pull, column, e.target.value)}
                          onPaste={(e) => onPaste(e, row, k)}
                          onKeyDown={(e) => onKey(e, row, k)}
                          className={clsx(
                            'w-20 rounded border bg-sheet px-2 py-1 text-right aria-[invalid=true]:border-loss',
                            draft[pull.id]?.[column] !== undefined ? 'border-ask' : 'border-rule',
                          )}
                        />
                      ) : (
                        shown(pull, column)
                      )}
                    </td>
                  ))}
                  {problems[pull.id] ? (
                    <td colSpan={7}>
                      <ProblemNote message={problems[pull.id]} />
                    </td>
                  ) : (
                    <>
                      <td className="num">
                        {air && number(units.pressure.of(air.dryPressureHpa), units.pressure.digits)}
                      </td>
                      <td className="num">{air && number(air.densityAltitudeM, 0)}</td>
                      {STANDARDS.filter((s) => s !== 'none').map((s) => (
                        <td key={s} className={clsx('num', s === standard ? 'font-semibold' : 'text-soft')}>
                          {air
                            ? typeof air.factors[s] === 'number'
                              ? number(air.factors[s], 4)
                              : 'spark only'
                            : ''}
                        </td>
                      ))}
                    </>
                  )}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {factors.length > 1 && Number.isFinite(apart) && (
        <p>
          {standard === 'none'
            ? 'Not corrected for air; arms’ mean factors'
            : `Arms’ mean factors by ${STANDARD_NAMES[standard]}`}
          : {armMeans.map((a) => `${a.label} ${number(a.mean, 4)}`).join(', ')}.{' '}
          <Mark tone={apart <= 0.01 ? 'stands' : apart <= 0.02 ? 'ask' : 'loss'}>
            {number(100 * apart, 2)} % apart
          </Mark>{' '}
          <span className="text-soft">(what the arms share cancels in the gain; policy allows 1 %)</span>
        </p>
      )}
    </main>
  );
}
