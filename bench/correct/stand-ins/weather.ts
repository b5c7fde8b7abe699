/** The air in the cell at a moment, the same for every stand-in: they do not have to tell each other. */
const HOUR = 3_600_000;

/** @param ms moment, Unix time @returns °C, hPa at the station, % relative humidity */
export const airAt = (ms: number): { temperatureC: number; pressureHpa: number; humidityPct: number } => ({
  temperatureC: 21 + 0.5 * Math.sin((2 * Math.PI * ms) / (3 * HOUR)),
  pressureHpa: 1003.4 + 1.2 * Math.sin((2 * Math.PI * ms) / (7 * HOUR)),
  humidityPct: 47 + 2 * Math.sin((2 * Math.PI * ms) / (5 * HOUR)),
});
