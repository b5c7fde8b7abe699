import { useMemo, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { nearestToDirect } from '../../core/register/gears.ts';
import { OWNERS, VehicleInput, fitmentName, type Vehicle } from '../../contract/register/register.ts';
import { day, number } from '../base/format.ts';
import { LongList } from '../base/long-list.tsx';
import { Picker, type Choice } from '../base/picker.tsx';
import { RecordForm, type FieldGroup } from '../base/record-form.tsx';
import { RowsEditor } from '../base/rows-editor.tsx';
import { Button, buttonClass, Empty, Input, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { useSettled } from '../base/use-settled.ts';
import {
  useAddVehicleMutation,
  useChangeVehicleMutation,
  useFindFitments,
  useVehicleQuery,
  useVehiclesInfiniteQuery,
} from './api.ts';
import { Facts, PageHead, useMay } from './layout.tsx';
import { Ledger, OnThatDay } from './ledger.tsx';

export const STOCK_MARK = {
  yes: <Mark tone="stands">stock</Mark>,
  no: <Mark tone="ask">not stock</Mark>,
  unknown: <Mark tone="soft">not known</Mark>,
} as const;

export function VehiclesPage() {
  const may = useMay();
  const [words, setWords] = useState('');
  const q = useSettled(words);
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = useVehiclesInfiniteQuery({ q });
  const rows = useMemo(() => data?.pages.flatMap((p) => p.items) ?? [], [data]);
  return (
    <main className="px-6 py-5">
      <PageHead title="Vehicles" note="Each with a ledger of what was on it, and when.">
        {may.prepare && (
          <Link to="/register/vehicles/new" className={buttonClass('main')}>
            New vehicle
          </Link>
        )}
      </PageHead>
      <Input
        type="search"
        aria-label="Find a vehicle"
        placeholder="Tag, plate or fitment"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        className="mb-3 w-80"
      />
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the vehicles" />}
      {data && rows.length === 0 && (
        <Empty title="No vehicle here">
          {words ? 'None like that.' : 'Register the first one: its fitment, its tag and what is on it.'}
        </Empty>
      )}
      {rows.length > 0 && (
        <LongList
          label="Vehicles"
          rows={rows}
          total={data!.pages[0].total}
          more={hasNextPage && !isFetching}
          loadMore={() => void fetchNextPage()}
          keyOf={(v) => v.id}
          columns="minmax(160px,1fr) minmax(200px,1.5fr) 110px 90px 120px"
          head={['Vehicle', 'Fitment', 'Odometer', 'Owner', 'As it stands now']}
          row={(v) => [
            <Link
              key="t"
              to={`/register/vehicles/${v.id}`}
              className="block font-semibold no-underline hover:underline"
            >
              {v.tag}
            </Link>,
            <span key="f" className="block">
              {v.fitment}
            </span>,
            `${number(v.odometerKm, 0)} km`,
            v.owner,
            STOCK_MARK[v.stock],
          ]}
        />
      )}
    </main>
  );
}

const groupsFor = (
  withFitment: FieldGroup<keyof VehicleInput>['fields'][number] | null,
): FieldGroup<keyof VehicleInput>[] => [
  {
    title: 'Vehicle',
    fields: [
      ...(withFitment ? [withFitment] : []),
      { name: 'tag', label: 'Plate or asset tag', kind: 'text', span: 4 },
      { name: 'odometerKm', label: 'Odometer, km', kind: 'number', span: 3 },
      { name: 'owner', label: 'Owner', kind: 'select', options: OWNERS, span: 2 },
      { name: 'wheels', label: 'Wheels', kind: 'text', span: 3 },
      { name: 'availableFrom', label: 'There from', kind: 'date', span: 3, hint: 'empty: always' },
      { name: 'availableTo', label: 'There until', kind: 'date', span: 3 },
      { name: 'note', label: 'Note', kind: 'area', span: 6 },
    ],
  },
  {
    title: 'On the rollers',
    note: 'The gear nearest to 1:1 loses least and is suggested to every plan.',
    fields: [
      { name: 'finalDrive', label: 'Final drive', kind: 'number', optional: true, span: 3 },
      {
        name: 'gears',
        label: 'Gears used on the dyno',
        kind: 'custom',
        span: 9,
        render: (value: VehicleInput['gears'], onChange) => (
          <RowsEditor
            value={value ?? []}
            onChange={onChange}
            blank={{ name: '4th', ratio: 1 }}
            add="Add a gear"
            fields={[
              { name: 'name', label: 'Gear', width: '90px' },
              { name: 'ratio', label: 'Ratio', width: '90px', kind: 'number' },
            ]}
          />
        ),
      },
    ],
  },
];
const BLANK = {
  fitmentId: '',
  tag: '',
  // What is read on the car is no default.
  odometerKm: undefined as unknown as number,
  owner: 'house',
  wheels: '',
  finalDrive: null,
  gears: [],
  availableFrom: null,
  availableTo: null,
  note: '',
} as const;

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function NewVehiclePage() {
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const [add, { error, isLoading }] = useAddVehicleMutation();
  const [fitment, setFitment] = useState<Choice | null>(null);
  const from = search.get('from');
  const { data: sibling } = useVehicleQuery(from ?? '', { skip: !from });
  if (from && !sibling)
    return (
      <main className="p-6">
        <Loading what="the sibling" />
      </main>
    );
  const shown = fitment ?? (sibling ? { id: sibling.fitment.id, name: fitmentName(sibling.fitment) } : null);
  const groups = groupsFor({
    name: 'fitmentId',
    label: 'Fitment',
    kind: 'custom',
    span: 12,
    render: (_value: string, onChange) => (
      <Picker
        label="Fitment"
        placeholder="find a fitment"
        value={shown}
        useFind={useFindFitments}
        onChoose={(choice) => {
          setFitment(choice);
          onChange(choice.id);
        }}
      />
    ),
  });
  return (
    <main className="max-w-[900px] px-6 py-5">
      <PageHead
        title="New vehicle"
        note="After it is added, write down its tyres, fuel and last service in its ledger."
      />
      <RecordForm
        schema={VehicleInput}
        draft={`new vehicle:${sibling?.vehicle.id ?? ''}`}
        groups={groups}
        values={
          sibling
            ? { ...inputOf(sibling.vehicle), tag: '', odometerKm: BLANK.odometerKm }
            : { ...BLANK, gears: [] }
        }
        saving={isLoading}
        problem={error}
        onCancel={() => void navigate('/register/vehicles')}
        verb="Add the vehicle"
        save={async (record) => {
          const answer = await add(record);
          if (!('data' in answer) || !answer.data) return false;
          toast.success('Added.');
          return navigate(`/register/vehicles/${answer.data.id}`);
        }}
      />
    </main>
  );
}
const inputOf = ({ id: _i, version: _v, ...input }: Vehicle): VehicleInput => input;

/** One vehicle: what is on it, what was on it on any day, and the ledger both come from. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function VehiclePage() {
  const { vehicleId = '' } = useParams();
  const may = useMay();
  const { data, error, refetch } = useVehicleQuery(vehicleId);
  const [change, { error: refused, isLoading }] = useChangeVehicleMutation();
  const [editing, setEditing] = useState(false);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!data)
    return (
      <main className="p-6">
        <Loading what="the vehicle" />
      </main>
    );
  const { vehicle: v, fitment } = data;
  const gear = nearestToDirect(v.gears);
  return (
    <main className="px-6 py-5">
      <PageHead
        title={v.tag}
        note={<Link to={`/register/fitments/${fitment.id}`}>{fitmentName(fitment)}</Link>}
      >
        {may.prepare && (
          <>
            <Link to={`/register/vehicles/new?from=${v.id}`} className={buttonClass('plain')}>
              Copy
            </Link>
            <Button onClick={() => setEditing(!editing)}>{editing ? 'Close the form' : 'Change'}</Button>
          </>
        )}
      </PageHead>
      {editing && (
        <div className="mb-6 max-w-[900px]">
          <RecordForm
            schema={VehicleInput}
            draft={`vehicle:${v.id}`}
            groups={groupsFor(null)}
            values={inputOf(v)}
            saving={isLoading}
            problem={refused}
            onCancel={() => setEditing(false)}
            save={async (record) => {
              const answer = await change({ id: v.id, version: v.version, record });
              if ('error' in answer) return false;
              setEditing(false);
              toast.success('Changed.');
              return true;
            }}
          />
        </div>
      )}
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_330px]">
        <Ledger detail={data} mayWrite={may.prepare} />
        <aside className="grid content-start gap-6">
          <OnThatDay vehicleId={v.id} />
          <Facts
            rows={[
              ['Odometer', `${number(v.odometerKm, 0)} km`],
              ['Owner', v.owner],
              [
                'There',
                v.availableFrom || v.availableTo
                  ? `${v.availableFrom ? day(v.availableFrom) : 'always'} to ${v.availableTo ? day(v.availableTo) : 'open'}`
                  : 'always',
              ],
              ['Final drive', v.finalDrive ?? 'not entered'],
              [
                'Gears',
                v.gears.length ? v.gears.map((g) => `${g.name} ${g.ratio}`).join(', ') : 'not entered',
              ],
              ['Nearest 1:1', gear ? `${gear.name}, ${gear.ratio}:1` : 'not known'],
              ...(v.note ? [['Note', v.note] as const] : []),
            ]}
          />
        </aside>
      </div>
    </main>
  );
}
