import { useStartSlopesQuery } from './api.ts';
import { Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { number } from '../base/format.ts';
import { SENSOR_NAMES, slopeText, whyNot } from './slope-words.ts';

/** What results of this dyno follow of the temperatures that pulls start from, and why it may be used or not. */
export function StartSlopes({ dynoId }: { dynoId: string }) {
  const { data, error, refetch } = useStartSlopesQuery({ dynoId });
  return (
    <section aria-labelledby="start-slopes">
      <h2 id="start-slopes" className="mb-1">
        Start temperatures
      </h2>
      <p className="mb-2 max-w-prose text-[12.5px] text-soft">
        How results of past tests follow what their pulls started from, within runs and with the drift over a
        run taken out. A registered slope brings arms that started unequally warm to one temperature.
      </p>
      {error ? (
        <ProblemNote error={error} again={() => void refetch()} />
      ) : !data ? (
        <Loading what="the slopes" />
      ) : data.slopes.length === 0 ? (
        <p className="text-soft">No test of this dyno is finished yet.</p>
      ) : (
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Slopes of start temperatures">
          <table className="ledger">
            <thead>
              <tr>
                <th>Engines</th>
                <th>Start temperature</th>
                <th className="num">Slope</th>
                <th className="num">Explains</th>
                <th className="num">Sessions</th>
                <th>Registered</th>
              </tr>
            </thead>
            <tbody>
              {data.slopes.map((s, i) => (
                <tr key={`${s.subject} ${s.sensor}`}>
                  <td>{s.subject === data.slopes[i - 1]?.subject ? '' : s.subject}</td>
                  <td>{SENSOR_NAMES[s.sensor]}</td>
                  <td className="num">{slopeText(s)}</td>
                  <td className="num">{s.explains === null ? '–' : `${number(100 * s.explains, 0)} %`}</td>
                  <td className="num" title={s.tests.length > 0 ? `Tests ${s.tests.join(', ')}` : undefined}>
                    {s.sessions}
                  </td>
                  <td>
                    {s.registered ? (
                      <Mark tone="stands">registered</Mark>
                    ) : (
                      <span className="text-soft">no: {whyNot(s)}</span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
