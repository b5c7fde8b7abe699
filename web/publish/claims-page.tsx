import { Link } from 'react-router';
import { REVIEW } from '../../contract/base/roles.ts';
import { useSessionQuery } from '../base/api.ts';
import { useClaimsQuery } from '../base/endpoints.ts';
import { day } from '../base/format.ts';
import { Empty, Loading, ProblemNote } from '../base/ui.tsx';
import { Glyph } from '../compare/glyph.tsx';
import { ClaimMark } from './claim-card.tsx';

const ORDER = ['in review', 'returned', 'draft', 'stale', 'published', 'withdrawn'];

/** Register of claims, with what waits for a decision first. */
export function ClaimsPage() {
  const { data: claims, error } = useClaimsQuery();
  const { data: session } = useSessionQuery();
  const me = session?.person;
  const mine =
    claims?.filter((c) => c.state === 'in review' && me && REVIEW.includes(me.role) && c.author.id !== me.id)
      .length ?? 0;
  const sorted = claims && [...claims].sort((a, b) => ORDER.indexOf(a.state) - ORDER.indexOf(b.state));
  return (
    <main className="px-6 py-5">
      <h1>Claims</h1>
      <p className="mb-4 mt-1 text-soft">
        {mine > 0 ? (
          <b className="text-ask">
            {mine === 1 ? 'One claim waits' : `${mine} claims wait`} for your review.
          </b>
        ) : (
          'Every claim with its state; what waits for a decision stands first.'
        )}
      </p>
      <ProblemNote error={error} />
      {!sorted && !error && <Loading what="the claims" />}
      {sorted?.length === 0 && (
        <Empty title="No claims yet">A claim is drafted from a test whose gates pass.</Empty>
      )}
      {sorted && sorted.length > 0 && (
        <table className="ledger">
          <thead>
            <tr>
              <th>State</th>
              <th>Claim</th>
              <th>What was tested, on what</th>
              <th>Gain over rpm</th>
              <th>Drafted by</th>
              <th>Reviewed by</th>
            </tr>
          </thead>
          <tbody>
            {sorted.map((claim) => (
              <tr key={claim.id}>
                <td>
                  <ClaimMark state={claim.state} />
                </td>
                <td className="max-w-[360px]">
                  <Link to={`/claims/${claim.id}`} className="font-semibold no-underline hover:underline">
                    {claim.wording}
                  </Link>
                  {claim.disclosures.length > 0 && (
                    <div className="text-[12.5px] text-loss">
                      ▼{' '}
                      {claim.disclosures.length === 1
                        ? 'one disclosure'
                        : `${claim.disclosures.length} disclosures`}
                    </div>
                  )}
                  {claim.staleReason && <div className="text-[12.5px] text-loss">{claim.staleReason}</div>}
                </td>
                <td>
                  {claim.subject}
                  <div className="text-[12.5px] text-soft">{claim.fitment}</div>
                </td>
                <td>
                  <Glyph glyph={claim.glyph} />
                </td>
                <td>
                  {claim.author.name}
                  <div className="text-[12.5px] text-soft">{day(claim.draftedAt)}</div>
                </td>
                <td>
                  {claim.reviewer ? (
                    <>
                      {claim.reviewer.name}
                      <div className="text-[12.5px] text-soft">
                        {claim.publishedAt && day(claim.publishedAt)}
                      </div>
                    </>
                  ) : (
                    ''
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </main>
  );
}
