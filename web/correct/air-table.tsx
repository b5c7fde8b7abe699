import clsx from 'clsx';
import { useRef, type KeyboardEvent } from 'react';
import type { AirShown } from '../../contract/correct/air.ts';
import type { Pull } from '../../contract/capture/capture.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { STANDARD_NAMES, STANDARDS, type Standard } from '../../core/base/standards.ts';
import { dayTime, number, useUnits } from '../base/format.ts';
import { ProblemNote } from '../base/ui.tsx';
import { AIR_COLUMNS } from './air-columns.ts';
import type { AirKinds, useAirDraft } from './use-air-draft.ts';

const FACTORS = STANDARDS.filter((s) => s !== 'none');
type AirDraft = ReturnType<typeof useAirDraft>;
type Units = ReturnType<typeof useUnits>;

/** Readings of every pull, to be typed or pasted, beside what each standard makes of them. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function AirTable({
  detail,
  pulls,
  air,
  draft,
  kinds,
  units,
  mayEdit,
}: {
  detail: TestDetail;
  pulls: readonly Pull[];
  air: Readonly<Record<string, AirShown>>;
  draft: AirDraft;
  kinds: AirKinds;
  units: Units;
  mayEdit: boolean;
}) {
  const table = useRef<HTMLTableElement>(null);
  const { standard } = detail.plan;
  const onKey = (event: KeyboardEvent<HTMLInputElement>, row: number, column: number): void => {
    const [down, right] = stepOf(event.key, event.currentTarget);
    if (down === 0 && right === 0) return;
    const cell = table.current?.querySelector<HTMLInputElement>(
      `[data-cell="${row + down}-${column + right}"]`,
    );
    if (!cell) return;
    event.preventDefault();
    cell.focus();
  };
  return (
    <div tabIndex={0} role="group" aria-label="Air of each pull" className="overflow-x-auto">
      <table ref={table} className="ledger">
        <Head standard={standard} relative={kinds.humidityKind === 'relative'} units={units} />
        <tbody>
          {pulls.map((pull, row) => (
            <tr key={pull.id}>
              <td className="font-semibold">{pull.label}</td>
              <td>
                {detail.arms.find((a) => a.key === pull.arm)?.label ?? pull.arm}
                {pull.air && <AirSource air={pull.air} />}
              </td>
              {AIR_COLUMNS.map((column, k) => (
                <td key={column}>
                  {mayEdit ? (
                    <input
                      inputMode="decimal"
                      data-cell={`${row}-${k}`}
                      aria-label={`${column} of ${pull.label}`}
                      aria-invalid={draft.problems[pull.id] !== undefined}
                      value={draft.shown(pull, column)}
                      placeholder={draft.otherwise(pull, column)}
                      title={draft.otherwise(pull, column) || undefined}
                      onChange={(e) => draft.change(pull, column, e.target.value)}
                      onPaste={(e) => {
                        if (draft.paste(e.clipboardData.getData('text'), row, k)) e.preventDefault();
                      }}
                      onFocus={(e) => e.target.select()}
                      onKeyDown={(e) => onKey(e, row, k)}
                      className={clsx(
                        'w-20 rounded border bg-sheet px-2 py-1 text-right placeholder:text-soft aria-[invalid=true]:border-loss',
                        draft.isTyped(pull, column) ? 'border-ask' : 'border-line',
                      )}
                    />
                  ) : (
                    draft.shown(pull, column) || draft.otherwise(pull, column)
                  )}
                </td>
              ))}
              {draft.problems[pull.id] ? (
                <td colSpan={2 + FACTORS.length}>
                  <ProblemNote message={draft.problems[pull.id]} />
                </td>
              ) : (
                <Computed air={air[pull.label]} standard={standard} units={units} />
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Where the reading came from, and who brought it. */
const AirSource = ({ air }: { air: NonNullable<Pull['air']> }) => (
  <span
    className="block text-[12px] text-soft [overflow-wrap:anywhere]"
    title={`${air.enteredBy}, ${dayTime(air.enteredAt)}`}
  >
    {air.sourceFile ? `joined from ${air.sourceFile}` : air.source}
  </span>
);

/** Enter and the arrows lead from cell to cell; sideways from the edge of what is typed, or when all of it is chosen. */
function stepOf(key: string, { selectionStart: start, selectionEnd: end, value }: HTMLInputElement) {
  const isAll = start === 0 && end === value.length;
  if (key === 'Enter' || key === 'ArrowDown') return [1, 0] as const;
  if (key === 'ArrowUp') return [-1, 0] as const;
  if (key === 'ArrowLeft' && (isAll || end === 0)) return [0, -1] as const;
  if (key === 'ArrowRight' && (isAll || start === value.length)) return [0, 1] as const;
  return [0, 0] as const;
}

function Head({ standard, relative, units }: { standard: Standard; relative: boolean; units: Units }) {
  return (
    <thead>
      <tr>
        <th>Pull</th>
        <th>Arm</th>
        <th>Temperature, {units.temperature.unit}</th>
        <th>Pressure, {units.pressure.unit}</th>
        <th>Humidity, {relative ? '%' : units.temperature.unit}</th>
        <th className="num">Dry pressure, {units.pressure.unit}</th>
        <th className="num">Density altitude, m</th>
        {FACTORS.map((s) => (
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
  );
}

/** What follows from a reading; cells stay empty until there is one. */
function Computed({ air, standard, units }: { air: AirShown | undefined; standard: Standard; units: Units }) {
  return (
    <>
      <td className="num">{air && number(units.pressure.of(air.dryPressureHpa), units.pressure.digits)}</td>
      <td className="num">{air && number(air.densityAltitudeM, 0)}</td>
      {FACTORS.map((s) => (
        <td key={s} className={clsx('num', s === standard ? 'font-semibold' : 'text-soft')}>
          {air && (typeof air.factors[s] === 'number' ? number(air.factors[s], 4) : 'spark only')}
        </td>
      ))}
    </>
  );
}
