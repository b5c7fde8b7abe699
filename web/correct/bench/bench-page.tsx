import { useEffect, useState, type ReactNode } from 'react';
import { useParams } from 'react-router';
import { toast } from 'sonner';
import { CAPTURE } from '../../../contract/base/roles.ts';
import type { EntryBody } from '../../../contract/capture/bench.ts';
import type { Person } from '../../../contract/base/http.ts';
import type { WatchedBench } from '../../../contract/correct/bench-watch.ts';
import type { TestDetail } from '../../../contract/overview.ts';
import { problemOf, useSessionQuery } from '../../base/api.ts';
import { useTestQuery } from '../../base/endpoints.ts';
import { useAppSelector } from '../../base/store.ts';
import { Button, Caution, Kbd, Loading, ProblemNote } from '../../base/ui.tsx';
import {
  useAbortPullMutation,
  useBeginPullMutation,
  useBenchQuery,
  useCloseSessionMutation,
  useOpenSessionMutation,
  useStrapDownMutation,
} from './api.ts';
import { CloseDialog, FitDialog, HeldDialog, NoteDialog, RecordDialog, TagDialog } from './bench-dialogs.tsx';
import { BenchHead } from './bench-head.tsx';
import { momentOf } from './live.ts';
import { GLOVE, NextPanel } from './next-panel.tsx';
import { AddPhotograph } from '../../capture/photographs.tsx';
import { SessionLog } from './session-log.tsx';
import { SheetStrip } from './sheet-strip.tsx';
import { SidePanel } from './side-panel.tsx';
import { StandIns } from './stand-ins.tsx';
import { airNow, standingOf, type Held, type Place } from './standing.ts';
import { Tiles } from './tiles.tsx';
import { useBenchNews } from './use-bench-news.ts';
import { useEntries } from './use-entries.ts';

/** The screen beside the dyno, in the light of the cell. */
export function BenchPage() {
  const { testId = '' } = useParams();
  const { data: session } = useSessionQuery();
  const test = useTestQuery(testId);
  const bench = useBenchQuery(testId);
  const theme = useAppSelector((state) => state.preferences.theme);
  useEffect(() => {
    const root = document.documentElement.dataset;
    root.theme = 'cell';
    return () => {
      root.theme = theme;
    };
  }, [theme]);
  const error = test.error ?? (bench.data ? undefined : bench.error);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote
          error={error}
          again={() => {
            void test.refetch();
            void bench.refetch();
          }}
        />
      </main>
    );
  if (!test.data || !bench.data || !session?.person)
    return (
      <main className="p-6">
        <Loading what="the bench" />
      </main>
    );
  return <Bench detail={test.data} bench={bench.data} person={session.person} />;
}

/** The moment by the server's clock, every second: a tablet's own may be off. */
function useServerNow(said: string): number {
  const [ahead, setAhead] = useState(() => Date.parse(said) - Date.now());
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => setAhead(Date.parse(said) - Date.now()), [said]);
  useEffect(() => {
    const tick = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(tick);
  }, []);
  return now + ahead;
}

type Asking =
  | { readonly about: 'tag' | 'note' | 'record' | 'close' | 'stand-ins' }
  | { readonly about: 'fit'; readonly place: Place }
  | { readonly about: 'held'; readonly held: Held };

