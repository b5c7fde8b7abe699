import { type Pull } from '../../contract/capture/capture.ts';

/** Accounts for every pull: planned, captured, usable, analysed. */
export function Accounting({ pulls, analysed }: { pulls: readonly Pull[]; analysed: number }) {
  const counted = pulls.filter((p) => p.counted);
  const captured = counted.filter((p) => p.file);
  const excluded = captured.filter((p) => p.excluded);
  const steps = [
    ['planned', counted.length, `${pulls.length - counted.length} warm-ups beside them`],
    [
      'captured',
      captured.length,
      counted.length > captured.length ? `${counted.length - captured.length} still to come` : 'none missing',
    ],
    [
      'usable',
      captured.length - excluded.length,
      excluded.length ? `${excluded.length} excluded` : 'none excluded',
    ],
    ['analysed', analysed, analysed === 0 ? 'waits for pulls and air' : 'in the present result'],
  ] as const;
  return (
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
  );
}
