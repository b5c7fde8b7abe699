import clsx from 'clsx';
import { Download } from 'lucide-react';
import { useEffect, useRef, type RefObject } from 'react';
import { useLocation } from 'react-router';
import type { Pull } from '../../contract/capture/capture.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { bytes, number, rpm, useUnits } from '../base/format.ts';
import { Button } from '../base/ui.tsx';
import { PullStatus, RepeatButton, RestoreButton } from './pull-actions.tsx';
import { ReadAs } from './read-as.tsx';

/** What the analysis shows of a pull. */
interface PullResult {
  readonly factor: number;
  readonly peakPower: { readonly kw: number; readonly rpm: number } | null;
  readonly peakTorque: { readonly nm: number; readonly rpm: number } | null;
}
/** What the person may do with a pull. */
export interface PullDeeds {
  readonly mayCapture: boolean;
  readonly mayExclude: boolean;
  readonly mayRepeat: boolean;
  readonly onAttach: (pull: Pull) => void;
  readonly onReread: (pull: Pull) => void;
  readonly onLog: (pull: Pull) => void;
  readonly onLeaveOut: (pull: Pull) => void;
}

/** Every pull in order; warm-ups of a run as one line. */
export function PullsTable({
  detail,
  results,
  deeds,
}: {
  detail: TestDetail;
  results: ReadonlyMap<string, PullResult>;
  deeds: PullDeeds;
}) {
  const { pulls } = detail;
  const armLabel = (key: string): string => detail.arms.find((a) => a.key === key)?.label ?? key;
  return (
    <div className="overflow-x-auto">
      <table className="ledger">
        <thead>
          <tr>
            <th>Pull</th>
            <th>Arm</th>
            <th>File</th>
            <th>Sweep</th>
            <th className="num">Factor</th>
            <th className="num">Peak power</th>
            <th className="num">Peak torque</th>
            <th className="pl-4!">Status</th>
            <th>
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {pulls.map((pull, i) =>
            pull.counted ? (
              <PullRow
                key={pull.id}
                pull={pull}
                arm={armLabel(pull.arm)}
                result={results.get(pull.label)}
                testId={detail.summary.id}
                repeated={pulls.some((p) => p.repeats === pull.label)}
                deeds={deeds}
              />
            ) : (
              beginsWarmUps(pulls, i) && (
                <WarmUps
                  key={pull.id}
                  pull={pull}
                  arm={armLabel(pull.arm)}
                  count={pulls.filter((p) => p.run === pull.run && !p.counted).length}
                />
              )
            ),
          )}
        </tbody>
      </table>
    </div>
  );
}
const beginsWarmUps = (pulls: readonly Pull[], i: number): boolean =>
  i === 0 || pulls[i - 1].run !== pulls[i].run || pulls[i - 1].counted;

function WarmUps({ pull, arm, count }: { pull: Pull; arm: string; count: number }) {
  return (
    <tr>
      <td className="whitespace-nowrap text-soft">w × {count}</td>
      <td className="text-soft">{arm}</td>
      <td colSpan={7} className="text-[12.5px] text-soft">
        warm-up pulls of run {pull.run}, mounting {pull.mount}: run, recorded on the run sheet, never counted
      </td>
    </tr>
  );
}

/** A row that the address names is brought into sight, and marked. */
function useNamedRow(label: string): { row: RefObject<HTMLTableRowElement | null>; isNamed: boolean } {
  const row = useRef<HTMLTableRowElement>(null);
  const { hash } = useLocation();
  const isNamed = hash === `#${encodeURIComponent(label)}`;
  useEffect(() => {
    if (isNamed) row.current?.scrollIntoView({ block: 'center' });
  }, [isNamed]);
  return { row, isNamed };
}

