/** What a column holds, told from its name and unit. */
import { UNITS, type Dimension, type Unit } from '../base/units.ts';
import { MAX_HEADER_CHARS } from './limits.ts';

export type Quantity =
  | 'time'
  | 'engineSpeed'
  | 'rollerSpeed'
  | 'vehicleSpeed'
  | 'torque'
  | 'power'
  | 'rollerForce'
  | 'lambda'
  | 'intakeAirTemperature'
  | 'coolantTemperature'
  | 'oilTemperature'
  | 'manifoldPressure'
  | 'massAirFlow'
  | 'fuelFlow'
  | 'ignitionAdvance'
  | 'knockRetard'
  | 'throttle'
  | 'gear'
  | 'exhaustTemperature'
  | 'airTemperature'
  | 'barometer'
  | 'humidity';

export const DIMENSION_OF: Record<Quantity, readonly Dimension[]> = {
  time: ['time'],
  engineSpeed: ['rotation'],
  rollerSpeed: ['speed', 'rotation'],
  vehicleSpeed: ['speed'],
  torque: ['torque'],
  power: ['power'],
  rollerForce: ['force'],
  lambda: ['lambda'],
  intakeAirTemperature: ['temperature'],
  coolantTemperature: ['temperature'],
  oilTemperature: ['temperature'],
  manifoldPressure: ['pressure'],
  massAirFlow: ['massFlow'],
  fuelFlow: ['volumeFlow', 'massFlow'],
  ignitionAdvance: ['angle'],
  knockRetard: ['angle'],
  throttle: ['fraction'],
  gear: ['count'],
  exhaustTemperature: ['temperature'],
  airTemperature: ['temperature'],
  barometer: ['pressure'],
  humidity: ['fraction', 'humidity'],
};

export const QUANTITY_NAMES: Record<Quantity, string> = {
  time: 'time',
  engineSpeed: 'engine speed',
  rollerSpeed: 'roller speed',
  vehicleSpeed: 'vehicle speed',
  torque: 'torque',
  power: 'power',
  rollerForce: 'roller force',
  lambda: 'lambda or air-fuel ratio',
  intakeAirTemperature: 'intake air temperature',
  coolantTemperature: 'coolant temperature',
  oilTemperature: 'oil temperature',
  manifoldPressure: 'manifold pressure',
  massAirFlow: 'mass air flow',
  fuelFlow: 'fuel flow',
  ignitionAdvance: 'ignition advance',
  knockRetard: 'knock retard',
  throttle: 'throttle',
  gear: 'gear',
  exhaustTemperature: 'exhaust temperature',
  airTemperature: 'air temperature',
  barometer: 'barometer',
  humidity: 'humidity',
};

