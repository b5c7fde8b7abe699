/** How a belt drives the head of a supercharger, as it is entered with a revision. */
import { z } from 'zod';

const known = (least: number, most: number) => z.number().min(least).max(most).nullable().default(null);
export const DRIVE_SHAPE = {
  driveCrankMm: known(20, 500),
  driveHeadMm: known(20, 500),
  driveStepUp: known(0.1, 20),
  mostDriveRpm: known(1000, 300_000),
};
