import { describe, expect, it } from 'vitest';
import type { LedgerChange } from '../register/ledger.ts';
import { driveOf, headSpeed, settingsOf } from './drive-speed.ts';

const KIT = { driveCrankMm: 172, driveHeadMm: null, driveStepUp: null, mostDriveRpm: 14_000 };

describe('the speed of a supercharger’s head', () => {
  it('is the crank’s times the pulleys’ ratio and its own gearing', () => {
    expect(driveOf(KIT, { pulley: '86 mm' })).toEqual({ ratio: 2, mostRpm: 14_000 });
    expect(driveOf({ ...KIT, driveStepUp: 4.1 }, { pulley: '80 mm' })!.ratio).toBeCloseTo(
      (172 / 80) * 4.1,
      12,
    );
    expect(driveOf({ ...KIT, driveHeadMm: 100 }, {})!.ratio).toBeCloseTo(1.72, 12);
    // A setting that is no diameter says nothing of the pulley.
    expect(driveOf(KIT, { bypass: 'open' })).toBeNull();
    expect(driveOf({ ...KIT, driveCrankMm: null }, { pulley: '86 mm' })).toBeNull();
  });
  it('is held against what its maker allows', () => {
    const small = driveOf(KIT, { pulley: '80 mm' })!;
    expect(headSpeed(small, 6500)).toMatchObject({ tooFast: false });
    expect(headSpeed(small, 6600)).toMatchObject({ tooFast: true, mostRpm: 14_000 });
    expect(headSpeed({ ratio: 9, mostRpm: null }, 9000).tooFast).toBe(false);
  });
  it('follows the setting the part has last', () => {
    const changes: LedgerChange[] = [
      { kind: 'part fitted', category: 'supercharger', partRevisionId: 'kit', settings: { pulley: '92 mm' } },
      { kind: 'option set', category: 'supercharger', settings: { pulley: '86 mm' } },
      { kind: 'part fitted', category: 'intake', partRevisionId: 'other', settings: { horn: '70 mm' } },
    ];
    expect(settingsOf(changes, 'kit')).toEqual({ pulley: '86 mm' });
  });
});
