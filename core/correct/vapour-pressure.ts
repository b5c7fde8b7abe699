/** Water vapour in the air. Pressures in Pa, temperatures in °C. */
import { cFromKelvin, kelvinFromC } from '../base/units.ts';
import type { Humidity } from '../capture/air-reading.ts';
import { brent } from '../base/roots.ts';

/** Coefficients of the saturation line. Source: IAPWS R7-97(2012), Table 34 (from memory; Table 35 checks them). */
const N = [
  1167.0521452767, -724213.16703206, -17.073846940092, 12020.82470247, -3232555.0322333, 14.91510861353,
  -4823.2657361591, 405113.40542057, -0.23855557567849, 650.17534844798,
] as const;

/**
 * Saturation vapour pressure over water.
 * From 0 °C: IAPWS R7-97(2012) Eq. 30. Below 0 °C, over supercooled water as hygrometers report it:
 * 6.112·exp(17.62·t/(243.12 + t)) hPa (WMO-No. 8; Sonntag 1990; from memory).
 */
export function saturationPressurePa(temperatureC: number): number {
  if (temperatureC < 0) return 611.2 * Math.exp((17.62 * temperatureC) / (243.12 + temperatureC));
  const T = kelvinFromC(temperatureC);
  const theta = T + N[8] / (T - N[9]);
  const A = theta * theta + N[0] * theta + N[1];
  const B = N[2] * theta * theta + N[3] * theta + N[4];
  const C = N[5] * theta * theta + N[6] * theta + N[7];
  return 1e6 * ((2 * C) / (-B + Math.sqrt(B * B - 4 * A * C))) ** 4;
}

/** Psychrometer coefficient of an aspirated wet bulb, 1/K (WMO-No. 8; from memory). */
const PSYCHROMETER = 6.53e-4;

/**
 * Vapour pressure from any of the three humidity readings.
 * Wet bulb: e = es(tw) − 6.53e-4·(1 + 0.000944·tw)·p·(t − tw) (WMO-No. 8; from memory).
 */
export function vapourPressurePa(humidity: Humidity, temperatureC: number, pressurePa: number): number {
  switch (humidity.kind) {
    case 'relative':
      return (humidity.percent / 100) * saturationPressurePa(temperatureC);
    case 'dew point':
      return saturationPressurePa(humidity.temperatureC);
    case 'wet bulb': {
      const tw = humidity.temperatureC;
      return saturationPressurePa(tw) - PSYCHROMETER * (1 + 0.000944 * tw) * pressurePa * (temperatureC - tw);
    }
  }
}

/** Dew point of a vapour pressure, °C, by inverting the saturation line between −60 and 100 °C. */
export function dewPointC(vapourPa: number): number {
  return cFromKelvin(
    brent(
      (T) => Math.log(saturationPressurePa(cFromKelvin(T)) / vapourPa),
      kelvinFromC(-60),
      kelvinFromC(100),
      1e-10,
    ),
  );
}