function PullRow({
  pull,
  arm,
  result,
  testId,
  repeated,
  deeds,
}: {
  pull: Pull;
  arm: string;
  result: PullResult | undefined;
  testId: string;
  repeated: boolean;
  deeds: PullDeeds;
}) {
  const units = useUnits();
  const { power, torque } = units;
  const { row, isNamed } = useNamedRow(pull.label);
  return (
    <tr
      ref={row}
      id={pull.label}
      aria-current={isNamed || undefined}
      className={clsx(pull.excluded && 'text-soft', isNamed && 'bg-faint')}
    >
      <td className="font-semibold">
        {pull.label}
        {pull.repeats && <div className="text-[12px] font-normal text-soft">repeats {pull.repeats}</div>}
      </td>
      <td>{arm}</td>
      <td>
        <FileCell pull={pull} testId={testId} onReread={deeds.mayCapture ? deeds.onReread : undefined} />
      </td>
      <td className="text-[12.5px]">
        {pull.file && `${number(pull.file.found.sweep.fromRpm, 0)} to ${rpm(pull.file.found.sweep.toRpm)}`}
      </td>
      <td className="num">{result && number(result.factor, 4)}</td>
      <td className="num">
        {result?.peakPower && (
          <Peak value={power.of(result.peakPower.kw)} unit={power.unit} at={result.peakPower.rpm} />
        )}
      </td>
      <td className="num">
        {result?.peakTorque && (
          <Peak value={torque.of(result.peakTorque.nm)} unit={torque.unit} at={result.peakTorque.rpm} />
        )}
      </td>
      <td className="pl-4!">
        <PullStatus pull={pull} />
      </td>
      <td className="num">
        <Deeds pull={pull} testId={testId} repeated={repeated} deeds={deeds} />
      </td>
    </tr>
  );
}

function Peak({ value, unit, at }: { value: number; unit: string; at: number }) {
  return (
    <>
      {number(value)} {unit}
      <div className="text-[12px] text-soft">{rpm(at)}</div>
    </>
  );
}

function FileCell({
  pull,
  testId,
  onReread,
}: {
  pull: Pull;
  testId: string;
  onReread: ((pull: Pull) => void) | undefined;
}) {
  if (!pull.file) return <span className="text-soft">not captured</span>;
  const { name, size, sha256, found } = pull.file;
  return (
    <>
      <a href={`/api/tests/${testId}/pulls/${pull.id}/file`} className="inline-flex items-center gap-1">
        {name}
        <Download size={12} aria-label="download the raw file" />
      </a>
      <div className="text-[12px] text-soft" title={`SHA-256 ${sha256}`}>
        {bytes(size)} · {number(found.samples, 0)} samples · {sha256.slice(0, 10)}…
      </div>
      {pull.log && (
        <div className="text-[12px] text-soft">
          <a href={`/api/tests/${testId}/pulls/${pull.id}/log/file`}>log: {pull.log.name}</a>, shifted by{' '}
          {number(pull.log.offsetS, 2)} s
          {pull.log.byClock && <span className="text-ask"> (by the clocks)</span>}
          {pull.log.foundOffsetS === null && <span className="text-ask"> (meets it nowhere)</span>}
        </div>
      )}
      <ReadAs pull={pull} onChange={onReread && (() => onReread(pull))} />
    </>
  );
}

function Deeds({
  pull,
  testId,
  repeated,
  deeds,
}: {
  pull: Pull;
  testId: string;
  repeated: boolean;
  deeds: PullDeeds;
}) {
  return (
    <span className="inline-flex gap-1">
      {deeds.mayCapture && (
        <Button small kind="quiet" onClick={() => deeds.onAttach(pull)}>
          {pull.file ? 'Replace' : 'Attach'}
          <span className="sr-only"> file of {pull.label}</span>
        </Button>
      )}
      {deeds.mayCapture && pull.file && (
        <Button small kind="quiet" onClick={() => deeds.onLog(pull)}>
          {pull.log ? 'Log' : 'Add log'}
          <span className="sr-only"> of {pull.label}</span>
        </Button>
      )}
      {deeds.mayExclude && !pull.excluded && (
        <Button small kind="quiet" onClick={() => deeds.onLeaveOut(pull)}>
          Exclude<span className="sr-only"> {pull.label}</span>
        </Button>
      )}
      {deeds.mayExclude && pull.excluded && <RestoreButton testId={testId} pull={pull} />}
      {deeds.mayRepeat && pull.excluded && !repeated && <RepeatButton testId={testId} pull={pull} />}
    </span>
  );
}
