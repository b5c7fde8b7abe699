import clsx from 'clsx';
import { useSearchParams } from 'react-router';
import type { TestDetail } from '../../contract/overview.ts';
import { useAddress } from './address.ts';

/** The part arm that is looked at; kept in the address, so that it goes along from step to step. */
export function useArm(detail: TestDetail): string {
  const [search] = useSearchParams();
  const parts = detail.arms.filter((a) => a.role === 'part');
  return parts.find((a) => a.key === search.get('arm'))?.key ?? parts[0]?.key ?? 'part';
}

/** Chooses among the arms of a test that has several; nothing where there is one. */
export function ArmChoice({ detail }: { detail: TestDetail }) {
  const [, change] = useAddress();
  const arm = useArm(detail);
  const parts = detail.arms.filter((a) => a.role === 'part');
  if (parts.length < 2) return null;
  return (
    <div role="group" aria-label="Arm" className="mb-2 flex flex-wrap items-center gap-1.5">
      <span className="text-[12.5px] text-soft">Against the baseline:</span>
      {parts.map((a) => (
        <button
          key={a.key}
          type="button"
          aria-pressed={a.key === arm}
          onClick={() => change((now) => now.set('arm', a.key))}
          className={clsx(
            'rounded border px-2',
            a.key === arm ? 'border-ink bg-ink text-on-ink' : 'border-rule text-soft hover:text-ink',
          )}
        >
          {a.label}
        </button>
      ))}
    </div>
  );
}