/** Spellings of units; compared without case, blanks, dots, hyphens and brackets. */
const SPELLINGS: Record<string, readonly string[]> = {
  s: ['s', 'sec', 'secs', 'second', 'seconds'],
  ms: ['ms', 'msec', 'millisecond', 'milliseconds'],
  min: ['min', 'minutes'],
  rpm: ['rpm', '1/min', 'min1', 'min^1', 'rev/min', 'r/min', 'u/min', 'tr/min'],
  'rad/s': ['rad/s'],
  Hz: ['hz', 'rev/s', 'rps'],
  krpm: ['krpm', 'rpmx1000', 'x1000rpm'],
  'm/s': ['m/s'],
  'km/h': ['km/h', 'kmh', 'kph'],
  mph: ['mph', 'mi/h'],
  'N·m': ['nm', 'newtonmeter', 'newtonmetre', 'newtonmetres'],
  'lb·ft': ['lbft', 'ftlb', 'ftlbs', 'lbsft', 'lbfft', 'ftlbf', 'poundfeet'],
  'kgf·m': ['kgm', 'mkg', 'kgfm', 'mkgf'],
  W: ['w', 'watt', 'watts'],
  kW: ['kw', 'kilowatt'],
  hp: ['hp', 'bhp', 'whp', 'horsepower'],
  PS: ['ps', 'metrichp', 'cv', 'pk'],
  N: ['n', 'newton'],
  kN: ['kn'],
  lbf: ['lbf'],
  kgf: ['kgf', 'kp'],
  '°C': ['c', 'degc', '°c', 'celsius', 'ºc'],
  '°F': ['f', 'degf', '°f', 'fahrenheit', 'ºf'],
  K: ['k', 'kelvin'],
  Pa: ['pa'],
  hPa: ['hpa', 'mbar', 'millibar'],
  kPa: ['kpa'],
  bar: ['bar'],
  psi: ['psi'],
  inHg: ['inhg', '"hg'],
  mmHg: ['mmhg', 'torr'],
  'kg/s': ['kg/s'],
  'g/s': ['g/s', 'gps', 'g/sec'],
  'kg/h': ['kg/h', 'kg/hr'],
  'lb/min': ['lb/min', 'lbs/min', 'lb/m'],
  'lb/h': ['lb/h', 'lb/hr', 'lbs/hr', 'pph'],
  'L/h': ['l/h', 'lph', 'l/hr'],
  'cc/min': ['cc/min', 'ml/min', 'ccm'],
  λ: ['lambda', 'λ', 'la'],
  AFR: ['afr', 'a/f', ':1', 'airfuelratio'],
  '°': ['deg', '°', 'degrees', 'degbtdc', '°btdc', '°ca', 'degca', 'btdc'],
  '%': ['%', 'pct', 'percent', 'per cent'],
  '% RH': ['%rh', 'rh%'],
  share: ['share', 'fraction', '0-1', '0..1', '01'],
};
const BY_SPELLING = new Map(
  Object.entries(SPELLINGS).flatMap(([id, list]) =>
    list.map((text) => [text.replace(/\s/g, ''), UNITS[id]] as const),
  ),
);

export interface WrittenUnit {
  readonly unit: Unit;
  readonly gauge?: boolean;
}

/** A unit as written, or undefined when it is not one the importer knows. */
export function readUnit(text: string): WrittenUnit | undefined {
  if (text.length > MAX_HEADER_CHARS) return undefined;
  let key = text.toLowerCase().replace(/[\s()[\]{}_·⋅.*-]/g, '');
  let gauge: boolean | undefined;
  const suffix = /^(psi|kpa|bar|hpa|mbar)(gauge|rel|g|absolute|abs|a)$/.exec(key);
  if (suffix) {
    key = suffix[1]!;
    gauge = /^(g|gauge|rel)$/.test(suffix[2]);
  }
  const unit = BY_SPELLING.get(key);
  return unit ? { unit, ...(gauge === undefined ? {} : { gauge }) } : undefined;
}

const oneOf = (names: string): RegExp => new RegExp(`^(${names})$`);
const SPEEDS =
  'rpm|krpm|engine ?(speed|rpm|revs)|eng(ine)? ?(spd|speed)|motor (speed|rpm)|crank(shaft)? speed|' +
  'tach(o|ometer)?|revs|rev|n mot|motordrehzahl|drehzahl|engine|r[eé]gime( moteur)?|' +
  'r[eé]gimen( (del )?motor)?|giri( motore)?|toerental|motortoerental|varvtal|motorvarvtal|turtall';
const POWERS = 'power|pwr|leistung|radleistung|puissance|potencia|potenza|vermogen|effekt|hp|bhp|whp|kw|ps';
const THROTTLES =
  'throttle|tps|pedal|accelerator|app|drosselklappe|papillon|acelerador|farfalla|gasklep|gaspedal';
/** Where and how something was measured, before its name and behind it. */
const BEFORE = 'engine|wheel|wheels|roller|brake|hub|shaft|measured|observed|uncorrected|corrected|corr|raw';
const BEHIND = 'wheel|wheels|engine|roller|hub|observed|measured|uncorrected|corrected|corr|raw';
const measured = (names: string): RegExp => new RegExp(`^((${BEFORE}) )*(${names})( (at )?(${BEHIND}))?$`);

