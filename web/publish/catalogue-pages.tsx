import { Download } from 'lucide-react';
import { useCallback, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import type { Evidence, PublicClaim } from '../../contract/publish/claim.ts';
import { STANDARD_NAMES } from '../../core/base/standards.ts';
import type { TestResult } from '../../core/judge/analyse-test.ts';
import { isRefused } from '../../core/compare/result.ts';
import { useCatalogueFitmentQuery, useCatalogueInfiniteQuery, useEvidenceQuery } from '../base/endpoints.ts';
import { bytes, day, dayTime, number, useUnits } from '../base/format.ts';
import { MoreRows } from '../base/paging.tsx';
import { buttonClass, Caution, Empty, Input, Loading, ProblemNote } from '../base/ui.tsx';
import { useSettled } from '../base/use-settled.ts';
import { GainRibbon } from '../compare/gain-ribbon.tsx';
import { ClaimCard, ClaimMark } from './claim-card.tsx';

/** What anyone may read: fitments with a claim that stands. */
export function CataloguePage() {
  const [words, setWords] = useState('');
  const { data, error, fetchNextPage, hasNextPage, isFetching } = useCatalogueInfiniteQuery({
    q: useSettled(words),
  });
  const readMore = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  const found = useMemo(() => data?.pages.flatMap((page) => page.items), [data]);
  return (
    <main className="mx-auto max-w-[980px] px-6 py-6">
      <h1>Catalogue</h1>
      <p className="mb-6 mt-1 max-w-prose text-soft">
        What our tests support, fitment by fitment. Every number is measured at the wheels against the stock
        part on the same car, and leads back to the raw pulls it rests on.
      </p>
      <Input
        type="search"
        aria-label="Find a fitment"
        placeholder="Make, model, engine, year …"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        className="mb-6 w-80"
      />
      <ProblemNote error={error} />
      {!data && !error && <Loading what="the catalogue" />}
      {found?.length === 0 && (
        <Empty title={words ? 'No fitment like that' : 'Nothing published yet'}>
          {words
            ? 'No fitment with a claim that stands fits the words.'
            : 'A claim appears here when a reviewer has approved it.'}
        </Empty>
      )}
      <div className="grid gap-8">
        {found?.map((fitment) => (
          <section key={fitment.slug}>
            <div className="mb-2 border-t-[1.5px] border-ink pt-2">
              <h2 className="font-display text-[19px]">
                <Link to={`/catalogue/${fitment.slug}`} className="no-underline hover:underline">
                  {fitment.name}
                </Link>
              </h2>
              <p className="text-soft">
                {fitment.engine} · {fitment.years}
              </p>
            </div>
            <div className="grid gap-2">
              {fitment.claims.map((c) => (
                <Link key={c.code} to={`/catalogue/${fitment.slug}`} className="no-underline">
                  <ClaimCard claim={c} />
                </Link>
              ))}
            </div>
          </section>
        ))}
      </div>
      {data && found && found.length > 0 && (
        <MoreRows
          shown={found.length}
          total={data.pages[0].total}
          more={hasNextPage}
          reading={isFetching}
          onMore={readMore}
        />
      )}
    </main>
  );
}

export function FitmentPage() {
  const { slug = '' } = useParams();
  const { data, error } = useCatalogueFitmentQuery(slug);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} />
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
        {data.engine} · {data.years} · rated {data.rated}
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

function PublishedClaim({ claim }: { claim: PublicClaim }) {
  return (
    <article className="border border-rule bg-sheet p-5">
      <div className="flex flex-wrap items-start justify-between gap-4">
        <div className="max-w-[620px]">
          <p className="text-[15px] font-semibold">{claim.subject}</p>
          <p className="font-display text-[23px] font-semibold leading-tight" data-testid="claim-wording">
            {claim.wording}
          </p>
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

/** The way back: from the claim to the analysis, the pulls and the raw bytes. */
export function EvidencePage() {
  const { code = '' } = useParams();
  const { data, error } = useEvidenceQuery(code);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} />
      </main>
    );
  if (!data)
    return (
      <main className="p-6">
        <Loading what="the evidence" />
      </main>
    );
  return <EvidenceView evidence={data} code={code} />;
}

function EvidenceView({ evidence, code }: { evidence: Evidence; code: string }) {
  const units = useUnits();
  const { claim, analysis, pulls } = evidence;
  const result = evidence.result as TestResult;
  const contrast = result.contrasts.find((c) => c.arm === claim.arm) ?? result.contrasts[0];
  return (
    <main className="mx-auto max-w-[1080px] px-6 py-6">
      <p className="text-soft">
        <Link to="/catalogue">Catalogue</Link> ·{' '}
        <Link to={`/catalogue/${claim.fitmentSlug}`}>{claim.fitment}</Link>
      </p>
      <h1>What this claim rests on</h1>
      <p className="mt-1 font-semibold">{claim.subject}</p>
      <p className="mt-1 font-display text-[18px]">
        {claim.wording}{' '}
        <span className="text-[13px]">
          <ClaimMark state={claim.state} />
        </span>
      </p>
      {claim.staleReason && (claim.state === 'stale' || claim.state === 'withdrawn') && (
        <div className="mt-2">
          <ProblemNote message={claim.staleReason} />
        </div>
      )}
      {(evidence.since ?? []).length > 0 && (
        <section aria-label="Since it was approved" className="mt-2 border-l-4 border-ask pl-3">
          {evidence.since!.map((text) => (
            <p key={text}>◐ {text}</p>
          ))}
        </section>
      )}
      {!isRefused(contrast) && (
        <div className="mt-3">
          <GainRibbon curve={contrast.relative.curve} unit="%" upTo={contrast.relative.upTo} height={250} />
        </div>
      )}
      <ol
        aria-label="From file to claim"
        className="my-4 flex flex-wrap gap-x-3 gap-y-1 text-[12.5px] text-soft"
      >
        <li>plan locked {evidence.planLockedAt ? dayTime(evidence.planLockedAt) : 'not'} →</li>
        <li>{pulls.filter((p) => p.file).length} raw files, hashed →</li>
        <li>
          {result.standard === 'none'
            ? 'not corrected for air'
            : `corrected by ${STANDARD_NAMES[result.standard]}`}{' '}
          →
        </li>
        <li>
          analysis {analysis.number}, {dayTime(analysis.at)} →
        </li>
        <li>drafted by {evidence.draftedBy} →</li>
        <li>approved by {evidence.approvedBy || 'nobody'}</li>
      </ol>
      {evidence.amendments.length > 0 && (
        <section
          aria-label="Amendments of the plan"
          className="mb-4 border-l-4 border-ask px-3 text-[12.5px]"
        >
          <b className="text-ask">The plan was amended after it was locked</b>
          {evidence.amendments.map((a) => (
            <p key={a.number}>
              {dayTime(a.at)}: {a.changes.map((c) => `${c.field} from ${c.from} to ${c.to}`).join('; ')}.{' '}
              {a.reason}
            </p>
          ))}
        </section>
      )}
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-3">
        <h2>Pulls in the order they were run</h2>
        <a href={`/api/evidence/${code}/test.json`} className={buttonClass('plain', true)}>
          <Download size={13} aria-hidden />
          Test file, to compute it yourself
        </a>
      </div>
      <div className="overflow-x-auto">
        <table className="ledger">
          <thead>
            <tr>
              <th className="num">No.</th>
              <th>Pull</th>
              <th>Arm</th>
              <th>Air</th>
              <th className="num">Factor</th>
              <th className="num">Peak, corrected</th>
              <th>Raw file</th>
              <th>SHA-256</th>
            </tr>
          </thead>
          <tbody>
            {pulls
              .filter((p, i) => p.counted || i === 0 || pulls[i - 1].counted)
              .map((p) =>
                p.counted ? (
                  <tr key={p.id}>
                    <td className="num text-soft">{p.position}</td>
                    <td className="font-semibold">
                      {p.label}
                      {p.excluded && <div className="font-normal text-loss">excluded: {p.excluded}</div>}
                    </td>
                    <td>{p.arm}</td>
                    <td className="text-[12.5px]">{p.air}</td>
                    <td className="num">{p.factor !== null && number(p.factor, 4)}</td>
                    <td className="num">
                      {p.peakKw !== null && `${number(units.power.of(p.peakKw))} ${units.power.unit}`}
                    </td>
                    <td>
                      {p.file && (
                        <a
                          href={`/api/evidence/${code}/pulls/${p.label}/file`}
                          className="inline-flex items-center gap-1"
                        >
                          <Download size={12} aria-hidden />
                          {p.file.name} <span className="text-soft">{bytes(p.file.size)}</span>
                        </a>
                      )}
                    </td>
                    <td className="font-mono text-[11px] text-soft" title={p.file?.sha256}>
                      {p.file?.sha256.slice(0, 16)}…
                    </td>
                  </tr>
                ) : (
                  <tr key={p.id} className="text-soft">
                    <td className="num">{p.position}</td>
                    <td>warm-up</td>
                    <td>{p.arm}</td>
                    <td colSpan={5} className="text-[12.5px]">
                      {(pulls.find((q) => q.counted && q.position > p.position)?.position ?? p.position + 1) -
                        p.position}{' '}
                      pulls before the run, never counted
                    </td>
                  </tr>
                ),
              )}
          </tbody>
        </table>
      </div>
      <p className="mt-4 text-[12.5px] text-soft">
        Vehicle {evidence.vehicle}; {evidence.dyno}. Software {analysis.softwareVersion}, policy{' '}
        {analysis.policyVersion}. Inputs {analysis.inputsHash.slice(0, 24)}… Plan{' '}
        {evidence.planHash?.slice(0, 24)}… The raw files download as they came, byte for byte.
      </p>
    </main>
  );
}
