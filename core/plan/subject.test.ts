import { describe, expect, it, test } from 'vitest';
import type { ClaimScope } from './arm-types.ts';
import { notAsSold } from '../register/sold-setting.ts';
import { claimSubject, isPartsOwn, isProduct, subjectText } from './subject.ts';

const intake = { subject: 'intake', from: 'stock', to: 'Ram intake, revision B' };
const tune = { subject: 'calibration', from: 'stock', to: 'Stage 1, revision 2' };
const subject = (
  scope: ClaimScope,
  differences: Parameters<typeof claimSubject>[0]['differences'],
  against: string | null = null,
) => claimSubject({ scope, differences, label: 'the arm', against });

describe('the subject of a claim comes from its arm', () => {
  test.each([
    ['part alone', [intake], 'part', 'Ram intake, revision B'],
    [
      'combination',
      [intake, tune],
      'combination',
      'Ram intake, revision B with calibration Stage 1, revision 2',
    ],
    ['calibration alone', [tune], 'calibration', 'calibration Stage 1, revision 2'],
    [
      'setting of the part',
      [{ subject: 'exhaust section', from: 'Two-way (insert in)', to: 'Two-way (insert out)' }],
      'setting',
      'Two-way (insert out) instead of Two-way (insert in)',
    ],
    [
      'combination',
      [{ subject: 'other change', from: 'as it was', to: 'air filter element removed' }],
      'condition',
      'air filter element removed',
    ],
    ['combination', [{ subject: 'fuel', from: '95 RON', to: 'E85' }], 'condition', 'fuel E85'],
    ['combination', [{ subject: 'intake', from: 'Ram intake', to: 'stock' }], 'condition', 'stock intake'],
    [
      'combination',
      [{ subject: 'fuel', from: '95 RON', to: 'E85' }, tune, intake],
      'combination',
      'Ram intake, revision B with calibration Stage 1, revision 2 with fuel E85',
    ],
  ] as const)('%s', (scope, differences, kind, text) =>
    expect(subject(scope, differences)).toEqual({ kind, text, against: null }),
  );
  it('names the baseline where it is not stock', () =>
    expect(subject('part alone', [intake], 'the same vehicle with winter tyres').text).toBe(
      'Ram intake, revision B against the same vehicle with winter tyres',
    ));
  it('falls back on what people call the arm', () =>
    expect(subjectText({ scope: 'nothing', differences: [], label: 'as found' })).toBe('as found'));
  it('a combination or a calibration is never a part’s own, a condition never a product', () => {
    expect(
      ['part', 'part with calibration', 'setting', 'combination', 'calibration', 'condition'].map((k) =>
        isPartsOwn(k as never),
      ),
    ).toEqual([true, true, false, false, false, false]);
    expect([isProduct('condition'), isProduct('calibration')]).toEqual([false, true]);
  });
});

describe('the setting in which a part is sold is its first', () => {
  const options = new Map([['rev', [{ name: 'insert', settings: ['in', 'out'] }]]]);
  const arm = (key: string, settings: Record<string, string>, fromKey: string | null = null) => ({
    key,
    fromKey,
    changes: [
      { kind: 'part fitted' as const, category: 'exhaust section' as const, partRevisionId: 'rev', settings },
    ],
  });
  const [out, inside] = [arm('out', { insert: 'out' }), arm('in', { insert: 'in' })];
  it('another is named, with the arm that has the sold one', () => {
    expect(notAsSold(out, [out, inside], options)).toEqual({
      tested: 'insert out',
      sold: 'insert in',
      soldArm: 'in',
    });
    expect(notAsSold(out, [out], options)).toMatchObject({ soldArm: null });
  });
  it('as sold, or not said, is no departure', () => {
    expect(notAsSold(inside, [out, inside], options)).toBeNull();
    expect(notAsSold(arm('plain', {}), [], options)).toBeNull();
  });
  it('what an arm builds on counts', () => {
    const reset = {
      key: 'reset',
      fromKey: 'in',
      changes: [
        { kind: 'option set' as const, category: 'exhaust section' as const, settings: { insert: 'out' } },
      ],
    };
    expect(notAsSold(reset, [inside, reset], options)).toMatchObject({ tested: 'insert out', soldArm: 'in' });
  });
});
