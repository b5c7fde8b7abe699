import { describe, expect, it } from 'vitest';
import { LedgerRequest } from '../../contract/register/register.ts';
import { LEDGER_KINDS, SERVICE_ITEMS } from '../../core/register/ledger.ts';
import { changeOf, KIND_NAMES, type Draft } from './ledger-draft.ts';

const ID = '00000000-0000-4000-8000-000000000001';
const draft = (change: Partial<Draft> = {}): Draft => ({
  at: '2026-11-05T09:00',
  odometerKm: null,
  note: 'seen',
  kind: 'service',
  category: 'intake',
  partRevisionId: ID,
  settings: { pulley: '80 mm' },
  calibrationId: '',
  text: 'summer tyres',
  item: SERVICE_ITEMS[0],
  ...change,
});
const asked = (d: Draft) =>
  LedgerRequest.safeParse({
    at: '2026-11-05T09:00:00Z',
    odometerKm: d.odometerKm,
    note: d.note,
    supersedes: d.kind === 'taken back' ? ID : null,
    change: changeOf(d),
  });

describe('what is written into a ledger', () => {
  it.each([...LEDGER_KINDS])('“%s” has a name, and is sent as the contract takes it', (kind) => {
    expect(KIND_NAMES[kind]).toMatch(/^[A-Z]/);
    const checked = asked(draft({ kind }));
    expect(checked.error?.issues ?? []).toEqual([]);
    expect(checked.data!.change).toMatchObject({ kind });
  });
  it('carries only what belongs to its kind', () => {
    expect(changeOf(draft({ kind: 'service' }))).toEqual({ kind: 'service', item: SERVICE_ITEMS[0] });
    expect(changeOf(draft({ kind: 'tyres' }))).toEqual({ kind: 'tyres', text: 'summer tyres' });
    expect(changeOf(draft({ kind: 'returned to stock' }))).toEqual({
      kind: 'returned to stock',
      category: 'intake',
    });
    expect(changeOf(draft({ kind: 'option set' }))).toEqual({
      kind: 'option set',
      category: 'intake',
      settings: { pulley: '80 mm' },
    });
  });
  it('no calibration chosen is the stock one', () => {
    expect(changeOf(draft({ kind: 'calibration' }))).toEqual({ kind: 'calibration', calibrationId: null });
    expect(changeOf(draft({ kind: 'calibration', calibrationId: ID }))).toEqual({
      kind: 'calibration',
      calibrationId: ID,
    });
  });
  it('what did not happen is an entry without a change, in the place of another', () => {
    expect(changeOf(draft({ kind: 'taken back' }))).toBeNull();
    expect(asked(draft({ kind: 'taken back', note: 'Entered for the wrong car.' })).success).toBe(true);
  });
  it('a part without a part is refused where it is asked for', () => {
    const checked = asked(draft({ kind: 'part fitted', partRevisionId: '' }));
    expect(checked.error?.issues[0].path).toEqual(['change', 'partRevisionId']);
  });
});
