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
  /** Fuel per litre of displacement and cycle, mg/(L·cycle): compression ignition only. */
  readonly fuelMgPerLitreCycle?: number | undefined;
  /** Absolute boost pressure over ambient; 1 for natural aspiration. */
  readonly boostRatio?: number | undefined;
}
