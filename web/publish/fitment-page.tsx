import { Link, useParams } from 'react-router';
import type { PublicClaim } from '../../contract/publish/claim.ts';
import { day } from '../base/format.ts';
import { Told } from '../base/told.tsx';
import { buttonClass, Caution, Empty, Loading, ProblemNote } from '../base/ui.tsx';
import { GainRibbon } from '../compare/gain-ribbon.tsx';
import { ClaimCard, InReadersUnit } from './claim-card.tsx';
import { useCatalogueFitmentQuery } from '../base/public-endpoints.ts';

/** One fitment: every claim that stands for it, and what no longer does. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function FitmentPage() {
  const { slug = '' } = useParams();
  const { data, error, refetch } = useCatalogueFitmentQuery(slug);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!data)
    return (
      <main className="p-6">
        <Loading what="the fitment" />
      </main>
    );
  return (
    <main className="mx-auto max-w-[980px] px-6 py-6">
      <p className="text-soft">
        <Link to="/catalogue">Catalogue</Link>
      </p>
      <h1>{data.name}</h1>
      <p className="mb-5 mt-1 text-soft">
        {data.engine} · {data.years} · rated <Told>{data.rated}</Told>
      </p>
      {data.claims.length === 0 && (
        <Empty title="No claim stands for this fitment">
          What was published before is listed below with the reason it no longer stands.
        </Empty>
      )}
      <div className="grid gap-8">
        {data.claims
          .filter((claim) => claim.tells === 'gain')
          .map((claim) => (
            <PublishedClaim key={claim.code} claim={claim} />
          ))}
      </div>
      {data.claims.some((claim) => claim.tells === 'advice') && (
        <section className="mt-10">
          <h2>Advice</h2>
          <p className="mb-3 text-soft">
            What was measured and gives no gain, loses, or is nothing that is sold. Tested and reviewed like
            the claims.
          </p>
          <div className="grid gap-8">
            {data.claims
              .filter((claim) => claim.tells === 'advice')
              .map((claim) => (
                <PublishedClaim key={claim.code} claim={claim} />
              ))}
          </div>
        </section>
      )}
      {data.former.length > 0 && (
        <section className="mt-10">
          <h2 className="mb-2">No longer current</h2>
          <p className="mb-2 text-soft">
            Beside what is said instead, under <Link to="/corrections">corrections</Link>.
          </p>
          <div className="grid gap-2">
            {data.former.map((c) => (
              <Link key={c.code} to={`/evidence/${c.code}`} className="no-underline">
                <ClaimCard claim={c} state />
              </Link>
            ))}
          </div>
        </section>
      )}
    </main>
  );
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function PublishedClaim({ claim }: { claim: PublicClaim }) {
  return (
    <article className="border border-rule bg-sheet p-5">
      <div className="flex flex-wrap items-start justify-between gap-4">
        <div className="max-w-[620px]">
          <p className="text-[15px] font-semibold">{claim.subject}</p>
          <p className="font-display text-[23px] font-semibold leading-tight" data-testid="claim-wording">
            {claim.wording}
          </p>
          <InReadersUnit claim={claim} />
        </div>
        <Link to={`/evidence/${claim.code}`} className={buttonClass('main')}>
          See the pulls it rests on
        </Link>
      </div>
      {claim.glyph && (
        <div className="mt-3">
          <GainRibbon
            curve={claim.glyph.rpm.map((r, i) => ({
              rpm: r,
              gain: claim.glyph!.gain[i],
              lower: claim.glyph!.lower[i],
              upper: claim.glyph!.upper[i],
            }))}
            unit="%"
            upTo={null}
            height={230}
          />
        </div>
      )}
      <div className="mt-3 grid gap-5 md:grid-cols-2">
        <div>
          <h3 className="font-semibold">Conditions</h3>
          <ul className="mt-1 list-disc pl-5 text-soft">
            {claim.conditions.map((c) => (
              <li key={c}>{c}</li>
            ))}
          </ul>
        </div>
        <div>
          <h3 className="font-semibold">What else to know</h3>
          {claim.disclosures.map((d) => (
            <p key={d} className="mt-1 text-loss">
              ▼ {d}
            </p>
          ))}
          <p className="mt-1 text-soft">
            Evidence grade {claim.grade}:{' '}
            {claim.grade === 'single' ? 'one vehicle, no failing gate; another car may differ' : claim.grade}.
            Published {claim.publishedAt && day(claim.publishedAt)}. Other fuels and calibrations are not
            tested.
          </p>
          <div className="mt-2">
            <Caution>
              Removing or changing emissions equipment and noise is regulated differently by place; have parts
              fitted by a licensed workshop.
            </Caution>
          </div>
        </div>
      </div>
    </article>
  );
}
