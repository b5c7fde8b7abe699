import { useState } from 'react';
import { useFormContext } from 'react-hook-form';
import { toast } from 'sonner';
import { LegacyRequest } from '../../contract/publish/legacy.ts';
import { LEGACY_KINDS } from '../../core/publish/legacy-figures.ts';
import { problemOf } from '../base/api.ts';
import { Button, Textarea } from '../base/ui.tsx';
import { Picker } from '../base/picker.tsx';
import { RecordForm, type FieldGroup } from '../base/record-form.tsx';
import { fitmentName } from '../../contract/register/register.ts';
import { useFindFitments, useFindParts, useFitmentQuery, usePartQuery } from '../register/api.ts';
import { useAddLegacyMutation, useAttachLegacyMutation } from './legacy-api.ts';
import { ReadOffDialog } from './read-off-dialog.tsx';

const EXAMPLE = 'stock 131 hp at 5600\npart 138 hp at 5700\ngain 7 hp';

interface Pick {
  readonly id: string;
  readonly onChoose: (id: string) => void;
}
/** Named by its id, so that a draft found again shows what was chosen. */
function FitmentPick({ id, onChoose, ...rest }: Pick) {
  const { data } = useFitmentQuery(id, { skip: !id });
  return (
    <Picker
      {...rest}
      label="Fitment"
      placeholder="find a fitment"
      value={id && data ? { id, name: fitmentName(data.fitment) } : null}
      useFind={useFindFitments}
      onChoose={(choice) => onChoose(choice.id)}
    />
  );
}
function PartPick({ id, onChoose, ...rest }: Pick) {
  const { data } = usePartQuery(id, { skip: !id });
  return (
    <Picker
      {...rest}
      label="Part"
      placeholder="find a part"
      value={id && data ? { id, name: data.part.name } : null}
      useFind={useFindParts}
      onChoose={(choice) => onChoose(choice.id)}
    />
  );
}

/** Lines of figures, typed or read off a picture; the picture goes with them. */
function PrintedFigures({
  value,
  onChange,
  onPicture,
}: {
  value: string;
  onChange: (text: string) => void;
  onPicture: (file: File) => void;
}) {
  const [reading, setReading] = useState(false);
  const { setValue } = useFormContext<LegacyRequest>();
  return (
    <div className="grid gap-2">
      <Textarea
        rows={5}
        aria-label="What is printed"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
      <div>
        <Button small onClick={() => setReading(true)}>
          Read points off a picture
        </Button>
      </div>
      {reading && (
        <ReadOffDialog
          onClose={() => setReading(false)}
          onTake={(lines, file) => {
            onChange([value.trimEnd(), ...lines].filter((line) => line !== '').join('\n'));
            onPicture(file);
            // What was read off a graph is a graph, whatever the form said before.
            setValue('kind', 'printed graph', { shouldDirty: true });
            setReading(false);
          }}
        />
      )}
    </div>
  );
}

/** Registers what is printed somewhere of a part on a fitment. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function LegacyForm({ onDone }: { onDone: () => void }) {
  const [add, { isLoading, error }] = useAddLegacyMutation();
  const [attach] = useAttachLegacyMutation();
  const [picture, setPicture] = useState<File | null>(null);
  const groups: FieldGroup<keyof LegacyRequest>[] = [
    {
      title: '',
      fields: [
        {
          name: 'fitmentId',
          label: 'Fitment',
          kind: 'custom',
          span: 6,
          render: (value: string, onChange) => <FitmentPick id={value} onChoose={onChange} />,
        },
        {
          name: 'partId',
          label: 'Part',
          kind: 'custom',
          span: 6,
          render: (value: string, onChange) => <PartPick id={value} onChoose={onChange} />,
        },
        { name: 'kind', label: 'What it is', kind: 'select', options: [...LEGACY_KINDS], span: 4 },
        {
          name: 'source',
          label: 'Where it comes from',
          kind: 'text',
          span: 8,
          hint: 'so that somebody else finds it: page, issue, folder',
        },
        {
          name: 'figures',
          label: 'What is printed',
          kind: 'custom',
          span: 6,
          render: (value: string, onChange) => (
            <PrintedFigures value={value} onChange={onChange} onPicture={setPicture} />
          ),
          hint: `One figure a line, as printed, points of a graph too: ${EXAMPLE.split('\n').join(' · ')}`,
        },
        {
          name: 'missing',
          label: 'What is missing to trust it',
          kind: 'area',
          rows: 5,
          span: 6,
          hint: 'air, baseline, number of pulls, what else was changed',
        },
      ],
    },
  ];
  return (
    <section aria-label="Register a figure from before" className="mb-6 max-w-[900px]">
      <RecordForm
        schema={LegacyRequest}
        draft="legacy"
        groups={groups}
        values={{ fitmentId: '', partId: '', kind: 'number on a page', source: '', figures: '', missing: '' }}
        verb="Register it"
        saving={isLoading}
        problem={error}
        onCancel={onDone}
        save={async (record) => {
          const added = await add(record);
          if ('error' in added) return false;
          const kept = picture ? await attach({ id: added.data.id, file: picture }) : null;
          if (kept && 'error' in kept)
            toast.error(`Registered without its picture. ${problemOf(kept.error).message}`);
          else
            toast.success(
              kept ? 'Registered with its picture.' : 'Registered; its picture or file can be attached now.',
            );
          onDone();
          return true;
        }}
      />
    </section>
  );
}
