import clsx from 'clsx';
import { runSheet } from '../../core/plan/protocols.ts';
import type { TestDetail } from '../../contract/overview.ts';
import type { Draft } from './draft.ts';

interface StripPull {
  readonly id: string;
  readonly label: string;
  readonly run: number;
  readonly arm: string;
  readonly mount: number;
  readonly counted: boolean;
  readonly state: 'planned' | 'captured' | 'excluded';
  readonly added: boolean;
}

/** Pulls in session order: warm-ups dashed, counted numbered, runs named by their arm; a gap where the car is strapped down anew. */
function Strip({ pulls, armLabel }: { pulls: readonly StripPull[]; armLabel: (key: string) => string }) {
  const runs = [...new Set(pulls.map((p) => p.run))];
  return (
    <ol aria-label="Run sheet" className="flex flex-wrap gap-y-2">
      {runs.map((run, i) => {
        const own = pulls.filter((p) => p.run === run);
        const remounted = i > 0 && own[0].mount !== pulls.find((p) => p.run === runs[i - 1])!.mount;
        return (
          <li key={run} className={clsx('pr-4', remounted && 'border-l-2 border-dotted border-ask pl-4')}>
            <ol className="flex gap-1.5">
              {own.map((pull) => (
                <li
                  key={pull.id}
                  title={
                    `${pull.label}: ${armLabel(pull.arm)}, ` +
                    `${pull.counted ? pull.state : 'warm-up, not counted'}${pull.added ? ', added by amendment' : ''}`
                  }
                  className={clsx(
                    'grid size-8 place-items-center rounded border-[1.5px] font-semibold',
                    !pull.counted
                      ? 'border-dashed border-soft text-soft'
                      : pull.state === 'captured'
                        ? 'border-stands bg-stands text-on-ink'
                        : pull.state === 'excluded'
                          ? 'border-loss text-loss line-through'
                          : 'border-ink',
                  )}
                >
                  {pull.counted ? pull.label.slice(1) : 'w'}
                </li>
              ))}
            </ol>
            <span className="block max-w-56 break-words text-[12px] text-soft">
              {armLabel(own[0].arm)}
              {remounted && <span className="text-ask"> · strapped anew</span>}
              {own[0].added && <span className="text-ask"> · amended in</span>}
            </span>
          </li>
        );
      })}
    </ol>
  );
}

export const RunStrip = ({ draft }: { draft: Draft }) => (
  <Strip
    armLabel={(key) => draft.arms.find((a) => a.key === key)?.label ?? key}
    pulls={
      Number.isFinite(draft.pullsPerRun) && Number.isFinite(draft.warmUps)
        ? runSheet(
            draft.order,
            Math.min(12, draft.pullsPerRun),
            Math.min(8, draft.warmUps),
            draft.remount,
          ).map((p) => ({ ...p, id: p.label, state: 'planned', added: false }))
        : []
    }
  />
);
export const TestStrip = ({ detail, planned }: { detail: TestDetail; planned: number }) => (
  <Strip
    armLabel={(key) => detail.arms.find((a) => a.key === key)?.label ?? key}
    pulls={detail.pulls.map((p) => ({
      ...p,
      state: p.excluded ? 'excluded' : p.file ? 'captured' : 'planned',
      added: p.run > planned,
    }))}
  />
);
