import { Button, ProblemNote } from '../base/ui.tsx';
import { asksForColumns, type Refused } from './use-sending.ts';

/** Files that were not taken, each with the reason and what to do. */
export function RefusedFiles({
  list,
  onAsk,
}: {
  list: readonly Refused[];
  onAsk: (refused: Refused) => void;
}) {
  const one = list.length === 1;
  return (
    <section aria-label="Files not taken" className="grid gap-2">
      <h2 className="text-loss">
        {list.length} {one ? 'file was' : 'files were'} not taken; nothing of {one ? 'it' : 'them'} is stored
      </h2>
      {list.map((r) => (
        <div key={r.file.name} className="flex flex-wrap items-start gap-3">
          <div className="grow">
            <ProblemNote message={`For ${r.pull.label}. ${r.problem.message}`} />
          </div>
          {asksForColumns(r) && (
            <Button small onClick={() => onAsk(r)}>
              Say which columns
            </Button>
          )}
        </div>
      ))}
    </section>
  );
}
