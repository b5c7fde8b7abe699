import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { readHeader } from './columns.ts';
import { foldedName, meaningOf } from './header-words.ts';

/** Words are common practice of the trade, from memory; each line stands for a logger of that country. */
describe('headers of several countries', () => {
  test.each([
    // German
    ['Motordrehzahl [1/min]', 'engineSpeed', 'rpm'],
    ['nMot (U/min)', 'engineSpeed', 'rpm'],
    ['Drehmoment (Nm)', 'torque', 'N·m'],
    ['Raddrehmoment Nm', 'torque', 'N·m'],
    ['Motorleistung in PS', 'power', 'PS'],
    ['Motorleistung [PS]', 'power', 'PS'],
    ['Kühlmitteltemperatur °C', 'coolantTemperature', '°C'],
    ['Kuehlmitteltemperatur (°C)', 'coolantTemperature', '°C'],
    ['Öltemperatur [°C]', 'oilTemperature', '°C'],
    ['Oeltemperatur [°C]', 'oilTemperature', '°C'],
    ['Ansauglufttemperatur', 'intakeAirTemperature', undefined],
    ['Ladedruck (mbar)', 'manifoldPressure', 'hPa'],
    ['Zündwinkel [°KW]', 'ignitionAdvance', '°'],
    ['Klopfrücknahme (Grad)', 'knockRetard', '°'],
    ['Drosselklappe %', 'throttle', '%'],
    ['Luftmassenstrom [kg/h]', 'massAirFlow', 'kg/h'],
    ['Kraftstoffverbrauch (l/h)', 'fuelFlow', 'L/h'],
    ['Luftdruck hPa', 'barometer', 'hPa'],
    ['Luftfeuchtigkeit %', 'humidity', '%'],
    ['Abgastemperatur 1 (°C)', 'exhaustTemperature', '°C'],
    ['Zeit (s)', 'time', 's'],
    ['Rollengeschwindigkeit km/h', 'rollerSpeed', 'km/h'],
    ['Zugkraft (N)', 'rollerForce', 'N'],
    ['Abgasgegendruck (mbar)', 'exhaustPressure', 'hPa'],
    ['Druck vor Drosselklappe [hPa]', 'inletPressure', 'hPa'],
    ['Laderdrehzahl (1/min)', 'superchargerSpeed', 'rpm'],
    ['Exhaust back-pressure (kPa)', 'exhaustPressure', 'kPa'],
    ['Compressor outlet temp (°C)', 'chargeTemperature', '°C'],
    ['Pre-intercooler pressure (psi)', 'chargePressure', 'psi'],
    ['Blower speed (rpm)', 'superchargerSpeed', 'rpm'],
    ['Airbox pressure (kPa)', 'inletPressure', 'kPa'],
    // French
    ['Régime moteur (tr/min)', 'engineSpeed', 'rpm'],
    ['Vitesse (tr/min)', 'engineSpeed', 'rpm'],
    ['Vitesse (km/h)', 'vehicleSpeed', 'km/h'],
    ['Couple moteur (N.m)', 'torque', 'N·m'],
    ['Couple (daN.m)', 'torque', 'daN·m'],
    ['Puissance à la roue (ch)', 'power', 'PS'],
    ["Température d'huile (°C)", 'oilTemperature', '°C'],
    ["Température de l'eau (°C)", 'coolantTemperature', '°C'],
    ["Température de l'air d'admission (°C)", 'intakeAirTemperature', '°C'],
    ['Temp. échappement °C', 'exhaustTemperature', '°C'],
    ['Pression de suralimentation (bar)', 'manifoldPressure', 'bar'],
    ['Pression atmosphérique (hPa)', 'barometer', 'hPa'],
    ["Avance à l'allumage (°)", 'ignitionAdvance', '°'],
    ['Retrait cliquetis (°)', 'knockRetard', '°'],
    ["Débit d'air (kg/h)", 'massAirFlow', 'kg/h'],
    ['Consommation carburant (l/h)', 'fuelFlow', 'L/h'],
    ['Position papillon (%)', 'throttle', '%'],
    ['Temps (s)', 'time', 's'],
    ['Humidité relative (%)', 'humidity', '%'],
    // Spanish
    ['Régimen del motor (rpm)', 'engineSpeed', 'rpm'],
    ['Par motor (Nm)', 'torque', 'N·m'],
    ['Potencia (CV)', 'power', 'PS'],
    ['Tiempo (s)', 'time', 's'],
    ['Temperatura del refrigerante (°C)', 'coolantTemperature', '°C'],
    ['Temperatura de aceite (°C)', 'oilTemperature', '°C'],
    ['Temperatura de admisión (°C)', 'intakeAirTemperature', '°C'],
    ['Avance de encendido (°)', 'ignitionAdvance', '°'],
    ['Presión de soplado (bar)', 'manifoldPressure', 'bar'],
    ['Posición mariposa (%)', 'throttle', '%'],
    ['Caudal de aire (kg/h)', 'massAirFlow', 'kg/h'],
    ['Presión atmosférica (mbar)', 'barometer', 'hPa'],
    // Italian
    ['Giri motore (giri/min)', 'engineSpeed', 'rpm'],
    ['Coppia alla ruota (Nm)', 'torque', 'N·m'],
    ['Potenza (CV)', 'power', 'PS'],
    ['Tempo (s)', 'time', 's'],
    ['Tempo (km/h)', 'vehicleSpeed', 'km/h'],
    ['Temperatura acqua (°C)', 'coolantTemperature', '°C'],
    ["Temperatura dell'olio (°C)", 'oilTemperature', '°C'],
    ['Temperatura aria aspirata (°C)', 'intakeAirTemperature', '°C'],
    ['Pressione di sovralimentazione (bar)', 'manifoldPressure', 'bar'],
    ['Anticipo accensione (°)', 'ignitionAdvance', '°'],
    ['Apertura farfalla (%)', 'throttle', '%'],
    ['Portata aria (kg/h)', 'massAirFlow', 'kg/h'],
    ['Umidità relativa (%)', 'humidity', '%'],
    // Dutch
    ['Toerental (omw/min)', 'engineSpeed', 'rpm'],
    ['Koppel (Nm)', 'torque', 'N·m'],
    ['Vermogen (pk)', 'power', 'PS'],
    ['Tijd (s)', 'time', 's'],
    ['Koelvloeistoftemperatuur (°C)', 'coolantTemperature', '°C'],
    ['Olietemperatuur (°C)', 'oilTemperature', '°C'],
    ['Inlaatluchttemperatuur (°C)', 'intakeAirTemperature', '°C'],
    ['Laaddruk (bar)', 'manifoldPressure', 'bar'],
    ['Gasklepstand (%)', 'throttle', '%'],
    ['Ontstekingstijdstip (°)', 'ignitionAdvance', '°'],
    ['Luchtvochtigheid (%)', 'humidity', '%'],
    // Swedish, Danish, Norwegian
    ['Motorvarvtal (varv/min)', 'engineSpeed', 'rpm'],
    ['Vridmoment (Nm)', 'torque', 'N·m'],
    ['Effekt (hk)', 'power', 'PS'],
    ['Kylvätsketemperatur (°C)', 'coolantTemperature', '°C'],
    ['Laddtryck (bar)', 'manifoldPressure', 'bar'],
    ['Tändvinkel (°)', 'ignitionAdvance', '°'],
    ['Omdrejningstal (omdr/min)', 'engineSpeed', 'rpm'],
    ['Drejningsmoment (Nm)', 'torque', 'N·m'],
    ['Kølevandstemperatur (°C)', 'coolantTemperature', '°C'],
    ['Indsugningstryk (kPa)', 'manifoldPressure', 'kPa'],
    ['Turtall (o/min)', 'engineSpeed', 'rpm'],
    ['Dreiemoment (Nm)', 'torque', 'N·m'],
    ['Ytelse (hk)', 'power', 'PS'],
    ['Kjølevannstemperatur (°C)', 'coolantTemperature', '°C'],
    ['Hastighet (km/t)', 'vehicleSpeed', 'km/h'],
    // Symbols, where the unit says what they are
    ['n [min⁻¹]', 'engineSpeed', 'rpm'],
    ['M, N·m', 'torque', 'N·m'],
    ['T (lb-ft)', 'torque', 'lb·ft'],
    ['P/kW', 'power', 'kW'],
    ['ω (rad/s)', 'engineSpeed', 'rad/s'],
    ['λ', 'lambda', 'λ'],
    ['F [daN]', 'rollerForce', 'daN'],
    ['v (km/h)', 'vehicleSpeed', 'km/h'],
    // Units alone
    ['U/min', 'engineSpeed', 'rpm'],
    ['tr/min', 'engineSpeed', 'rpm'],
    ['krpm', 'engineSpeed', 'krpm'],
    ['N·m', 'torque', 'N·m'],
    ['kgf·m', 'torque', 'kgf·m'],
    ['CV', 'power', 'PS'],
    ['Channel 7 (U/min)', 'engineSpeed', 'rpm'],
    ['A3_Nm', 'torque', 'N·m'],
    ['km/h', 'vehicleSpeed', 'km/h'],
    // English at length
    ['Intake manifold absolute pressure (kPa)', 'manifoldPressure', 'kPa'],
    ['Mass air flow rate (g/s)', 'massAirFlow', 'g/s'],
    ['Engine fuel rate (L/h)', 'fuelFlow', 'L/h'],
    ['Timing advance (°)', 'ignitionAdvance', '°'],
    ['Absolute throttle position (%)', 'throttle', '%'],
    ['Exhaust gas temperature bank 1 (°C)', 'exhaustTemperature', '°C'],
    ['Power output (kW)', 'power', 'kW'],
    ['Oil pressure (bar)', undefined, 'bar'],
    // Written together, as logger software does
    ['EngineSpeed_RPM', 'engineSpeed', 'rpm'],
    ['ThrottlePosition', 'throttle', undefined],
    ['IntakeAirTemp_degC', 'intakeAirTemperature', '°C'],
  ])('%s', (header, quantity, unit) => {
    const guess = readHeader(header);
    expect({ quantity: guess.quantity, unit: guess.unit?.id }).toEqual({ quantity, unit });
  });
});

