import { Link } from 'react-router';
import type { KnownVariance } from '../../core/register/repeatability.ts';

import { day, number } from '../base/format.ts';
import { buttonClass, Empty, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { useRegisterQuery } from './api.ts';
import { PageHead, useMay } from './layout.tsx';

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function DynosPage() {
  const may = useMay();
  const { data, error, refetch } = useRegisterQuery();
  return (
    <main className="px-6 py-5">
      <PageHead title="Dynos" note="With their sensors and what is known of their scatter.">
        {may.manage && (
          <Link to="/register/dynos/new" className={buttonClass('main')}>
            New dyno
          </Link>
        )}
      </PageHead>
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the dynos" />}
      {data && data.dynos.length === 0 && <Empty title="No dyno yet">Register the one you measure on.</Empty>}
      {data && data.dynos.length > 0 && (
        <div className="overflow-x-auto">
          <table className="ledger">
            <thead>
              <tr>
                <th>Dyno</th>
                <th>Site</th>
                <th>Kind</th>
                <th className="num">Pull SD</th>
                <th className="num">Mounting SD</th>
                <th className="pl-4!">Last calibrated</th>
              </tr>
            </thead>
            <tbody>
              {data.dynos.map((d) => (
                <tr key={d.id}>
                  <td>
                    <Link
                      to={`/register/dynos/${d.id}`}
                      className="font-semibold no-underline hover:underline"
                    >
                      {d.name}
                    </Link>
                  </td>
                  <td>{d.site}</td>
                  <td>
                    {d.kind}, {d.drive}
                  </td>
                  <td className="num">
                    <Sd known={d.repeatability.bandAverage} />
                  </td>
                  <td className="num">
                    <Sd known={d.repeatability.mount} />
                  </td>
                  <td className="pl-4!">
                    {d.lastCalibratedOn ? day(d.lastCalibratedOn) : <Mark tone="ask">not entered</Mark>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </main>
  );
}
const Sd = ({ known }: { known: KnownVariance | undefined }) =>
  known ? (
    <>
      {number(Math.sqrt(known.variance), 2)} %
      <span className="block text-[12px] text-soft">{number(known.df, 1)} df</span>
    </>
  ) : (
    <span className="text-soft">not registered</span>
  );
