import { toast } from 'sonner';
import type { OwnHistoryShown } from '../../contract/register/own-history.ts';
import type { DynoDetail } from '../../contract/register/register.ts';
import type { KnownVariance, Repeatability as Known } from '../../core/register/repeatability.ts';
import { DAY_RULE } from '../../core/register/day-variance.ts';
import { ConfirmButton } from '../base/confirm.tsx';
import { number } from '../base/format.ts';
import { ProblemNote } from '../base/ui.tsx';
import { useChangeDynoMutation, useOwnHistoryQuery } from './api.ts';
import { inputOf, SOURCES } from './dyno-form.tsx';

type Dyno = DynoDetail['dyno'];
type Own = NonNullable<OwnHistoryShown['history']>;
const ownOf = (own: Own | null, key: keyof Known): KnownVariance | undefined =>
  own && (key === 'curve' || key === 'bandAverage' || key === 'peak') ? own[key] : undefined;
const sd = ({ variance }: KnownVariance): string => `${number(Math.sqrt(variance), 2)} %`;

/** How far pulls scatter on a dyno: as it is registered, and as its own finished tests show it. */
export function Repeatability({ dyno: d, mayManage }: { dyno: Dyno; mayManage: boolean }) {
  const { data } = useOwnHistoryQuery(d.id);
  return (
    <section aria-labelledby="repeatability">
      <h2 id="repeatability" className="mb-2">
        Repeatability
      </h2>
      <ScatterTable dyno={d} own={data?.history ?? null} />
      {data && <BetweenDays days={data.days} />}
      {data && <FromTests dyno={d} seen={data} mayManage={mayManage} />}
    </section>
  );
}

export function ScatterTable({ dyno: d, own }: { dyno: Dyno; own: Own | null }) {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Scatter by source">
      <table className="ledger max-w-[640px]">
        <thead>
          <tr>
            <th>Source</th>
            <th className="num">Registered SD</th>
            <th className="num">Degrees of freedom</th>
            <th className="num">By its own tests (degrees of freedom)</th>
          </tr>
        </thead>
        <tbody>
          {SOURCES.map(([key, name, what]) => {
            const known = d.repeatability[key];
            const seen = ownOf(own, key);
            return (
              <tr key={key}>
                <td>
                  {name}
                  <span className="block text-[12px] text-soft">{what}</span>
                </td>
                <td className="num">
                  {known ? sd(known) : <span className="text-soft">not registered</span>}
                </td>
                <td className="num">{known ? number(known.df, 1) : ''}</td>
                <td className="num">{seen ? `${sd(seen)} (${number(seen.df, 1)})` : ''}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** How far gains differ from day to day, by the tests that were repeated; or what is taken until then. */
export function BetweenDays({ days }: { days: OwnHistoryShown['days'] }) {
  return (
    <p className="mt-2 max-w-prose text-[12.5px] text-soft" aria-label="Gains from day to day">
      {daysText(days)}
    </p>
  );
}
function daysText(days: OwnHistoryShown['days']): string {
  const policy = number(Math.sqrt(DAY_RULE.policy.variance), 1);
  if (days === null)
    return `No part was measured more than once on one car: gains are taken to differ by ${policy} % from day to day.`;
  const { registered, repeats, variance, df } = days;
  const tests = `tests ${days.tests.map((t) => t.join(' and ')).join('; ')}`;
  return registered
    ? `Gains differ by ${number(Math.sqrt(variance), 2)} % from day to day, by ${repeats} repeated sessions ` +
        `(${number(df, 1)} degrees of freedom): ${tests}. A part’s own repeats never serve for itself.`
    : `${repeats} repeated ${repeats === 1 ? 'session' : 'sessions'} (${tests}); from ${DAY_RULE.repeats} on the ` +
        `difference from day to day is registered. Until then it is taken as ${policy} %.`;
}

/** What the tests show, and a way to register it: the next tests are held against it, never those it came from. */
function FromTests({ dyno, seen, mayManage }: { dyno: Dyno; seen: OwnHistoryShown; mayManage: boolean }) {
  const [change, { error, isLoading }] = useChangeDynoMutation();
  const { history, tests } = seen;
  if (!history)
    return (
      <p className="mt-2 text-[12.5px] text-soft">
        {tests.length === 0 ? 'No finished test' : `${tests.length} finished tests`} of this dyno: four with
        twenty degrees of freedom between them tell its scatter.
      </p>
    );
  const register = async (): Promise<void> => {
    const { curve, bandAverage, peak } = history;
    const record = { ...inputOf(dyno), repeatability: { ...dyno.repeatability, curve, bandAverage, peak } };
    if (!('error' in (await change({ id: dyno.id, version: dyno.version, record }))))
      toast.success('Registered, for tests from now on.');
  };
  return (
    <div className="mt-2 grid justify-items-start gap-2 text-[12.5px] text-soft">
      <p>
        From tests {tests.join(', ')}: scatter of {history.sessions} sessions about the means of their runs,{' '}
        {history.dfTotal} degrees of freedom, of which ten count. It serves the gate “repeatability”, the
        planner and the flyer flag; a test is held against what was registered at its first pull, never
        against itself.
      </p>
      {mayManage && (
        <ConfirmButton
          small
          disabled={isLoading}
          title="Register what its own tests show?"
          follows="The three variances of pulls are replaced; what was registered before stays in the dyno’s history."
          verb="Register"
          onConfirm={() => void register()}
        >
          Register what its own tests show
        </ConfirmButton>
      )}
      <ProblemNote error={error} />
    </div>
  );
}
