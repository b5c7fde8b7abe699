import { useState, type ComponentProps, type ReactNode } from 'react';
import { LEGAL_CLASSES, PART_CATEGORIES, PROMISES } from '../../core/register/parts.ts';
import {
  fitmentName,
  PartInput,
  RevisionInput,
  type Part,
  type Revision,
} from '../../contract/register/register.ts';
import { Picker, type Choice } from '../base/picker.tsx';
import type { FieldGroup } from '../base/record-form.tsx';
import { RowsEditor } from '../base/rows-editor.tsx';
import { Input } from '../base/ui.tsx';
import { useFindParts, useFitmentQuery, usePartQuery } from './api.ts';
import { DRIVE_FIELDS } from './drive-fields.ts';

export const PART_GROUPS: readonly FieldGroup<keyof PartInput>[] = [
  {
    title: 'Part',
    fields: [
      { name: 'name', label: 'Name', kind: 'text', span: 4 },
      { name: 'sku', label: 'SKU', kind: 'text', span: 3 },
      { name: 'maker', label: 'Maker', kind: 'text', span: 3 },
      { name: 'category', label: 'Category', kind: 'select', options: PART_CATEGORIES, span: 2 },
      {
        name: 'promise',
        label: 'What it promises',
        kind: 'select',
        options: PROMISES,
        span: 3,
        hint: 'only power is tested on the rollers',
      },
      { name: 'priceCents', label: 'Price, cents', kind: 'number', optional: true, span: 3 },
      { name: 'currency', label: 'Currency', kind: 'text', span: 2 },
      { name: 'launchDate', label: 'On sale from', kind: 'date', span: 3 },
      {
        name: 'legal',
        label: 'Legal class by market',
        kind: 'custom',
        span: 6,
        hint: 'The law differs by place; ask a licensed workshop.',
        render: (value: PartInput['legal'], onChange) => (
          <RowsEditor
            value={value ?? []}
            onChange={onChange}
            blank={{ market: 'EU', class: 'unknown' as const }}
            add="Add a market"
            fields={[
              { name: 'market', label: 'Market', width: '80px' },
              {
                name: 'class',
                label: 'Class',
                width: '170px',
                options: LEGAL_CLASSES.map((c) => ({ value: c, label: c })),
              },
            ]}
          />
        ),
      },
      { name: 'note', label: 'Note', kind: 'area', span: 6 },
    ],
  },
  {
    title: 'Embargo',
    note: 'Until the day, everybody without clearance reads the code name: in lists, charts, files, the audit trail and packs.',
    fields: [
      { name: 'embargoUntil', label: 'Until', kind: 'date', span: 3 },
      { name: 'codeName', label: 'Code name', kind: 'text', span: 4, hint: 'gives nothing away' },
    ],
  },
];

export const BLANK_PART: PartInput = {
  name: '',
  sku: '',
  maker: '',
  category: 'intake',
  promise: 'power',
  priceCents: null,
  currency: 'EUR',
  launchDate: null,
  legal: [],
  embargoUntil: null,
  codeName: null,
  note: '',
};

export const BLANK_REVISION: RevisionInput = {
  revision: 'A',
  releasedOn: null,
  changeNote: '',
  options: [],
  needs: { partIds: [], calibration: false, fuel: null },
  conflicts: [],
  weightKg: null,
  driveCrankMm: null,
  driveHeadMm: null,
  driveStepUp: null,
  mostDriveRpm: null,
  installHours: 1,
  removeHours: 0.5,
  specialTools: '',
  irreversibleSteps: '',
  replaceOnInstall: [],
};

/** Several of the register, found one by one. */
export function Chosen({
  value,
  onChange,
  label,
  placeholder,
  names,
  useFind,
  Name,
}: {
  value: readonly string[];
  onChange: (ids: string[]) => void;
  label: string;
  placeholder: string;
  names: Readonly<Record<string, string>>;
  useFind: ComponentProps<typeof Picker>['useFind'];
  Name: (props: { id: string; known: string | undefined }) => ReactNode;
}) {
  const [known, setKnown] = useState(names);
  return (
    <div className="grid gap-1.5">
      {value.length > 0 && (
        <ul className="flex flex-wrap gap-1.5">
          {value.map((id) => (
            <li key={id} className="flex items-center gap-1 rounded border border-rule bg-paper pl-2">
              <Name id={id} known={known[id]} />
              <button
                type="button"
                className="min-h-6 min-w-6"
                aria-label={`Remove ${known[id] ?? 'it'}`}
                onClick={() => onChange(value.filter((v) => v !== id))}
              >
                ✕
              </button>
            </li>
          ))}
        </ul>
      )}
      <Picker
        label={label}
        placeholder={placeholder}
        value={null}
        useFind={useFind}
        onChoose={(choice: Choice) => {
          setKnown({ ...known, [choice.id]: choice.name });
          if (!value.includes(choice.id)) onChange([...value, choice.id]);
        }}
      />
    </div>
  );
}
const PartChips = (props: Pick<ComponentProps<typeof Chosen>, 'value' | 'onChange' | 'label' | 'names'>) => (
  <Chosen {...props} placeholder="add a part" useFind={useFindParts} Name={PartName} />
);
export const FitmentName = ({ id, known }: { id: string; known: string | undefined }) => {
  const { data } = useFitmentQuery(id, { skip: known !== undefined });
  return <>{known ?? (data ? fitmentName(data.fitment) : '…')}</>;
};

