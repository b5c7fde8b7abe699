import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { SHELF } from '../../contract/base/roles.ts';
import type { ShelfItem } from '../../contract/publish/shelf.ts';
import { problemOf, useChoicesQuery, useChooseMutation, useSessionQuery } from '../base/api.ts';
import { useShelfQuery, useTakeOverMutation } from '../base/endpoints.ts';
import { dayTime } from '../base/format.ts';
import { Button, Empty, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { ClaimMark } from './claim-card.tsx';

const WHAT: Readonly<Record<ShelfItem['what'], string>> = {
  published: 'Published: put it on the shelf',
  stale: 'Gone stale: take it off the shelf',
  withdrawn: 'Withdrawn: take it off the shelf',
};

/** What stands in a shop’s text about a claim, with all that is told with it. */
export const shelfText = ({ claim }: ShelfItem, origin: string): string =>
  [
    `${claim.fitment}: ${claim.subject}`,
    claim.wording,
    ...claim.conditions,
    ...claim.disclosures.map((d) => `Note: ${d}`),
    `Evidence: ${origin}/evidence/${claim.code}`,
  ].join('\n');

/** The newest event that had been seen before this visit; from now on all of them have. */
function useSeenBefore(items: readonly ShelfItem[] | undefined): number | undefined {
  const { data: chosen } = useChoicesQuery();
  const [choose] = useChooseMutation();
  const [before, setBefore] = useState<number>();
  const told = useRef(false);
  useEffect(() => {
    if (!chosen || !items || told.current) return;
    told.current = true;
    const seen = chosen.seenOnShelf ?? 0;
    setBefore(seen);
    const newest = Math.max(0, ...items.map((i) => i.eventId));
    if (newest > seen) void choose({ name: 'seenOnShelf', value: newest });
  }, [chosen, items, choose]);
  return before;
}

/** The work of the catalogue editor: what was published, withdrawn or went stale, until it is marked as taken over. */
export function ShelfPage() {
  const { data: session } = useSessionQuery();
  const { data, error, refetch } = useShelfQuery();
  const seen = useSeenBefore(data?.open);
  const isEditor = session?.person !== null && SHELF.includes(session?.person?.role ?? 'operator');
  const fresh = data?.open.filter((i) => seen !== undefined && i.eventId > seen).length ?? 0;
  return (
    <main className="max-w-[1080px] px-6 py-5">
      <h1>To take over</h1>
      <p className="mb-4 mt-1 text-soft">
        What was published, went stale or was withdrawn and is not marked as taken over into the shop.
        {fresh > 0 && <b className="text-ask"> {fresh} new since your last visit.</b>}
      </p>
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="what is to be taken over" />}
      {data?.open.length === 0 && (
        <Empty title="Nothing to take over">The shop says what the claims say.</Empty>
      )}
      <ul className="grid gap-3">
        {data?.open.map((item) => (
          <li key={item.eventId}>
            <Item item={item} isNew={seen !== undefined && item.eventId > seen} mayMark={isEditor} />
          </li>
        ))}
      </ul>
      {data && data.done.length > 0 && (
        <section className="mt-8" aria-label="Taken over last">
          <h2>Taken over last</h2>
          <ul>
            {data.done.map((item) => (
              <li key={item.eventId} className="border-b border-rule py-1.5">
                <Link to={`/evidence/${item.claim.code}`}>{item.claim.wording}</Link>{' '}
                <span className="text-soft">
                  {item.claim.subject}, {item.claim.fitment}; {item.what}, taken over by {item.takenOver?.by},{' '}
                  {item.takenOver && dayTime(item.takenOver.at)}
                </span>
                {item.inQuestion && (
                  <p className="text-ask">
                    ◐ It stands on the shelf, and something under it has changed since: ask the reviewer
                    whether it may stay.
                  </p>
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
    </main>
  );
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function Item({ item, isNew, mayMark }: { item: ShelfItem; isNew: boolean; mayMark: boolean }) {
  const { claim } = item;
  const [takeOver, { error, isLoading }] = useTakeOverMutation();
  const copy = async (): Promise<void> => {
    try {
      await navigator.clipboard.writeText(shelfText(item, window.location.origin));
      toast.success('Copied: wording, conditions and what is told with it.');
    } catch {
      toast.error('The browser does not let it be copied; mark the text and copy it.');
    }
  };
  const mark = async (): Promise<void> => {
    const answer = await takeOver(item.eventId);
    if ('error' in answer) toast.error(problemOf(answer.error).message);
  };
  return (
    <article className="border border-rule bg-sheet p-4">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <b>{WHAT[item.what]}</b>
        <span className="flex gap-3 text-soft">
          {isNew && <Mark tone="ask">new</Mark>}
          <ClaimMark state={claim.state} /> {dayTime(item.at)}
        </span>
      </div>
      {item.inQuestion && (
        <p className="mt-1 text-ask">
          ◐ Something under it has changed and is not answered: wait before it is put up.
        </p>
      )}
      <p className="mt-2 font-semibold">
        {claim.subject}, {claim.fitment}
      </p>
      <p className="font-display text-[18px] font-semibold leading-snug">{claim.wording}</p>
      {claim.staleReason && <p className="mt-1 text-loss">{claim.staleReason}</p>}
      <ul className="mt-1 list-disc pl-5 text-[12.5px] text-soft">
        {claim.conditions.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ul>
      {claim.disclosures.map((d) => (
        <p key={d} className="mt-1 text-[12.5px] text-loss">
          ▼ {d}
        </p>
      ))}
      <ProblemNote error={error} />
      <div className="mt-3 flex flex-wrap items-center gap-2">
        {item.what === 'published' && !item.inQuestion && (
          <Button small onClick={() => void copy()}>
            Copy the text
          </Button>
        )}
        {mayMark && (
          <Button small kind="main" disabled={isLoading} onClick={() => void mark()}>
            {item.what === 'published' ? 'It is on the shelf' : 'It is off the shelf'}
          </Button>
        )}
        <Link to={`/evidence/${claim.code}`}>Evidence</Link>
      </div>
    </article>
  );
}
