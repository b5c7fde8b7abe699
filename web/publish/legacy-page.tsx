import { Download } from 'lucide-react';
import { useCallback, useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { LEGACY, MANAGER } from '../../contract/base/roles.ts';
import type { Legacy } from '../../contract/publish/legacy.ts';
import { problemOf, useSessionQuery } from '../base/api.ts';
import { bytes, day, number } from '../base/format.ts';
import { useNarrowing, useWords } from '../base/narrowing.ts';
import { MoreRows } from '../base/paging.tsx';
import { ReasonDialog } from '../base/reason-dialog.tsx';
import { Button, buttonClass, Empty, Input, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { PageHead } from '../register/layout.tsx';
import { useAttachLegacyMutation, useLegacyInfiniteQuery, useStrikeLegacyMutation } from './legacy-api.ts';
import { LegacyForm } from './legacy-form.tsx';

const NOTE =
  'Printed graphs, numbers on old pages and files without air, kept so that they are seen and tested. ' +
  'Grade: none. Nothing here is a claim or can become one; a test of the part is what can.';
const STANDARD = { q: '' };

/** Evidence from before: what is printed somewhere, held against itself and against what was measured since. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function LegacyPage() {
  const { data: session } = useSessionQuery();
  const [address] = useSearchParams();
  const { now, set } = useNarrowing(STANDARD);
  const [words, setWords] = useWords(now.q, (q) => set({ q }));
  const [entering, setEntering] = useState(false);
  const [fitmentId, partId] = [address.get('fitment'), address.get('part')];
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = useLegacyInfiniteQuery({
    q: now.q,
    ...(fitmentId ? { fitmentId } : {}),
    ...(partId ? { partId } : {}),
  });
  const readMore = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  const found = useMemo(() => data?.pages.flatMap((page) => page.items), [data]);
  const role = session?.person?.role;
  const mayWrite = role !== undefined && LEGACY.includes(role);
  return (
    <main className="px-6 py-5">
      <PageHead title="Figures from before" note={NOTE}>
        {mayWrite && !entering && (
          <Button kind="main" onClick={() => setEntering(true)}>
            Register one
          </Button>
        )}
      </PageHead>
      {entering && <LegacyForm onDone={() => setEntering(false)} />}
      <Input
        type="search"
        aria-label="Find a figure from before"
        placeholder="Fitment, part or source …"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        className="mb-4 w-80 max-w-full"
      />
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the figures" />}
      {found?.length === 0 && (
        <Empty title={now.q ? 'None like that' : 'No figures from before'}>
          {now.q
            ? 'No entry fits the words.'
            : 'Register what was printed of a part, and coverage shows that it has yet to be tested.'}
        </Empty>
      )}
      <div className="grid max-w-[980px]">
        {found?.map((one) => (
          <Entry
            key={one.id}
            entry={one}
            mayWrite={mayWrite}
            mayPlan={role !== undefined && MANAGER.includes(role)}
          />
        ))}
      </div>
      {data && found && found.length > 0 && (
        <MoreRows
          what={['entry', 'entries']}
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

function Entry({ entry: e, mayWrite, mayPlan }: { entry: Legacy; mayWrite: boolean; mayPlan: boolean }) {
  return (
    <article className="grid gap-x-8 gap-y-2 border-t border-rule py-3 md:grid-cols-[minmax(0,1fr)_330px]">
      <div>
        <h2 className="text-[15px]">
          <Link to={`/register/parts/${e.partId}`}>{e.part}</Link>{' '}
          <span className="font-normal text-soft">on</span>{' '}
          <Link to={`/register/fitments/${e.fitmentId}`}>{e.fitment}</Link>
        </h2>
        <p className="m-0 text-soft">
          {e.kind} · {e.source} · registered {day(e.enteredAt)} by {e.enteredBy}
        </p>
        {e.missing && <p className="m-0">Missing: {e.missing}</p>}
        {e.doubts.map((d) => (
          <p key={d.message} className="m-0 text-ask">
            ◐ {d.message}
          </p>
        ))}
        {e.struck ? (
          <p className="m-0 text-loss">
            Crossed out {day(e.struck.at)} by {e.struck.by}: {e.struck.reason}
          </p>
        ) : (
          <Since entry={e} mayPlan={mayPlan} />
        )}
        <Files entry={e} mayWrite={mayWrite} />
      </div>
      <Figures entry={e} />
    </article>
  );
}

function Since({ entry: e, mayPlan }: { entry: Legacy; mayPlan: boolean }) {
  if (e.tests.length > 0)
    return (
      <p className="m-0">
        Measured since:{' '}
        {e.tests.map(({ id, number: n }, i) => (
          <span key={id}>
            {i > 0 && ', '}
            <Link to={`/tests/${id}/compare`}>test {n}</Link>
          </span>
        ))}
      </p>
    );
  return (
    <p className="m-0">
      <Mark tone="ask">not tested</Mark>{' '}
      {mayPlan && <Link to={`/tests/new?fitment=${e.fitmentId}&part=${e.partId}`}>Plan a test</Link>}
    </p>
  );
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function Files({ entry: e, mayWrite }: { entry: Legacy; mayWrite: boolean }) {
  const [attach, { isLoading }] = useAttachLegacyMutation();
  const [strike, { isLoading: striking, error }] = useStrikeLegacyMutation();
  const [asking, setAsking] = useState(false);
  const send = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const done = await attach({ id: e.id, file });
    if ('error' in done) toast.error(problemOf(done.error).message);
    else toast.success('Attached.');
  };
  return (
    <div className="mt-1.5 flex flex-wrap items-center gap-3 text-[12.5px]">
      {e.file && (
        <a
          href={`/api/legacy/${e.id}/file`}
          className="inline-flex items-center gap-1"
          title={`SHA-256 ${e.file.sha256}`}
        >
          <Download size={12} aria-hidden />
          {e.file.name} <span className="text-soft">{bytes(e.file.size)}</span>
        </a>
      )}
      {mayWrite && !e.file && !e.struck && (
        <label className={buttonClass('plain', true)}>
          {isLoading ? 'Sending …' : 'Attach its picture or file'}
          <input
            type="file"
            className="sr-only"
            disabled={isLoading}
            onChange={(event) => {
              void send(event.target.files?.[0]);
              event.target.value = '';
            }}
          />
        </label>
      )}
      {mayWrite && !e.struck && (
        <Button small kind="quiet" onClick={() => setAsking(true)}>
          Cross out
        </Button>
      )}
      {asking && (
        <ReasonDialog
          title="Cross the entry out"
          hint="It stays to be read, with this reason."
          verb="Cross it out"
          least={5}
          takesAway
          saving={striking}
          problem={error}
          save={async (reason) => {
            if ('error' in (await strike({ id: e.id, reason }))) return false;
            setAsking(false);
            return true;
          }}
          onClose={() => setAsking(false)}
        />
      )}
    </div>
  );
}

const MOST_SHOWN = 6;
/** What is printed: each figure, or of a graph how many points and the highest. */
export function Figures({ entry }: { entry: Legacy }) {
  const keys = [...new Set(entry.figures.map((f) => `${f.of} ${f.unit}`))];
  const graph = entry.figures.length > MOST_SHOWN;
  const rows = graph
    ? keys.map((key) => {
        const points = entry.figures.filter((f) => `${f.of} ${f.unit}` === key);
        const top = points.reduce((a, b) => (b.value > a.value ? b : a));
        return { ...top, points: points.length };
      })
    : entry.figures.map((f) => ({ ...f, points: 1 }));
  return (
    <table className="ledger self-start text-[12.5px]" aria-label="What is printed">
      <tbody>
        {rows.map((f, i) => (
          <tr key={i}>
            <td>{f.of}</td>
            <td className="num font-semibold">
              {f.of === 'gain' && f.value > 0 && '+'}
              {number(f.value, f.within < 0.5 ? 1 : 0)} {f.unit}
            </td>
            <td className="num text-soft">{f.rpm === null ? '' : `${number(f.rpm, 0)} rpm`}</td>
            <td className="text-soft">{f.points > 1 && `highest of ${f.points} points`}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
