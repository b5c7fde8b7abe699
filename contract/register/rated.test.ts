import { expect, it } from 'vitest';
import { FitmentInput } from './register.ts';

it('a fitment whose rated figures contradict each other is refused with what they would take', () => {
  const fitment = {
    maker: 'Made',
    model: 'Up',
    platformCode: 'M1',
    yearFrom: 2020,
    engineCode: 'E',
    displacementCc: 1800,
    cylinders: 4,
    aspiration: 'natural',
    ignition: 'spark',
    fuel: 'petrol',
    transmission: 'manual',
    drivenWheels: 'front',
    outputVariant: '100 kW',
    market: 'EU',
    ratedPowerKw: 100,
    ratedTorqueNm: 170,
    ratedStandard: 'ISO 1585',
    family: 'F',
  };
  expect(FitmentInput.safeParse(fitment).success).toBe(true);
  const { error } = FitmentInput.safeParse({ ...fitment, ratedTorqueNm: 17 });
  expect(error!.issues[0]).toMatchObject({ path: ['ratedTorqueNm'] });
  expect(error!.issues[0].message).toMatch(/100 kW from 17 N·m would take 56.?172 rpm/);
});
