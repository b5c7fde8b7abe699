/**
 * How fast the head of a belt-driven supercharger turns: crank pulley over head pulley times its own gearing, without
 * slip of the belt. What its maker allows is held against it before anybody drives a pull.
 */
import type { LedgerChange } from '../register/ledger.ts';
import type { HeadDrive } from '../register/parts.ts';
import { settingOf } from './swept-setting.ts';

export interface DriveOf {
  /** Turns of the head per turn of the crank. */ readonly ratio: number;
  /** The most its maker allows, rpm; null where nobody has entered it. */ readonly mostRpm: number | null;
}

/** @param settings settings of the part as it is fitted: one in mm is the pulley on the head */
export function driveOf(drive: HeadDrive, settings: Readonly<Record<string, string>>): DriveOf | null {
  const { driveCrankMm, driveHeadMm, driveStepUp, mostDriveRpm } = drive;
  const inMm = Object.entries(settings).flatMap(([name, text]) => settingOf(name, text) ?? []);
  const head = inMm.find((setting) => setting.unit === 'mm')?.value ?? driveHeadMm;
  if (!driveCrankMm || !head) return null;
  return { ratio: (driveCrankMm / head) * (driveStepUp ?? 1), mostRpm: mostDriveRpm };
}

/** Settings of one part as an arm has it: what was fitted, and what was set after it. */
export const settingsOf = (
  changes: readonly LedgerChange[],
  partRevisionId: string,
): Readonly<Record<string, string>> => {
  const fitted = changes.find((c) => c.kind === 'part fitted' && c.partRevisionId === partRevisionId);
  const category = fitted?.kind === 'part fitted' ? fitted.category : null;
  return changes.reduce<Readonly<Record<string, string>>>((all, c) => {
    const isIts =
      (c.kind === 'part fitted' && c.partRevisionId === partRevisionId) ||
      (c.kind === 'option set' && c.category === category);
    return isIts ? { ...all, ...c.settings } : all;
  }, {});
};

export interface HeadSpeed {
  readonly rpm: number;
  readonly mostRpm: number | null;
  /** Beyond what its maker allows. */ readonly tooFast: boolean;
}
export const headSpeed = ({ ratio, mostRpm }: DriveOf, engineRpm: number): HeadSpeed => {
  const rpm = ratio * engineRpm;
  return { rpm, mostRpm, tooFast: mostRpm !== null && rpm > mostRpm };
};
