import { Download } from 'lucide-react';
import { lazy, Suspense } from 'react';
import { Link, useParams } from 'react-router';
import type { Evidence } from '../../contract/publish/claim.ts';
import { correctionWords } from '../../core/base/standards.ts';
import type { TestResult } from '../../core/judge/analyse-test.ts';
import { isRefused } from '../../core/compare/result.ts';
import { useEvidenceQuery } from '../base/public-endpoints.ts';
import { bytes, dayTime, number, useUnits } from '../base/format.ts';
import { buttonClass, Loading, ProblemNote } from '../base/ui.tsx';
import { Accounting } from '../capture/accounting.tsx';
import { GainRibbon } from '../compare/gain-ribbon.tsx';
import { ClaimMark, InReadersUnit } from './claim-card.tsx';
import { Told } from '../base/told.tsx';

/** Few claims have them: who reads another does not load what shows them. */
const ControlFiles = lazy(async () => ({ default: (await import('./control-files.tsx')).ControlFiles }));

/** The way back: from the claim to the analysis, the pulls and the raw bytes. */
export function EvidencePage() {
  const { code = '' } = useParams();
  const { data, error, refetch } = useEvidenceQuery(code);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
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

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
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
      <p className="mt-1 font-display text-[18px] font-semibold">
        {claim.wording}{' '}
        <span className="font-sans text-[13px] font-normal">
          <ClaimMark state={claim.state} />
        </span>
      </p>
      <InReadersUnit claim={claim} />
      {claim.staleReason && (claim.state === 'stale' || claim.state === 'withdrawn') && (
        <div className="mt-2">
          <ProblemNote message={claim.staleReason} />
        </div>
      )}
      {evidence.instead && (
        <p className="mt-2">
          Today:{' '}
          <Link to={`/evidence/${evidence.instead.code}`} className="font-semibold">
            {evidence.instead.wording}
          </Link>
        </p>
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
        <li>{correctionWords(result.standard, result.school)} →</li>
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
      <div className="mb-3">
        <Accounting
          pulls={pulls.map(({ counted, file, excluded }) => ({ counted, captured: file !== null, excluded }))}
          analysed={pulls.filter((p) => p.counted && !p.excluded && p.peakKw !== null).length}
        />
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
                    <td className="text-[12.5px]">{p.air && <Told>{p.air}</Told>}</td>
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
                      {p.log && (
                        <a
                          href={`/api/evidence/${code}/pulls/${p.label}/log`}
                          className="block text-[12.5px]"
                          title={`SHA-256 ${p.log.sha256}`}
                        >
                          log {p.log.name}, shifted by {number(p.log.offsetS, 2)} s
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
      {evidence.controls && (
        <Suspense fallback={<Loading what="the control vehicle’s files" />}>
          <ControlFiles code={code} controls={evidence.controls} />
        </Suspense>
      )}
      <p className="mt-4 text-[12.5px] text-soft">
        Vehicle {evidence.vehicle}; {evidence.dyno}. Software {analysis.softwareVersion}, policy{' '}
        {analysis.policyVersion}. Inputs {analysis.inputsHash.slice(0, 24)}… Plan{' '}
        {evidence.planHash?.slice(0, 24)}… The raw files download as they came, byte for byte.
      </p>
    </main>
  );
}
