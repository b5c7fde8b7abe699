import { useEffect, useRef } from 'react';
import { Button } from './ui.tsx';

/** How RTK Query walks a list that is read in pages by cursor. */
export const paging = {
  initialPageParam: '',
  getNextPageParam: (last: { next: string | null }) => last.next ?? undefined,
};
/** What is asked with a page: filters that are set, and where the page before ended. */
export const pageParams = (find: object, after: string): Record<string, string> =>
  Object.fromEntries(
    Object.entries({ ...find, after }).filter((entry): entry is [string, string] => Boolean(entry[1])),
  );

/** Foot of a list that is read in pages: reads on as it comes into sight, or when pressed; says how much is read. */
export function MoreRows({
  what,
  shown,
  total,
  more,
  reading,
  onMore,
}: {
  /** What the rows are: of one, and of several. */ what: readonly [string, string];
  shown: number;
  total: number;
  more: boolean;
  reading: boolean;
  onMore: () => void;
}) {
  const foot = useRef<HTMLDivElement>(null);
  const ready = more && !reading;
  useEffect(() => {
    if (!ready || !foot.current) return undefined;
    const seen = new IntersectionObserver(
      (entries) => {
        if (entries.some((entry) => entry.isIntersecting)) onMore();
      },
      { rootMargin: '400px' },
    );
    seen.observe(foot.current);
    return () => seen.disconnect();
  }, [ready, onMore]);
  return (
    <div ref={foot} className="flex items-center gap-3 pt-2 text-[12.5px] text-soft">
      <span role="status">
        {shown === total ? total : `${shown} of ${total}`} {what[total === 1 ? 0 : 1]}
      </span>
      {more && (
        <Button small disabled={reading} onClick={onMore}>
          {reading ? 'Reading …' : 'Read more'}
        </Button>
      )}
    </div>
  );
}
