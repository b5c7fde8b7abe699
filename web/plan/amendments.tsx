import type { AmendmentShown } from '../../contract/plan/amendment.ts';
import { dayTime } from '../base/format.ts';
import { FIELD_NAMES } from './amend-words.ts';

/** What was changed after the lock, by whom and why. */
export function Amendments({
  testId,
  amendments,
}: {
  testId: string;
  amendments: readonly AmendmentShown[];
}) {
  return (
    <section aria-labelledby="amendments">
      <h2 id="amendments" className="mb-1">
        Amendments
      </h2>
      <ol className="border-t-[1.5px] border-ink">
        {amendments.map((a) => (
          <li key={a.number} className="border-b border-rule py-2">
            <b>Amendment {a.number}</b>{' '}
            <span className="text-soft">
              {dayTime(a.at)}, {a.person} ·{' '}
              <a href={`/api/tests/${testId}/plan-versions/${a.number + 1}`}>
                version {a.number + 1} of the plan
              </a>
            </span>
            <ul>
              {a.changes.map((c) => (
                <li key={c.field}>
                  {FIELD_NAMES[c.field] ?? c.field}: <s className="text-soft">{c.from}</s> {c.to}
                </li>
              ))}
            </ul>
            <p className="font-display">{a.reason}</p>
          </li>
        ))}
      </ol>
    </section>
  );
}
