import type { StartSlope } from '../../contract/register/start-slopes.ts';
import { START_SENSORS, type StartSensor } from '../../core/register/temperature-slope.ts';
import { number } from '../base/format.ts';
import { Select } from '../base/select.tsx';
import { Field } from '../base/ui.tsx';
import { useStartSlopesQuery } from '../register/api.ts';
import { allowedK, SENSOR_NAMES, slopeText, whyNot } from '../register/slope-words.ts';
import type { PlanView } from './plan-view.ts';

/** The start temperature that arms are compared by: named before the first pull, used whatever it does. */
export function StartTemperature({ view: { draft, set } }: { view: PlanView }) {
  const { dynoId, vehicleId } = draft;
  const { data } = useStartSlopesQuery({ dynoId, vehicleId }, { skip: !dynoId || !vehicleId });
  const of = (sensor: StartSensor): StartSlope | undefined => data?.slopes.find((s) => s.sensor === sensor);
  const chosen = draft.startSensor ? of(draft.startSensor) : undefined;
  const best = data?.slopes
    .filter((s) => s.registered)
    .sort((a, b) => (b.explains ?? 0) - (a.explains ?? 0))
    .at(0);
  return (
    <Field
      label="Compared by the start temperature of"
      hint={draft.startSensor ? chosen && buys(chosen) : advice(best)}
    >
      <Select
        value={draft.startSensor ?? ''}
        onChange={(e) => set({ startSensor: START_SENSORS.find((s) => s === e.target.value) ?? null })}
      >
        <option value="">none: judged, not adjusted</option>
        {START_SENSORS.map((sensor) => (
          <option key={sensor} value={sensor}>
            {`${SENSOR_NAMES[sensor]}${of(sensor)?.registered ? ', slope registered' : ''}`}
          </option>
        ))}
      </Select>
    </Field>
  );
}

const advice = (best: StartSlope | undefined): string =>
  best
    ? `Of ${best.subject} the ${SENSOR_NAMES[best.sensor]} explains ${number(100 * (best.explains ?? 0), 0)} % of the scatter.`
    : 'Named before the first pull, it is used whatever it does.';

/** What it does for this plan, in a sentence. */
function buys(slope: StartSlope): string {
  if (!slope.registered)
    return `No slope is registered (${whyNot(slope)}): nothing is adjusted, and arms more than 1 K apart are told.`;
  const narrower = 100 * (1 - Math.sqrt(1 - (slope.explains ?? 0)));
  return (
    `${slopeText(slope)} from ${slope.sessions} sessions of ${slope.subject}: pulls scatter ${number(narrower, 0)} % less, ` +
    `and arms may start ${number(allowedK(slope), 1)} K apart.`
  );
}
