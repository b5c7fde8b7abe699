import { fitmentName } from '../../contract/register/register.ts';
import { Picker } from '../base/picker.tsx';
import { Select } from '../base/select.tsx';
import { Field, Textarea } from '../base/ui.tsx';
import { useFindFitments } from '../register/api.ts';
import { Section } from './plan-fields.tsx';
import type { PlanView } from './plan-view.ts';

/** What is asked, of which car, on which dyno. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function QuestionSection({ view }: { view: PlanView }) {
  const { draft, set, errorAt, fitment, vehicles, vehiclesRead, register, chooseFitment, chooseVehicle } =
    view;
  return (
    <Section title="Question">
      <Field label="What is the test to show?" error={errorAt('question')}>
        <Textarea
          rows={2}
          value={draft.question}
          onChange={(e) => set({ question: e.target.value })}
          placeholder="How much does the manifold give at the top, and what does it cost below?"
        />
      </Field>
      <div className="grid gap-4 md:grid-cols-3">
        <Field label="Fitment" error={errorAt('fitmentId')}>
          <Picker
            label="Fitment"
            placeholder="find a fitment"
            value={
              fitment && draft.fitmentId
                ? { id: fitment.fitment.id, name: fitmentName(fitment.fitment) }
                : null
            }
            useFind={useFindFitments}
            onChoose={chooseFitment}
          />
        </Field>
        <Field
          label="Vehicle"
          error={errorAt('vehicleId')}
          hint={
            !draft.fitmentId
              ? 'Choose the fitment first.'
              : vehiclesRead && vehicles.length === 0
                ? 'None is registered for it.'
                : undefined
          }
        >
          <Select
            disabled={!draft.fitmentId}
            value={draft.vehicleId}
            onChange={(e) => chooseVehicle(e.target.value)}
          >
            <option value="">choose</option>
            {vehicles.map((v) => (
              <option key={v.id} value={v.id}>
                {v.tag}
                {v.stock === 'no' ? ' (not stock)' : ''}
              </option>
            ))}
          </Select>
        </Field>
        <Field label="Dyno" error={errorAt('dynoId')}>
          <Select value={draft.dynoId} onChange={(e) => set({ dynoId: e.target.value })}>
            <option value="">choose</option>
            {register.dynos.map((d) => (
              <option key={d.id} value={d.id}>
                {d.name}, {d.kind}
              </option>
            ))}
          </Select>
        </Field>
      </div>
    </Section>
  );
}
