/** What the register holds about parts: categories, legal class, options, needs. */

export const PART_CATEGORIES = [
  'intake',
  'throttle body',
  'inlet',
  'manifold',
  'header',
  'downpipe',
  'exhaust section',
  'intercooler',
  'supercharger',
  'pulley',
  'filter',
  'camshaft',
  'other',
] as const;
export type PartCategory = (typeof PART_CATEGORIES)[number];

export const LEGAL_CLASSES = ['road legal', 'competition only', 'unknown'] as const;
export type LegalClass = (typeof LEGAL_CLASSES)[number];

/** What the kind of part promises; only power is shown on the rollers. */
export const PROMISES = ['power', 'durability', 'sound', 'looks'] as const;
export type Promise = (typeof PROMISES)[number];

/** A setting of a part: insert in or out, port open or closed, pulley size. The first setting is the one it is sold in. */
export interface PartOption {
  readonly name: string;
  readonly settings: readonly string[];
}

/** What a part cannot be run without, or beside. Parts are named by id. */
export interface PartNeeds {
  readonly partIds: readonly string[];
  /** Any calibration that expects the part will do; which one is the plan's choice. */
  readonly calibration: boolean;
  readonly fuel: string | null;
}
export const NO_NEEDS: PartNeeds = { partIds: [], calibration: false, fuel: null };

/** How a belt drives the head of a supercharger; null where it is not entered, or there is none. */
export interface HeadDrive {
  /** Pulley on the crank, and on the head where no option sets it, mm. */
  readonly driveCrankMm: number | null;
  readonly driveHeadMm: number | null;
  /** Turns of the rotor per turn of its pulley. */ readonly driveStepUp: number | null;
  /** The most its maker allows, rpm of the rotor. */ readonly mostDriveRpm: number | null;
}

/** One revision of a part as plans and the ledger see it. */
export interface PartRevision {
  readonly id: string;
  readonly partId: string;
  readonly name: string;
  readonly revision: string;
  readonly category: PartCategory;
  readonly options: readonly PartOption[];
  readonly needs: PartNeeds;
  readonly conflicts: readonly string[];
  /** Time to fit it, and to take it off again, h. */
  readonly installHours: number;
  readonly removeHours: number;
}

/** What a person reads for a revision with the settings of its options. */
export const partName = (
  part: Pick<PartRevision, 'name' | 'revision'>,
  settings: Readonly<Record<string, string>> = {},
): string => {
  const set = Object.entries(settings)
    .map(([name, setting]) => `${name} ${setting}`)
    .join(', ');
  return `${part.name}, revision ${part.revision}${set ? ` (${set})` : ''}`;
};
