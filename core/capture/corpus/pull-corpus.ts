/** Pull files as operators of several countries would send them, each with what it must be read as. */
import type { Quantity } from '../quantities.ts';
import type { PullFileOptions } from '../pull-file-types.ts';
import { encoded, tableText, type Column, type Style } from './written.ts';

export interface CorpusFile {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly options: PullFileOptions;
  /** By quantity: values in internal units, and by how much a reading may differ (what rounding in the file costs). */
  readonly expected: Partial<
    Record<Quantity, { readonly values: readonly number[]; readonly within: number }>
  >;
  readonly torque: { readonly values: readonly number[]; readonly within: number };
}

// ── One pull, in SI ─────────────────────────────────────────────────────────
const SAMPLES = 48;
const at = Array.from({ length: SAMPLES }, (_, i) => i);
const rpm = at.map((i) => 2000 + 95 * i + (i % 3));
const torque = at.map((i) => 151.3 + 0.9 * i - 0.021 * i * i);
const SI: Partial<Record<Quantity, readonly number[]>> = {
  time: at.map((i) => 0.125 * i),
  engineSpeed: rpm,
  torque,
  power: at.map((i) => (torque[i] * rpm[i] * Math.PI) / 30),
  lambda: at.map((i) => 0.9 - 0.001 * i),
  intakeAirTemperature: at.map((i) => 24.5 + 0.11 * i),
  coolantTemperature: at.map((i) => 88.2 + 0.05 * i),
  oilTemperature: at.map((i) => 97.1 + 0.07 * i),
  manifoldPressure: at.map((i) => 98_000 + 40 * i),
  massAirFlow: at.map((i) => 0.04 + 0.0011 * i),
  fuelFlow: at.map((i) => (12 + 0.4 * i) / 3.6e6),
  ignitionAdvance: at.map((i) => 14 + 0.25 * i),
  knockRetard: at.map((i) => (i % 7 === 0 ? 0.75 : 0)),
  throttle: at.map(() => 99.6),
  exhaustTemperature: at.map((i) => 612 + 4 * i),
};

/** value = (SI − offset) / scale, written to so many digits. */
interface As {
  readonly unit: string;
  readonly scale: number;
  readonly offset?: number;
  readonly digits: number;
}
const METRIC: Partial<Record<Quantity, As>> = {
  time: { unit: 's', scale: 1, digits: 3 },
  engineSpeed: { unit: 'rpm', scale: 1, digits: 0 },
  torque: { unit: 'Nm', scale: 1, digits: 2 },
  power: { unit: 'kW', scale: 1000, digits: 3 },
  lambda: { unit: '', scale: 1, digits: 3 },
  intakeAirTemperature: { unit: '°C', scale: 1, digits: 1 },
  coolantTemperature: { unit: '°C', scale: 1, digits: 1 },
  oilTemperature: { unit: '°C', scale: 1, digits: 1 },
  manifoldPressure: { unit: 'kPa', scale: 1000, digits: 2 },
  massAirFlow: { unit: 'kg/h', scale: 1 / 3600, digits: 2 },
  fuelFlow: { unit: 'l/h', scale: 1 / 3.6e6, digits: 2 },
  ignitionAdvance: { unit: '°', scale: 1, digits: 2 },
  knockRetard: { unit: '°', scale: 1, digits: 2 },
  throttle: { unit: '%', scale: 1, digits: 1 },
  exhaustTemperature: { unit: '°C', scale: 1, digits: 0 },
};
const AMERICAN: Partial<Record<Quantity, As>> = {
  ...METRIC,
  torque: { unit: 'ft-lb', scale: 1.3558179483314, digits: 3 },
  power: { unit: 'hp', scale: 745.6998715822702, digits: 3 },
  lambda: { unit: 'AFR', scale: 1 / 14.7, digits: 3 },
  intakeAirTemperature: { unit: '°F', scale: 5 / 9, offset: -160 / 9, digits: 2 },
  coolantTemperature: { unit: '°F', scale: 5 / 9, offset: -160 / 9, digits: 2 },
  oilTemperature: { unit: '°F', scale: 5 / 9, offset: -160 / 9, digits: 2 },
  manifoldPressure: { unit: 'psia', scale: 6894.757293168, digits: 3 },
  massAirFlow: { unit: 'lb/min', scale: 0.45359237 / 60, digits: 3 },
  fuelFlow: { unit: 'cc/min', scale: 1e-6 / 60, digits: 1 },
  exhaustTemperature: { unit: '°F', scale: 5 / 9, offset: -160 / 9, digits: 0 },
};

