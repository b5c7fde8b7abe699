import { useRef, useState } from 'react';
import { Link, useOutletContext } from 'react-router';
import { CAPTURE, EXCLUDE } from '../../contract/base/roles.ts';
import type { Pull } from '../../contract/capture/capture.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { useSessionQuery } from '../base/api.ts';
import { useAnalysisQuery } from '../base/endpoints.ts';
import { Caution } from '../base/ui.tsx';
import { Accounting } from './accounting.tsx';
import { ColumnsDialog } from './columns-dialog.tsx';
import { DropFiles, type Chooser } from './drop-files.tsx';
import { ExcludeDialog } from './pull-actions.tsx';
import { LogDialog } from './log-dialog.tsx';
import { Photographs } from './photographs.tsx';
import { PullsTable } from './pulls-table.tsx';
import { RefusedFiles } from './refused-files.tsx';
import { SplitDialog } from './split-dialog.tsx';
import { Unplaced } from './unplaced.tsx';
import { useSending, type Refused } from './use-sending.ts';

/** What is asked about a pull in a dialog. */
type Asking =
  | { readonly about: 'a long log' }
  | { readonly about: 'columns'; readonly refused: Refused }
  | { readonly about: 'reading' | 'leaving out' | 'log'; readonly pull: Pull };

/** Every pull in order: file, what was found in it, factor and peaks, and whether it counts. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function PullsPage() {
  const detail = useOutletContext<TestDetail>();
  const { data: session } = useSessionQuery();
  const { data: state } = useAnalysisQuery(detail.summary.id);
  const sending = useSending(detail);
  const chooser = useRef<Chooser>(null);
  const [asking, setAsking] = useState<Asking | null>(null);
  const role = session?.person?.role;
  const mayCapture = role !== undefined && CAPTURE.includes(role);
  const mayExclude = role !== undefined && EXCLUDE.includes(role);
  // What is asked about may have changed since the dialog was opened.
  const asNow = (pull: Pull): Pull => detail.pulls.find((p) => p.id === pull.id) ?? pull;
  const results = new Map(state?.analysis?.result.pulls.map((p) => [p.id, p]));
  return (
    <main className="grid grid-cols-[minmax(0,1fr)] gap-4 px-[22px] py-4">
      {mayCapture && (
        <DropFiles sending={sending} ref={chooser} onSplit={() => setAsking({ about: 'a long log' })} />
      )}
      {detail.plan.lockedAt && (
        <p>
          <Link to={`/tests/${detail.summary.id}/bench`}>To the bench</Link>, the screen beside the dyno,
          where pulls are recorded as they run.
        </p>
      )}
      {sending.unplaced.length > 0 && (
        <Unplaced
          list={sending.unplaced}
          pulls={detail.pulls}
          armLabel={(key) => detail.arms.find((a) => a.key === key)?.label ?? key}
          onPlace={(file, pull) => {
            sending.leave(file);
            void sending.send([{ file, pull }]);
          }}
          onDrop={sending.leave}
        />
      )}
      {sending.refused.length > 0 && (
        <RefusedFiles list={sending.refused} onAsk={(refused) => setAsking({ about: 'columns', refused })} />
      )}
      <PullsTable
        detail={detail}
        results={results}
        deeds={{
          mayCapture,
          mayExclude,
          mayRepeat: role === 'test manager',
          onAttach: (pull) => chooser.current?.choose(pull),
          onReread: (pull) => setAsking({ about: 'reading', pull }),
          onLog: (pull) => setAsking({ about: 'log', pull }),
          onLeaveOut: (pull) => setAsking({ about: 'leaving out', pull }),
        }}
      />
      <Accounting
        pulls={detail.pulls.map(({ counted, file, excluded }) => ({
          counted,
          captured: file !== null,
          excluded: excluded?.reason ?? null,
        }))}
        analysed={state?.analysis ? [...results.values()].filter((p) => p.counted && !p.excluded).length : 0}
      />
      <Photographs testId={detail.summary.id} arms={detail.arms} role={role} />
      <Caution>
        Strapped vehicle, rotating rollers, hot exhaust and carbon monoxide: nobody beside the wheels during a
        pull, extraction running, hearing protection on.
      </Caution>
      {asking?.about === 'a long log' && <SplitDialog detail={detail} onClose={() => setAsking(null)} />}
      {asking && asking.about !== 'a long log' && (
        <Question
          asking={'pull' in asking ? { ...asking, pull: asNow(asking.pull) } : asking}
          testId={detail.summary.id}
          analysed={Boolean(state?.analysis)}
          answered={sending.answered}
          onClose={() => setAsking(null)}
        />
      )}
    </main>
  );
}

function Question({
  asking,
  testId,
  analysed,
  answered,
  onClose,
}: {
  asking: Exclude<Asking, { about: 'a long log' }>;
  testId: string;
  analysed: boolean;
  answered: (about: Refused) => void;
  onClose: () => void;
}) {
  if (asking.about === 'columns') {
    const { pull, file, problem } = asking.refused;
    const onDone = (): void => {
      onClose();
      answered(asking.refused);
    };
    return <ColumnsDialog {...{ testId, pullId: pull.id, file, problem, onClose, onDone }} />;
  }
  const { pull } = asking;
  if (asking.about === 'leaving out')
    return <ExcludeDialog testId={testId} pull={pull} seen={analysed} onClose={onClose} />;
  if (!pull.file) return null;
  if (asking.about === 'log') return <LogDialog testId={testId} pull={pull} onClose={onClose} />;
  return (
    <ColumnsDialog testId={testId} pullId={pull.id} stored={pull.file} onClose={onClose} onDone={onClose} />
  );
}
