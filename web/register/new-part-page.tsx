import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { z } from 'zod';
import { PartInput, RevisionInput } from '../../contract/register/register.ts';
import { useDropDraft } from '../base/kept-form.ts';
import { RecordForm, type FieldGroup } from '../base/record-form.tsx';
import { Loading } from '../base/ui.tsx';
import { useAddPartMutation, useFindFitments, usePartQuery } from './api.ts';
import { PageHead } from './layout.tsx';
import { LikeParts } from './like-parts.tsx';
import {
  BLANK_PART,
  BLANK_REVISION,
  Chosen,
  FitmentName,
  PART_GROUPS,
  partOf,
  REVISION_GROUPS,
  revisionOf,
} from './part-form.tsx';

/** A part that is entered is listed for its fitments at once. */
const NewPart = PartInput.extend({ fitmentIds: z.array(z.string()).max(500) });
type NewPart = z.infer<typeof NewPart>;
const NEW_PART_GROUPS: readonly FieldGroup<keyof NewPart>[] = [
  ...PART_GROUPS,
  {
    title: 'Fits',
    note: 'The fitments it is sold for; more can be listed later.',
    fields: [
      {
        name: 'fitmentIds',
        label: 'Fitments',
        kind: 'custom',
        span: 12,
        render: (value: string[], onChange) => (
          <Chosen
            label="Fitment it fits"
            placeholder="add a fitment"
            names={{}}
            value={value ?? []}
            onChange={onChange}
            useFind={useFindFitments}
            Name={FitmentName}
          />
        ),
      },
    ],
  },
];

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function NewPartPage() {
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const from = search.get('from');
  const { data: sibling } = usePartQuery(from ?? '', { skip: !from });
  const [part, setPart] = useState<NewPart | null>(null);
  const [add, { error, isLoading }] = useAddPartMutation();
  const dropFirst = useDropDraft(`new part:${from ?? ''}`);
  if (from && !sibling)
    return (
      <main className="p-6">
        <Loading what="the sibling" />
      </main>
    );
  const first = sibling
    ? {
        ...partOf(sibling.part),
        sku: '',
        embargoUntil: null,
        codeName: null,
        fitmentIds: sibling.fitments.map((f) => f.id),
      }
    : { ...BLANK_PART, fitmentIds: [] };
  return (
    <main className="max-w-[980px] px-6 py-5">
      <PageHead
        title="New part"
        note={
          part
            ? `${part.name}: now its first revision.`
            : sibling
              ? `Copied from ${sibling.part.name}; give it its own SKU.`
              : 'First the part, then its first revision.'
        }
      />
      {part && <LikeParts part={part} />}
      {part === null ? (
        <RecordForm
          key="part"
          schema={NewPart}
          groups={NEW_PART_GROUPS}
          values={first}
          onCancel={() => void navigate('/register/parts')}
          verb="On to the revision"
          draft={`new part:${from ?? ''}`}
          save={(typed) => {
            setPart(typed);
            // Kept until the part is there with its revision.
            return false;
          }}
        />
      ) : (
        <RecordForm
          key="revision"
          draft={`first revision:${from ?? ''}`}
          schema={RevisionInput}
          groups={REVISION_GROUPS}
          values={
            sibling?.revisions[0]
              ? { ...revisionOf(sibling.revisions[0]), revision: 'A', changeNote: '' }
              : BLANK_REVISION
          }
          saving={isLoading}
          problem={error}
          onCancel={() => setPart(null)}
          verb="Add the part"
          save={async (revision) => {
            const { fitmentIds, ...record } = part;
            const answer = await add({ part: record, revision, fitmentIds });
            if (!('data' in answer) || !answer.data) return false;
            dropFirst();
            toast.success('Added.');
            return navigate(`/register/parts/${answer.data.id}`);
          }}
        />
      )}
    </main>
  );
}