// ── Names by country ────────────────────────────────────────────────────────
type Names = Partial<Record<Quantity, string>>;
const COUNTRIES: readonly { readonly name: string; readonly units: typeof METRIC; readonly names: Names }[] =
  [
    {
      name: 'English',
      units: METRIC,
      names: {
        time: 'Time',
        engineSpeed: 'Engine speed',
        torque: 'Wheel torque',
        lambda: 'Lambda',
        intakeAirTemperature: 'Intake air temperature',
        coolantTemperature: 'Coolant temp',
        manifoldPressure: 'Manifold absolute pressure',
        massAirFlow: 'Mass air flow',
        ignitionAdvance: 'Spark advance',
        throttle: 'Throttle position',
        exhaustTemperature: 'EGT 1',
      },
    },
    {
      name: 'American',
      units: AMERICAN,
      names: {
        time: 'Time',
        engineSpeed: 'RPM',
        torque: 'Torque',
        power: 'Power',
        lambda: 'Air/Fuel',
        intakeAirTemperature: 'IAT',
        coolantTemperature: 'ECT',
        oilTemperature: 'Oil temp',
        manifoldPressure: 'MAP',
        massAirFlow: 'MAF',
        fuelFlow: 'Fuel flow',
        throttle: 'TPS',
        knockRetard: 'Knock retard',
        exhaustTemperature: 'EGT',
      },
    },
    {
      name: 'German',
      units: {
        ...METRIC,
        engineSpeed: { unit: '1/min', scale: 1, digits: 0 },
        manifoldPressure: { unit: 'mbar', scale: 100, digits: 0 },
      },
      names: {
        time: 'Zeit',
        engineSpeed: 'Motordrehzahl',
        torque: 'Drehmoment',
        power: 'Radleistung',
        lambda: 'Lambdawert',
        intakeAirTemperature: 'Ansauglufttemperatur',
        coolantTemperature: 'Kühlmitteltemperatur',
        oilTemperature: 'Öltemperatur',
        manifoldPressure: 'Saugrohrdruck',
        massAirFlow: 'Luftmassenstrom',
        fuelFlow: 'Kraftstoffverbrauch',
        ignitionAdvance: 'Zündwinkel',
        knockRetard: 'Klopfrücknahme',
        throttle: 'Drosselklappe',
        exhaustTemperature: 'Abgastemperatur',
      },
    },
    {
      name: 'French',
      units: {
        ...METRIC,
        engineSpeed: { unit: 'tr/min', scale: 1, digits: 0 },
        power: { unit: 'ch', scale: 735.49875, digits: 3 },
      },
      names: {
        time: 'Temps',
        engineSpeed: 'Régime moteur',
        torque: 'Couple',
        power: 'Puissance à la roue',
        intakeAirTemperature: "Température d'admission",
        coolantTemperature: "Température de l'eau",
        oilTemperature: 'Température huile',
        manifoldPressure: 'Pression admission',
        massAirFlow: "Débit d'air",
        ignitionAdvance: "Avance à l'allumage",
        throttle: 'Position papillon',
        exhaustTemperature: 'Température échappement',
      },
    },
    {
      name: 'Spanish',
      units: { ...METRIC, power: { unit: 'CV', scale: 735.49875, digits: 3 } },
      names: {
        time: 'Tiempo',
        engineSpeed: 'Régimen del motor',
        torque: 'Par motor',
        power: 'Potencia',
        lambda: 'Lambda',
        intakeAirTemperature: 'Temperatura de admisión',
        coolantTemperature: 'Temperatura del refrigerante',
        oilTemperature: 'Temperatura de aceite',
        manifoldPressure: 'Presión de admisión',
        massAirFlow: 'Caudal de aire',
        ignitionAdvance: 'Avance de encendido',
        throttle: 'Posición mariposa',
      },
    },
    {
      name: 'Italian',
      units: {
        ...METRIC,
        engineSpeed: { unit: 'giri/min', scale: 1, digits: 0 },
        torque: { unit: 'kgm', scale: 9.80665, digits: 3 },
      },
      names: {
        time: 'Tempo',
        engineSpeed: 'Giri motore',
        torque: 'Coppia alla ruota',
        power: 'Potenza',
        intakeAirTemperature: 'Temperatura aria aspirata',
        coolantTemperature: 'Temperatura acqua',
        oilTemperature: 'Temperatura olio',
        manifoldPressure: 'Pressione collettore',
        massAirFlow: 'Portata aria',
        fuelFlow: 'Consumo carburante',
        ignitionAdvance: 'Anticipo accensione',
        throttle: 'Apertura farfalla',
      },
    },
    {
      name: 'Dutch',
      units: {
        ...METRIC,
        engineSpeed: { unit: 'omw/min', scale: 1, digits: 0 },
        power: { unit: 'pk', scale: 735.49875, digits: 3 },
      },
      names: {
        time: 'Tijd',
        engineSpeed: 'Toerental',
        torque: 'Koppel',
        power: 'Vermogen',
        intakeAirTemperature: 'Inlaatluchttemperatuur',
        coolantTemperature: 'Koelvloeistoftemperatuur',
        oilTemperature: 'Olietemperatuur',
        manifoldPressure: 'Inlaatdruk',
        throttle: 'Gasklepstand',
        ignitionAdvance: 'Ontsteking',
        massAirFlow: 'Luchtmassa',
      },
    },
    {
      name: 'Swedish',
      units: { ...METRIC, engineSpeed: { unit: 'varv/min', scale: 1, digits: 0 } },
      names: {
        time: 'Tid',
        engineSpeed: 'Motorvarvtal',
        torque: 'Vridmoment',
        power: 'Effekt',
        intakeAirTemperature: 'Insugstemperatur',
        coolantTemperature: 'Kylvätsketemperatur',
        oilTemperature: 'Oljetemperatur',
        manifoldPressure: 'Insugstryck',
        throttle: 'Spjällvinkel',
        ignitionAdvance: 'Tändvinkel',
        massAirFlow: 'Luftmassa',
        fuelFlow: 'Bränsleförbrukning',
      },
    },
    {
      name: 'Danish',
      units: {
        ...METRIC,
        engineSpeed: { unit: 'omdr/min', scale: 1, digits: 0 },
        power: { unit: 'hk', scale: 735.49875, digits: 3 },
      },
      names: {
        time: 'Tid',
        engineSpeed: 'Motoromdrejninger',
        torque: 'Drejningsmoment',
        power: 'Ydelse',
        intakeAirTemperature: 'Indsugningstemperatur',
        coolantTemperature: 'Kølevandstemperatur',
        oilTemperature: 'Olietemperatur',
        manifoldPressure: 'Indsugningstryk',
        throttle: 'Gasspjæld',
      },
    },
    {
      name: 'Norwegian',
      units: { ...METRIC, engineSpeed: { unit: 'o/min', scale: 1, digits: 0 } },
      names: {
        time: 'Tid',
        engineSpeed: 'Motorturtall',
        torque: 'Dreiemoment',
        power: 'Ytelse',
        intakeAirTemperature: 'Innsugstemperatur',
        coolantTemperature: 'Kjølevannstemperatur',
        oilTemperature: 'Oljetemperatur',
        manifoldPressure: 'Innsugstrykk',
        throttle: 'Gasspjeld',
      },
    },
    {
      name: 'symbols',
      units: {
        ...METRIC,
        engineSpeed: { unit: 'min⁻¹', scale: 1, digits: 0 },
        torque: { unit: 'N·m', scale: 1, digits: 2 },
        time: { unit: 's', scale: 1, digits: 3 },
      },
      names: { time: 't', engineSpeed: 'n', torque: 'M', power: 'P', lambda: 'λ' },
    },
  ];

