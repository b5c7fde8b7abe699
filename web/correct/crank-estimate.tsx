import { useState } from 'react';
import { crankKw, crankProblem, crankWords, MOST_LOSSES, type CrankModel } from '../../core/correct/crank.ts';
import { number, rpm as rpmText, useUnits } from '../base/format.ts';
import { NumberInput, type NumberTyped } from '../base/number-input.tsx';
import { Select } from '../base/select.tsx';
import { Button, Field } from '../base/ui.tsx';

/** Power of one arm at the wheel over engine speed, kW. */
export interface WheelCurve {
  readonly label: string;
  readonly points: readonly { readonly rpm: number; readonly kw: number }[];
}
type Kind = CrankModel['kind'];
interface Loss {
  readonly rpm: NumberTyped;
  readonly kw: NumberTyped;
}
const NONE: Loss = { rpm: null, kw: null };
const given = (value: NumberTyped): number => (typeof value === 'number' ? value : NaN);

/** What the engine may give at the crank: an estimate, with its assumption beside every figure. Never claimed. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function CrankEstimate({ arms }: { arms: readonly WheelCurve[] }) {
  const { power } = useUnits();
  const [kind, setKind] = useState<Kind>('share');
  const [share, setShare] = useState<NumberTyped>(15);
  const [fixed, setFixed] = useState<NumberTyped>(5);
  const [losses, setLosses] = useState<readonly Loss[]>([NONE, NONE]);
  const model: CrankModel =
    kind === 'share'
      ? { kind, sharePct: given(share) }
      : kind === 'fixed plus share'
        ? { kind, sharePct: given(share), fixedKw: power.toKw(given(fixed)) }
        : {
            kind,
            losses: losses
              .filter((l) => l.rpm !== null || l.kw !== null)
              .map((l) => ({ rpm: given(l.rpm), kw: power.toKw(given(l.kw)) })),
          };
  const problem = crankProblem(model);
  const put = (at: number, loss: Loss): void => setLosses(losses.map((l, i) => (i === at ? loss : l)));
  return (
    <section aria-label="Estimate at the crank" className="mt-2 border-t border-rule pt-3">
      <h2>Estimate at the crank</h2>
      <p className="mb-2 max-w-[78ch] text-[12.5px] text-soft">
        Wheel figures are what is measured and claimed. What the driveline takes is assumed, so these figures
        are for talking, not for publishing.
      </p>
      <div className="flex flex-wrap items-end gap-3">
        <Field label="Losses">
          <Select value={kind} onChange={(e) => setKind(e.target.value as Kind)}>
            <option value="share">a constant share</option>
            <option value="fixed plus share">a fixed loss and a share</option>
            <option value="coast-down">measured while coasting down</option>
          </Select>
        </Field>
        {kind === 'fixed plus share' && (
          <Field label={`Fixed, ${power.unit}`}>
            <NumberInput value={fixed} onChange={setFixed} className="w-24" />
          </Field>
        )}
        {kind !== 'coast-down' && (
          <Field label="Share, %">
            <NumberInput value={share} onChange={setShare} className="w-24" />
          </Field>
        )}
      </div>
      {kind === 'coast-down' && (
        <ul aria-label="Losses while coasting" className="mt-2 grid gap-2">
          {losses.map((loss, i) => (
            <li key={i} className="flex items-end gap-3">
              <Field label="At, rpm">
                <NumberInput value={loss.rpm} onChange={(rpm) => put(i, { ...loss, rpm })} className="w-28" />
              </Field>
              <Field label={`Lost, ${power.unit}`}>
                <NumberInput value={loss.kw} onChange={(kw) => put(i, { ...loss, kw })} className="w-24" />
              </Field>
            </li>
          ))}
          <li>
            <Button
              small
              disabled={losses.length >= MOST_LOSSES}
              onClick={() => setLosses([...losses, NONE])}
            >
              Another engine speed
            </Button>
          </li>
        </ul>
      )}
      {problem ? (
        <p role="status" className="mt-2 text-ask">
          {problem}
        </p>
      ) : (
        <Estimates arms={arms} model={model} />
      )}
    </section>
  );
}

function Estimates({ arms, model }: { arms: readonly WheelCurve[]; model: CrankModel }) {
  const { power } = useUnits();
  const peaks = arms.map(({ label, points }) => {
    const at = points.flatMap(({ rpm, kw }) => {
      const crank = crankKw(model, kw, rpm);
      return crank === null ? [] : [{ rpm, kw, crank }];
    });
    return { label, peak: at.length > 0 ? at.reduce((a, b) => (b.crank > a.crank ? b : a)) : null };
  });
  return (
    <>
      <table className="ledger mt-3 max-w-[640px]">
        <thead>
          <tr>
            <th>Arm</th>
            <th className="num">Peak at the wheel, {power.unit}</th>
            <th className="num">Estimate at the crank, {power.unit}</th>
            <th className="num">At</th>
          </tr>
        </thead>
        <tbody>
          {peaks.map(({ label, peak }) => (
            <tr key={label}>
              <td>{label}</td>
              <td className="num">{peak ? number(power.of(peak.kw)) : '–'}</td>
              <td className="num">
                {peak ? `about ${number(power.of(peak.crank), 0)}` : 'out of what was measured'}
              </td>
              <td className="num">{peak ? rpmText(peak.rpm) : ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 max-w-[78ch] text-[12.5px] text-soft">
        {crankWords(model, (kw) => `${number(power.of(kw))} ${power.unit}`)}.
      </p>
    </>
  );
}
