import clsx from 'clsx';
import { PROTOCOL_KEYS, protocolOf } from '../../core/plan/protocols.ts';
import { ArmsEditor } from './arms-editor.tsx';
import { ControlPick } from './control-pick.tsx';
import { withOrder, withProtocol } from './draft.ts';
import { OrderEditor } from './order-editor.tsx';
import { Section } from './plan-fields.tsx';
import type { PlanView } from './plan-view.ts';
import { RunStrip } from './run-strip.tsx';
import { SeriesEditor } from './series-editor.tsx';

/** By which protocol, with what it is for and what it cannot show. */
export function ProtocolSection({ view }: { view: PlanView }) {
  const { draft, set, onChange, protocol, register, editing, errorAt } = view;
  return (
    <Section
      title="Protocol"
      note={
        <>
          <b className="text-ink">{protocol.use}</b> {protocol.cannot}
        </>
      }
    >
      <div role="radiogroup" aria-label="Protocol" className="flex flex-wrap gap-1.5">
        {PROTOCOL_KEYS.filter((key) => !editing || !protocolOf(key).series).map((key) => (
          <button
            key={key}
            type="button"
            role="radio"
            aria-checked={draft.protocol === key}
            title={`${protocolOf(key).use} ${protocolOf(key).cannot}`}
            onClick={() => onChange((d) => withProtocol(d, key))}
            className={clsx(
              'rounded border px-2.5 py-1 text-left',
              draft.protocol === key
                ? 'border-ink bg-ink text-on-ink'
                : 'border-rule bg-sheet hover:border-ink',
            )}
          >
            {/^[AB-]+$/.test(key) ? (
              <>
                <b>{key}</b>{' '}
                <span className={draft.protocol === key ? '' : 'text-soft'}>
                  {protocolOf(key).name.toLowerCase()}
                </span>
              </>
            ) : (
              protocolOf(key).name
            )}
          </button>
        ))}
      </div>
      {errorAt('protocol') && (
        <p role="alert" className="mt-2 text-loss">
          {errorAt('protocol')}
        </p>
      )}
      {protocol.oneWay && <ControlPick view={view} />}
      {protocol.series && (
        <SeriesEditor draft={draft} onChange={set} kind={protocol.series} dynos={register.dynos} />
      )}
    </Section>
  );
}

/** Arms as differences from what is on the car. */
export function ArmsSection({ view }: { view: PlanView }) {
  const { draft, onChange, known, assessed, errorAt } = view;
  return (
    <Section
      title="Arms"
      note="Each arm is built as differences from what is on the vehicle now; everything else that differs is listed at once."
    >
      {known ? (
        <ArmsEditor
          draft={draft}
          onChange={onChange}
          planning={known}
          assessment={assessed?.assessment ?? null}
          error={errorAt('arms')}
        />
      ) : (
        <p className="border border-dashed border-rule px-4 py-5 text-soft">
          {draft.vehicleId
            ? 'Reading the vehicle’s ledger …'
            : 'Choose the vehicle: its ledger says what is on it now.'}
        </p>
      )}
    </Section>
  );
}

/** In which order the runs are made. */
export function OrderSection({ view }: { view: PlanView }) {
  const { draft, onChange, errorAt } = view;
  return (
    <Section
      title="Run order"
      note="Drag a run, or take it up with the space bar and move it with the arrow keys; the order is then your own."
    >
      <OrderEditor draft={draft} onOrder={(order) => onChange((d) => withOrder(d, order))} />
      {errorAt('order') && (
        <p role="alert" className="text-loss">
          {errorAt('order')}
        </p>
      )}
      <RunStrip draft={draft} />
    </Section>
  );
}
