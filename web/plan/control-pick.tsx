import { Link } from 'react-router';
import { CHECK_WITHIN_HOURS } from '../../core/plan/one-way.ts';
import { Select } from '../base/select.tsx';
import { Field } from '../base/ui.tsx';
import { useControlQuery } from '../register/control-api.ts';
import type { PlanView } from './plan-view.ts';

/** Which control vehicle stands in for the return, where the part cannot come off again. */
export function ControlPick({ view }: { view: PlanView }) {
  const { draft, set, dyno, errorAt } = view;
  const { data } = useControlQuery(draft.dynoId, { skip: !draft.dynoId });
  if (!dyno)
    return <p className="mt-2 text-soft">Choose a dyno: its control vehicle stands in for the return.</p>;
  const choices = data?.vehicles.filter((v) => !v.replaced && v.vehicleId !== draft.vehicleId) ?? [];
  const { mount, day } = dyno.repeatability;
  return (
    <div className="mt-3 grid gap-2">
      <Field
        label="Control vehicle"
        error={errorAt('controlId')}
        hint={`Measured before and after each arm, within ${CHECK_WITHIN_HOURS} hours, and entered on the page of the dyno.`}
      >
        <Select value={draft.controlId ?? ''} onChange={(e) => set({ controlId: e.target.value || null })}>
          <option value="">choose one</option>
          {choices.map((v) => (
            <option key={v.id} value={v.id}>
              {v.tag}
            </option>
          ))}
        </Select>
      </Field>
      {data && choices.length === 0 && (
        <p className="text-ask">
          {dyno.name} has no control vehicle.{' '}
          <Link className="underline" to={`/register/dynos/${dyno.id}`}>
            Name one on its page.
          </Link>
        </p>
      )}
      {(!mount || !day) && (
        <p className="text-ask">
          The variance of {[!mount && 'mountings', !day && 'days'].filter(Boolean).join(' and of ')} is not
          registered for {dyno.name}: without it nothing can be claimed from this plan.
        </p>
      )}
    </div>
  );
}
