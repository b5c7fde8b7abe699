import type { Contrast } from '../../core/compare/result.ts';
import { SHORTCUT_RATES, type Shortcut } from '../../core/compare/shortcut-rates.ts';
import { signedGain } from '../../core/base/rounding.ts';

const NAMES: readonly (readonly [Shortcut, string])[] = [
  ['bestAgainstBest', 'best pull against best'],
  ['lastAgainstFirst', 'last against first'],
  ['largestOverlayDifference', 'largest overlay difference'],
];

/** What the shortcuts would have said, with how often each finds as much of a part that does nothing. */
export function Shortcuts({ contrast: { shortcuts } }: { contrast: Contrast }) {
  return (
    <section aria-label="Shortcuts" className="mt-3 text-[12.5px]">
      <h3>Shortcuts would have said</h3>
      <table className="mt-1 w-full">
        <thead>
          <tr className="text-right align-bottom text-soft">
            <td />
            <td />
            <th scope="col" className="pl-2 font-normal">
              ≥ 1 %
            </th>
            <th scope="col" className="pl-2 font-normal">
              ≥ 2 %
            </th>
          </tr>
        </thead>
        <tbody>
          {NAMES.map(([key, name]) => {
            const { oneMounting, remounted } = SHORTCUT_RATES[key];
            return (
              <tr key={key} className="border-t border-rule align-baseline">
                <th scope="row" className="py-0.5 text-left font-normal text-soft">
                  {name}
                </th>
                <td className="whitespace-nowrap text-right font-semibold">{signedGain(shortcuts[key])} %</td>
                <td className="whitespace-nowrap pl-2 text-right text-soft">
                  {oneMounting.one} · {remounted.one}
                </td>
                <td className="whitespace-nowrap pl-2 text-right text-soft">
                  {oneMounting.two} · {remounted.two}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-1 text-soft">
        On the right: in how many of 100 tests of a part that does nothing each finds 1 and 2 % (on one
        mounting · re-mounted, three pulls an arm).
      </p>
    </section>
  );
}
