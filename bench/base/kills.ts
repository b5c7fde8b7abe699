/**
 * People who write while what they write to is killed. Each deed carries a key and is sent until it is answered, as the
 * application's own pages do; afterwards the records are held against what was acknowledged.
 */
import { createHash } from 'node:crypto';
import { setTimeout as later } from 'node:timers/promises';
import type pg from 'pg';
import type { Rng } from '../../core/base/rng.ts';

export interface Deed {
  readonly kind: string;
  readonly path: string;
  readonly body: object;
  /** Stands in the record that the deed makes, and in no other. */
  readonly mark: string;
}
export interface Written {
  /** Deeds that were answered as done, by their mark. */
  readonly acknowledged: Map<string, Deed>;
  /** Answers that are no refusal of ours and no success. */
  readonly strange: string[];
  /** Times a deed was sent again. */
  again: number;
}
export type Send = (deed: Deed, key: string) => Promise<{ status: number; code: string }>;

const PAUSE_MS = 40;
const MOST_TRIES = 1000;

/** Writes deed after deed until told to stop, each until it is answered. */
export async function write(
  next: () => Deed,
  send: Send,
  newKey: () => string,
  stopped: () => boolean,
  written: Written,
): Promise<void> {
  while (!stopped()) {
    const deed = next();
    const key = newKey();
    for (let tries = 0; ; tries++) {
      const answer = await send(deed, key).catch(() => undefined);
      if (answer && (answer.status < 300 || answer.code === 'DONE_ALREADY')) {
        written.acknowledged.set(deed.mark, deed);
        break;
      }
      // The server is away or says that the database is: nobody knows yet what became of it.
      if (answer && answer.status < 500) {
        written.strange.push(`${deed.kind}: ${answer.status} ${answer.code}`);
        break;
      }
      if (tries === MOST_TRIES) {
        written.strange.push(
          `${deed.kind}: given up at ${answer?.status ?? 'no answer'} ${answer?.code ?? ''}`,
        );
        break;
      }
      written.again += 1;
      await later(PAUSE_MS);
    }
  }
}

/** Where the mark of each kind of deed stands. */
const MARKED: Readonly<Record<string, string>> = {
  test: 'select question as mark from tests',
  closure: 'select reason as mark from closures',
  'ledger entry': 'select note as mark from vehicle_ledger',
  vehicle: 'select tag as mark from vehicles',
  calibration: 'select name as mark from calibrations',
};

export interface Held {
  readonly lost: string[];
  readonly twice: string[];
  /** Tests without arms, run sheet or entry in the trail. */
  readonly half: string[];
}
/** Holds the records against what was acknowledged. */
export async function held(owner: pg.Pool, { acknowledged }: Written): Promise<Held> {
  const times = new Map<string, number>();
  for (const sql of Object.values(MARKED))
    for (const { mark } of (await owner.query<{ mark: string }>(sql)).rows)
      times.set(mark, (times.get(mark) ?? 0) + 1);
  const half = await owner.query<{ mark: string }>(`
    select question as mark from tests t where question like 'kill %' and (
      (select count(*) from test_arms a where a.test_id = t.id) <> 2
      or (select count(*) from pulls p where p.test_id = t.id) <> 12
      or (select count(*) from audit_entries e
          where e.action = 'created test' and e.subject_id = t.id::text) <> 1)`);
  return {
    lost: [...acknowledged.keys()].filter((mark) => !times.has(mark)),
    twice: [...times].filter(([mark, n]) => mark.startsWith('kill ') && n > 1).map(([mark]) => mark),
    half: half.rows.map(({ mark }) => mark),
  };
}

/** Ids that deeds are about. */
export interface About {
  readonly fitmentId: string;
  readonly vehicleId: string;
  readonly dynoId: string;
  readonly partRevisionId: string;
  readonly category: string;
}
/** A plan of one part against stock, nine counted pulls. */
export const planBody = (
  { fitmentId, vehicleId, dynoId, partRevisionId, category }: About,
  question: string,
): object => ({
  question,
  fitmentId,
  vehicleId,
  dynoId,
  standard: 'sae-j1349',
  band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
  metrics: ['upTo'],
  protocol: 'A-B-A',
  order: ['stock', 'part', 'stock'],
  pullsPerRun: 3,
  warmUps: 1,
  remount: false,
  gear: '4th',
  fuel: '95 RON',
  arms: [
    { key: 'stock', label: 'stock', role: 'baseline', from: null, changes: [] },
    {
      key: 'part',
      label: 'part',
      role: 'part',
      from: null,
      changes: [{ kind: 'part fitted', category, partRevisionId, settings: {} }],
    },
  ],
});

/** Deeds of every kind in turn, each with a mark of its own. */
export function deedsOn(about: About, rng: Rng): () => Deed {
  const { fitmentId, vehicleId, dynoId } = about;
  let n = 0;
  const DAY = 86_400_000;
  const makers: readonly ((mark: string) => Omit<Deed, 'mark'>)[] = [
    (mark) => ({
      kind: 'test',
      path: '/tests',
      body: planBody(about, mark),
    }),
    (mark) => {
      const start = Date.UTC(2030, 0, 1) + n * 2 * DAY;
      const [from, to] = [new Date(start).toISOString(), new Date(start + DAY).toISOString()];
      return {
        kind: 'closure',
        path: '/schedule/closures',
        body: { dynoId, start: from, end: to, reason: mark },
      };
    },
    (mark) => ({
      kind: 'ledger entry',
      path: `/vehicles/${vehicleId}/ledger`,
      body: { at: '2026-01-01T08:00:00Z', change: { kind: 'fuel', text: '98 RON' }, note: mark },
    }),
    (mark) => ({
      kind: 'vehicle',
      path: '/vehicles',
      body: { fitmentId, tag: mark, odometerKm: Math.round(rng.uniform() * 1e5), wheels: '' },
    }),
    (mark) => ({
      kind: 'calibration',
      path: '/calibrations',
      body: { name: mark, revision: '1', fileHash: createHash('sha256').update(mark).digest('hex') },
    }),
  ];
  return () => {
    n += 1;
    const mark = `kill ${n} ${Math.round(rng.uniform() * 1e9)}`;
    return { ...makers[n % makers.length](mark), mark };
  };
}
