import { stepForGood } from '../../core/register/for-good.ts';
import { useState, type ReactNode } from 'react';
import { Link, useParams } from 'react-router';
import { toast } from 'sonner';
import { PartInput, RevisionInput, type PartDetail } from '../../contract/register/register.ts';
import { day, number, rpm } from '../base/format.ts';
import { RecordForm } from '../base/record-form.tsx';
import { Dialog } from '../base/dialog.tsx';
import { Button, buttonClass, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { useChangePartMutation, usePartQuery, useRevisePartMutation } from './api.ts';
import { Facts, PageHead, useMay } from './layout.tsx';
import { PART_GROUPS, BLANK_REVISION, PartName, REVISION_GROUPS, partOf, revisionOf } from './part-form.tsx';

// eslint-disable-next-line max-lines-per-function -- the markup of one page, in the order it is read
export function PartPage() {
  const { partId = '' } = useParams();
  const may = useMay();
  const { data, error, refetch } = usePartQuery(partId);
  const [open, setOpen] = useState<'part' | 'revision' | null>(null);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!data)
    return (
      <main className="p-6">
        <Loading what="the part" />
      </main>
    );
  const { part: p, revisions } = data;
  const mayChange = may.manage && !p.withheld;
  return (
    <main className="px-6 py-5">
      <PageHead title={p.name} note={`${p.sku} · ${p.maker} · ${p.category}`}>
        {p.embargoed && (
          <Mark tone="ask">
            {p.withheld
              ? 'under embargo: you read its code name'
              : `under embargo until ${day(p.embargoUntil!)}, code name ${p.codeName}`}
          </Mark>
        )}
        {mayChange && (
          <>
            <Link to={`/register/parts/new?from=${p.id}`} className={buttonClass('plain')}>
              Copy
            </Link>
            <a
              href={`/api/parts/${p.id}/feedback.zip`}
              className={buttonClass('plain')}
              title={
                'For the maker: how it fitted, what its tests showed, notes, photographs and pulls. ' +
                'Other parts under embargo are not named.'
              }
            >
              Feedback for its maker
            </a>
            <Button onClick={() => setOpen('part')}>Change</Button>
            <Button kind="main" onClick={() => setOpen('revision')}>
              New revision
            </Button>
          </>
        )}
      </PageHead>
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_330px]">
        <section>
          <h2 className="mb-2">Revisions</h2>
          {revisions.map((r, i) => (
            <RevisionShown key={r.id} revision={r} newest={i === 0} />
          ))}
        </section>
        <PartFacts detail={data} />
      </div>
      {open === 'part' && <ChangePart part={p} onClose={() => setOpen(null)} />}
      {open === 'revision' && <NewRevision detail={data} onClose={() => setOpen(null)} />}
    </main>
  );
}

type Detail = PartDetail;
type RevisionRow = Detail['revisions'][number];

function RevisionShown({ revision: r, newest }: { revision: RevisionRow; newest: boolean }) {
  return (
    <article className="mb-4 border-t-[1.5px] border-ink pt-2">
      <h3 className="font-display text-[17px] font-semibold">
        Revision {r.revision}{' '}
        {newest && <span className="font-sans text-[12.5px] font-normal text-soft">the newest</span>}
      </h3>
      {r.changeNote && <p className="text-soft">{r.changeNote}</p>}
      {stepForGood(r.irreversibleSteps) !== null && (
        <p className="mt-1 border-l-4 border-ask px-3 py-1 text-[12.5px]">
          <b className="text-ask">Cannot be undone: </b>
          {r.irreversibleSteps}
        </p>
      )}
      <Facts wide rows={revisionRows(r)} />
    </article>
  );
}

type Row = readonly [string, ReactNode];
/** A row only where there is something to say. */
const when = (known: unknown, name: string, value: () => ReactNode): readonly Row[] =>
  known ? [[name, value()]] : [];
