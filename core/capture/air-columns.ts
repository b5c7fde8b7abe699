/** What the columns of a weather station hold, told from their names and units. */
import { UNITS, type Dimension, type Unit } from '../base/units.ts';
import { foldedName } from './header-words.ts';
import { readUnit } from './unit-spellings.ts';

export type AirQuantity =
  'moment' | 'date' | 'clock' | 'temperature' | 'pressure' | 'relative humidity' | 'dew point' | 'wet bulb';

/** A moment in one column, as stations of these countries head it. */
const MOMENT_NAMES = [
  'time',
  'timestamp',
  'time stamp',
  'date ?time',
  'datetime',
  'date (and )?time',
  'datum ?(und )?(zeit|uhrzeit)',
  'zeitpunkt',
  'zeitstempel',
  'moment',
  'horodatage',
  'date heure',
  'date et heure',
  'fecha hora',
  'fecha y hora',
  'data ora',
  'data e ora',
  'data ed ora',
  'datum tijd',
  'datum en tijd',
  'tijdstip',
  'tidpunkt',
  'tidspunkt',
  'dato tid',
  'datum tid',
  'at',
  'ts',
  'utc',
  'epoch',
  'unix( time)?',
  'recorded( at)?',
];
const MOMENT = new RegExp(`^(${MOMENT_NAMES.join('|')})$`);
/** Word stems of eight languages, looked for in the folded name (common practice, from memory). */
const MEANT: readonly (readonly [AirQuantity, RegExp, Dimension | null])[] = [
  [
    'dew point',
    /dew ?p|taupunkt|rosee|rocio|rugiada|dauwpunt|daggpunkt|dugpunkt|duggpunkt|\btd\b/,
    'temperature',
  ],
  [
    'wet bulb',
    /wet ?b|feucht(kugel)?temp|feuchtkugel|(bulbe|thermometre) humide|bulbo (humedo|umido)|natte ?bol|vat(a|t)? temp|\btw\b/,
    'temperature',
  ],
  ['relative humidity', /humid|umid|humed|feucht|fukt|fugt|vocht|\brh\b|\brf\b|\bhr\b|\brv\b/, 'humidity'],
  ['pressure', /press|presion|druck|druk|tryck|tryk|baro|\bqfe\b|\bqnh\b|\bslp\b|\bmslp\b|\bp\b/, 'pressure'],
  ['temperature', /temp(eratur[ae]?|eratuur)?\b|\bt\b|\bta\b/, 'temperature'],
  ['date', /^(date|datum|data|fecha|dato|jour|dia|giorno|dag|day)$/, null],
  ['moment', MOMENT, null],
  ['clock', /^(clock|zeit|uhrzeit|heure|hora|ora|tijd|tid|klokke|klockslag|temps|tempo|tiempo)$/, null],
];
const REDUCED = /sea|msl|slp|qnh|reduc|reduz|ridott|mer|mar\b|mare|zee|hav|nn\b|meer/;
const AT_SITE = /station|site|abs|qfe|local|ort|cell|lokal|estacion|stazione|stasjon/;
/** Not the air the engine breathes. */
const ELSEWHERE = /indoor|outdoor|inside|outside|innen|aussen|interieur|exterieur|binnen|buiten|inne|ute|ude/;

export interface AirColumn {
  readonly index: number;
  readonly header: string;
  readonly quantity: AirQuantity | null;
  readonly unit: Unit | null;
  readonly pressureKind: 'station' | 'sea level' | null;
  readonly elsewhere: boolean;
}

/** Unit of a header: in brackets, behind a comma or blank, or in a row of its own. */
function unitIn(header: string, below: string): Unit | undefined {
  if (below.trim() !== '') return readUnit(below)?.unit;
  const inside = /[[({]([^\])}]*)[\])}]\s*$/.exec(header)?.[1];
  if (inside !== undefined) return readUnit(inside)?.unit;
  for (const tail of [header.split(/[\s,_/]+/).slice(-1), header.split(/[\s,_/]+/).slice(-2)]) {
    const unit = tail.join(' ').length < header.length ? readUnit(tail.join(' '))?.unit : undefined;
    if (unit) return unit;
  }
  return undefined;
}
const fits = (dimension: Dimension, unit: Unit): boolean =>
  unit.dimension === dimension || (dimension === 'humidity' && unit.dimension === 'fraction');

/** What one header of a station file says. */
export function readAirHeader(header: string, below: string, index: number): AirColumn {
  const clean = header.slice(0, 200).trim();
  const name = foldedName(clean);
  const unit = unitIn(clean, below) ?? null;
  const found = MEANT.find(
    ([, pattern, dimension]) =>
      pattern.test(name) && (dimension === null || unit === null || fits(dimension, unit)),
  );
  const quantity = found?.[0] ?? null;
  return {
    index,
    header: clean,
    quantity,
    unit: quantity === 'relative humidity' && unit === null ? UNITS['% RH'] : unit,
    pressureKind:
      quantity !== 'pressure'
        ? null
        : REDUCED.test(name)
          ? 'sea level'
          : AT_SITE.test(name)
            ? 'station'
            : null,
    elsewhere: ELSEWHERE.test(name),
  };
}
