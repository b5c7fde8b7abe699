import { DAY_RULE } from '../../core/register/day-variance.ts';
import type { Contrast } from '../../core/compare/result.ts';
import { number } from '../base/format.ts';

/** How far a gain differs from day to day where nothing is registered, lp: per cent, to the digit shown. */
const POLICY_SD = Math.sqrt(DAY_RULE.policy.variance);

/** What one more pull, mounting or day would make of the interval of the average. */
export function WhatMoreBuys({ buys }: { buys: Contrast['buys'] }) {
  if (!buys) return null;
  const rows: readonly (readonly [string, number | null])[] = [
    ['one more counted pull in each run', buys.pull],
    ['all pulls again in new mountings', buys.mounting],
    ['all pulls again on another day', buys.day],
  ];
  return (
    <section aria-label="What more would buy" className="mt-3 text-[12.5px]">
      <h3>What more would buy</h3>
      <p className="mt-1 text-soft">
        The average stands within <b className="text-ink">±{number(buys.now, 2)} %</b>. If further pulls
        scatter like these:
      </p>
      <ul className="mt-1">
        {rows.map(([what, half]) => (
          <li key={what} className="flex justify-between gap-3 border-b border-rule py-0.5">
            <span className="text-soft">{what}</span>
            <b className="whitespace-nowrap">{half === null ? 'nothing' : `±${number(half, 2)} %`}</b>
          </li>
        ))}
      </ul>
      <p className="mt-1 text-soft">
        {buys.day > buys.now
          ? 'Another day is wider because it says more: it stands for the days between, which one session cannot. '
          : 'Another day stands for the days between, which one session cannot. '}
        {buys.dayRegistered
          ? 'By this dyno’s own days.'
          : `Days are taken to differ by ${number(POLICY_SD, 1)} %, until some are registered.`}
      </p>
    </section>
  );
}
