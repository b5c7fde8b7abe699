import type { ClaimDetail } from '../../contract/publish/claim.ts';
import { Told } from '../base/told.tsx';

const MOST_SHOWN = 240;
/** What was written about it and does not agree with what was measured, before anybody vouches for it. */
export function FiguresInWords({ figures }: { figures: ClaimDetail['figures'] }) {
  if (figures.length === 0) return null;
  return (
    <section className="mt-4 border-l-4 border-ask bg-sheet px-4 py-3">
      <h2>Figures written about it that do not agree</h2>
      <p className="text-soft">
        The claim says what was measured; these words stand beside it and are read too.
      </p>
      <ul className="mt-2 grid gap-2">
        {figures.map(({ place, text, message }) => (
          <li key={place + text + message}>
            ◐ <Told>{message}</Told>
            <div className="text-[12.5px] text-soft">
              In {place}: “{text.length > MOST_SHOWN ? `${text.slice(0, MOST_SHOWN)}…` : text}”
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
