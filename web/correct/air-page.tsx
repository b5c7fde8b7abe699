import { useState } from 'react';
import { useOutletContext } from 'react-router';
import { CAPTURE } from '../../contract/base/roles.ts';
import type { Pull } from '../../contract/capture/capture.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { useSessionQuery } from '../base/api.ts';
import { useAnalysisQuery } from '../base/endpoints.ts';
import { useUnits } from '../base/format.ts';
import { Select } from '../base/select.tsx';
import { Button, Field } from '../base/ui.tsx';
import { AirTable } from './air-table.tsx';
import { UnderEveryStandard } from './by-standard.tsx';
import { ArmFactors } from './arm-factors.tsx';
import { StationFile } from './station-file.tsx';
import { useAirDraft, type AirKinds } from './use-air-draft.ts';

/** Air of every pull: the reading, the dry pressure, the factor, and what each standard would say. */
export function AirPage() {
  const detail = useOutletContext<TestDetail>();
  const { data: session } = useSessionQuery();
  const { data: state } = useAnalysisQuery(detail.summary.id);
  const units = useUnits();
  const pulls = detail.pulls.filter((p) => p.counted);
  const known = pulls.find((p) => p.air)?.air;
  const [kinds, setKinds] = useState<AirKinds>({
    pressureKind: known?.pressureKind ?? 'station',
    humidityKind: known?.humidityKind ?? 'relative',
  });
  const draft = useAirDraft(detail.summary.id, session?.person?.id ?? '', pulls, kinds, units);
  const mayEdit = session?.person ? CAPTURE.includes(session.person.role) : false;
  const air = state?.air ?? {};
  const [station, setStation] = useState(false);
  return (
    <main className="grid gap-4 px-[22px] py-4">
      {mayEdit && (
        <div className="flex flex-wrap items-end gap-4">
          <Kinds kinds={kinds} onChange={setKinds} heightM={detail.dyno.siteHeightM} />
          <Deeds pulls={pulls} draft={draft} onStation={() => setStation(true)} />
        </div>
      )}
      {mayEdit && (
        <p className="-mt-1 text-[12.5px] text-soft">
          Read where the engine breathes. Rows copied from a spreadsheet or from a file with heads can be
          pasted into the first cell; a number may have its unit after it.{' '}
          {draft.changed.length > 0 && (
            <b className="font-semibold text-ask">
              What is typed and not saved is kept on this device, as a draft.
            </b>
          )}
        </p>
      )}
      {station && (
        <StationFile
          testId={detail.summary.id}
          pulls={pulls}
          zone={detail.dyno.timeZone}
          onClose={() => setStation(false)}
        />
      )}
      <AirTable {...{ detail, pulls, air, draft, kinds, units, mayEdit }} />
      <ArmFactors detail={detail} pulls={pulls} air={air} />
      {state?.analysis && <UnderEveryStandard detail={detail} />}
    </main>
  );
}

/** What can be done with the readings of the table as a whole. */
function Deeds({
  pulls,
  draft,
  onStation,
}: {
  pulls: readonly Pull[];
  draft: ReturnType<typeof useAirDraft>;
  onStation: () => void;
}) {
  return (
    <>
      <div className="mr-auto flex flex-wrap gap-2 self-end">
        <Button onClick={onStation}>Station file</Button>
        <Button
          disabled={!pulls.some(draft.isBare) || !pulls.some(draft.isRead)}
          onClick={() => draft.fill('before')}
        >
          From the pull before
        </Button>
        <Button disabled={!pulls.some(draft.isRead)} onClick={() => draft.fill('first')}>
          Same for all
        </Button>
      </div>
      {draft.changed.length > 0 && (
        <Button kind="quiet" disabled={draft.saving} onClick={draft.discard}>
          Drop what is typed
        </Button>
      )}
      <Button
        kind="main"
        disabled={draft.changed.length === 0 || draft.saving}
        onClick={() => void draft.save()}
      >
        Save {draft.changed.length || ''} {draft.changed.length === 1 ? 'reading' : 'readings'}
      </Button>
    </>
  );
}

/** What the readings are readings of. */
function Kinds({
  kinds,
  onChange,
  heightM,
}: {
  kinds: AirKinds;
  onChange: (kinds: AirKinds) => void;
  heightM: number;
}) {
  return (
    <>
      <Field label="Pressure is">
        <Select
          value={kinds.pressureKind}
          onChange={(e) => onChange({ ...kinds, pressureKind: e.target.value as AirKinds['pressureKind'] })}
        >
          <option value="station">station pressure, read at the dyno</option>
          <option value="sea level">reduced to sea level (site at {heightM} m)</option>
        </Select>
      </Field>
      <Field label="Humidity is">
        <Select
          value={kinds.humidityKind}
          onChange={(e) => onChange({ ...kinds, humidityKind: e.target.value as AirKinds['humidityKind'] })}
        >
          <option value="relative">relative, %</option>
          <option value="dew point">dew point</option>
          <option value="wet bulb">wet bulb</option>
        </Select>
      </Field>
    </>
  );
}
