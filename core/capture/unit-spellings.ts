/** Units as loggers and spreadsheets of several countries write them. */
import { UNITS, type Unit } from '../base/units.ts';
import { MAX_HEADER_CHARS } from './limits.ts';

/** Compared without case, blanks, dots, hyphens and brackets; “⁻¹” reads as “-1”. */
const SPELLINGS: Record<string, readonly string[]> = {
  s: [
    's',
    'sec',
    'secs',
    'second',
    'seconds',
    'sek',
    'sekunden',
    'secondes',
    'segundos',
    'secondi',
    'seconden',
    'sekunder',
  ],
  ms: ['ms', 'msec', 'msek', 'millisecond', 'milliseconds'],
  min: ['min', 'minutes', 'minuten', 'minuti', 'minutos', 'minutter', 'minuter'],
  rpm: [
    ...['rpm', '1/min', 'min1', 'min^1', '/min', 'rev/min', 'revs/min', 'r/min', 'u/min', 'umdr/min', 'upm'],
    ...['tr/min', 'tours/min', 'giri/min', 'rev/min', 'omw/min', 'o/min', 'varv/min', 'omdr/min', 'omdrmin'],
    ...['rotmin', 'vueltas/min'],
  ],
  'rad/s': ['rad/s', 'rads1', 'rad/sec'],
  Hz: ['hz', 'rev/s', 'rps', '1/s', 's1'],
  krpm: [
    'krpm',
    'rpmx1000',
    'x1000rpm',
    'rpm*1000',
    'rpm/1000',
    'ktr/min',
    'ku/min',
    '1000rpm',
    'x1000tr/min',
    'x10001/min',
  ],
  'm/s': ['m/s', 'ms1'],
  'km/h': ['km/h', 'kmh', 'kph', 'kmh1', 'km/t', 'kmt', 'km/u', 'km/std'],
  mph: ['mph', 'mi/h'],
  'N·m': ['nm', 'newtonmeter', 'newtonmetre', 'newtonmetres', 'newtonmètre'],
  'daN·m': ['danm'],
  'lb·ft': [
    'lbft',
    'ftlb',
    'ftlbs',
    'lbsft',
    'lbfft',
    'ftlbf',
    'poundfeet',
    'footpound',
    'footpounds',
    'lbpi',
    'pilb',
  ],
  'kgf·m': ['kgm', 'mkg', 'kgfm', 'mkgf', 'kpm', 'mkp'],
  W: ['w', 'watt', 'watts'],
  kW: ['kw', 'kilowatt', 'kilowatts'],
  hp: ['hp', 'bhp', 'whp', 'horsepower'],
  PS: [
    'ps',
    'metrichp',
    'hpmetric',
    'hp(metric)',
    'cv',
    'pk',
    'ch',
    'hk',
    'chdin',
    'psdin',
    'cvdin',
    'hkdin',
    'pkdin',
    'dinps',
  ],
  N: ['n', 'newton'],
  daN: ['dan'],
  kN: ['kn'],
  lbf: ['lbf'],
  kgf: ['kgf', 'kp'],
  '°C': ['c', 'degc', '°c', 'celsius', 'ºc', 'gradc', 'gradec', 'grc'],
  '°F': ['f', 'degf', '°f', 'fahrenheit', 'ºf'],
  K: ['k', 'kelvin'],
  Pa: ['pa'],
  hPa: ['hpa', 'mbar', 'millibar', 'mb'],
  kPa: ['kpa'],
  bar: ['bar'],
  psi: ['psi'],
  inHg: ['inhg', '"hg', 'inchhg', 'inchesofmercury'],
  mmHg: ['mmhg', 'torr'],
  'kg/s': ['kg/s'],
  'g/s': ['g/s', 'gps', 'g/sec', 'gs1', 'g/sek'],
  'kg/h': ['kg/h', 'kg/hr', 'kgh', 'kgh1', 'kg/std', 'kg/t', 'kg/u'],
  'lb/min': ['lb/min', 'lbs/min', 'lb/m'],
  'lb/h': ['lb/h', 'lb/hr', 'lbs/hr', 'pph'],
  'L/h': ['l/h', 'lph', 'l/hr', 'l/std', 'lh1', 'l/t', 'l/u'],
  'cc/min': ['cc/min', 'ml/min', 'ccm', 'cm3/min', 'cm³/min'],
  λ: ['lambda', 'λ', 'la'],
  AFR: ['afr', 'a/f', ':1', 'airfuelratio'],
  '°': [
    'deg',
    '°',
    'degrees',
    'degbtdc',
    '°btdc',
    '°ca',
    'degca',
    'btdc',
    '°kw',
    'gradkw',
    '°vot',
    'gradvot',
    'grad',
    'degrés',
    'grados',
    'gradi',
    'graden',
    'grader',
    '°apms',
    '°ppms',
  ],
  '%': ['%', 'pct', 'percent', 'per cent', 'prozent', 'procent', 'pourcent'],
  '% RH': ['%rh', 'rh%', '%hr', '%rf', '%rv', '%rel', '%ur', '%relf'],
  share: ['share', 'fraction', '0-1', '0..1', '01'],
};
/** “min⁻¹”, “N*m”, “° C”: without what does not tell one unit from another. */
const folded = (text: string): string =>
  text
    .toLowerCase()
    .replace(/⁻/g, '-')
    .replace(/¹/g, '1')
    .replace(/²/g, '2')
    .replace(/[\s()[\]{}_·⋅•×.*-]/g, (mark) => (mark === '×' ? 'x' : ''));
const BY_SPELLING = new Map(
  Object.entries(SPELLINGS).flatMap(([id, list]) => list.map((text) => [folded(text), UNITS[id]] as const)),
);

export interface WrittenUnit {
  readonly unit: Unit;
  readonly gauge?: boolean;
}

/** A unit as written, or undefined when it is not one the importer knows. */
export function readUnit(text: string): WrittenUnit | undefined {
  if (text.length > MAX_HEADER_CHARS) return undefined;
  let key = folded(text);
  let gauge: boolean | undefined;
  const suffix =
    /^(psi|kpa|bar|hpa|mbar|inhg|mmhg)(gauge|relative|relativ|rel|g|ü|absolute|absolut|abs|a)$/.exec(key);
  if (suffix) {
    key = suffix[1]!;
    gauge = /^(g|gauge|rel|relativ|relative|ü)$/.test(suffix[2]);
  }
  const unit = BY_SPELLING.get(key);
  return unit ? { unit, ...(gauge === undefined ? {} : { gauge }) } : undefined;
}
