import { describe, expect, it } from 'vitest';
import { airOfStation } from './station-line.ts';

const channel = (name: string, unit: string) => ({ name, unit });
describe('what a live station says', () => {
  it('is read in whatever unit it says', () => {
    const air = airOfStation(
      [channel('Luftdruck Station', 'inHg'), channel('Temperatur', '°F'), channel('rel. Feuchte', '%')],
      [29.53, 68, 45],
    );
    // 29.53 inHg of 3 386.389 Pa each (NIST SP 811) and 68 °F = 20 °C.
    expect(air).toMatchObject({ pressureKind: 'station', humidity: { kind: 'relative', percent: 45 } });
    expect(air!.pressureHpa).toBeCloseTo(1000.0007, 3);
    expect(air!.temperatureC).toBeCloseTo(20, 9);
  });
  it('takes a dew point where no humidity is said', () => {
    const air = airOfStation(
      [channel('Air temperature', '°C'), channel('Sea level pressure', 'hPa'), channel('Dew point', '°C')],
      [21, 1013, 9],
    );
    expect(air).toMatchObject({
      pressureKind: 'sea level',
      humidity: { kind: 'dew point', temperatureC: 9 },
    });
  });
  it.each([
    [
      'a pressure of no kind',
      [channel('Temp', '°C'), channel('Pressure', 'hPa'), channel('Humidity', '%')],
      [20, 1000, 40],
    ],
    [
      'a reading that is missing',
      [channel('Temp', '°C'), channel('Station pressure', 'hPa'), channel('Humidity', '%')],
      [20, null, 40],
    ],
    [
      'a unit nobody knows',
      [channel('Temp', 'blobs'), channel('Station pressure', 'hPa'), channel('Humidity', '%')],
      [20, 1000, 40],
    ],
  ])('%s is no air', (_, channels, values) => expect(airOfStation(channels, values)).toBeUndefined());
});
