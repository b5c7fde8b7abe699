/** What stands in for a return to the baseline, from the records: mountings with their times, and the control vehicle. */
import { inArray } from 'drizzle-orm';
import { dayAt } from '../../core/base/site-time.ts';
import { momentRecorded } from '../../core/capture/moments.ts';
import { readDate } from '../../core/capture/recorded.ts';
import type { TestDefinition } from '../../core/capture/test-definition.ts';
import type { MountingSpan, OneWayFacts } from '../../core/plan/one-way.ts';
import type { Queryable } from '../base/db.ts';
import type { PullRow } from '../capture/repository.ts';
import { checksFor } from '../correct/control-facts.ts';
import type { ArmRow } from '../plan/arms.ts';
import type { TestRow } from '../plan/repository.ts';
import { stepForGood } from '../../core/register/for-good.ts';
import { partRevisions } from '../register/tables.ts';
import type { Done } from './as-done.ts';

interface Known {
  readonly arms: readonly ArmRow[];
  readonly pullRows: readonly PullRow[];
  readonly definition: TestDefinition;
  readonly done: Done;
}

/** Undefined for a plan that returns to its baseline. */
export async function oneWayFacts(
  tx: Queryable,
  { test, dyno }: TestRow,
  known: Known,
): Promise<OneWayFacts | undefined> {
  if (test.controlId === null) return undefined;
  const mountings = spansOf(known, dyno.timeZone);
  const moments = mountings.flatMap(({ from, to }) =>
    from === '' ? [] : [Date.parse(from), Date.parse(to)],
  );
  const { tag, checks, changed } = await checksFor(tx, test.controlId, dyno.timeZone, {
    from: Math.min(...moments),
    to: Math.max(...moments),
  });
  return {
    forGood: await stepsForGood(tx, known.arms),
    control: tag,
    controlChanged: changed,
    checks: moments.length > 0 ? checks : [],
    mountings,
  };
}

/** What the register says cannot be undone, of the parts fitted in an arm. */
async function stepsForGood(tx: Queryable, arms: readonly ArmRow[]): Promise<string[]> {
  const fitted = arms.flatMap(({ changes }) =>
    changes.flatMap((c) => (c.kind === 'part fitted' ? [c.partRevisionId] : [])),
  );
  if (fitted.length === 0) return [];
  const rows = await tx
    .select({ steps: partRevisions.irreversibleSteps })
    .from(partRevisions)
    .where(inArray(partRevisions.id, fitted));
  return [...new Set(rows.flatMap(({ steps }) => stepForGood(steps) ?? []))].sort();
}

/** Counted pulls by mounting, as they were recorded; a mounting of which a time is missing has none. */
function spansOf({ definition, pullRows, done }: Known, timeZone: string): MountingSpan[] {
  const byLabel = new Map(pullRows.map((row) => [row.pull.label, row]));
  const groups = new Map<string, { mount: number | string; arm: string; moments: (number | undefined)[] }>();
  for (const pull of definition.pulls) {
    if (!pull.counted || pull.excluded) continue;
    const key = `${pull.arm} ${pull.mount}`;
    const group = groups.get(key) ?? { mount: pull.mount, arm: pull.arm, moments: [] };
    groups.set(key, group);
    group.moments.push(momentOf(byLabel.get(pull.id), done, timeZone));
  }
  return [...groups.values()].map(({ mount, arm, moments }) => {
    const known = moments.filter((m) => m !== undefined);
    if (known.length < moments.length) return { mount, arm, from: '', to: '', day: '' };
    const [from, to] = [Math.min(...known), Math.max(...known)];
    const iso = (moment: number): string => new Date(moment).toISOString();
    return { mount, arm, from: iso(from), to: iso(to), day: dayAt(from, timeZone) };
  });
}

/** When a pull was made: by the recording at the dyno, else by what its file says to the second. */
function momentOf(row: PullRow | undefined, { recordings }: Done, timeZone: string): number | undefined {
  const recording = recordings.find((r) => r.pullId === row?.pull.id && r.state === 'complete');
  if (recording?.beganAt) return recording.beganAt.getTime();
  const recorded = row?.file?.recordedText ? readDate(row.file.recordedText) : undefined;
  return recorded && momentRecorded(recorded, timeZone);
}
