import { useEffect, useState } from 'react';
import { useUnderWayQuery } from './endpoints.ts';
import { number } from './format.ts';
import { useAppDispatch } from './store.ts';
import { Button, Loading } from './ui.tsx';

/** What takes less is not worth a bar, ms. */
const SOON_MS = 600;
const ASK_EVERY_MS = 400;

interface Stoppable {
  abort: () => void;
}
type Running = (dispatch: never, getState: never, extra: never) => Stoppable | undefined;
interface Computed {
  /** What is computed: “the comparison”. */ readonly what: string;
  /** The address that was asked, behind /api. */ readonly path: string;
  /** The question that is under way, from the store; undefined where none is. */
  readonly running: Running;
  /** Beside what was there before: nothing is shown of what is soon done. */ readonly quiet?: boolean;
}

/** Stands where something is computed that takes its time: how far it is, and how to stop it. */
export function Computing({ what, path, running, quiet = false }: Computed) {
  const [long, setLong] = useState(false);
  useEffect(() => {
    const later = setTimeout(() => setLong(true), SOON_MS);
    return () => clearTimeout(later);
  }, []);
  if (!long) return quiet ? null : <Loading what={what} />;
  return <HowFar what={what} path={path} running={running} />;
}

function HowFar({ what, path, running }: Computed) {
  const dispatch = useAppDispatch();
  const { data } = useUnderWayQuery(path, { pollingInterval: ASK_EVERY_MS });
  const stop = (): void => {
    const asked = (dispatch as (thunk: Running) => Stoppable | undefined)(running);
    asked?.abort();
  };
  const share = data ? Math.min(100, (100 * data.done) / data.of) : null;
  return (
    <div className="flex flex-wrap items-center gap-3 py-3">
      <p role="status" className="text-soft">
        Computing {what} …{share !== null && ` ${number(share, 0)} %`}
      </p>
      <progress aria-label={`Computing ${what}`} max={100} {...(share === null ? {} : { value: share })} />
      <Button small onClick={stop}>
        Stop
      </Button>
    </div>
  );
}