// eslint-disable-next-line max-lines-per-function -- one screen with what it does
function Bench({ detail, bench, person }: { detail: TestDetail; bench: WatchedBench; person: Person }) {
  const testId = detail.summary.id;
  const mayDo = CAPTURE.includes(person.role);
  const { live, connected } = useBenchNews(testId);
  const entries = useEntries(testId, person.id, connected);
  const now = useServerNow(bench.now);
  const standing = standingOf(detail, bench, live, entries.waiting, now);
  const { action, places } = standing;
  const [asking, setAsking] = useState<Asking | null>(null);
  const [open, opening] = useOpenSessionMutation();
  const [close] = useCloseSessionMutation();
  const [strap] = useStrapDownMutation();
  const [begin, beginning] = useBeginPullMutation();
  const [abort] = useAbortPullMutation();
  const keys = useAppSelector((state) => state.preferences.keys);

  const isOpen = bench.session !== null && bench.session.closedAt === null;
  const isBusy = action.is === 'running' || action.is === 'asked';
  const last = bench.recordings.findLast((r) => r.order !== null);
  const lastLabel = last
    ? (places.find((p) => p.id === last.pullId)?.label ?? `the extra pull, place ${last.order}`)
    : null;
  const next = 'next' in action ? action.next : null;
  // Nothing runs before the checks and the strapping are said to be done.
  const isPrepared = action.is !== 'check' && action.is !== 'strap';
  const mayStart =
    isPrepared &&
    isOpen &&
    !isBusy &&
    beginning.isLoading === false &&
    bench.devices.some((d) => d.kind === 'dyno');

  const tell = async (deed: Promise<{ error?: unknown } | object>): Promise<void> => {
    const answer = await deed;
    if ('error' in answer && answer.error !== undefined) toast.error(problemOf(answer.error).message);
  };
  const write = (body: EntryBody, about?: { recordingId?: string | null; pullId?: string | null }): void => {
    entries.write(body, about);
    setAsking(null);
  };
  const onLast = { recordingId: last?.id ?? null, pullId: last?.pullId ?? null };
  const start = (): void => {
    if (mayStart && next) void tell(begin({ testId, pullId: next.id, arm: standing.onCar ?? next.arm }));
  };
  const extra = (): void => {
    if (mayStart) void tell(begin({ testId, pullId: null, arm: standing.onCar ?? 'stock' }));
  };
  const stop = (): void => {
    if (isBusy) void tell(abort({ testId }));
    else if (isOpen) setAsking({ about: 'close' });
  };
  useBenchKeys(mayDo && isOpen && keys === 'on' && asking === null, {
    ' ': start,
    r: extra,
    t: () => last && setAsking({ about: 'tag' }),
    n: () => setAsking({ about: 'note' }),
    Escape: stop,
  });
  return (
    <div className="grid min-h-screen grid-cols-[minmax(0,1fr)] grid-rows-[auto_1fr_auto] bg-paper text-ink lg:h-screen">
      <BenchHead
        detail={detail}
        bench={bench}
        connected={connected}
        unsent={entries.waiting.length}
        onStandIns={
          mayDo && isOpen && bench.links.some((l) => l.faults.length > 0)
            ? () => setAsking({ about: 'stand-ins' })
            : undefined
        }
      />
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_auto]">
        <main className="grid min-h-0 content-start gap-5 px-6 py-5 lg:overflow-y-auto">
          <NextPanel
            action={action}
            places={places}
            missing={bench.missing}
            moment={
              action.is === 'running' && live.pull?.recordingId === action.recordingId
                ? momentOf(live.pull, detail.plan.band.toRpm)
                : null
            }
            mayDo={mayDo && !opening.isLoading}
            checked={standing.checked}
            onOpen={() => void tell(open({ testId }))}
            onCheck={(check) => entries.write({ kind: 'checked', check })}
            onStrap={(note) => void tell(strap({ testId, note }))}
            onFit={(place) => setAsking({ about: 'fit', place })}
          />
          {isOpen && (
            <Tiles
              held={standing.held}
              {...(mayDo ? { onWrite: (held: Held) => setAsking({ about: 'held', held }) } : {})}
            />
          )}
          <SheetStrip
            places={places}
            recordings={bench.recordings}
            notices={bench.notices}
            next={next?.id ?? null}
          />
          {isOpen && action.is !== 'done' && action.is !== 'check' && bench.recordings.length > 0 && (
            <p className="text-[15px] text-soft">
              <b>Do not unstrap yet.</b> {bench.missing.join(' ')}
            </p>
          )}
          <SessionLog
            testId={testId}
            bench={bench}
            written={standing.written.map((w) => ({
              ...w,
              refused: entries.waiting.find((e) => e.id === w.id)?.refused,
            }))}
            zone={detail.dyno.timeZone}
            mayDo={mayDo}
            armLabel={(key) => detail.arms.find((a) => a.key === key)?.label ?? key}
            onDrop={entries.drop}
          />
          {detail.plan.control && (
            <p className="text-[17px]">
              <b>Nothing returns to the baseline:</b> measure {detail.plan.control} before and after each arm;
              its checks are entered on the page of the dyno.
            </p>
          )}
          <Caution>
            Strapped vehicle, rotating rollers, tyres that can fail, hot exhaust, fuel and carbon monoxide:
            nobody beside the wheels during a pull, extraction running, hearing protection on.
          </Caution>
          {mayDo && isOpen && (
            <div className="[&_button]:min-h-14 [&_button]:text-[17px] [&_input]:min-h-14">
              <AddPhotograph testId={testId} arms={detail.arms} />
            </div>
          )}
        </main>
        <SidePanel bench={bench} arms={detail.arms} air={airNow(bench, live)} />
      </div>
      {mayDo && isOpen && (
        <footer className="sticky bottom-0 flex flex-wrap gap-3 border-t border-rule bg-paper px-6 py-3">
          <Deed main onDo={start} disabled={!mayStart || !next} hint={keys === 'on' ? 'space' : undefined}>
            {action.is === 'cool' ? 'Start now all the same' : 'Start the pull'}
          </Deed>
          <Deed onDo={extra} disabled={!mayStart} hint={keys === 'on' ? 'R' : undefined}>
            Extra pull
          </Deed>
          <Deed
            onDo={() => setAsking({ about: 'tag' })}
            disabled={!last}
            hint={keys === 'on' ? 'T' : undefined}
          >
            Tag last pull
          </Deed>
          <Deed onDo={() => setAsking({ about: 'note' })} hint={keys === 'on' ? 'N' : undefined}>
            Note
          </Deed>
          <Deed onDo={() => setAsking({ about: 'record' })}>Record</Deed>
          <Deed onDo={stop} hint={keys === 'on' ? 'esc' : undefined}>
            {isBusy ? 'Abort the pull' : 'Close session'}
          </Deed>
        </footer>
      )}
      {asking?.about === 'tag' && (
        <TagDialog
          about={lastLabel ?? ''}
          onClose={() => setAsking(null)}
          onWrite={(body) => write(body, onLast)}
        />
      )}
      {asking?.about === 'note' && (
        <NoteDialog
          about={lastLabel ?? 'the session'}
          onClose={() => setAsking(null)}
          onWrite={(body) => write(body, onLast)}
        />
      )}
      {asking?.about === 'record' && <RecordDialog onClose={() => setAsking(null)} onWrite={write} />}
      {asking?.about === 'fit' && (
        <FitDialog place={asking.place} onClose={() => setAsking(null)} onWrite={write} />
      )}
      {asking?.about === 'held' && (
        <HeldDialog
          held={asking.held}
          onClose={() => setAsking(null)}
          onWrite={(body) => write(body, { pullId: next?.id ?? null })}
        />
      )}
      {asking?.about === 'close' && (
        <CloseDialog
          missing={bench.missing}
          onClose={() => setAsking(null)}
          onDone={(note) => {
            setAsking(null);
            void tell(close({ testId, note }));
          }}
        />
      )}
      {asking?.about === 'stand-ins' && (
        <StandIns testId={testId} bench={bench} onClose={() => setAsking(null)} />
      )}
    </div>
  );
}

function Deed({
  main,
  onDo,
  disabled,
  hint,
  children,
}: {
  main?: boolean;
  onDo: () => void;
  disabled?: boolean;
  hint?: string | undefined;
  children: ReactNode;
}) {
  return (
    <Button
      kind={main ? 'main' : 'plain'}
      className={`${GLOVE} ${main ? 'min-w-60 flex-[2]' : 'flex-1'} border-2!`}
      disabled={disabled}
      onClick={onDo}
    >
      {children} {hint && <Kbd>{hint}</Kbd>}
    </Button>
  );
}

/** Single keys of the bench: not while something is typed, a dialog is open, or a button has the focus for the space. */
function useBenchKeys(active: boolean, deeds: Readonly<Record<string, () => void>>): void {
  useEffect(() => {
    if (!active) return;
    const onKey = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      const deed = deeds[event.key.length === 1 ? event.key.toLowerCase() : event.key];
      if (!deed || event.metaKey || event.ctrlKey || event.altKey || event.repeat) return;
      if (document.querySelector('[role=dialog], [role=alertdialog]') !== null) return;
      if (['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) || target.isContentEditable) return;
      if (event.key === ' ' && target.closest('button, a, [role=button]')) return;
      event.preventDefault();
      deed();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
}
