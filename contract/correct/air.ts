/** Air of a pull as the interface reads it: the reading, what follows from it, and a factor by each standard. */
export interface AirShown {
  temperatureC: number;
  pressureHpa: number;
  dryPressureHpa: number;
  vapourPressureHpa: number;
  relativeHumidityPct: number;
  densityAltitudeM: number;
  factors: Record<string, number | null>;
  /** Standard uncertainty of the factor by the planned standard from the registered sensors, %; null where none is known. */
  factorUncertainty: {
    pct: number;
    shares: Partial<Record<'temperature' | 'pressure' | 'humidity', number>>;
  } | null;
}
