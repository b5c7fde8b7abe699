/** What a hygrometer may report; one of the three. */
export type Humidity =
  | { readonly kind: 'relative'; readonly percent: number }
  | { readonly kind: 'dew point'; readonly temperatureC: number }
  | { readonly kind: 'wet bulb'; readonly temperatureC: number };

/** An air reading as taken: at the place where the engine breathes. */
export interface AirReading {
  readonly temperatureC: number;
  readonly pressureHpa: number;
  /** `station` is read at the site; `sea level` has been reduced to sea level and needs the site's height. */
  readonly pressureKind?: 'station' | 'sea level';
  readonly siteHeightM?: number;
  readonly humidity: Humidity;
}

export type AirSensor = 'temperature' | 'pressure' | 'humidity';
/** Standard uncertainties of what the air is read by: K, hPa, per cent of relative humidity. */
export type AirUncertainty = Readonly<Partial<Record<AirSensor, number>>>;
