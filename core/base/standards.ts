/** The correction standards by id, and what a correction must know of an engine. The factors are in core/correct/standards.ts. */
export const STANDARDS = ['none', 'sae-j1349', 'sae-j607', 'din-70020', 'iso-1585', 'jis-d1001'] as const;
export type Standard = (typeof STANDARDS)[number];

export const STANDARD_NAMES: Record<Standard, string> = {
  none: 'uncorrected',
  'sae-j1349': 'SAE J1349',
  'sae-j607': 'SAE J607 (STD)',
  'din-70020': 'DIN 70020',
  'iso-1585': 'ISO 1585',
  'jis-d1001': 'JIS D 1001',
};

export interface Engine {
  readonly ignition: 'spark' | 'compression';
  readonly aspiration: 'natural' | 'turbo' | 'turbo-intercooled' | 'supercharged';
  readonly displacementL?: number | undefined;
  /** Fuel per litre of displacement and cycle, mg/(L·cycle): compression ignition only. */
  readonly fuelMgPerLitreCycle?: number | undefined;
  /** Absolute boost pressure over ambient; 1 for natural aspiration. */
  readonly boostRatio?: number | undefined;
}

/**
 * How air is corrected on boosted engines, where schools differ: a boost control that holds absolute pressure makes up
 * for part of the air itself. House policy chooses one for every test; the others are shown beside it, never mixed in.
 */
export const BOOSTED_SCHOOLS = ['correct', 'temperature only', 'do not correct'] as const;
export type BoostedSchool = (typeof BOOSTED_SCHOOLS)[number];
export interface Correction {
  readonly standard: Standard;
  readonly school: BoostedSchool;
}
export const isBoosted = ({ aspiration }: Pick<Engine, 'aspiration'>): boolean => aspiration !== 'natural';
/** The school that makes a difference to an engine; the plain rule of the standard for all others. */
export const schoolFor = (
  engine: Pick<Engine, 'aspiration'>,
  { standard, school }: Correction,
): BoostedSchool => (standard !== 'none' && isBoosted(engine) ? school : 'correct');

/** What was done about the air, as a claim says it. */
export function correctionWords(standard: Standard, school: BoostedSchool = 'correct'): string {
  if (standard === 'none') return 'not corrected for air';
  const name = `corrected by ${STANDARD_NAMES[standard]}`;
  if (school === 'do not correct') return 'not corrected for air, as the house does with boosted engines';
  return school === 'temperature only' ? `${name}, for temperature only` : name;
}
