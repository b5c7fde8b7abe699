import type { Claim, ClaimState, PublicClaim } from '../../contract/publish/claim.ts';
import { roundDownTo, roundUpTo, SHOWN_STEP } from '../../core/base/rounding.ts';
import { DISPLAY_UNITS } from '../../core/base/units.ts';
import { day, signed, useUnits } from '../base/format.ts';
import { Mark } from '../base/ui.tsx';
import { Glyph } from '../compare/glyph.tsx';

const STATE_TONE: Record<ClaimState, 'stands' | 'ask' | 'loss' | 'soft'> = {
  draft: 'soft',
  'in review': 'ask',
  returned: 'ask',
  published: 'stands',
  'in question': 'ask',
  stale: 'loss',
  withdrawn: 'loss',
};
export const ClaimMark = ({ state }: { state: ClaimState }) => <Mark tone={STATE_TONE[state]}>{state}</Mark>;

/** The claimed number in the unit of whoever reads it, towards less; the claim itself stays in the unit it was made in. */
export function InReadersUnit({
  claim,
}: {
  claim: Pick<PublicClaim, 'value' | 'unit' | 'tells' | 'says' | 'interval'>;
}) {
  const units = useUnits();
  if (claim.unit === '%' || claim.tells !== 'gain') return null;
  const kind = claim.unit === 'N·m' || claim.unit === 'lb·ft' ? units.torque : units.power;
  if (kind.unit === claim.unit) return null;
  const inSi = (value: number): number =>
    claim.unit === 'N·m' || claim.unit === 'lb·ft'
      ? value / DISPLAY_UNITS.torque[claim.unit]
      : value / 1000 / DISPLAY_UNITS.power[claim.unit as 'kW' | 'hp' | 'PS'];
  const least = (value: number): string => signed(roundDownTo(kind.of(inSi(value)), SHOWN_STEP));
  const most = (value: number): string => signed(roundUpTo(kind.of(inSi(value)), SHOWN_STEP));
  const { interval } = claim;
  // A mean never stands without its range.
  const range =
    claim.says === 'mean with range' && interval
      ? ` (${least(interval.lower)} to ${most(interval.upper)} ${kind.unit})`
      : '';
  return (
    <p className="text-[12.5px] text-soft">
      {least(claim.value)} {kind.unit}
      {range}, turned into your unit from the claim’s {claim.unit}
    </p>
  );
}

/** A claim with its ribbon: wording, what it holds for, what is told with it. */
export function ClaimCard({ claim, state }: { claim: Claim | PublicClaim; state?: boolean }) {
  return (
    <article className="grid grid-cols-[112px_1fr] items-start gap-5 border border-rule bg-sheet px-5 py-4">
      <Glyph glyph={claim.glyph} />
      <div className="min-w-0">
        <div className="flex flex-wrap items-baseline justify-between gap-x-4">
          <span className="font-semibold">{claim.subject}</span>
          <span className="flex gap-2">
            {claim.tells === 'advice' && <Mark tone="soft">advice</Mark>}
            {(state || claim.state === 'in question') && <ClaimMark state={claim.state} />}
          </span>
        </div>
        <p className="font-display text-[18px] font-semibold leading-snug">{claim.wording}</p>
        <InReadersUnit claim={claim} />
        {claim.disclosures.map((d) => (
          <p key={d} className="mt-1 text-loss">
            ▼ {d}
          </p>
        ))}
        <p className="mt-1 text-[12.5px] text-soft">
          {claim.conditions[1]} · evidence grade {claim.grade}
          {claim.publishedAt && ` · published ${day(claim.publishedAt)}`}
        </p>
        {claim.staleReason && (claim.state === 'stale' || claim.state === 'withdrawn') && (
          <p className="mt-1 text-[12.5px] text-loss">
            {claim.state === 'stale' ? 'Stale' : 'Withdrawn'}: {claim.staleReason}
          </p>
        )}
      </div>
    </article>
  );
}
