import { describe, expect, it, test } from 'vitest';
import { readHeader } from './columns.ts';
import { readUnit } from './unit-spellings.ts';
import { looksMissing, looksNumeric, numberReader, numberStyle } from './numbers.ts';

describe('headers in several spellings', () => {
  test.each([
    ['RPM', 'engineSpeed', 'rpm'],
    ['Engine Speed [1/min]', 'engineSpeed', 'rpm'],
    ['engine_rpm', 'engineSpeed', 'rpm'],
    ['Eng speed (rpm)', 'engineSpeed', 'rpm'],
    ['Drehzahl (U/min)', 'engineSpeed', 'rpm'],
    ['Torque(Nm)', 'torque', 'N·m'],
    ['torque[lb-ft]', 'torque', 'lb·ft'],
    ['Wheel torque (ft-lbs)', 'torque', 'lb·ft'],
    ['Tq Nm', 'torque', 'N·m'],
    ['Power_kW', 'power', 'kW'],
    ['Wheel power (hp)', 'power', 'hp'],
    ['WHP', 'power', 'hp'],
    ['Leistung [PS]', 'power', 'PS'],
    ['AFR', 'lambda', 'AFR'],
    ['Lambda 1', 'lambda', 'λ'],
    ['Air/Fuel ratio', 'lambda', 'AFR'],
    ['IAT (°F)', 'intakeAirTemperature', '°F'],
    ['Coolant temp [C]', 'coolantTemperature', '°C'],
    ['Boost (psi)', 'manifoldPressure', 'psi'],
    ['MAP (kPa abs)', 'manifoldPressure', 'kPa'],
    ['Mass air flow (lb/min)', 'massAirFlow', 'lb/min'],
    ['MAF g/s', 'massAirFlow', 'g/s'],
    ['Fuel flow (L/h)', 'fuelFlow', 'L/h'],
    ['Spark advance (deg)', 'ignitionAdvance', '°'],
    ['Knock retard (°)', 'knockRetard', '°'],
    ['TPS (%)', 'throttle', '%'],
    ['EGT (°C)', 'exhaustTemperature', '°C'],
    ['Baro (hPa)', 'barometer', 'hPa'],
    ['Humidity (%)', 'humidity', '%'],
    ['Time (ms)', 'time', 'ms'],
    ['Roller speed (km/h)', 'rollerSpeed', 'km/h'],
    ['Vehicle speed (mph)', 'vehicleSpeed', 'mph'],
    ['Roller force (N)', 'rollerForce', 'N'],
  ])('%s', (header, quantity, unit) => {
    const guess = readHeader(header);
    expect(guess.quantity).toBe(quantity);
    expect(guess.unit?.id).toBe(unit);
  });
  it('boost is gauge, absolute says so', () => {
    expect(readHeader('Boost (psi)').gauge).toBe(true);
    expect(readHeader('MAP (kPa abs)').gauge).toBe(false);
    expect(readHeader('MAP (psig)').gauge).toBe(true);
  });
  it('a name nobody knows stays unknown, and a unit nobody knows too', () => {
    expect(readHeader('Flux capacitor (GW)').quantity).toBeUndefined();
    expect(readUnit('furlong')).toBeUndefined();
  });
  it('a unit of another kind is not taken for the quantity', () =>
    expect(readHeader('Torque (kPa)').unit).toBeUndefined());
});

describe('numbers', () => {
  const never = (): boolean => false;
  test.each([
    ['1234.5', { decimal: '.', thousands: '' }, 1234.5],
    ['1,234.5', { decimal: '.', thousands: ',' }, 1234.5],
    ['1.234,5', { decimal: ',', thousands: '.' }, 1234.5],
    ['1 234,5', { decimal: ',', thousands: ' ' }, 1234.5],
    ["1'234.5", { decimal: '.', thousands: "'" }, 1234.5],
    ['-0,25', { decimal: ',', thousands: '' }, -0.25],
    ['1.5e3', { decimal: '.', thousands: '' }, 1500],
    ['00:01:02.5', { decimal: '.', thousands: '' }, 62.5],
    ['85 %', { decimal: '.', thousands: '' }, 85],
  ] as const)('%s', (cell, style, value) => expect(numberReader(style)(cell)).toBe(value));
  it('an empty cell and a word are no numbers', () => {
    const read = numberReader({ decimal: '.', thousands: '' });
    for (const cell of ['', ' ', 'high', '--', '0x10', 'Infinity1']) expect(read(cell)).toBeNaN();
  });
  it('tells the style from the cells', () => {
    expect(numberStyle(['2500', '150,25'], ';', never)).toMatchObject({ decimal: ',' });
    expect(numberStyle(['2,500', '150.25'], ';', never)).toEqual({ decimal: '.', thousands: ',' });
    expect(numberStyle(['2.500', '150,2'], ';', never)).toEqual({ decimal: ',', thousands: '.' });
  });
  it('knows what says that there is no reading', () => {
    for (const cell of ['', '-', '---', 'N/A', 'NaN', 'null']) expect(looksMissing(cell)).toBe(true);
    expect(looksMissing('0')).toBe(false);
    expect(looksNumeric('0,5')).toBe(true);
    expect(looksNumeric('5 o’clock')).toBe(false);
  });
});
