import { describe, expect, it } from 'vitest';
import { told } from '../finding.ts';
import { trueBaselineGate, type BaselineFacts } from './true-baseline.ts';

const inlet = [{ subject: 'intake', from: 'stock', to: 'Long inlet' }];
const worn = (subject: string) => [{ code: 'WORN' as const, subject, text: `${subject} 400 days old` }];
const arm = (more: Partial<BaselineFacts['arms'][number]> = {}): BaselineFacts['arms'][number] => ({
  key: 'part',
  label: 'long inlet',
  planned: inlet,
  onDay: inlet,
  categories: ['intake'],
  renewed: [],
  ...more,
});
const facts = (more: Partial<BaselineFacts> = {}): BaselineFacts => ({
  planned: 'stock',
  onDay: 'stock',
  stock: { worn: [], notRecorded: [] },
  arms: [arm()],
  others: [],
  ...more,
});
const of = (more: Partial<BaselineFacts> = {}) =>
  trueBaselineGate(facts(more), 'part').map(({ code, state }) => `${state} ${code}`);
const others = (...pct: number[]) => pct.map((p) => ({ pct: p, sameDyno: true }));

describe('the baseline by the ledger of the day', () => {
  it('as planned it passes, and says how many others it was held against', () => {
    expect(of()).toEqual(['pass BASELINE_AS_PLANNED']);
    expect(told(trueBaselineGate(facts({ others: others(1, -2, 3) }), 'part')[0]).message).toContain(
      '3 others',
    );
  });
  it('another than the plan calls it fails, as does an arm that differed in something else', () => {
    expect(of({ onDay: 'the same vehicle with winter tyres' })).toEqual(['fail BASELINE_OTHER_THAN_PLANNED']);
    expect(
      of({ planned: 'the same vehicle with winter tyres', onDay: 'the same vehicle with winter tyres' })[0],
    ).toMatch(/^pass/);
    const tuned = [...inlet, { subject: 'calibration', from: 'stock', to: 'Road tune' }];
    expect(of({ arms: [arm({ onDay: tuned })] })).toEqual(['fail ARM_OTHER_THAN_PLANNED']);
  });
  it('a worn item that the part or its fitting renews fails; on both arms alike it is told', () => {
    expect(of({ stock: { worn: worn('air filter'), notRecorded: [] } })).toEqual(['fail WORN_AND_RENEWED']);
    const plugs = { worn: worn('spark plugs'), notRecorded: [] };
    expect(of({ stock: plugs })).toEqual(['caution BASELINE_WORN']);
    expect(of({ stock: plugs, arms: [arm({ renewed: ['Spark plugs, new gasket'] })] })).toEqual([
      'fail WORN_AND_RENEWED',
    ]);
  });
  it('what is not written down is said, and is no failure', () => {
    const notRecorded = [
      { code: 'NOT_RECORDED' as const, subject: 'tyres', text: 'tyres are not on record' },
    ];
    expect(of({ stock: { worn: [], notRecorded } })).toEqual(['caution BASELINE_NOT_RECORDED']);
  });
  it('off the others it is told, and fails only where they agree against it on this dyno', () => {
    expect(of({ others: others(4, -4, 2) })[0]).toMatch(/^pass/);
    expect(of({ others: others(-6, -7, -6) })).toEqual(['caution BASELINE_OFF_OTHERS']);
    expect(of({ others: others(-12, -11, -13) })).toEqual(['fail BASELINE_OFF_OTHERS']);
    expect(of({ others: others(-20, -2, -30) })).toEqual(['caution BASELINE_OFF_OTHERS']);
    expect(of({ others: others(-20) })).toEqual(['caution BASELINE_OFF_OTHERS']);
    const elsewhere = [-12, -11, -13].map((pct) => ({ pct, sameDyno: false }));
    expect(of({ others: elsewhere })).toEqual(['caution BASELINE_OFF_OTHERS']);
  });
});
