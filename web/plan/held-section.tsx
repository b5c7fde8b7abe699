import { LOGS, PHOTOGRAPHS } from '../../core/plan/controls.ts';
import { DateInput } from '../base/date-input.tsx';
import { RowsEditor } from '../base/rows-editor.tsx';
import { Field } from '../base/ui.tsx';
import { Checks, Num, Section } from './plan-fields.tsx';
import type { PlanView } from './plan-view.ts';

/** What is held equal, what is wanted beside the pulls, and when. */
export function HeldSection({ view }: { view: PlanView }) {
  const { draft, set, errorAt } = view;
  return (
    <Section title="Held equal, and wanted beside the pulls">
      <div className="grid gap-4 lg:grid-cols-2">
        <div role="group" aria-label="Controls">
          <p className="mb-1 font-medium">Controls with tolerances</p>
          <RowsEditor
            value={draft.controls}
            onChange={(controls) => set({ controls })}
            blank={{ quantity: '', target: null, tolerance: 1, unit: '' }}
            add="Add a control"
            fields={[
              { name: 'quantity', label: 'quantity', width: '144px' },
              { name: 'target', label: 'target', width: '70px', kind: 'number' },
              { name: 'tolerance', label: '±', width: '62px', kind: 'number' },
              { name: 'unit', label: 'unit', width: '54px' },
            ]}
          />
          {errorAt('controls') && (
            <p role="alert" className="text-[12.5px] text-loss">
              {errorAt('controls')}
            </p>
          )}
          <p className="mt-1 text-[12.5px] text-soft">Without a target: equal in both arms.</p>
        </div>
        <div className="grid content-start gap-3">
          <Checks
            legend="Photographs"
            all={PHOTOGRAPHS}
            value={draft.photographs}
            onChange={(photographs) => set({ photographs })}
          />
          <Checks legend="Logs" all={LOGS} value={draft.logs} onChange={(logs) => set({ logs })} />
        </div>
      </div>
      <div className="grid gap-4 md:grid-cols-3">
        <Field label="Not before">
          <DateInput value={draft.notBefore ?? ''} onChange={(iso) => set({ notBefore: iso || null })} />
        </Field>
        <Field label="Due" error={errorAt('due')}>
          <DateInput value={draft.due ?? ''} onChange={(iso) => set({ due: iso || null })} />
        </Field>
        <Num
          label="Priority, 0 to 9"
          value={draft.priority}
          onChange={(v) => set({ priority: v })}
          hint="higher goes first in the calendar"
        />
      </div>
    </Section>
  );
}
