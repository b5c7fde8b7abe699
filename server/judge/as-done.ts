/** The record of the dyno, and a definition brought to what was done: true order, true mountings, what departs. */
import type { EntryBody } from '../../contract/capture/bench.ts';
import { departures } from '../../core/capture/session/next-place.ts';
import {
  warmingExtras,
  type RecordedPull,
  type SessionRecord,
} from '../../core/capture/session/session-record.ts';
import type { TestDefinition } from '../../core/judge/analyse-test.ts';
import type { Queryable } from '../base/db.ts';
import {
  entriesOf,
  mountingsOf,
  recordingsOf,
  sessionsOf,
  type RecordingRow,
} from '../capture/bench-repository.ts';
import { benchEntries } from '../capture/bench-tables.ts';
import { sheetPull, type PullRow } from '../capture/repository.ts';

/** What was renewed beside the part, in words: those that the ledger knows, and what was written. */
const renewedText = ({ service = [], renewed }: Extract<EntryBody, { kind: 'fitted' }>): string =>
  [...service, ...(renewed === '' ? [] : [renewed])].join(', ');
interface DoneRecording extends RecordingRow {
  /** True place over all sessions. */ readonly place: number;
  readonly mount: string | null;
  readonly mountNumber: number | null;
}
export interface Done {
  readonly recordings: readonly DoneRecording[];
  readonly entries: readonly (typeof benchEntries.$inferSelect)[];
}

/** Everything recorded of a test at a dyno, session after session. */
export async function doneAt(tx: Queryable, testId: string): Promise<Done> {
  const recordings: DoneRecording[] = [];
  const entries: Done['entries'][number][] = [];
  let before = 0;
  for (const session of await sessionsOf(tx, testId)) {
    const numbers = new Map((await mountingsOf(tx, session.id)).map((m) => [m.id, m.number]));
    const own = (await recordingsOf(tx, session.id)).filter((r) => r.order !== null);
    for (const r of own) {
      const number = r.mountingId === null ? null : (numbers.get(r.mountingId) ?? null);
      recordings.push({
        ...r,
        place: before + r.order!,
        mountNumber: number,
        mount: number === null ? null : `session ${session.number}, mounting ${number}`,
      });
    }
    entries.push(...(await entriesOf(tx, session.id)));
    before += Math.max(0, ...own.map((r) => r.order!));
  }
  return { recordings, entries };
}

/** Recordings that are whole, as the core takes them. */
function recordedPulls({ recordings }: Done, rows: readonly PullRow[]): RecordedPull[] {
  const counted = new Map(rows.map(({ pull }) => [pull.id, pull.counted && pull.excludedReason === null]));
  return recordings
    .filter((r) => r.state === 'complete')
    .map((r) => ({
      pullId: r.pullId,
      arm: r.arm,
      order: r.place,
      mount: r.mount,
      counted: r.pullId !== null && (counted.get(r.pullId) ?? false),
    }));
}

/** After all places that were recorded: where pulls stand that came as files or have not been made. */
const BEHIND = 10_000;

/**
 * The definition as it was done. A test without a record at a dyno stays as it is: of it only the plan and files are
 * known. Planned warm-up pulls that were not made are none.
 */
export function asItWasDone(test: TestDefinition, rows: readonly PullRow[], done: Done): TestDefinition {
  if (done.recordings.length === 0) return test;
  const recorded = recordedPulls(done, rows);
  const byLabel = new Map(rows.map(({ pull }) => [pull.label, pull]));
  const of = new Map(recorded.flatMap((r) => (r.pullId === null ? [] : [[r.pullId, r] as const])));
  const pulls = test.pulls.flatMap((pull) => {
    const r = of.get(byLabel.get(pull.id)!.id);
    if (r) return [{ ...pull, order: r.order, mount: r.mount ?? pull.mount }];
    return !pull.counted && !pull.file ? [] : [{ ...pull, order: BEHIND + pull.order }];
  });
  const extras = warmingExtras(recorded)
    .filter((r) => test.arms.some((a) => a.id === r.arm))
    .map((r) => ({
      id: `extra ${r.order}`,
      arm: r.arm,
      order: r.order,
      mount: r.mount ?? 1,
      counted: false,
    }));
  return { ...test, pulls: [...pulls, ...extras], done: recordOf(rows, done, recorded) };
}

function recordOf(rows: readonly PullRow[], done: Done, recorded: readonly RecordedPull[]): SessionRecord {
  const sheet = rows.map(sheetPull);
  const counted = new Set(recorded.filter((r) => r.counted).map((r) => r.order));
  const moments = done.recordings.filter((r) => counted.has(r.place)).map((r) => r.beganAt!.getTime());
  const [first, last] = [Math.min(...moments), Math.max(...moments)];
  return {
    departures: departures(
      sheet,
      done.recordings.map((r) => ({
        id: r.id,
        pullId: r.pullId,
        arm: r.arm,
        state: r.state,
        order: r.place,
        mounting: r.mountNumber,
      })),
    ),
    changes: done.entries.flatMap(({ body, saidAt, enteredAt }) =>
      body.kind === 'changed'
        ? [
            {
              what: body.what,
              text: body.text,
              // By either clock: a tablet’s own may be wrong, and what it wrote may have come late.
              amongCounted: [saidAt, enteredAt].some((t) => t.getTime() > first && t.getTime() < last),
            },
          ]
        : [],
    ),
    replaced: done.recordings.flatMap((r) => {
      const row = rows.find(({ pull }) => pull.id === r.pullId);
      const isOther = r.state === 'complete' && row?.file && row.file.sha256 !== r.fileSha256;
      return isOther && row.pull.excludedReason === null ? [row.pull.label] : [];
    }),
    renewed: done.entries.flatMap(({ body }) =>
      body.kind === 'fitted' && renewedText(body) !== '' ? [{ arm: body.arm, text: renewedText(body) }] : [],
    ),
  };
}
