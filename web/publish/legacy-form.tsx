import { useState } from 'react';
import { toast } from 'sonner';
import { LegacyRequest } from '../../contract/publish/legacy.ts';
import { LEGACY_KINDS } from '../../core/publish/legacy-figures.ts';
import { Picker, type Choice } from '../base/picker.tsx';
import { RecordForm, type FieldGroup } from '../base/record-form.tsx';
import { useFindFitments, useFindParts } from '../register/api.ts';
import { useAddLegacyMutation } from './legacy-api.ts';

const EXAMPLE = 'stock 131 hp at 5600\npart 138 hp at 5700\ngain 7 hp';

/** Registers what is printed somewhere of a part on a fitment. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function LegacyForm({ onDone }: { onDone: () => void }) {
  const [add, { isLoading, error }] = useAddLegacyMutation();
  const [fitment, setFitment] = useState<Choice | null>(null);
  const [part, setPart] = useState<Choice | null>(null);
  const chosen = (
    label: string,
    value: Choice | null,
    useFind: typeof useFindParts,
    choose: (choice: Choice) => void,
  ) => (
    <Picker
      label={label}
      placeholder={`find a ${label.toLowerCase()}`}
      value={value}
      useFind={useFind}
      onChoose={choose}
    />
  );
  const groups: FieldGroup<keyof LegacyRequest>[] = [
    {
      title: '',
      fields: [
        {
          name: 'fitmentId',
          label: 'Fitment',
          kind: 'custom',
          span: 6,
          render: (_value: string, onChange) =>
            chosen('Fitment', fitment, useFindFitments, (choice) => {
              setFitment(choice);
              onChange(choice.id);
            }),
        },
        {
          name: 'partId',
          label: 'Part',
          kind: 'custom',
          span: 6,
          render: (_value: string, onChange) =>
            chosen('Part', part, useFindParts, (choice) => {
              setPart(choice);
              onChange(choice.id);
            }),
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
          kind: 'area',
          rows: 5,
          span: 6,
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
          if ('error' in (await add(record))) return false;
          toast.success('Registered; its picture or file can be attached now.');
          onDone();
          return true;
        }}
      />
    </section>
  );
}
