import { Link } from 'react-router';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import { compareApi, useGainsByUseQuery } from './api.ts';
import { number } from '../base/format.ts';
import { Computing } from '../base/computing.tsx';
import { ProblemNote } from '../base/ui.tsx';

/** The gain averaged for the ways a car is used; looked at, never claimed. */
export function ByUse({ testId, arm }: { testId: string; arm: string }) {
  const { currentData, error, refetch } = useGainsByUseQuery(testId);
  const uses = currentData?.arms.find((a) => a.arm === arm)?.uses;
  return (
    <section aria-label="Gain by use" className="mt-4 pb-4">
      <h2>Gain by use</h2>
      <p className="mt-1 max-w-prose text-soft">
        Averaged with the weight each use gives an engine speed (<Link to="/register/uses">the uses</Link>),
        with its limits, each line for itself. No plan names a use, so none of it can be claimed.
      </p>
      <ProblemNote error={error} again={() => void refetch()} />
      {!currentData && !error && (
        <Computing
          what="the gains by use"
          path={`/tests/${testId}/uses`}
          running={compareApi.util.getRunningQueryThunk('gainsByUse', testId)}
        />
      )}
      {currentData && uses && (
        <table className="ledger mt-2">
          <thead>
            <tr>
              <th>Use</th>
              <th className="num">Gain</th>
              <th className="num">Limits</th>
              <th className="num">Weight within the range compared</th>
            </tr>
          </thead>
          <tbody>
            {currentData.profiles.map(({ id, name, version }, i) => (
              <tr key={id}>
                <td>
                  {name} <span className="text-[12.5px] text-soft">version {version}</span>
                </td>
                {uses[i].gain ? (
                  <>
                    <td className="num font-semibold">{signedGain(uses[i].gain.gain)} %</td>
                    <td className="num">
                      {signedGain(uses[i].gain.lower)} to {signedUpper(uses[i].gain.upper)} %
                    </td>
                  </>
                ) : (
                  <td className="num text-soft" colSpan={2}>
                    too little of it was measured
                  </td>
                )}
                <td className="num">{number(100 * uses[i].covered, 0)} %</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
