import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { toast } from 'sonner';
import { PartInput, RevisionInput } from '../../contract/register/register.ts';
import { day, number } from '../base/format.ts';
import { RecordForm } from '../base/record-form.tsx';
import { Button, buttonClass, Dialog, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { useChangePartMutation, usePartQuery, useRevisePartMutation } from './api.ts';
import { Facts, PageHead, useMay } from './layout.tsx';
import { PART_GROUPS, BLANK_REVISION, PartName, REVISION_GROUPS, partOf, revisionOf } from './part-form.tsx';

export function PartPage() {
  const { partId = '' } = useParams();
  const may = useMay();
  const { data, error } = usePartQuery(partId);
  const [change, { error: refused, isLoading }] = useChangePartMutation();
  const [revise, { error: notRevised, isLoading: revising }] = useRevisePartMutation();
  const [open, setOpen] = useState<'part' | 'revision' | null>(null);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} />
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
            <article key={r.id} className="mb-4 border-t-[1.5px] border-ink pt-2">
              <h3 className="font-display text-[17px] font-semibold">
                Revision {r.revision}{' '}
                {i === 0 && <span className="font-sans text-[12.5px] font-normal text-soft">the newest</span>}
              </h3>
              {r.changeNote && <p className="text-soft">{r.changeNote}</p>}
              {r.irreversibleSteps && (
                <p className="mt-1 border-l-4 border-ask px-3 py-1 text-[12.5px]">
                  <b className="text-ask">Cannot be undone: </b>
                  {r.irreversibleSteps}
                </p>
              )}
              <Facts
                wide
                rows={[
                  ['Written', day(r.createdAt)],
                  ...(r.releasedOn ? [['Released', day(r.releasedOn)] as const] : []),
                  ...(r.weightKg === null ? [] : [['Weight', `${r.weightKg} kg`] as const]),
                  ['To fit and to take off', `${r.installHours} h and ${r.removeHours} h`],
                  ...(r.options.length
                    ? [
                        [
                          'Options',
                          r.options.map((o) => `${o.name}: ${o.settings.join(' / ')}`).join('; '),
                        ] as const,
                      ]
                    : []),
                  ...(r.needs.partIds.length || r.needs.calibration || r.needs.fuel
                    ? [
                        [
                          'Needs',
                          <span key="n">
                            {r.needs.partIds.map((id) => (
                              <span key={id}>
                                <PartName id={id} known={undefined} />;{' '}
                              </span>
                            ))}
                            {[r.needs.calibration ? 'a calibration made for it' : '', r.needs.fuel ?? '']
                              .filter(Boolean)
                              .join('; ')}
                          </span>,
                        ] as const,
                      ]
                    : []),
                  ...(r.conflicts.length
                    ? [
                        [
                          'Not together with',
                          <span key="c">
                            {r.conflicts.map((id, k) => (
                              <span key={id}>
                                {k > 0 && ', '}
                                <PartName id={id} known={undefined} />
                              </span>
                            ))}
                          </span>,
                        ] as const,
                      ]
                    : []),
                  ...(r.specialTools ? [['Special tools', r.specialTools] as const] : []),
                  ...(r.replaceOnInstall.length
                    ? [['Replace when fitting', r.replaceOnInstall.join(', ')] as const]
                    : []),
                ]}
              />
            </article>
          ))}
        </section>
        <aside className="grid content-start gap-5">
          <Facts
            rows={[
              ['Promise', p.promise],
              [
                'Price',
                p.priceCents === null ? 'not entered' : `${number(p.priceCents / 100, 2)} ${p.currency}`,
              ],
              ['On sale from', p.launchDate ? day(p.launchDate) : 'no date'],
              [
                'Legal',
                p.legal.length ? p.legal.map((l) => `${l.market}: ${l.class}`).join('; ') : 'not entered',
              ],
              ...(p.note ? [['Note', p.note] as const] : []),
            ]}
          />
          <p className="text-[12.5px] text-soft">
            Removing or changing emissions equipment and noise: the law differs by place; ask a licensed
            workshop.
          </p>
          <section>
            <h2>
              Fits {data.fitmentsTotal} {data.fitmentsTotal === 1 ? 'fitment' : 'fitments'}
            </h2>
            <ul>
              {data.fitments.slice(0, 12).map((f) => (
                <li key={f.id}>
                  <Link to={`/register/fitments/${f.id}`}>{f.name}</Link>
                </li>
              ))}
            </ul>
            {data.fitmentsTotal > 12 && <p className="text-soft">and {data.fitmentsTotal - 12} more</p>}
            <p className="mt-1 text-[12.5px]">
              <Link to={`/register/applications?part=${encodeURIComponent(p.sku)}`}>
                Change the applications
              </Link>
            </p>
          </section>
        </aside>
      </div>
      <Dialog
        wide
        open={open !== null}
        onClose={() => setOpen(null)}
        title={open === 'revision' ? `New revision of ${p.name}` : `Change ${p.name}`}
      >
        {open === 'part' && (
          <RecordForm
            schema={PartInput}
            groups={PART_GROUPS}
            values={partOf(p)}
            saving={isLoading}
            problem={refused}
            onCancel={() => setOpen(null)}
            save={async (record) => {
              const answer = await change({ id: p.id, version: p.version, record });
              if (!('error' in answer)) {
                setOpen(null);
                toast.success('Changed.');
              }
            }}
          />
        )}
        {open === 'revision' && (
          <RecordForm
            schema={RevisionInput}
            groups={REVISION_GROUPS}
            values={
              revisions[0] ? { ...revisionOf(revisions[0]), revision: '', changeNote: '' } : BLANK_REVISION
            }
            saving={revising}
            problem={notRevised}
            onCancel={() => setOpen(null)}
            verb="Write the revision"
            save={async (revision) => {
              const answer = await revise({ id: p.id, revision });
              if (!('error' in answer)) {
                setOpen(null);
                toast.success('Written. Earlier revisions stay as they were.');
              }
            }}
          />
        )}
      </Dialog>
    </main>
  );
}
