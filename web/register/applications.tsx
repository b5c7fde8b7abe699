import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { PART_CATEGORIES } from '../../core/register/parts.ts';
import { problemOf } from '../base/api.ts';
import { Matrix } from '../base/matrix.tsx';
import { Select } from '../base/select.tsx';
import { buttonClass, Empty, Input, Loading, ProblemNote } from '../base/ui.tsx';
import { useSettled } from '../base/use-settled.ts';
import { useApplicationsInfiniteQuery, useApplyMutation, useRegisterQuery } from './api.ts';
import { PageHead, useMay } from './layout.tsx';

/** Which part fits which fitments: a mark in a cell says it fits. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function ApplicationsPage() {
  const may = useMay();
  const [search] = useSearchParams();
  const [words, setWords] = useState('');
  const [part, setPart] = useState(search.get('part') ?? '');
  const [category, setCategory] = useState('');
  const [family, setFamily] = useState('');
  const { data: register } = useRegisterQuery();
  const [apply] = useApplyMutation();
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = useApplicationsInfiniteQuery({
    q: useSettled(words),
    part: useSettled(part),
    category: category || undefined,
    family: family || undefined,
  });
  const rows = useMemo(() => data?.pages.flatMap((p) => p.rows) ?? [], [data]);
  const sets = useMemo(() => new Map(rows.map((r) => [r.id, new Set(r.partIds)])), [rows]);
  const parts = data?.pages[0]?.parts ?? [];
  const set = async (partId: string, fitmentIds: string[], fits: boolean): Promise<void> => {
    const answer = await apply({ partId, fitmentIds, fits });
    if ('error' in answer) toast.error(problemOf(answer.error).message);
  };
  return (
    <main className="px-6 py-5">
      <PageHead
        title="Applications"
        note="Which part fits which fitments. Only what is listed here is offered to a plan and counted in coverage."
      >
        <a href="/api/register/export/applications" className={buttonClass('plain')}>
          CSV
        </a>
        {may.manage && (
          <Link to="/register/import/applications" className={buttonClass('plain')}>
            Paste or import rows
          </Link>
        )}
      </PageHead>
      <div className="mb-1 flex flex-wrap gap-2">
        <Input
          type="search"
          aria-label="Fitments"
          placeholder="Fitments: tern 2019 …"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          className="w-56"
        />
        <Select aria-label="Family" value={family} onChange={(e) => setFamily(e.target.value)}>
          <option value="">all families</option>
          {register?.families.map((f) => (
            <option key={f}>{f}</option>
          ))}
        </Select>
        <Input
          type="search"
          aria-label="Parts"
          placeholder="Parts: intake, TM-118 …"
          value={part}
          onChange={(e) => setPart(e.target.value)}
          className="w-56"
        />
        <Select aria-label="Category" value={category} onChange={(e) => setCategory(e.target.value)}>
          <option value="">all categories</option>
          {PART_CATEGORIES.map((c) => (
            <option key={c}>{c}</option>
          ))}
        </Select>
      </div>
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the applications" />}
      {data && (rows.length === 0 || parts.length === 0) && (
        <Empty title="Nothing to show">No fitment or no part is called so.</Empty>
      )}
      {data && rows.length > 0 && parts.length > 0 && (
        <Matrix
          label="Applications"
          rows={rows}
          total={data.pages[0].total}
          more={hasNextPage && !isFetching}
          loadMore={() => void fetchNextPage()}
          rowKey={(r) => r.id}
          columnWidth={52}
          columns={parts.map((p) => ({
            id: p.id,
            title: `${p.name}, ${p.sku}`,
            head: (
              <Link to={`/register/parts/${p.id}`} className="no-underline hover:underline">
                {p.name}
              </Link>
            ),
          }))}
          rowName={(r) => (
            <Link
              to={`/register/fitments/${r.id}`}
              className="block truncate no-underline hover:underline"
              title={`${r.name}, ${r.note}`}
            >
              {r.name} <span className="text-[12px] text-soft">{r.note}</span>
            </Link>
          )}
          cell={(r, partId) => {
            const fits = sets.get(r.id)!.has(partId);
            return (
              <input
                type="checkbox"
                aria-label={`${parts.find((p) => p.id === partId)?.name ?? 'part'} fits ${r.name}`}
                checked={fits}
                disabled={!may.manage}
                onChange={() => void set(partId, [r.id], !fits)}
                className="size-4"
              />
            );
          }}
        />
      )}
    </main>
  );
}