describe('what is not the reading itself', () => {
  test.each([
    'Target torque (Nm)',
    'Torque limit (Nm)',
    'Solldrehmoment (Nm)',
    'Verlustleistung (kW)',
    'Schleppmoment [Nm]',
    'Couple demandé (N·m)',
    'Perte de puissance (kW)',
    'Turbo speed (rpm)',
    'Fan rpm',
    'Getriebe Abtrieb (1/min)',
    'Lambda target',
    'Torque error (Nm)',
  ])('%s', (header) => expect(readHeader(header).quantity).toBeUndefined());
  test.each(['n', 'P', 'M', 'v', 'F'])('%s without a unit is a letter', (header) =>
    expect(readHeader(header).quantity).toBeUndefined(),
  );
});

describe('folding', () => {
  it('has the same meaning in capitals, without accents, and with other marks between', () => {
    const names = [
      'Régime moteur',
      'Kühlmitteltemperatur',
      'Posición mariposa',
      'Apertura farfalla',
      'Tändvinkel',
    ];
    fc.assert(
      fc.property(fc.constantFrom(...names), fc.constantFrom('_', '-', '.', '  '), (name, mark) => {
        const bare = name.normalize('NFD').replace(/[\u0300-\u036f]/g, '');
        for (const other of [name.toUpperCase(), bare, bare.replace(' ', mark)])
          expect(meaningOf(other)).toEqual(meaningOf(name));
      }),
    );
  });
  it('never throws, and is done with what it has folded', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 200 }), (text) => {
        const folded = foldedName(text);
        expect(foldedName(folded)).toBe(folded);
        meaningOf(text);
      }),
    );
  });
});