function revisionRows(r: RevisionRow): readonly Row[] {
  const { partIds, calibration, fuel } = r.needs;
  return [
    ['Written', day(r.createdAt)],
    ...when(r.releasedOn, 'Released', () => day(r.releasedOn!)),
    ...when(r.weightKg !== null, 'Weight', () => `${r.weightKg} kg`),
    ...when(
      r.driveCrankMm,
      'Drive',
      () =>
        `crank pulley ${r.driveCrankMm} mm` +
        (r.driveHeadMm ? `, head pulley ${r.driveHeadMm} mm` : '') +
        (r.driveStepUp ? `, own gearing ${r.driveStepUp}` : ''),
    ),
    ...when(r.mostDriveRpm, 'Head at most', () => rpm(r.mostDriveRpm!)),
    ['To fit and to take off', `${r.installHours} h and ${r.removeHours} h`],
    ...when(r.options.length, 'Options', () =>
      r.options.map((o) => `${o.name}: ${o.settings.join(' / ')}`).join('; '),
    ),
    ...when(partIds.length || calibration || fuel, 'Needs', () => (
      <>
        {partIds.map((id) => (
          <span key={id}>
            <PartName id={id} known={undefined} />;{' '}
          </span>
        ))}
        {[calibration ? 'a calibration made for it' : '', fuel ?? ''].filter(Boolean).join('; ')}
      </>
    )),
    ...when(r.conflicts.length, 'Not together with', () =>
      r.conflicts.map((id, k) => (
        <span key={id}>
          {k > 0 && ', '}
          <PartName id={id} known={undefined} />
        </span>
      )),
    ),
    ...when(r.specialTools, 'Special tools', () => r.specialTools),
    ...when(r.replaceOnInstall.length, 'Replace when fitting', () => r.replaceOnInstall.join(', ')),
  ];
}

/** Fitments named beside a part; the rest are counted. */
const FITMENTS_NAMED = 12;
function PartFacts({ detail: data }: { detail: Detail }) {
  const { part: p } = data;
  return (
    <aside className="grid content-start gap-5">
      <Facts
        rows={[
          ['Promise', p.promise],
          ['Price', p.priceCents === null ? 'not entered' : `${number(p.priceCents / 100, 2)} ${p.currency}`],
          ['On sale from', p.launchDate ? day(p.launchDate) : 'no date'],
          [
            'Legal',
            p.legal.length ? p.legal.map((l) => `${l.market}: ${l.class}`).join('; ') : 'not entered',
          ],
          ...(p.note ? [['Note', p.note] as const] : []),
        ]}
      />
      <p className="text-[12.5px] text-soft">
        Removing or changing emissions equipment and noise: the law differs by place; ask a licensed workshop.
      </p>
      <p>
        <Link to={`/register/before?part=${p.id}`}>Figures from before</Link>
      </p>
      <section>
        <h2>
          Fits {data.fitmentsTotal} {data.fitmentsTotal === 1 ? 'fitment' : 'fitments'}
        </h2>
        <ul>
          {data.fitments.slice(0, FITMENTS_NAMED).map((f) => (
            <li key={f.id}>
              <Link to={`/register/fitments/${f.id}`}>{f.name}</Link>
            </li>
          ))}
        </ul>
        {data.fitmentsTotal > FITMENTS_NAMED && (
          <p className="text-soft">and {data.fitmentsTotal - FITMENTS_NAMED} more</p>
        )}
        <p className="mt-1 text-[12.5px]">
          <Link to={`/register/applications?part=${encodeURIComponent(p.sku)}`}>Change the applications</Link>
        </p>
      </section>
    </aside>
  );
}

function ChangePart({ part, onClose }: { part: Detail['part']; onClose: () => void }) {
  const [change, { error, isLoading }] = useChangePartMutation();
  return (
    <Dialog wide open onClose={onClose} title={`Change ${part.name}`}>
      <RecordForm
        draft={`part:${part.id}`}
        schema={PartInput}
        groups={PART_GROUPS}
        values={partOf(part)}
        saving={isLoading}
        problem={error}
        onCancel={onClose}
        save={async (record) => {
          if ('error' in (await change({ id: part.id, version: part.version, record }))) return false;
          onClose();
          toast.success('Changed.');
          return true;
        }}
      />
    </Dialog>
  );
}

/** A new revision begins as the newest one stands. */
function NewRevision({ detail, onClose }: { detail: Detail; onClose: () => void }) {
  const { part, revisions } = detail;
  const [revise, { error, isLoading }] = useRevisePartMutation();
  const newest = revisions[0];
  return (
    <Dialog wide open onClose={onClose} title={`New revision of ${part.name}`}>
      <RecordForm
        draft={`revision of:${part.id}`}
        schema={RevisionInput}
        groups={REVISION_GROUPS}
        values={newest ? { ...revisionOf(newest), revision: '', changeNote: '' } : BLANK_REVISION}
        saving={isLoading}
        problem={error}
        onCancel={onClose}
        verb="Write the revision"
        save={async (revision) => {
          if ('error' in (await revise({ id: part.id, revision }))) return false;
          onClose();
          toast.success('Written. Earlier revisions stay as they were.');
          return true;
        }}
      />
    </Dialog>
  );
}