const STYLES: readonly Style[] = [
  {
    name: 'semicolons, decimal commas',
    delimiter: ';',
    decimal: ',',
    encoding: 'utf-8',
    lineEnd: '\n',
    units: 'round',
  },
  {
    name: 'tabs, units in a row, Latin-1',
    delimiter: '\t',
    decimal: ',',
    encoding: 'latin-1',
    lineEnd: '\r\n',
    units: 'row',
  },
  {
    name: 'commas, quoted, a mark, units behind a comma',
    delimiter: ',',
    decimal: '.',
    encoding: 'utf-8 with mark',
    lineEnd: '\r\n',
    units: 'comma',
    quoted: true,
  },
  {
    name: 'bars, UTF-16, a preamble',
    delimiter: '|',
    decimal: '.',
    encoding: 'utf-16le',
    lineEnd: '\r\n',
    units: 'square',
    preamble: ['Logger export', 'Operator: nobody in particular', '# Cell = 2', ''],
  },
  {
    name: 'thousands marks, trailing semicolons, blank lines',
    delimiter: ';',
    decimal: ',',
    thousands: '.',
    encoding: 'utf-8',
    lineEnd: '\n',
    units: 'square',
    trailing: true,
    blankLines: true,
  },
  {
    name: 'quoted decimal commas between commas, UTF-16 BE',
    delimiter: ',',
    decimal: ',',
    encoding: 'utf-16be',
    lineEnd: '\n',
    units: 'round',
    quoted: true,
  },
  {
    name: 'tabs, thousands blanks, units behind a slash',
    delimiter: '\t',
    decimal: ',',
    thousands: ' ',
    encoding: 'utf-8',
    lineEnd: '\n',
    units: 'slash',
  },
];

