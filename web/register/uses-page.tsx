import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { z } from 'zod';
import {
  PointsText,
  UseProfileRequest,
  type UseProfile,
  type UseVersionRequest,
} from '../../contract/register/use-profiles.ts';
import type { UsePoint } from '../../core/register/use-profile.ts';
import { dayTime, number } from '../base/format.ts';
import { RecordForm, type FieldGroup } from '../base/record-form.tsx';
import { Button, Empty, Loading, ProblemNote } from '../base/ui.tsx';
import { useAddUseProfileMutation, useChangeUseProfileMutation, useUseProfilesQuery } from './api.ts';
import { PageHead, useMay } from './layout.tsx';
import { UseDrawing } from './use-drawing.tsx';

const UseForm = z.object({
  name: UseProfileRequest.shape.name,
  note: UseProfileRequest.shape.note,
  points: PointsText,
});
type UseForm = z.input<typeof UseForm>;

const GROUPS: readonly FieldGroup<keyof UseForm>[] = [
  {
    title: '',
    fields: [
      { name: 'name', label: 'Name', kind: 'text', span: 3 },
      { name: 'note', label: 'What it stands for', kind: 'text', span: 9 },
      {
        name: 'points',
        label: 'Speed and weight',
        kind: 'text',
        span: 12,
        hint: 'speeds in % of where the baseline makes its largest power, as “20 0, 30 1, 55 1, 75 0”',
      },
    ],
  },
];
const textOf = (points: readonly UsePoint[]): string =>
  points.map(({ at, weight }) => `${at} ${weight}`).join(', ');

const NOTE =
  'How much each engine speed counts when a car is used in some way, speeds in % of where the baseline makes its ' +
  'largest power. Gains by use are told beside a comparison and are never claimed. A version is never edited: a change ' +
  'is a new one.';

/** The uses a gain is averaged for: each in its newest version, and the versions before it. */
export function UsesPage() {
  const may = useMay();
  const { data, error, refetch } = useUseProfilesQuery();
  const [open, setOpen] = useState<string | null>(null);
  const used = data?.profiles.filter((p) => !p.retired) ?? [];
  const retired = data?.profiles.filter((p) => p.retired) ?? [];
  return (
    <main className="px-6 py-5">
      <PageHead title="Uses" note={NOTE}>
        {may.manage && open === null && (
          <Button kind="main" onClick={() => setOpen('new')}>
            New use
          </Button>
        )}
      </PageHead>
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the uses" />}
      {open === 'new' && <EditUse onDone={() => setOpen(null)} />}
      {data && used.length === 0 && open === null && (
        <Empty title="No uses">Enter one, and every comparison is averaged for it.</Empty>
      )}
      <div className="grid gap-5">
        {used.map((profile) =>
          open === profile.id ? (
            <EditUse key={profile.id} profile={profile} onDone={() => setOpen(null)} />
          ) : (
            <Use
              key={profile.id}
              profile={profile}
              before={data!.versions.filter((v) => v.id === profile.id && v.version < profile.version)}
              onEdit={may.manage && open === null ? () => setOpen(profile.id) : undefined}
            />
          ),
        )}
      </div>
      {retired.length > 0 && (
        <section className="mt-8 border-t border-rule pt-3">
          <h2>No longer used</h2>
          {retired.map((profile) => (
            <Retired key={profile.id} profile={profile} mayReturn={may.manage} />
          ))}
        </section>
      )}
    </main>
  );
}

const byWhom = ({ at, person }: UseProfile): string => `${dayTime(at)}${person ? ` by ${person}` : ''}`;

function Use({
  profile,
  before,
  onEdit,
}: {
  profile: UseProfile;
  before: readonly UseProfile[];
  onEdit?: (() => void) | undefined;
}) {
  return (
    <section aria-label={profile.name} className="border-t border-rule pt-3">
      <div className="flex flex-wrap items-start gap-x-6 gap-y-2">
        <UseDrawing points={profile.points} />
        <div className="min-w-60 flex-1">
          <h2>
            {profile.name}{' '}
            <span className="text-[13px] font-normal text-soft">
              version {profile.version}, {byWhom(profile)}
            </span>
          </h2>
          <p className="mt-1 max-w-prose text-soft">{profile.note}</p>
          {before.length > 0 && (
            <details className="mt-1 text-[12.5px] text-soft">
              <summary className="cursor-pointer">Versions before it</summary>
              <ul className="mt-1">
                {before.map((v) => (
                  <li key={v.version}>
                    version {v.version}, {byWhom(v)}: {v.name}, {textOf(v.points)}
                    {v.retired ? ', not used' : ''}
                  </li>
                ))}
              </ul>
            </details>
          )}
        </div>
        {onEdit && (
          <Button small onClick={onEdit}>
            Change {profile.name}
          </Button>
        )}
      </div>
    </section>
  );
}

function EditUse({ profile, onDone }: { profile?: UseProfile; onDone: () => void }) {
  const [add, adding] = useAddUseProfileMutation();
  const [change, changing] = useChangeUseProfileMutation();
  // A version made from the one that was opened: somebody else's in between is told, not lost.
  const [opened] = useState(profile);
  const values: UseForm = opened
    ? { name: opened.name, note: opened.note, points: textOf(opened.points) }
    : { name: '', note: '', points: '' };
  const write = (body: UseProfileRequest, retired = false) =>
    opened ? change({ id: opened.id, after: opened.version, ...body, retired }) : add(body);
  const save = async (form: z.output<typeof UseForm>): Promise<boolean> => {
    const answer = await write(form);
    if ('error' in answer) return false;
    toast.success(opened ? `“${form.name}” has a new version.` : `“${form.name}” is used from now on.`);
    onDone();
    return true;
  };
  const retire = async (): Promise<void> => {
    const { name, note, points } = opened!;
    const answer = await write({ name, note, points }, true);
    if ('error' in answer) return;
    toast.success(`“${name}” is no longer used. It can be taken back.`);
    onDone();
  };
  return (
    <div className="border-t border-rule pt-3">
      <RecordForm
        draft={`use-${opened?.id ?? 'new'}`}
        schema={UseForm}
        groups={GROUPS}
        values={values}
        saving={adding.isLoading || changing.isLoading}
        problem={adding.error ?? changing.error}
        verb={opened ? 'Save as a new version' : 'Use it'}
        onCancel={onDone}
        save={save}
        besides={opened && <Button onClick={() => void retire()}>Use it no longer</Button>}
      >
        <Typed />
      </RecordForm>
    </div>
  );
}

/** The weights as they are typed. */
function Typed() {
  const text: unknown = useWatch({ name: 'points' });
  const read = PointsText.safeParse(text ?? '');
  return read.success ? <UseDrawing points={read.data} /> : null;
}

function Retired({ profile, mayReturn }: { profile: UseProfile; mayReturn: boolean }) {
  const [change, { isLoading, error }] = useChangeUseProfileMutation();
  const { id, version, name, note, points } = profile;
  const back: UseVersionRequest & { id: string } = { id, after: version, name, note, points };
  return (
    <div className="mt-1 flex flex-wrap items-baseline gap-3">
      <span>{name}</span>
      <span className="text-[12.5px] text-soft">
        since {byWhom(profile)}; {number(points.length, 0)} points
      </span>
      {mayReturn && (
        <Button small disabled={isLoading} onClick={() => void change(back)}>
          Use {name} again
        </Button>
      )}
      <ProblemNote error={error} />
    </div>
  );
}