export const PartName = ({ id, known }: { id: string; known: string | undefined }) => {
  const { data } = usePartQuery(id, { skip: known !== undefined });
  return <>{known ?? data?.part.name ?? '…'}</>;
};

export const REVISION_GROUPS: readonly FieldGroup<keyof RevisionInput>[] = [
  {
    title: 'Revision',
    fields: [
      { name: 'revision', label: 'Revision', kind: 'text', span: 2 },
      { name: 'releasedOn', label: 'Released', kind: 'date', span: 3 },
      { name: 'weightKg', label: 'Weight, kg', kind: 'number', optional: true, span: 2 },
      {
        name: 'changeNote',
        label: 'What changed',
        hint: 'Left empty, it is taken for the same part as before.',
        kind: 'text',
        span: 5,
      },
    ],
  },
  {
    title: 'Options',
    note: 'A setting that can be chosen: insert in or out, port open or closed, pulley size. The first one is how it is sold.',
    fields: [
      {
        name: 'options',
        label: 'Options and their settings',
        kind: 'custom',
        span: 12,
        render: (value: RevisionInput['options'], onChange) => (
          <RowsEditor
            value={value ?? []}
            onChange={onChange}
            blank={{ name: '', settings: [] }}
            add="Add an option"
            fields={[
              { name: 'name', label: 'Option', width: '140px' },
              { name: 'settings', label: 'Settings, with commas between', width: '320px', kind: 'list' },
            ]}
          />
        ),
      },
    ],
  },
  {
    title: 'Needs and conflicts',
    fields: [
      {
        name: 'needs',
        label: 'Cannot be run without',
        kind: 'custom',
        span: 6,
        render: (value: RevisionInput['needs'], onChange) => (
          <div className="grid gap-2">
            <PartChips
              label="Part it needs"
              names={{}}
              value={value?.partIds ?? []}
              onChange={(partIds) => onChange({ ...value, partIds })}
            />
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="size-4"
                checked={value?.calibration ?? false}
                onChange={(e) => onChange({ ...value, calibration: e.target.checked })}
              />{' '}
              a calibration made for it
            </label>
            <Input
              aria-label="Fuel it needs"
              placeholder="a fuel, e.g. 98 RON"
              value={value?.fuel ?? ''}
              onChange={(e) => onChange({ ...value, fuel: e.target.value || null })}
            />
          </div>
        ),
      },
      {
        name: 'conflicts',
        label: 'Cannot be fitted together with',
        kind: 'custom',
        span: 6,
        render: (value: string[], onChange) => (
          <PartChips label="Part it excludes" names={{}} value={value ?? []} onChange={onChange} />
        ),
      },
    ],
  },
  DRIVE_FIELDS,
  {
    title: 'Fitting it',
    fields: [
      { name: 'installHours', label: 'Hours to fit', kind: 'number', span: 2 },
      { name: 'removeHours', label: 'Hours to take off', kind: 'number', span: 2 },
      { name: 'specialTools', label: 'Special tools', kind: 'text', span: 4 },
      {
        name: 'irreversibleSteps',
        label: 'Steps that cannot be undone',
        kind: 'text',
        span: 4,
        hint: 'shown as a caution wherever it is planned',
      },
      {
        name: 'replaceOnInstall',
        label: 'Replace when fitting',
        kind: 'lines',
        span: 6,
        hint: 'gaskets, studs, clamps',
      },
    ],
  },
];

export const partOf = ({ id: _i, version: _v, embargoed: _e, withheld: _w, ...input }: Part): PartInput =>
  input;

export const revisionOf = ({ id: _i, partId: _p, createdAt: _c, ...input }: Revision): RevisionInput => input;