function columnOf(quantity: Quantity, name: string, as: As): Column {
  const values = SI[quantity]!.map((v) => (v - (as.offset ?? 0)) / as.scale);
  return { name, unit: as.unit, digits: as.digits, values };
}
const within = (as: As): number => 0.500001 * 10 ** -as.digits * as.scale;
const expectedOf = (quantity: Quantity, as: As) => ({ values: SI[quantity]!, within: within(as) });

/** Names of one letter say nothing without their unit beside them, and Latin-1 has no λ. */
const possible = (country: string, style: Style): boolean =>
  country !== 'symbols' || style.encoding !== 'latin-1';

function byCountry(): CorpusFile[] {
  return COUNTRIES.flatMap(({ name, units, names }) =>
    STYLES.filter((style) => possible(name, style)).map((style): CorpusFile => {
      const quantities = Object.keys(names) as Quantity[];
      const columns = quantities.map((q) => columnOf(q, names[q]!, units[q]!));
      return {
        name: `${name}: ${style.name}`,
        bytes: encoded(tableText(columns, style), style.encoding),
        options: { fuel: 'petrol' },
        expected: Object.fromEntries(quantities.map((q) => [q, expectedOf(q, units[q]!)])),
        torque: { values: torque, within: within(units.torque!) },
      };
    }),
  );
}

// ── Shapes of their own ─────────────────────────────────────────────────────
const PLAIN = STYLES[2];
function shape(
  name: string,
  columns: Column[],
  expected: CorpusFile['expected'],
  more: Partial<CorpusFile> & { style?: Style } = {},
): CorpusFile {
  const style = more.style ?? {
    ...PLAIN,
    units: 'round' as const,
    quoted: false,
    encoding: 'utf-8' as const,
  };
  return {
    name,
    bytes: encoded(tableText(columns, style), style.encoding),
    options: more.options ?? {},
    expected,
    torque: more.torque ?? { values: torque, within: 0.006 },
  };
}
const metric = (quantity: Quantity, name: string): Column => columnOf(quantity, name, METRIC[quantity]!);
const as = (quantity: Quantity, name: string, form: As): Column => columnOf(quantity, name, form);
const RPM = { engineSpeed: expectedOf('engineSpeed', METRIC.engineSpeed!) };
const RADIUS = 0.6;
const rollerSpeed = rpm.map((n) => n / 120);

