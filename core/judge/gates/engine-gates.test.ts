import { describe, expect, it } from 'vitest';
import type { EngineChannel } from '../../base/quantities.ts';
import type { Hollow } from '../../correct/hollow.ts';
import { told } from '../finding.ts';
import { engineStateGate } from './engine-state.ts';
import { logAgreesGate } from './log-agrees.ts';
import { safeMixtureGate } from './safe-mixture.ts';
import { sameGear } from './same-gear.ts';

const grid = Array.from({ length: 61 }, (_, j) => 2500 + 50 * j);
type Values = Partial<Record<EngineChannel, number | ((rpm: number) => number)>>;
const SOUND: Values = { throttle: 99, lambda: 0.87, ignitionAdvance: 22, knockRetard: 0, massAirFlow: 0.08 };
interface Made {
  readonly id: string;
  readonly arm: string;
  readonly hollow: Hollow | null;
  readonly curves: Record<string, number[]>;
}
/** Three pulls an arm, with a little scatter; `change` makes one of them other. */
function session(change: (values: Values, id: string, arm: string) => Values = (v) => v): Made[] {
  return ['stock', 'stock', 'stock', 'part', 'part', 'part'].map((arm, i) => {
    const id = `p${i + 1}`;
    const values = change({ ...SOUND }, id, arm);
    const curves = Object.fromEntries(
      Object.entries(values).map(([q, v]) => [
        q,
        grid.map((r) => (typeof v === 'function' ? v(r) : v) * (1 + 0.001 * ((i % 3) - 1))),
      ]),
    );
    return { id, arm, curves, hollow: null };
  });
}
const pair = (pulls: Made[], aspiration: 'natural' | 'turbo' = 'natural') => ({
  arm: 'part',
  against: 'stock',
  pulls,
  grid,
  stepRpm: 50,
  aspiration,
});
const codes = (found: ReturnType<typeof engineStateGate>): string[] =>
  found.map((f) => `${f.state} ${f.code}`);
const inPart =
  (values: Values) =>
  (v: Values, _id: string, arm: string): Values =>
    arm === 'part' ? { ...v, ...values } : v;

describe('engine state', () => {
  it('passes an engine that ran alike', () => {
    expect(codes(engineStateGate(pair(session())))).toEqual(['pass ENGINE_ALIKE']);
  });
  it.each([
    ['the mixture', { lambda: 0.9 }, 'caution MIXTURE_DIFFERS'],
    ['the ignition', { ignitionAdvance: 20.5 }, 'caution IGNITION_DIFFERS'],
    ['knock in one arm', { knockRetard: 1.4 }, 'fail KNOCK_UNEQUAL'],
  ])('tells what differs: %s', (_what, values, code) => {
    expect(codes(engineStateGate(pair(session(inPart(values)))))).toEqual([code]);
  });
  it('lets small differences be', () => {
    const close = inPart({ lambda: 0.885, ignitionAdvance: 22.8, knockRetard: 0.8 });
    expect(codes(engineStateGate(pair(session(close))))).toEqual(['pass ENGINE_ALIKE']);
  });
  it('takes scatter of the pulls for no difference', () => {
    const wild = session((v, id) => ({ ...v, lambda: id === 'p4' ? 1.05 : 0.87 }));
    expect(codes(engineStateGate(pair(wild)))).toEqual(['pass ENGINE_ALIKE']);
  });
  it('asks for the manifold pressure of a boosted engine, and tells where it differs', () => {
    expect(codes(engineStateGate(pair(session(), 'turbo')))).toEqual(['caution ENGINE_NOT_LOGGED']);
    const boosted = session((v, _id, arm) => ({
      ...v,
      manifoldPressure: arm === 'part' ? 190_000 : 180_000,
    }));
    expect(codes(engineStateGate(pair(boosted, 'turbo')))).toEqual(['caution BOOST_DIFFERS']);
  });
  it('fails part throttle, of one pull as of all stock pulls', () => {
    const one = session((v, id) => ({ ...v, throttle: id === 'p2' ? 71 : 99 }));
    const found = engineStateGate(pair(one));
    expect(codes(found)).toEqual(['fail PART_THROTTLE']);
    expect(told(found[0]).message).toContain('p2 71 %');
    const all = session((v, _id, arm) => ({ ...v, throttle: arm === 'stock' ? 85 : 99 }));
    expect(codes(engineStateGate(pair(all)))).toEqual(['fail PART_THROTTLE']);
    expect(codes(engineStateGate(pair(session((v) => ({ ...v, throttle: 60 })))))).toContain(
      'caution THROTTLE_NEVER_FULL',
    );
  });
  it('fails torque that was taken back, and lets a hollow be that all pulls of an arm have', () => {
    const with_ = (hollow: (id: string, arm: string) => Hollow | null) =>
      codes(engineStateGate(pair(session().map((p) => ({ ...p, hollow: hollow(p.id, p.arm) })))));
    const own = { share: 0.08, rpm: 4000, ignition: null };
    const small = { share: 0.005, rpm: 4000, ignition: null };
    expect(with_((id) => (id === 'p5' ? { share: 0.05, rpm: 4000, ignition: 9 } : small))).toEqual([
      'fail TORQUE_INTERVENTION',
    ]);
    expect(with_((id) => (id === 'p5' ? own : small))).toEqual(['fail TORQUE_INTERVENTION']);
    expect(with_((_id, arm) => (arm === 'part' ? own : small))).toEqual(['pass ENGINE_ALIKE']);
  });
  it('names what was not logged', () => {
    const bare = session((v, _id, arm) => (arm === 'stock' ? { throttle: v.throttle! } : v));
    const [finding] = engineStateGate(pair(bare));
    expect(told(finding)).toMatchObject({ state: 'caution', code: 'ENGINE_NOT_LOGGED' });
    expect(told(finding).message).toContain('mixture (λ), ignition advance');
  });
});

