import { Download } from 'lucide-react';
import type { Evidence } from '../../contract/publish/claim.ts';
import { bytes, dayTime } from '../base/format.ts';
import { Told } from '../base/told.tsx';

/** Pulls of the control vehicle around the arms: they stand where a return to the baseline would. */
export function ControlFiles({
  code,
  controls,
}: {
  code: string;
  controls: NonNullable<Evidence['controls']>;
}) {
  return (
    <section aria-label="Control vehicle" className="mt-6">
      <h2>Control vehicle {controls[0].control}</h2>
      <p className="text-soft">
        A car on which nothing is changed, measured before and after each arm; its values are in test.json.
      </p>
      <ul className="mt-1 border-t border-rule">
        {controls.map(({ at, warmUps, files }) => (
          <li key={at} className="grid gap-1 border-b border-rule py-2">
            <b>
              {dayTime(at)}, after {warmUps} warm-up pulls
            </b>
            {files.map((file, i) => (
              <span key={file.sha256} className="flex flex-wrap items-center gap-x-4">
                <a
                  href={`/api/evidence/${code}/controls/${file.sha256}`}
                  title={`SHA-256 ${file.sha256}`}
                  className="inline-flex items-center gap-1 py-1"
                >
                  <Download size={12} aria-hidden />
                  pull {i + 1}: {file.name} <span className="text-soft">{bytes(file.size)}</span>
                </a>
                <span className="text-[12.5px] text-soft">
                  <Told>{file.air}</Told>
                </span>
              </span>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}
