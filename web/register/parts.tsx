import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { PART_CATEGORIES } from '../../core/register/parts.ts';
import { day, number } from '../base/format.ts';
import { LongList } from '../base/long-list.tsx';
import { Select } from '../base/select.tsx';
import { buttonClass, Empty, Input, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { useSettled } from '../base/use-settled.ts';
import { usePartsInfiniteQuery } from './api.ts';
import { PageHead, useMay } from './layout.tsx';

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function PartsPage() {
  const may = useMay();
  const [words, setWords] = useState('');
  const [category, setCategory] = useState('');
  const q = useSettled(words);
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = usePartsInfiniteQuery({
    q,
    category: category || undefined,
  });
  const rows = useMemo(() => data?.pages.flatMap((p) => p.items) ?? [], [data]);
  return (
    <main className="px-6 py-5">
      <PageHead title="Parts" note="A revision is written once; what changes is a new revision.">
        <a href="/api/register/export/parts" className={buttonClass('plain')}>
          CSV
        </a>
        {may.manage && (
          <>
            <Link to="/register/import/parts" className={buttonClass('plain')}>
              Paste or import rows
            </Link>
            <Link to="/register/parts/new" className={buttonClass('main')}>
              New part
            </Link>
          </>
        )}
      </PageHead>
      <div className="mb-3 flex flex-wrap gap-2">
        <Input
          type="search"
          aria-label="Find a part"
          placeholder="Name, SKU, maker"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          className="w-80"
        />
        <Select aria-label="Category" value={category} onChange={(e) => setCategory(e.target.value)}>
          <option value="">all categories</option>
          {PART_CATEGORIES.map((c) => (
            <option key={c}>{c}</option>
          ))}
        </Select>
      </div>
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the parts" />}
      {data && rows.length === 0 && (
        <Empty title="No part like that">
          {words || category
            ? 'Try fewer letters, or another category.'
            : 'Add the first one, or paste rows from a spreadsheet.'}
        </Empty>
      )}
      {rows.length > 0 && (
        <LongList
          label="Parts"
          rows={rows}
          total={data!.pages[0].total}
          more={hasNextPage && !isFetching}
          loadMore={() => void fetchNextPage()}
          keyOf={(p) => p.id}
          columns="minmax(220px,2fr) 120px 130px 80px 84px 110px 120px"
          head={['Part', 'SKU', 'Category', 'Revision', 'Fits', 'Launch', 'Embargo']}
          row={(p) => [
            <Link
              key="n"
              to={`/register/parts/${p.id}`}
              className="block font-semibold no-underline hover:underline"
            >
              {p.name}
              <span className="block text-[12px] font-normal text-soft">{p.maker}</span>
            </Link>,
            <span key="s" className="block">
              {p.sku}
            </span>,
            p.category,
            p.latestRevision ?? '',
            number(p.fitments, 0),
            p.launchDate ? day(p.launchDate) : '',
            p.embargoed ? (
              <Mark key="e" tone="ask">
                {p.withheld ? 'withheld' : `to ${day(p.embargoUntil!)}`}
              </Mark>
            ) : (
              ''
            ),
          ]}
        />
      )}
    </main>
  );
}
