import { expect, it } from 'vitest';
import type { TestDefinition } from '../capture/test-definition.ts';
import type { TestResult } from './analyse-test.ts';
import { bestOfSeveral } from './best-of-several.ts';

const pulley = (id: string, value: number, product = 'charger'): TestDefinition['arms'][number] => ({
  id,
  role: 'part',
  label: id,
  product,
  setting: { name: 'pulley', value, unit: 'mm' },
});
const gains = (by: Record<string, number | null>): Pick<TestResult, 'contrasts'> => ({
  contrasts: Object.entries(by).map(([arm, gain]) =>
    gain === null ? { arm, code: 'REFUSED' } : { arm, relative: { bandAverage: { gain } } },
  ) as never,
});
const STOCK = { id: 'stock', role: 'baseline', label: 'stock' } as const;
const THREE = [STOCK, pulley('a', 92), pulley('b', 88), pulley('c', 84)];

it('is the setting with the largest average gain of three or more of one product, and no other', () => {
  const result = gains({ a: 2, b: 5, c: 4 });
  expect(['a', 'b', 'c'].map((arm) => bestOfSeveral(result, THREE, arm))).toEqual([null, 3, null]);
});
it('is none of two, none of another product, and none where nothing can be compared', () => {
  expect(bestOfSeveral(gains({ a: 2, b: 5 }), THREE.slice(0, 3), 'b')).toBeNull();
  const mixed = [STOCK, pulley('a', 92), pulley('b', 88), pulley('c', 84, 'other')];
  expect(bestOfSeveral(gains({ a: 2, b: 5, c: 9 }), mixed, 'b')).toBeNull();
  expect(bestOfSeveral(gains({ a: null, b: null, c: null }), THREE, 'b')).toBeNull();
  expect(bestOfSeveral(gains({ a: 2, b: 5, c: 4 }), THREE, 'stock')).toBeNull();
});
it('one that cannot be compared does not hide the best of the others', () => {
  expect(bestOfSeveral(gains({ a: 2, b: null, c: 4 }), THREE, 'c')).toBe(3);
});
