/** Files of weather stations of several countries, each with the readings it must give. */
import type { Humidity } from '../air-reading.ts';
import type { AirFileOptions } from '../air-file.ts';
import { encoded, tableText, type Column, type Style } from './written.ts';

export interface AirCorpusFile {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly options: AirFileOptions;
  readonly pressureKind: 'station' | 'sea level';
  readonly expected: readonly {
    readonly at: number;
    readonly temperatureC: number;
    readonly pressureHpa: number;
    readonly humidity: Humidity;
  }[];
}

const ZONE = 'Europe/Oslo';
/** 26 November 2026, 10:00 at a site one hour ahead of UTC, every five minutes. */
const START = Date.UTC(2026, 10, 26, 9, 0);
const steps = Array.from({ length: 12 }, (_, i) => i);
const clock = (i: number): string => `10:${String(5 * i).padStart(2, '0')}`;
const temperatureC = steps.map((i) => 19.4 + 0.1 * i);
const pressureHpa = steps.map((i) => 1004.2 - 0.1 * i);
const percent = steps.map((i) => 48 + (i % 3));
const expectedWith = (humidity: (i: number) => Humidity): AirCorpusFile['expected'] =>
  steps.map((i) => ({
    at: START + 300_000 * i,
    temperatureC: temperatureC[i],
    pressureHpa: pressureHpa[i],
    humidity: humidity(i),
  }));
const RELATIVE = expectedWith((i) => ({ kind: 'relative', percent: percent[i] }));
const DEW = expectedWith((i) => ({ kind: 'dew point', temperatureC: 8.1 + 0.1 * i }));
const WET = expectedWith((i) => ({ kind: 'wet bulb', temperatureC: 13.2 + 0.1 * i }));

const text = (name: string, values: readonly string[]): Column => ({ name, unit: '', digits: 0, values });
const value = (name: string, unit: string, digits: number, values: readonly number[]): Column => ({
  name,
  unit,
  digits,
  values,
});
const BASE: Style = {
  name: '',
  delimiter: ';',
  decimal: ',',
  encoding: 'utf-8',
  lineEnd: '\n',
  units: 'round',
};
const AMERICAN: Style = { ...BASE, delimiter: ',', decimal: '.' };

interface Words {
  readonly name: string;
  readonly at: string;
  readonly temperature: string;
  readonly pressure: string;
  readonly humidity: string;
  readonly style: Style;
}
const COUNTRIES: readonly Words[] = [
  {
    name: 'English',
    at: 'Time',
    temperature: 'Air temperature',
    pressure: 'Station pressure',
    humidity: 'Relative humidity',
    style: AMERICAN,
  },
  {
    name: 'German',
    at: 'Zeitstempel',
    temperature: 'Lufttemperatur',
    pressure: 'Luftdruck (Station)',
    humidity: 'Relative Feuchte',
    style: { ...BASE, units: 'blank' },
  },
  {
    name: 'French',
    at: 'Horodatage',
    temperature: 'Température',
    pressure: 'Pression absolue',
    humidity: 'Humidité relative',
    style: BASE,
  },
  {
    name: 'Spanish',
    at: 'Fecha y hora',
    temperature: 'Temperatura',
    pressure: 'Presión de la estación',
    humidity: 'Humedad relativa',
    style: { ...BASE, encoding: 'latin-1' },
  },
  {
    name: 'Italian',
    at: 'Data e ora',
    temperature: 'Temperatura aria',
    pressure: 'Pressione stazione',
    humidity: 'Umidità relativa',
    style: { ...BASE, units: 'row' },
  },
  {
    name: 'Dutch',
    at: 'Tijdstip',
    temperature: 'Luchttemperatuur',
    pressure: 'Luchtdruk station',
    humidity: 'Relatieve vochtigheid',
    style: { ...BASE, delimiter: '\t' },
  },
  {
    name: 'Swedish',
    at: 'Tidpunkt',
    temperature: 'Lufttemperatur',
    pressure: 'Stationstryck',
    humidity: 'Luftfuktighet',
    style: { ...BASE, lineEnd: '\r\n' },
  },
  {
    name: 'Danish',
    at: 'Tidspunkt',
    temperature: 'Lufttemperatur',
    pressure: 'Lufttryk, lokalt',
    humidity: 'Luftfugtighed',
    style: { ...BASE, encoding: 'utf-16le' },
  },
  {
    name: 'Norwegian',
    at: 'Tidspunkt',
    temperature: 'Temperatur',
    pressure: 'Stasjonstrykk',
    humidity: 'Relativ luftfuktighet',
    style: { ...BASE, units: 'square' },
  },
];
const MOMENTS: Record<string, (i: number) => string> = {
  'ISO with zone': (i) => `2026-11-26T${clock(i)}:00+01:00`,
  'ISO of the site': (i) => `2026-11-26 ${clock(i)}:00`,
  dotted: (i) => `26.11.2026 ${clock(i)}`,
};
const readingColumns = (w: Words): Column[] => [
  value(w.temperature, '°C', 1, temperatureC),
  value(w.pressure, 'hPa', 1, pressureHpa),
  value(w.humidity, '%', 0, percent),
];