/** Names, tried in this order: the first that fits decides. */
const NAMES: readonly (readonly [Quantity, RegExp])[] = [
  ['time', /^(time|t|elapsed|elapsed time|time stamp|timestamp|log time|zeit|temps|tiempo|tempo|tijd|tid)$/],
  ['rollerForce', /^((roller|tractive|drum|brake|wheel) )?force$|^tractive effort$/],
  ['rollerSpeed', /^(roller|drum|wheel) (speed|rpm|velocity)$/],
  ['engineSpeed', oneOf(SPEEDS)],
  ['vehicleSpeed', /^((vehicle|road|car|ground|gps) )?(speed|velocity)$|^vss$/],
  [
    'torque',
    measured('torque|tq|trq|moment|drehmoment|couple|par|par motor|coppia|koppel|vridmoment|dreiemoment'),
  ],
  ['power', measured(POWERS)],
  ['lambda', /^(lambda|λ|afr|a\/f|air ?(\/ ?)?fuel( ratio)?|wideband|wbo2|o2)( ?\d| bank \d)?$/],
  ['exhaustTemperature', /^(exhaust( gas)? temp(erature)?|egt)( ?\d)?$/],
  ['coolantTemperature', /^((engine )?coolant|water|engine)( temp(erature)?)$|^(ect|clt|coolant)$/],
  ['oilTemperature', /^(engine )?oil temp(erature)?$|^oil$/],
  ['intakeAirTemperature', /^(intake|inlet|charge|manifold)( air)? temp(erature)?$|^(iat|act|mat)$/],
  [
    'airTemperature',
    /^(ambient|air|cell|room|atmospheric)( air)? temp(erature)?$|^temp(erature)? (air|ambient)$/,
  ],
  [
    'barometer',
    /^(baro|barometer|barometric( pressure)?|ambient pressure|atmospheric pressure|air pressure)$/,
  ],
  [
    'humidity',
    /^((relative|air) )?humidity( share)?$|^rh$|^(relative )?(luft)?feuchte$|^humidit[eé]$|^humedad$|^umidit[aà]$/,
  ],
  ['manifoldPressure', /^(manifold|boost|intake|inlet|charge|map)( (absolute )?press(ure)?)?$/],
  ['massAirFlow', /^(mass )?air ?(mass )?flow$|^maf$|^air mass$/],
  ['fuelFlow', /^fuel ?(flow|rate|consumption|mass flow)$/],
  ['knockRetard', /^knock( retard| correction)?$/],
  ['ignitionAdvance', /^(ignition|spark|timing)( (advance|angle|timing))?$|^advance$/],
  ['throttle', new RegExp(`^(${THROTTLES})( (position|pos|angle|opening|pedal|plate))?$`)],
  ['gear', /^gear( position)?$/],
];

/** Units that a name brings with it. */
const UNIT_IN_NAME: readonly (readonly [RegExp, string])[] = [
  [/^krpm$/, 'krpm'],
  [/\brpm\b|^revs?$/, 'rpm'],
  [/^(afr|a\/f|air ?(\/ ?)?fuel)/, 'AFR'],
  [/^(lambda|λ)/, 'λ'],
  [/\b(whp|bhp|hp)\b/, 'hp'],
  [/\bkw\b/, 'kW'],
  [/\bps\b/, 'PS'],
];

export interface ColumnGuess {
  readonly header: string;
  readonly name: string;
  readonly quantity?: Quantity;
  readonly unit?: Unit;
  readonly gauge?: boolean;
  readonly unitText?: string;
  /** A unit that the name cannot have: the name is believed, the unit is not. */ readonly stray?: Unit;
}