describe('safe mixture', () => {
  const spark = { ignition: 'spark', aspiration: 'natural' } as const;
  const judged = (pulls: Made[], engine: Parameters<typeof safeMixtureGate>[2] = spark) =>
    codes(safeMixtureGate(pulls, grid, engine));
  it('knows what is safe', () => {
    expect(judged(session())).toEqual(['pass MIXTURE_SAFE']);
    expect(judged(session(), { ...spark, aspiration: 'turbo' })).toEqual(['fail LEAN_MIXTURE']);
  });
  it('fails a lean stretch or knock, in any pull that is used', () => {
    const lean = session((v, id) => ({
      ...v,
      lambda: id === 'p4' ? (r: number) => (r > 5000 ? 0.97 : 0.87) : 0.87,
    }));
    expect(judged(lean)).toEqual(['fail LEAN_MIXTURE']);
    expect(told(safeMixtureGate(lean, grid, spark)[0]).message).toContain('p4 λ 0.97');
    expect(judged(session((v, id) => ({ ...v, knockRetard: id === 'p1' ? 3 : 0 })))).toEqual([
      'fail KNOCK_SEEN',
    ]);
  });
  it('cautions where nobody logged it, and has no such limit for a diesel', () => {
    expect(judged(session(() => ({ throttle: 99 })))).toEqual(['caution MIXTURE_NOT_LOGGED']);
    expect(judged(session(inPart({ lambda: 1.5 })), { ...spark, ignition: 'compression' })).toEqual([]);
  });
});

describe('log agrees', () => {
  const flow = (air: number, power: number) =>
    codes(
      logAgreesGate(
        session(inPart({ massAirFlow: air })),
        { arm: 'part', against: 'stock' },
        power,
        grid,
        50,
      ),
    );
  it('holds airflow against power', () => {
    expect(flow(0.084, 1.045)).toEqual(['pass FLOW_AGREES']);
    expect(flow(0.08, 1.045)).toEqual(['caution FLOW_DISAGREES']);
  });
  it('cautions where neither air nor fuel was logged', () => {
    const none = session(() => ({ throttle: 99 }));
    expect(codes(logAgreesGate(none, { arm: 'part', against: 'stock' }, 1, grid, 50))).toEqual([
      'caution FLOW_NOT_LOGGED',
    ]);
  });
});

describe('one gear', () => {
  const ratios = (...values: (number | null)[]) =>
    codes(
      sameGear(
        values.map((ratio, i) => ({
          id: `p${i + 1}`,
          speedRatio: ratio === null ? null : { of: 'roller' as const, ratio },
        })),
      ),
    );
  it('is told by the ratio of engine to roller speed', () => {
    expect(ratios(4.1, 4.12, 4.08, 4.15)).toEqual(['pass ONE_GEAR']);
    expect(ratios(4.1, 4.12, 3.1, 4.15)).toEqual(['fail OTHER_GEAR']);
  });
  it('is not told where speeds were not logged', () => {
    expect(ratios(null, null, null)).toEqual([]);
  });
});