function file(
  name: string,
  columns: Column[],
  style: Style,
  more: Partial<AirCorpusFile> = {},
): AirCorpusFile {
  return {
    name,
    bytes: encoded(tableText(columns, style), style.encoding),
    options: { timeZone: ZONE },
    pressureKind: 'station',
    expected: RELATIVE,
    ...more,
  };
}
const byCountry = (): AirCorpusFile[] =>
  COUNTRIES.flatMap((words) =>
    Object.entries(MOMENTS).map(([how, moment]) =>
      file(
        `${words.name}, ${how}`,
        [text(words.at, steps.map(moment)), ...readingColumns(words)],
        words.style,
      ),
    ),
  );

// eslint-disable-next-line max-lines-per-function -- a table of files, a few lines each
function shapes(): AirCorpusFile[] {
  const [english] = COUNTRIES;
  const when = text(
    'Time',
    steps.map((i) => `2026-11-26T${clock(i)}:00+01:00`),
  );
  const [t, p, h] = readingColumns(english);
  const json = (
    line: (i: number) => object,
    name: string,
    more: Partial<AirCorpusFile> = {},
  ): AirCorpusFile => ({
    ...file(name, [when, t, p, h], AMERICAN, more),
    bytes: encoded(steps.map((i) => JSON.stringify(line(i))).join('\n') + '\n', 'utf-8'),
  });
  return [
    file(
      'date and time apart',
      [
        text(
          'Date',
          steps.map(() => '26.11.2026'),
        ),
        text('Time', steps.map(clock)),
        t,
        p,
        h,
      ],
      AMERICAN,
    ),
    file('a clock, the day above the table', [text('Time', steps.map(clock)), t, p, h], {
      ...AMERICAN,
      preamble: ['Date: 2026-11-26'],
    }),
    file(
      'seconds since 1970',
      [
        text(
          'Unix time',
          steps.map((i) => String((START + 300_000 * i) / 1000)),
        ),
        t,
        p,
        h,
      ],
      AMERICAN,
    ),
    file(
      'milliseconds since 1970',
      [
        text(
          'Timestamp',
          steps.map((i) => String(START + 300_000 * i)),
        ),
        t,
        p,
        h,
      ],
      AMERICAN,
    ),
    file(
      'American units and halves of the day',
      [
        text(
          'Date',
          steps.map(() => '11/26/2026'),
        ),
        text(
          'Time',
          steps.map((i) => `${clock(i)} AM`),
        ),
        value(
          'Temp',
          '°F',
          2,
          temperatureC.map((v) => 1.8 * v + 32),
        ),
        value(
          'Station pressure',
          'inHg',
          4,
          pressureHpa.map((v) => (100 * v) / 3386.389),
        ),
        value('RH', '%', 0, percent),
      ],
      AMERICAN,
    ),
    file(
      'dew point',
      [
        when,
        t,
        p,
        value(
          'Dew point',
          '°C',
          1,
          steps.map((i) => 8.1 + 0.1 * i),
        ),
      ],
      AMERICAN,
      { expected: DEW },
    ),
    file(
      'wet bulb',
      [
        when,
        t,
        p,
        value(
          'Wet bulb',
          '°C',
          1,
          steps.map((i) => 13.2 + 0.1 * i),
        ),
      ],
      AMERICAN,
      { expected: WET },
    ),
    file('reduced to sea level', [when, t, value('Sea level pressure', 'hPa', 1, pressureHpa), h], AMERICAN, {
      pressureKind: 'sea level',
    }),
    file(
      'both pressures: the station’s is used',
      [
        when,
        t,
        value(
          'QNH',
          'hPa',
          1,
          pressureHpa.map((v) => v + 12),
        ),
        p,
        h,
      ],
      AMERICAN,
    ),
    file(
      'a pressure that does not say, said by a person',
      [
        when,
        t,
        value(
          'Pressure',
          'kPa',
          2,
          pressureHpa.map((v) => v / 10),
        ),
        h,
      ],
      AMERICAN,
      {
        options: { timeZone: ZONE, pressureKind: 'station' },
      },
    ),
    file(
      'an outdoor sensor beside the cell’s',
      [
        when,
        value(
          'Outdoor temp',
          '°C',
          1,
          temperatureC.map((v) => v - 15),
        ),
        t,
        p,
        h,
      ],
      AMERICAN,
    ),
    file('rows without a reading', [when, t, p, h], AMERICAN, {
      bytes: encoded(
        tableText([when, t, p, h], AMERICAN) + `2026-11-26T11:00:00+01:00,--,1003.0,50\n`,
        'utf-8',
      ),
    }),
    file(
      'the newest first',
      [
        text(
          'Time',
          [...steps].reverse().map((i) => `2026-11-26T${clock(i)}:00+01:00`),
        ),
        value('Air temperature', '°C', 1, [...temperatureC].reverse()),
        value('Station pressure', 'hPa', 1, [...pressureHpa].reverse()),
        value('Relative humidity', '%', 0, [...percent].reverse()),
      ],
      AMERICAN,
    ),
    json(
      (i) => ({
        time: new Date(START + 300_000 * i).toISOString(),
        temperature_C: +temperatureC[i].toFixed(1),
        station_pressure_hPa: +pressureHpa[i].toFixed(1),
        humidity_pct: percent[i],
      }),
      'JSON lines',
    ),
    json(
      (i) => ({
        ts: START + 300_000 * i,
        air: { temperature_c: +temperatureC[i].toFixed(1), humidity_pct: percent[i] },
        pressure: { station_hPa: +pressureHpa[i].toFixed(1) },
      }),
      'JSON lines, nested',
    ),
  ];
}

/** All files, in a fixed order. */
export const airCorpus = (): AirCorpusFile[] => [...byCountry(), ...shapes()];