// Header cells are scanned from their ends: a pattern with two hungry parts would take the square of their length.
/** A header without the marks around it, and no longer than a name can be. */
function cleaned(header: string): string {
  const around = '#" \t\r\n\u00a0\u202f';
  let [from, to] = [0, header.length];
  while (from < to && around.includes(header[from])) from += 1;
  while (to > from && around.slice(1).includes(header[to - 1])) to -= 1;
  return header.slice(from, Math.min(to, from + MAX_HEADER_CHARS)).trim();
}
const OPEN = '[({',
  CLOSE = '])}';
/** "Torque [N·m]": the name, and what stands in the last brackets at its end. */
function inBrackets(clean: string): { name: string; inside: string } | undefined {
  if (!CLOSE.includes(clean.at(-1) ?? ' ')) return undefined;
  let from = clean.length - 2;
  while (from >= 0 && !CLOSE.includes(clean[from]) && !OPEN.includes(clean[from])) from -= 1;
  if (from < 0 || !OPEN.includes(clean[from])) return undefined;
  // "Power ((kW": the outermost of brackets that follow each other opens.
  while (from > 0 && OPEN.includes(clean[from - 1])) from -= 1;
  let to = from;
  while (to > 0 && ' \t_'.includes(clean[to - 1])) to -= 1;
  return {
    name: clean.slice(0, to),
    inside: clean
      .slice(from + 1, -1)
      .replace(/[[({]/g, '')
      .trim(),
  };
}
const BETWEEN = ' \t_,/:-';
/** "Torque Nm", "power_kW", "speed km/h": a unit behind a name that is known by itself, from the longest such unit on. */
function lastWord(clean: string): { name: string; word: string; unit: WrittenUnit } | undefined {
  for (let from = 1; from < clean.length; from++) {
    if (!BETWEEN.includes(clean[from - 1]) || BETWEEN.includes(clean[from])) continue;
    const word = clean.slice(from);
    if (/[\s_,]/.test(word)) continue;
    const unit = readUnit(word);
    let to = from;
    while (to > 0 && BETWEEN.includes(clean[to - 1])) to -= 1;
    if (to > 0 && unit && quantityOf(clean.slice(0, to))) return { name: clean.slice(0, to), word, unit };
  }
  return undefined;
}

/** What a header cell (and the unit below it, if any) says. */
export function readHeader(header: string, unitBelow = ''): ColumnGuess {
  const clean = cleaned(header);
  const bracket = inBrackets(clean);
  let nameText = bracket ? bracket.name : clean;
  let unitText = unitBelow.trim().slice(0, MAX_HEADER_CHARS) || (bracket ? bracket.inside : '');
  let written = unitText ? readUnit(unitText) : undefined;
  if (!bracket && !unitBelow.trim()) {
    // "Torque Nm", "Power_kW", "Engine speed, rpm": the last word may be the unit.
    const tail = lastWord(clean);
    if (tail) {
      nameText = tail.name;
      unitText = tail.word;
      written = tail.unit;
    }
  }
  const name = normalised(nameText);
  const quantity = quantityOf(nameText) ?? quantityOf(clean);
  if (!written) {
    const implied = UNIT_IN_NAME.find(([pattern]) => pattern.test(name));
    if (implied) written = { unit: UNITS[implied[1]] };
  }
  // A unit of another dimension belongs to a name that was read wrongly; the name stands, the unit is asked for.
  const fits =
    written &&
    (!quantity ||
      DIMENSION_OF[quantity].includes(written.unit.dimension) ||
      (quantity === 'humidity' && written.unit.id === '%'));
  const gauge = written?.gauge ?? (quantity === 'manifoldPressure' && /^boost/.test(name) ? true : undefined);
  return {
    header: clean,
    name,
    ...(quantity ? { quantity } : {}),
    ...(written && fits ? { unit: written.unit } : {}),
    ...(written && !fits ? { stray: written.unit } : {}),
    ...(gauge === undefined ? {} : { gauge }),
    ...(unitText ? { unitText } : {}),
  };
}

const normalised = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[_\-.:]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
function quantityOf(text: string): Quantity | undefined {
  const name = normalised(text);
  return NAMES.find(([, pattern]) => pattern.test(name))?.[0];
}
