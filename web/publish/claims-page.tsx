import { useCallback, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { CLAIM_ORDER, type ClaimState } from '../../contract/publish/claim.ts';
import { useClaimsInfiniteQuery } from '../base/endpoints.ts';
import { day } from '../base/format.ts';
import { MoreRows } from '../base/paging.tsx';
import { Chips } from '../base/chips.tsx';
import { Empty, Input, Loading, ProblemNote } from '../base/ui.tsx';
import { useSettled } from '../base/use-settled.ts';
import { Glyph } from '../compare/glyph.tsx';
import { ClaimMark } from './claim-card.tsx';

/** Register of claims, with what waits for a decision first. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function ClaimsPage() {
  const [words, setWords] = useState('');
  const [state, setState] = useState<ClaimState>();
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = useClaimsInfiniteQuery({
    q: useSettled(words),
    state,
  });
  const readMore = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  const sorted = useMemo(() => data?.pages.flatMap((page) => page.items), [data]);
  const counts = data?.pages[0].counts ?? {};
  const mine = data?.pages[0].mine ?? 0;
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
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <Input
          type="search"
          aria-label="Find claims by words"
          placeholder="Part, fitment, vehicle, code …"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          className="w-64"
        />
        <Chips
          label="State"
          value={state}
          onChange={setState}
          choices={[
            { value: undefined, text: `all ${Object.values(counts).reduce((sum, n) => sum + n, 0)}` },
            ...CLAIM_ORDER.filter((s) => counts[s]).map((s) => ({ value: s, text: `${s} ${counts[s]}` })),
          ]}
        />
      </div>
      <ProblemNote error={error} again={() => void refetch()} />
      {!sorted && !error && <Loading what="the claims" />}
      {sorted?.length === 0 && (
        <Empty title={words || state ? 'No claim like that' : 'No claims yet'}>
          {words || state
            ? 'No claim fits the words and the state.'
            : 'A claim is drafted from a test whose gates pass.'}
        </Empty>
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
      {data && sorted && sorted.length > 0 && (
        <MoreRows
          what={['claim', 'claims']}
          shown={sorted.length}
          total={data.pages[0].total}
          more={hasNextPage}
          reading={isFetching}
          onMore={readMore}
        />
      )}
    </main>
  );
}
