import { useCallback, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { CLAIM_ORDER, CLAIM_SORTS, type Claim, type ClaimSort } from '../../contract/publish/claim.ts';
import { useClaimsInfiniteQuery } from '../base/endpoints.ts';
import { day } from '../base/format.ts';
import { MoreRows } from '../base/paging.tsx';
import { Chips } from '../base/chips.tsx';
import { Button, Empty, Input, Loading, ProblemNote } from '../base/ui.tsx';
import { DataTable, type Column } from '../base/data-table.tsx';
import { KeptViews } from '../base/kept-views.tsx';
import { useNarrowing, useWords } from '../base/narrowing.ts';
import { saveFile } from '../base/save-file.ts';
import { Select } from '../base/select.tsx';
import { Glyph } from '../compare/glyph.tsx';
import { ClaimMark } from './claim-card.tsx';
import { claimsFile } from './list-files.ts';

const STANDARD = { q: '', state: '', sort: 'waiting' as string };
const SORT_NAMES: Readonly<Record<ClaimSort, string>> = {
  waiting: 'what waits first',
  newest: 'drafted last first',
  published: 'published last first',
  fitment: 'by fitment',
};

/** Register of claims, with what waits for a decision first. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function ClaimsPage() {
  const { now, set, search } = useNarrowing(STANDARD);
  const [words, setWords] = useWords(now.q, (q) => set({ q }));
  const state = CLAIM_ORDER.find((s) => s === now.state);
  const sort = CLAIM_SORTS.find((s) => s === now.sort) ?? 'waiting';
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = useClaimsInfiniteQuery({
    q: now.q,
    state,
    sort,
  });
  const readMore = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  const listed = useMemo(() => data?.pages.flatMap((page) => page.items), [data]);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const picked = listed?.filter((c) => chosen.has(c.id)) ?? [];
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
          onChange={(next) => set({ state: next ?? '' })}
          choices={[
            { value: undefined, text: `all ${Object.values(counts).reduce((sum, n) => sum + n, 0)}` },
            ...CLAIM_ORDER.filter((s) => counts[s]).map((s) => ({ value: s, text: `${s} ${counts[s]}` })),
          ]}
        />
        <Select
          aria-label="Order"
          value={sort}
          onChange={(e) => set({ sort: e.target.value })}
          className="py-1!"
        >
          {CLAIM_SORTS.map((s) => (
            <option key={s} value={s}>
              {SORT_NAMES[s]}
            </option>
          ))}
        </Select>
        <KeptViews list="claims" search={search} />
      </div>
      {picked.length > 0 && (
        <div
          role="group"
          aria-label="With the chosen claims"
          className="mb-2 flex flex-wrap items-center gap-2 border-l-4 border-stands bg-sheet px-3 py-1.5"
        >
          <b>{picked.length === 1 ? 'one claim' : `${picked.length} claims`} chosen</b>
          <Button small onClick={() => saveFile('claims.csv', claimsFile(picked))}>
            Export as CSV
          </Button>
          <Button small kind="quiet" onClick={() => setChosen(new Set())}>
            Choose none
          </Button>
        </div>
      )}
      <ProblemNote error={error} again={() => void refetch()} />
      {!listed && !error && <Loading what="the claims" />}
      {listed?.length === 0 && (
        <Empty title={now.q || state ? 'No claim like that' : 'No claims yet'}>
          {now.q || state
            ? 'No claim fits the words and the state.'
            : 'A claim is drafted from a test whose gates pass.'}
        </Empty>
      )}
      {listed && listed.length > 0 && (
        <DataTable
          label="Claims"
          rows={listed}
          keyOf={(c) => c.id}
          columns={COLUMNS}
          sort={sort}
          upwards={['fitment', 'waiting']}
          onSort={(next) => set({ sort: next })}
          selection={{ chosen, onChange: setChosen, nameOf: (c) => `Choose the claim ${c.code}` }}
        />
      )}
      {data && listed && listed.length > 0 && (
        <MoreRows
          what={['claim', 'claims']}
          shown={listed.length}
          total={data.pages[0].total}
          more={hasNextPage}
          reading={isFetching}
          onMore={readMore}
        />
      )}
    </main>
  );
}

const COLUMNS: readonly Column<Claim, ClaimSort>[] = [
  { id: 'state', head: 'State', sorts: ['waiting'], cell: (c) => <ClaimMark state={c.state} /> },
  { id: 'claim', head: 'Claim', className: 'max-w-[360px]', cell: (c) => <Wording claim={c} /> },
  {
    id: 'subject',
    head: 'What was tested, on what',
    sorts: ['fitment'],
    cell: (c) => (
      <>
        {c.subject}
        <div className="text-[12.5px] text-soft">{c.fitment}</div>
      </>
    ),
  },
  { id: 'glyph', head: 'Gain over rpm', cell: (c) => <Glyph glyph={c.glyph} /> },
  {
    id: 'author',
    head: 'Drafted by',
    sorts: ['newest'],
    cell: (c) => (
      <>
        {c.author.name}
        <div className="text-[12.5px] text-soft">{day(c.draftedAt)}</div>
      </>
    ),
  },
  {
    id: 'reviewer',
    head: 'Reviewed by',
    sorts: ['published'],
    cell: (c) =>
      c.reviewer && (
        <>
          {c.reviewer.name}
          <div className="text-[12.5px] text-soft">{c.publishedAt && day(c.publishedAt)}</div>
        </>
      ),
  },
];

function Wording({ claim }: { claim: Claim }) {
  return (
    <>
      <Link to={`/claims/${claim.id}`} className="font-semibold no-underline hover:underline">
        {claim.wording}
      </Link>
      {claim.disclosures.length > 0 && (
        <div className="text-[12.5px] text-loss">
          ▼ {claim.disclosures.length === 1 ? 'one disclosure' : `${claim.disclosures.length} disclosures`}
        </div>
      )}
      {claim.staleReason && <div className="text-[12.5px] text-loss">{claim.staleReason}</div>}
    </>
  );
}
