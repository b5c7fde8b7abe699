import type { Theirs } from './merged.ts';
import { Button } from './ui.tsx';

const written = (value: unknown): string => {
  if (value === null || value === undefined || value === '') return 'nothing';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'object') return JSON.stringify(value).slice(0, 120);
  return typeof value === 'number' ? String(value).replace('-', '−') : (value as string);
};
/** What somebody else has changed while this form was open. */
export function OthersChanged({
  theirs,
  labelOf,
  onTake,
}: {
  theirs: readonly Theirs[];
  labelOf: (name: string) => string;
  onTake: (theirs: Theirs) => void;
}) {
  if (theirs.length === 0) return null;
  return (
    <section
      role="status"
      aria-label="Changed by somebody else"
      className="border-l-4 border-ask px-3 py-1.5"
    >
      <b className="text-ask">Somebody else has changed this record meanwhile.</b>
      <ul>
        {theirs.map((t) => (
          <li key={t.name} className="flex flex-wrap items-baseline gap-x-3">
            <span>
              {labelOf(t.name)}: {written(t.was)} → {written(t.now)}
              {t.both
                ? '; you have written something else, which is what would be saved.'
                : ', taken over here.'}
            </span>
            {t.both && (
              <Button small onClick={() => onTake(t)}>
                Take theirs
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
