/** A car’s gears with their ratios; the one nearest to 1:1 loses least and is suggested. */
export interface Gear {
  readonly name: string;
  readonly ratio: number;
}
export const nearestToDirect = (gears: readonly Gear[]): Gear | undefined =>
  gears.length === 0
    ? undefined
    : gears.reduce((best, gear) =>
        Math.abs(Math.log(gear.ratio)) < Math.abs(Math.log(best.ratio)) ? gear : best,
      );
