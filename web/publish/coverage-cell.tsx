/** What the coverage grid is drawn of: its cells, the names of its rows, and how many cells are in each state. */
import clsx from 'clsx';
import { Link } from 'react-router';
import type { CoverageCell, CoverageRow } from '../../contract/publish/coverage.ts';
import { EVIDENCE_STATES, type EvidenceState } from '../../core/register/worth-testing.ts';
import { number } from '../base/format.ts';
import { Glyph } from '../compare/glyph.tsx';

export const STATES: Record<EvidenceState, { mark: string; short: string; tone: string }> = {
  untested: { mark: '·', short: 'untested', tone: 'text-soft' },
  planned: { mark: '○', short: 'planned', tone: 'text-ink' },
  capturing: { mark: '◔', short: 'capturing', tone: 'text-ink' },
  'in combination': { mark: '◒', short: 'combined', tone: 'text-soft' },
  measured: { mark: '◑', short: 'measured', tone: 'text-ink' },
  'no gain shown': { mark: '▬', short: 'no gain', tone: 'text-soft' },
  'claim drafted': { mark: '◕', short: 'drafted', tone: 'text-ask' },
  stale: { mark: '▽', short: 'stale', tone: 'text-ask' },
  published: { mark: '●', short: 'published', tone: 'text-stands' },
};

export function StateChoice({
  state,
  counts,
  onState,
}: {
  state: EvidenceState | '';
  counts: Readonly<Record<string, number>>;
  onState: (state: string) => void;
}) {
  return (
    <div
      role="group"
      aria-label="Show cells that are"
      className="mb-1 flex flex-wrap gap-x-4 gap-y-1 text-[12.5px]"
    >
      {EVIDENCE_STATES.map((s) => (
        <button
          key={s}
          type="button"
          aria-pressed={state === s}
          onClick={() => onState(state === s ? '' : s)}
          className={clsx('min-h-6 rounded px-1.5', state === s ? 'bg-ink text-on-ink' : 'hover:bg-faint')}
        >
          <span aria-hidden className={clsx('mr-1', state !== s && STATES[s].tone)}>
            {STATES[s].mark}
          </span>
          {s} <span className={state === s ? '' : 'text-soft'}>{number(counts[s] ?? 0, 0)}</span>
        </button>
      ))}
    </div>
  );
}

export function RowName({
  row: r,
  families,
  first,
}: {
  row: CoverageRow;
  families: boolean;
  /** Of those that one test serves. */
  first: boolean;
}) {
  return (
    <div className="flex items-center gap-2">
      {families && (
        <span className={clsx('w-14 shrink-0 text-[12px]', first ? 'font-semibold' : 'text-soft')}>
          {r.family} {r.group === null ? '' : String.fromCharCode(64 + r.group)}
        </span>
      )}
      <Link
        to={`/register/fitments/${r.id}`}
        className="block truncate no-underline hover:underline"
        title={r.name}
      >
        {r.name}
        <span
          className="block truncate text-[11.5px] text-soft"
          title={families ? `output ${r.outputVariant}` : undefined}
        >
          {families ? `output ${r.outputVariant}` : `${number(r.unitsPerYear, 0)} sold a year`}
        </span>
      </Link>
    </div>
  );
}

interface CellProps {
  readonly cell: CoverageCell;
  readonly row: CoverageRow;
  readonly part: string;
  readonly dim: boolean;
  readonly mayPlan: boolean;
}
/** A cell leads to its test, or to the plan of one. */
export function Cell({ cell, row, part, dim, mayPlan }: CellProps) {
  const { mark, tone } = STATES[cell.state];
  const label = labelOf(cell, row, part);
  const faded = dim && 'opacity-25';
  const whole = 'grid h-full w-full place-items-center no-underline hover:bg-faint';
  if (cell.testId)
    return (
      <Link
        to={`/tests/${cell.testId}`}
        aria-label={label}
        title={label}
        className={clsx('relative', whole, faded)}
      >
        <Inside cell={cell} />
        {cell.glyph && (
          <span aria-hidden className={clsx('absolute right-0.5 top-0 text-[10px]', tone)}>
            {mark}
          </span>
        )}
      </Link>
    );
  if (!mayPlan)
    return (
      <span role="img" aria-label={label} title={label} className={clsx(faded)}>
        <Inside cell={cell} />
      </span>
    );
  return (
    <Link
      to={`/tests/new?fitment=${row.id}&part=${cell.partId}`}
      aria-label={`${label}. Plan a test`}
      title={`${label}. Plan a test`}
      className={clsx(whole, faded)}
    >
      <Inside cell={cell} />
    </Link>
  );
}

function labelOf(cell: CoverageCell, row: CoverageRow, part: string): string {
  const tests = (cell.tests ?? 0) > 1 ? `, ${cell.tests} tests` : '';
  const sibling = cell.familyServed && cell.state === 'untested' ? ', a sibling has been measured' : '';
  const before = cell.legacy ? ', a figure from before is registered' : '';
  return `${part} on ${row.name}: ${cell.state}${tests}${sibling}${before}`;
}

function Inside({ cell }: { cell: CoverageCell }) {
  if (cell.glyph) return <Glyph glyph={cell.glyph} width={66} height={30} />;
  const { mark, short, tone } = STATES[cell.state];
  if (cell.legacy && cell.state === 'untested')
    return (
      <span className="grid justify-items-center text-[15px] leading-none text-ask">
        <span aria-hidden>¶</span>
        <span aria-hidden className="mt-0.5 text-[10.5px]">
          old figure
        </span>
      </span>
    );
  return (
    <span className={clsx('grid justify-items-center text-[15px] leading-none', tone)}>
      <span aria-hidden>{cell.state === 'untested' && cell.familyServed ? '⋯' : mark}</span>
      {cell.state !== 'untested' && (
        <span aria-hidden className="mt-0.5 text-[10.5px]">
          {short}
        </span>
      )}
    </span>
  );
}
