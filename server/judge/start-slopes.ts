/**
 * Slopes over start temperatures from a dyno's finished sessions, as their standing analyses hold them: never from the
 * test that is to be judged by them.
 */
import { sql } from 'drizzle-orm';
import type { StartSlope } from '../../contract/register/start-slopes.ts';
import type { SensorStarts } from '../../core/correct/starts.ts';
import {
  registerSlope,
  START_SENSORS,
  type SlopeRegistration,
  type SlopeSession,
  type StartSensor,
} from '../../core/register/temperature-slope.ts';
import type { PlannedSlope } from '../../core/plan/planned-slope.ts';
import type { Queryable } from '../base/db.ts';
import { standingAnalysis } from '../base/standing-analysis.ts';
import { notSpoilt } from './finished-tests.ts';

interface PullSeen {
  readonly run: number;
  readonly averageLp: number | null;
  readonly starts: SensorStarts | null;
}
interface SessionSeen extends Record<string, unknown> {
  readonly test: number;
  readonly vehicleId: string;
  readonly tag: string;
  readonly kind: string;
  readonly pulls: readonly PullSeen[];
}
/** Finished sessions of a dyno in the order of their tests, with what each counted pull started from. */
async function sessionsSeen(tx: Queryable, dynoId: string, except: string | null): Promise<SessionSeen[]> {
  const { rows } = await tx.execute<SessionSeen>(sql`
    select t.number as test, t.vehicle_id as "vehicleId", v.tag, f.aspiration || ' ' || f.ignition as kind,
      (select json_agg(json_build_object('run', p.run, 'averageLp', r -> 'averageLp', 'starts', r -> 'starts')
         order by p.position)
       from jsonb_array_elements(a.result -> 'pulls') r join pulls p on p.test_id = t.id and p.label = r ->> 'id'
       where p.counted and not r ? 'excluded') as pulls
    from tests t join analyses a on a.id = ${standingAnalysis()}
      join vehicles v on v.id = t.vehicle_id join fitments f on f.id = t.fitment_id
    where t.dyno_id = ${dynoId} and t.id is distinct from ${except}::uuid
      and ${notSpoilt}
    order by t.number`);
  return rows.filter((row) => row.pulls !== null);
}

/** What one sensor says in a session; none where a pull was without it. */
function sessionOf({ pulls }: SessionSeen, sensor: StartSensor): SlopeSession | undefined {
  const whole = pulls.every((p) => p.averageLp !== null && p.starts?.[sensor] !== undefined);
  return whole
    ? {
        y: pulls.map((p) => p.averageLp!),
        T: pulls.map((p) => p.starts![sensor]!),
        run: pulls.map((p) => p.run),
      }
    : undefined;
}

interface Told {
  readonly shown: StartSlope;
  readonly registration: SlopeRegistration | null;
}
function told(
  sessions: readonly SessionSeen[],
  sensor: StartSensor,
  of: StartSlope['of'],
  subject: string,
): Told {
  const used = sessions.flatMap((s) => {
    const session = sessionOf(s, sensor);
    return session ? [{ test: s.test, session }] : [];
  });
  const found = registerSlope(used.map((u) => u.session));
  const registration = 'b' in found ? found : null;
  return {
    registration,
    shown: {
      sensor,
      of,
      subject,
      registered: found.registered,
      reasons: [...found.reasons],
      sessions: found.sessions,
      tests: used.map((u) => u.test),
      dfTotal: registration?.dfTotal ?? null,
      slope: registration?.b ?? null,
      error: registration && Math.sqrt(registration.se2),
      explains: registration?.R2 ?? null,
      sdK: registration?.sdT ?? null,
    },
  };
}

const ENGINE_WORDS: Readonly<Record<string, string>> = { spark: 'petrol', compression: 'diesel' };
const kindWords = (kind: string): string => {
  const [aspiration, ignition] = kind.split(' ');
  return `${aspiration === 'natural' ? 'naturally aspirated' : aspiration} ${ENGINE_WORDS[ignition] ?? ignition} engines`;
};
/** The vehicle’s own slope where it is registered, else that of engines of its kind. */
function forVehicle(all: readonly SessionSeen[], sensor: StartSensor, vehicle: Subject): Told {
  const own = told(
    all.filter((s) => s.vehicleId === vehicle.id),
    sensor,
    'vehicle',
    vehicle.tag,
  );
  return own.shown.registered
    ? own
    : told(
        all.filter((s) => s.kind === vehicle.kind),
        sensor,
        'engines',
        kindWords(vehicle.kind),
      );
}

interface Subject extends Record<string, unknown> {
  readonly id: string;
  readonly tag: string;
  readonly kind: string;
}
async function subjectOf(tx: Queryable, vehicleId: string): Promise<Subject | undefined> {
  const { rows } = await tx.execute<Subject>(sql`
    select v.id, v.tag, f.aspiration || ' ' || f.ignition as kind
    from vehicles v join fitments f on f.id = v.fitment_id where v.id = ${vehicleId}`);
  return rows[0];
}

/** Of a dyno by sensor: for one vehicle, or for every kind of engine that ran on it. */
export async function startSlopesOf(
  tx: Queryable,
  dynoId: string,
  vehicleId: string | undefined,
): Promise<StartSlope[]> {
  const all = await sessionsSeen(tx, dynoId, null);
  const vehicle = vehicleId && (await subjectOf(tx, vehicleId));
  if (vehicle) return START_SENSORS.map((sensor) => forVehicle(all, sensor, vehicle).shown);
  const kinds = [...new Set(all.map((s) => s.kind))].sort();
  return kinds.flatMap((kind) =>
    START_SENSORS.map((sensor) => {
      const alike = all.filter((s) => s.kind === kind);
      return told(alike, sensor, 'engines', kindWords(kind)).shown;
    }),
  );
}

/** The slope a plan is locked with; null where none is registered. */
export async function slopeForPlan(
  tx: Queryable,
  plan: {
    readonly id: string;
    readonly dynoId: string;
    readonly vehicleId: string;
    readonly startSensor: StartSensor;
  },
): Promise<PlannedSlope | null> {
  const vehicle = await subjectOf(tx, plan.vehicleId);
  if (!vehicle) return null;
  const { shown, registration } = forVehicle(
    await sessionsSeen(tx, plan.dynoId, plan.id),
    plan.startSensor,
    vehicle,
  );
  if (!registration?.registered) return null;
  const { b, V, df } = registration;
  return { b, V, df, subject: shown.subject, tests: shown.tests };
}
