import type { Pull } from '../../contract/capture/capture.ts';
import { Told } from '../base/told.tsx';

const SHOWN = ['engineSpeed', 'torque', 'power', 'rollerForce'];

/** How a file was read: the columns and units the result rests on, with what was found odd in it. */
export function ReadAs({ pull, onChange }: { pull: Pull; onChange?: (() => void) | undefined }) {
  const found = pull.file!.found;
  const used = found.columns.filter((c) => c.quantity && SHOWN.includes(c.quantity));
  return (
    <div className="text-[12px] text-soft">
      <span title={used.map((c) => `${c.header}, read in ${c.unit ?? 'no unit'}`).join('; ')}>
        read in {used.map((c) => c.unit ?? 'no unit').join(', ')}
      </span>
      {onChange && (
        <>
          {' · '}
          <button type="button" className="underline hover:text-ink" onClick={onChange}>
            change<span className="sr-only"> how {pull.label} is read</span>
          </button>
        </>
      )}
      {found.findings
        .filter((f) => f.code !== 'NO_FINAL_LINE_END')
        .map((f) => (
          <div key={f.code + f.message} className="text-ask">
            ◐ <Told>{f.message}</Told>
          </div>
        ))}
    </div>
  );
}
