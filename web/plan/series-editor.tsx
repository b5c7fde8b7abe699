import { Select } from '../base/select.tsx';
import { Button } from '../base/ui.tsx';
import { useVehiclesInfiniteQuery } from '../register/api.ts';
import { type Draft } from './draft.ts';

/** Further vehicles of a series, or further visits of the same vehicle: each makes a test of its own. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function SeriesEditor({
  draft,
  onChange,
  kind,
  dynos,
}: {
  draft: Draft;
  onChange: (change: Partial<Draft>) => void;
  kind: 'vehicles' | 'visits';
  dynos: readonly { id: string; name: string }[];
}) {
  const { data } = useVehiclesInfiniteQuery(
    { q: '', fitmentId: draft.fitmentId },
    { skip: !draft.fitmentId },
  );
  const all = data?.pages.flatMap((p) => p.items) ?? [];
  const free = all.filter((v) => v.id !== draft.vehicleId && !draft.series.some((s) => s.vehicleId === v.id));
  const set = (i: number, change: Partial<Draft['series'][number]>): void =>
    onChange({ series: draft.series.map((s, k) => (k === i ? { ...s, ...change } : s)) });
  return (
    <div className="grid justify-items-start gap-2 border-l-[3px] border-rule pl-3">
      <p className="text-[12.5px] text-soft">
        {kind === 'vehicles'
          ? 'Each vehicle makes a test of its own, with the same arms and order.'
          : 'Each visit makes a test of its own: another day, or another dyno.'}
      </p>
      {draft.series.map((s, i) => (
        <div key={i} className="flex flex-wrap items-center gap-2">
          <span className="text-soft">{kind === 'vehicles' ? `Vehicle ${i + 2}` : `Visit ${i + 2}`}</span>
          {kind === 'vehicles' ? <b>{all.find((v) => v.id === s.vehicleId)?.tag ?? '…'}</b> : null}
          <Select
            aria-label={`Dyno of ${kind === 'vehicles' ? 'vehicle' : 'visit'} ${i + 2}`}
            value={s.dynoId}
            onChange={(e) => set(i, { dynoId: e.target.value })}
            className="py-1!"
          >
            {dynos.map((d) => (
              <option key={d.id} value={d.id}>
                {d.name}
              </option>
            ))}
          </Select>
          <Button
            kind="quiet"
            small
            onClick={() => onChange({ series: draft.series.filter((_, k) => k !== i) })}
          >
            Remove
          </Button>
        </div>
      ))}
      {kind === 'visits' && (
        <Button
          small
          disabled={!draft.vehicleId || !draft.dynoId}
          onClick={() =>
            onChange({ series: [...draft.series, { vehicleId: draft.vehicleId, dynoId: draft.dynoId }] })
          }
        >
          Add a visit
        </Button>
      )}
      {kind === 'vehicles' && free.length > 0 && (
        <Select
          aria-label="Add a vehicle"
          disabled={!draft.dynoId}
          value=""
          onChange={(e) => {
            if (e.target.value)
              onChange({ series: [...draft.series, { vehicleId: e.target.value, dynoId: draft.dynoId }] });
          }}
        >
          <option value="">{draft.dynoId ? 'add a vehicle …' : 'choose the dyno first'}</option>
          {free.map((v) => (
            <option key={v.id} value={v.id}>
              {v.tag}
            </option>
          ))}
        </Select>
      )}
      {kind === 'vehicles' && draft.fitmentId && data && free.length === 0 && (
        <p className="text-[12.5px] text-soft">No further vehicle of this fitment is registered.</p>
      )}
    </div>
  );
}
