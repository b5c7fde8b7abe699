import { useCallback, useMemo } from 'react';
import { Link } from 'react-router';
import { FELL_BY, type Correction, type FellBy } from '../../contract/publish/corrections.ts';
import { Chips } from '../base/chips.tsx';
import { day } from '../base/format.ts';
import { useNarrowing, useWords } from '../base/narrowing.ts';
import { MoreRows } from '../base/paging.tsx';
import { useCorrectionsInfiniteQuery } from '../base/public-endpoints.ts';
import { Empty, Input, Loading, Mark, ProblemNote } from '../base/ui.tsx';

const STANDARD = { q: '', why: '' as string };
const WORDS: Readonly<Record<FellBy, { mark: string; tone: 'loss' | 'ask' | 'soft'; chip: string }>> = {
  wrong: { mark: 'found wrong', tone: 'loss', chip: 'found wrong' },
  evidence: { mark: 'its evidence changed', tone: 'ask', chip: 'evidence changed' },
  age: { mark: 'grew too old', tone: 'soft', chip: 'too old' },
  'set aside': { mark: 'withdrawn', tone: 'soft', chip: 'withdrawn otherwise' },
};

/** What was published and no longer stands: what it said, why it fell, and what is said instead. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function CorrectionsPage() {
  const { now, set } = useNarrowing(STANDARD);
  const [words, setWords] = useWords(now.q, (q) => set({ q }));
  const why = FELL_BY.find((one) => one === now.why);
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = useCorrectionsInfiniteQuery({
    q: now.q,
    ...(why ? { fellBy: why } : {}),
  });
  const readMore = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  const found = useMemo(() => data?.pages.flatMap((page) => page.items), [data]);
  return (
    <main className="mx-auto max-w-[980px] px-6 py-6">
      <p className="text-soft">
        <Link to="/catalogue">Catalogue</Link>
      </p>
      <h1>Corrections</h1>
      <p className="mb-5 mt-1 max-w-prose text-soft">
        Every number that was published here and no longer stands, with the reason and what is said today.
        None of them is taken away.
      </p>
      <div className="mb-5 flex flex-wrap items-center gap-2">
        <Input
          type="search"
          aria-label="Find a correction"
          placeholder="Fitment, part or code …"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          className="w-80 max-w-full"
        />
        <Chips
          label="Why it fell"
          value={why ?? ''}
          onChange={(next) => set({ why: next })}
          choices={[
            { value: '', text: 'all' },
            ...(['wrong', 'evidence', 'age', 'set aside'] as const).map((value) => ({
              value,
              text: WORDS[value].chip,
            })),
          ]}
        />
      </div>
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the corrections" />}
      {found?.length === 0 && (
        <Empty title={now.q || why ? 'None like that' : 'No corrections'}>
          {now.q || why
            ? 'No claim that fell fits this.'
            : 'Everything that was published stands as it was published.'}
        </Empty>
      )}
      <ol aria-label="Corrections" className="grid">
        {found?.map((one) => (
          <CorrectionRow key={one.code} correction={one} />
        ))}
      </ol>
      {data && found && found.length > 0 && (
        <MoreRows
          what={['correction', 'corrections']}
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

/** One claim that fell. */
export function CorrectionRow({ correction: c }: { correction: Correction }) {
  const { mark, tone } = WORDS[c.fellBy];
  return (
    <li className="grid gap-x-6 border-t border-rule py-3 md:grid-cols-[130px_minmax(0,1fr)]">
      <div className="text-soft">
        {day(c.fellAt)}
        <div>
          <Mark tone={tone}>{mark}</Mark>
        </div>
      </div>
      <div>
        <p className="m-0">
          <b>{c.subject}</b> <span className="text-soft">on</span>{' '}
          <Link to={`/catalogue/${c.fitmentSlug}`}>{c.fitment}</Link>
        </p>
        <p className="m-0">
          Said{c.publishedAt && ` since ${day(c.publishedAt)}`}:{' '}
          <Link to={`/evidence/${c.code}`}>
            <s>{c.wording}</s>
          </Link>
        </p>
        <p className="m-0 text-soft">{c.reason}</p>
        <p className="m-0 mt-0.5">
          {c.instead ? (
            <>
              Today:{' '}
              <Link to={`/evidence/${c.instead.code}`} className="font-semibold">
                {c.instead.wording}
              </Link>
            </>
          ) : (
            <span className="text-soft">Nothing is said instead today.</span>
          )}
        </p>
      </div>
    </li>
  );
}