function shapes(): CorpusFile[] {
  const speed = metric('engineSpeed', 'RPM');
  const moment = metric('torque', 'Torque');
  const clock = at.map((i) => `14:02:${(3 + 0.125 * i).toFixed(3).padStart(6, '0')}`);
  const stamp = at.map((i) => `2026-11-26T14:02:${(3 + 0.125 * i).toFixed(3).padStart(6, '0')}`);
  const fromStart = { values: at.map((i) => 14 * 3600 + 123 + 0.125 * i), within: 1e-3 };
  return [
    shape('power only', [speed, metric('power', 'Power')], RPM, {
      torque: { values: torque, within: 0.005 },
    }),
    shape('krpm', [as('engineSpeed', 'Engine speed', { unit: 'krpm', scale: 1000, digits: 4 }), moment], {
      engineSpeed: { values: rpm, within: 0.06 },
    }),
    shape(
      'rad/s under ω',
      [as('engineSpeed', 'ω', { unit: 'rad/s', scale: 30 / Math.PI, digits: 4 }), moment],
      {
        engineSpeed: { values: rpm, within: 0.001 },
      },
    ),
    shape(
      'revolutions a second',
      [as('engineSpeed', 'Crankshaft speed', { unit: 'rev/s', scale: 60, digits: 4 }), moment],
      {
        engineSpeed: { values: rpm, within: 0.004 },
      },
    ),
    shape('decanewton metres', [speed, as('torque', 'Couple', { unit: 'daN.m', scale: 10, digits: 4 })], RPM),
    shape(
      'force and speed of the rollers',
      [
        speed,
        {
          name: 'Roller force',
          unit: 'N',
          digits: 3,
          values: at.map((i) => (torque[i] * rpm[i] * Math.PI) / 30 / rollerSpeed[i]),
        },
        { name: 'Roller speed', unit: 'km/h', digits: 4, values: rollerSpeed.map((v) => 3.6 * v) },
      ],
      RPM,
      { torque: { values: torque, within: 0.01 } },
    ),
    shape(
      'rollers in rpm, with their radius',
      [
        speed,
        {
          name: 'Zugkraft',
          unit: 'daN',
          digits: 4,
          values: at.map((i) => (torque[i] * rpm[i] * Math.PI) / 300 / rollerSpeed[i]),
        },
        {
          name: 'Rollendrehzahl',
          unit: '1/min',
          digits: 3,
          values: rollerSpeed.map((v) => (60 * v) / (2 * Math.PI * RADIUS)),
        },
      ],
      RPM,
      { options: { rollerRadiusM: RADIUS }, torque: { values: torque, within: 0.01 } },
    ),
    shape('a clock', [{ name: 'Time', unit: '', digits: 0, values: clock }, speed, moment], {
      ...RPM,
      time: fromStart,
    }),
    shape('time stamps', [{ name: 'Timestamp', unit: '', digits: 0, values: stamp }, speed, moment], {
      ...RPM,
      time: { values: at.map((i) => Date.UTC(2026, 10, 26, 14, 2) / 1000 + 3 + 0.125 * i), within: 1e-3 },
    }),
    shape('milliseconds', [as('time', 'Elapsed', { unit: 'ms', scale: 1e-3, digits: 0 }), speed, moment], {
      ...RPM,
      time: { values: SI.time!, within: 1e-3 },
    }),
    shape(
      'a wish beside the reading',
      [
        speed,
        { name: 'Target torque', unit: 'Nm', digits: 1, values: torque.map((t) => t + 30) },
        moment,
        { name: 'Turbo speed', unit: 'rpm', digits: 0, values: rpm.map((n) => n * 20) },
      ],
      RPM,
    ),
    shape(
      'a pedal beside the throttle',
      [
        speed,
        moment,
        { name: 'Accelerator pedal position', unit: '%', digits: 1, values: at.map(() => 100) },
        metric('throttle', 'Throttle'),
      ],
      { ...RPM, throttle: { values: SI.throttle!, within: 0.06 } },
    ),
    shape(
      'names nobody knows, units that say it',
      [
        as('engineSpeed', 'Channel 1', { unit: 'U/min', scale: 1, digits: 0 }),
        as('torque', 'Channel 2', { unit: 'Nm', scale: 1, digits: 2 }),
      ],
      RPM,
    ),
    shape(
      'two lambda probes',
      [speed, moment, metric('lambda', 'Lambda 1'), metric('lambda', 'Lambda 2')],
      RPM,
    ),
    shape(
      'a throttle of one for full',
      [speed, moment, { name: 'TPS', unit: '', digits: 3, values: at.map(() => 0.996) }],
      {
        ...RPM,
        throttle: { values: SI.throttle!, within: 0.06 },
      },
    ),
    shape(
      'columns of a spreadsheet in another order',
      [
        metric('coolantTemperature', 'Kühlwassertemperatur'),
        moment,
        metric('throttle', 'Gaspedal'),
        speed,
        metric('time', 'Zeit'),
      ],
      {
        ...RPM,
        coolantTemperature: { values: SI.coolantTemperature!, within: 0.06 },
        time: { values: SI.time!, within: 0.001 },
      },
    ),
  ];
}

/** All files, in a fixed order; names tell them apart. */
export const pullCorpus = (): CorpusFile[] => [...byCountry(), ...shapes()];
