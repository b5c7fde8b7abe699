import { Link } from 'react-router';
import type { TogetherShown } from '../../contract/compare/together.ts';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import { HOUSE } from '../../contract/base/roles.ts';
import { useSessionQuery } from '../base/api.ts';
import { useTogetherQuery } from './api.ts';
import { day, number } from '../base/format.ts';
import { ProblemNote } from '../base/ui.tsx';
import { Forest, type ForestRow } from './forest.tsx';

const SAYS: Record<NonNullable<TogetherShown['grade']>, string> = {
  single: 'One session: it speaks of this vehicle on the day it was tested.',
  repeated: 'Repeated: one vehicle on different days or dynos, with what days differ by in the limits.',
  'days disagree':
    'The days disagree by more than days are known to. The smallest of the lower limits counts, and it is no repeat.',
  'two vehicles':
    'Two vehicles: each is told for itself. Their mean has one degree of freedom and says little.',
  'not shown': 'Over these vehicles together no gain is shown: what one of them gains another may not.',
  fleet: 'Three vehicles or more, and their mean stands above zero.',
};

/** Every finished test of this part on this fitment, put together: days within a vehicle first, then the vehicles. */
export function TogetherTests({
  testId,
  arm,
  fitmentId,
}: {
  testId: string;
  arm: string;
  fitmentId: string;
}) {
  const { currentData, error, refetch } = useTogetherQuery({ testId, arm });
  const { data: session } = useSessionQuery();
  const isOfTheHouse = HOUSE.some((role) => role === session?.person?.role);
  if (error) return <ProblemNote error={error} again={() => void refetch()} />;
  if (!currentData || currentData.sessions.length === 0) return null;
  return (
    <>
      <TogetherTable shown={currentData} testId={testId} />
      {isOfTheHouse && (
        <p className="mb-6">
          <Link to={`/coverage/${fitmentId}/order`}>Order of upgrades for this fitment</Link>
        </p>
      )}
    </>
  );
}

export function TogetherTable({ shown, testId }: { shown: TogetherShown; testId: string }) {
  const { sessions, vehicles, grade, mean, another, differ } = shown;
  const left = sessions.filter((s) => s.left !== null);
  return (
    <section aria-label="All tests of this part here" className="mb-3 mt-4">
      <h2>All tests of this part on this fitment</h2>
      <p className="mt-1 max-w-prose text-soft">
        Average gain, the same change under the same standard. {grade && SAYS[grade]}
        {vehicles.some((v) => v.tests.length > 1) && <DaysTaken day={shown.day} />}
      </p>
      <Forest rows={rowsOf(shown)} />
      {mean && vehicles.length > 2 && another && (
        <p className="max-w-prose text-[12.5px] text-soft">
          Another vehicle is expected between {signedGain(another.lower)} and {signedUpper(another.upper)} %
          {vehicles.length < 5 ? ', from few vehicles' : ''}.
          {differ &&
            ` ${number(differ.share, 0)} % of the differences between the vehicles is more than chance gives ` +
              `(chance ${number(differ.chance, 2)}).`}
        </p>
      )}
      <ul className="mt-2 text-[12.5px]">
        {sessions.map((s) => (
          <li key={s.testId} className="text-soft">
            {s.testId === testId ? (
              <b className="text-ink">Test {s.number}, this one</b>
            ) : (
              <Link to={`/tests/${s.testId}/compare`}>Test {s.number}</Link>
            )}
            {`: ${s.vehicle}, ${s.dyno}${s.at ? `, ${day(s.at)}` : ''}, ${intervalOf(s.gain)}`}
            {s.left !== null && <b className="text-ask"> · not put together: {s.left}</b>}
          </li>
        ))}
      </ul>
      {left.length > 0 && (
        <p className="mt-1 max-w-prose text-[12.5px] text-soft">
          Tests are left out for how they were made, never for how they came out.
        </p>
      )}
    </section>
  );
}

const DaysTaken = ({ day: { sd, registered } }: { day: TogetherShown['day'] }) => (
  <>
    {` Days are taken to differ by ${number(sd, 1)} %, `}
    {registered ? 'as other repeated parts show.' : 'until enough repeats are registered.'}
  </>
);

const intervalOf = ({ gain, lower, upper }: ForestRow['gain']): string =>
  `${signedGain(gain)} % (${signedGain(lower)} to ${signedUpper(upper)})`;

/** A vehicle a row, its single sessions under it where there are several; the mean last. */
function rowsOf({ vehicles, sessions, mean }: TogetherShown): ForestRow[] {
  const rows = vehicles.flatMap(({ vehicle, tests, gain, disagree }): ForestRow[] => {
    const own = sessions.filter((s) => tests.includes(s.number));
    const words = tests.length > 1 ? `${vehicle}, ${tests.length} sessions` : vehicle;
    return [
      { label: disagree ? `${words}, days disagree` : words, gain, kind: 'vehicle' },
      ...(own.length > 1
        ? own.map((s): ForestRow => ({ label: `test ${s.number}`, gain: s.gain, kind: 'session' }))
        : []),
    ];
  });
  return mean ? [...rows, { label: `mean of ${vehicles.length} vehicles`, gain: mean, kind: 'mean' }] : rows;
}
