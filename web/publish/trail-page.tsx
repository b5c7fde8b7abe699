import { useCallback, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { TRAIL_KINDS, type TrailEntry } from '../../contract/publish/trail.ts';
import { Chips } from '../base/chips.tsx';
import { useTrailInfiniteQuery } from '../base/endpoints.ts';
import { dayTime } from '../base/shown-dates.ts';
import { MoreRows } from '../base/paging.tsx';
import { Empty, Input, Loading, ProblemNote } from '../base/ui.tsx';
import { useSettled } from '../base/use-settled.ts';
import { factsOf } from './trail-words.ts';

type Kind = (typeof TRAIL_KINDS)[number];
const KINDS = [
  { value: undefined, text: 'everything' },
  ...TRAIL_KINDS.map((kind) => ({ value: kind, text: kind })),
];

/** The audit trail: who did what to which record, newest first. Nothing in it can be changed. */
export function TrailPage() {
  const [words, setWords] = useState('');
  const [kind, setKind] = useState<Kind>();
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = useTrailInfiniteQuery({
    q: useSettled(words),
    kind,
  });
  const readMore = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  const entries = useMemo(() => data?.pages.flatMap((page) => page.items), [data]);
  return (
    <main className="px-6 py-5">
      <h1>Audit trail</h1>
      <p className="mb-4 mt-1 text-soft">
        Who did what to which record, newest first. Entries are added and never changed.
      </p>
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <Input
          type="search"
          aria-label="Find entries by person or deed"
          placeholder="Person or what was done …"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          className="w-64"
        />
        <Chips label="Kind of record" value={kind} onChange={setKind} choices={KINDS} />
      </div>
      <ProblemNote error={error} again={() => void refetch()} />
      {!entries && !error && <Loading what="the trail" />}
      {entries?.length === 0 && (
        <Empty title="No entry like that">Nothing in the trail fits the words and the kind.</Empty>
      )}
      {data && entries && entries.length > 0 && (
        <>
          <Entries entries={entries} />
          <MoreRows
            what={['entry', 'entries']}
            shown={entries.length}
            total={data.pages[0].total}
            more={hasNextPage}
            reading={isFetching}
            onMore={readMore}
          />
        </>
      )}
    </main>
  );
}

const Entries = ({ entries }: { entries: readonly TrailEntry[] }) => (
  <div className="overflow-x-auto">
    <table className="ledger">
      <thead>
        <tr>
          <th>When</th>
          <th>Who</th>
          <th>Did what</th>
          <th>To which record</th>
          <th>Details</th>
        </tr>
      </thead>
      <tbody>
        {entries.map((entry) => (
          <tr key={entry.id}>
            <td className="whitespace-nowrap tabular-nums">{dayTime(entry.at)}</td>
            <td className="whitespace-nowrap">{entry.person}</td>
            <td className="font-semibold">{entry.action}</td>
            <td className="max-w-[260px] [overflow-wrap:anywhere]">
              {entry.href ? <Link to={entry.href}>{entry.about}</Link> : entry.about}
            </td>
            <td className="max-w-[520px] text-[12.5px] [overflow-wrap:anywhere]">
              <div className="flex flex-wrap gap-x-4">
                {factsOf(entry.detail).map(({ what, value, whole }, i) => (
                  <span key={`${i} ${what}`} title={whole}>
                    <span className="text-soft">{what}</span> {value}
                  </span>
                ))}
              </div>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  </div>
);
