import { useCallback, useMemo } from 'react';
import { Link } from 'react-router';
import { CATALOGUE_SORTS } from '../../contract/publish/sorts.ts';
import { useCatalogueInfiniteQuery } from '../base/public-endpoints.ts';
import { MoreRows } from '../base/paging.tsx';
import { Empty, Input, Loading, ProblemNote } from '../base/ui.tsx';
import { Chips } from '../base/chips.tsx';
import { useNarrowing, useWords } from '../base/narrowing.ts';
import { ClaimCard } from './claim-card.tsx';

const STANDARD = { q: '', sort: 'fitment' as string };

/** What anyone may read: fitments with a claim that stands. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function CataloguePage() {
  const { now, set } = useNarrowing(STANDARD);
  const [words, setWords] = useWords(now.q, (q) => set({ q }));
  const sort = CATALOGUE_SORTS.find((s) => s === now.sort) ?? 'fitment';
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = useCatalogueInfiniteQuery({
    q: now.q,
    sort,
  });
  const readMore = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  const found = useMemo(() => data?.pages.flatMap((page) => page.items), [data]);
  return (
    <main className="mx-auto max-w-[980px] px-6 py-6">
      <h1>Catalogue</h1>
      <p className="mb-6 mt-1 max-w-prose text-soft">
        What our tests support, fitment by fitment. Every number is measured at the wheels against the stock
        part on the same car, and leads back to the raw pulls it rests on. What no longer stands is listed
        under <Link to="/corrections">corrections</Link>.
      </p>
      <div className="mb-6 flex flex-wrap items-center gap-2">
        <Input
          type="search"
          aria-label="Find a fitment"
          placeholder="Make, model, engine, year …"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          className="w-80 max-w-full"
        />
        <Chips
          label="Order"
          value={sort}
          onChange={(next) => set({ sort: next })}
          choices={[
            { value: 'fitment', text: 'by make and model' },
            { value: 'newest', text: 'published last first' },
          ]}
        />
      </div>
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the catalogue" />}
      {found?.length === 0 && (
        <Empty title={now.q ? 'No fitment like that' : 'Nothing published yet'}>
          {now.q
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
          what={['fitment', 'fitments']}
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
