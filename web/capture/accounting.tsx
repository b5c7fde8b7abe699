import { accountOf, type AccountedPull } from '../../core/capture/account.ts';

const sum = (...parts: (string | false)[]): string => parts.filter(Boolean).join(', ');

/** Accounts for every pull: planned, captured, usable, analysed, and why the rest is not. */
export function Accounting({ pulls, analysed }: { pulls: readonly AccountedPull[]; analysed: number }) {
  const { planned, warmUps, captured, toCome, lost, usable, causes } = accountOf(pulls);
  const steps = [
    ['planned', planned, `${warmUps} warm-ups beside them`],
    [
      'captured',
      captured,
      sum(toCome > 0 && `${toCome} still to come`, lost > 0 && `${lost} without a recording`) ||
        'none missing',
    ],
    ['usable', usable, causes.length > 0 ? `${captured - usable} excluded` : 'none excluded'],
    ['analysed', analysed, analysed === 0 ? 'waits for pulls and air' : 'in the result'],
  ] as const;
  return (
    <div>
      <ol aria-label="Account of the pulls" className="flex flex-wrap items-stretch gap-2">
        {steps.map(([name, count, note], i) => (
          <li key={name} className="flex items-center gap-2">
            {i > 0 && (
              <span aria-hidden className="text-soft">
                →
              </span>
            )}
            <div className="rounded-md border border-rule bg-sheet px-3 py-1.5">
              <b className="font-display text-[18px]">{count}</b> {name}
              <div className="text-[12px] text-soft">{note}</div>
            </div>
          </li>
        ))}
      </ol>
      {causes.length > 0 && (
        <p className="mt-1 text-[12.5px] text-soft">
          Left out: {causes.map(({ cause, pulls: n }) => `${cause} ${n}`).join(', ')}.
        </p>
      )}
    </div>
  );
}
