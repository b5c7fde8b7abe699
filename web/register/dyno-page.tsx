import { useState } from 'react';
import { useParams } from 'react-router';
import { toast } from 'sonner';
import { DynoInput, type DynoDetail } from '../../contract/register/register.ts';
import { number } from '../base/format.ts';
import { RecordForm } from '../base/record-form.tsx';
import { Button, Loading, ProblemNote } from '../base/ui.tsx';
import { useChangeDynoMutation, useDynoQuery } from './api.ts';
import { ControlVehicles } from './control.tsx';
import { DynoFacts } from './dyno-facts.tsx';
import { Repeatability } from './repeatability.tsx';
import { GROUPS, inputOf } from './dyno-form.tsx';
import { Devices } from './devices.tsx';
import { PageHead, useMay } from './layout.tsx';
import { Sensors } from './sensors.tsx';
import { StartSlopes } from './start-slopes.tsx';

export function DynoPage() {
  const { dynoId = '' } = useParams();
  const may = useMay();
  const { data, error, refetch } = useDynoQuery(dynoId);
  const [open, setOpen] = useState(false);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!data)
    return (
      <main className="p-6">
        <Loading what="the dyno" />
      </main>
    );
  const { dyno: d, sensors } = data;
  return (
    <main className="px-6 py-5">
      <PageHead title={d.name} note={`${d.site} · ${d.kind} · ${number(d.siteHeightM, 0)} m above sea level`}>
        {may.manage && <Button onClick={() => setOpen(!open)}>{open ? 'Close the form' : 'Change'}</Button>}
      </PageHead>
      {open && <ChangeDyno dyno={d} onDone={() => setOpen(false)} />}
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_330px]">
        <div className="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-6">
          <Repeatability dyno={d} mayManage={may.manage} />
          <ControlVehicles dyno={d} />
          <StartSlopes dynoId={d.id} />
          <Devices dynoId={d.id} devices={data.devices} mayPrepare={may.prepare} />
          <Sensors dynoId={d.id} sensors={sensors} mayPrepare={may.prepare} />
        </div>
        <DynoFacts dyno={d} />
      </div>
    </main>
  );
}

function ChangeDyno({ dyno, onDone }: { dyno: DynoDetail['dyno']; onDone: () => void }) {
  const [change, { error, isLoading }] = useChangeDynoMutation();
  return (
    <div className="mb-6 max-w-[980px]">
      <RecordForm
        draft={`dyno:${dyno.id}`}
        schema={DynoInput}
        groups={GROUPS}
        values={inputOf(dyno)}
        saving={isLoading}
        problem={error}
        onCancel={onDone}
        save={async (record) => {
          if ('error' in (await change({ id: dyno.id, version: dyno.version, record }))) return false;
          onDone();
          toast.success('Changed.');
          return true;
        }}
      />
    </div>
  );
}
