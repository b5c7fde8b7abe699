/** Air of a pull as the interface reads it: the reading, what follows from it, and a factor by each standard. */
export interface AirShown {
  temperatureC: number;
  pressureHpa: number;
  dryPressureHpa: number;
  vapourPressureHpa: number;
  relativeHumidityPct: number;
  densityAltitudeM: number;
  factors: Record<string, number | null>;
}
