/**
 * Which words name which quantity, in English, German, French, Spanish, Italian, Dutch and the Scandinavian languages.
 * Words are compared folded (without case, accents and small words, in any order), so “Température de l'air d'admission”
 * and “admission air temp.” are one. Common practice; gathered from dictionaries of the trade, from memory.
 */
import type { Quantity } from '../base/quantities.ts';

/** Each line: `quantity: phrase, phrase, …`. A phrase may stand under several quantities: its unit then decides. */
const WORDS: Record<Quantity, readonly string[]> = {
  time: [
    'time, t, elapsed, elapsed time, time stamp, timestamp, log time, run time, clock',
    'zeit, messzeit, zeitstempel, laufzeit, uhrzeit',
    'temps, temps ecoule, heure, horodatage, tiempo, tiempo transcurrido, hora, tempo, tempo trascorso, ora',
    'tijd, tijdstip, verstreken tijd, tid, tidpunkt, tidspunkt, tidsstempel, forlobt tid',
  ],
  rollerForce: [
    'force, f, roller force, tractive force, drum force, brake force, wheel force, tractive effort',
    'kraft, zugkraft, rollenkraft, bremskraft, umfangskraft, effort traction, force traction, force rouleau',
    'fuerza, fuerza traccion, fuerza rodillo, forza, forza trazione, forza rullo, kracht, trekkracht, rolkracht',
    'dragkraft, traekkraft, trekkraft, rullekraft, rullkraft',
  ],
  rollerSpeed: [
    'roller speed, roller rpm, roller velocity, drum speed, drum rpm, drum velocity, wheel speed, wheel rpm, wheel velocity',
    'rollendrehzahl, rollengeschwindigkeit, raddrehzahl, radgeschwindigkeit',
    'vitesse rouleau, vitesse rouleaux, vitesse roue, vitesse roues, regime rouleau, regime rouleaux',
    'velocidad rodillo, velocidad rodillos, velocidad rueda, velocita rullo, velocita rulli, velocita ruota, giri rullo',
    'rolsnelheid, roltoerental, wielsnelheid, rullhastighet, rullvarvtal, rullehastighed, rulleomdrejninger',
    'rullehastighet, rulleturtall',
  ],
  vehicleSpeed: [
    'speed, velocity, vehicle speed, road speed, car speed, ground speed, gps speed, vehicle velocity, vss, v',
    'geschwindigkeit, fahrzeuggeschwindigkeit, fahrgeschwindigkeit, vitesse, vitesse vehicule, velocidad',
    'velocidad vehiculo, velocidad coche, velocita, velocita veicolo, velocita vettura, tempo',
    'snelheid, voertuigsnelheid, rijsnelheid, hastighet, fordonshastighet, hastighed, koretojshastighed',
    'bilhastighed, kjoretoyhastighet, bilens hastighet',
  ],
  engineSpeed: [
    'rpm, krpm, engine speed, engine rpm, engine revs, eng speed, eng spd, engine spd, eng rpm, motor speed, motor rpm',
    'crank speed, crankshaft speed, tach, tacho, tachometer, revs, rev, engine, n mot, nmot, n motor',
    'drehzahl, motordrehzahl, kurbelwellendrehzahl, umdrehungen, umdrehungszahl',
    'regime, regime moteur, vitesse moteur, vitesse rotation, vitesse rotation moteur, tours, tours moteur, rpm moteur',
    'regimen, regimen motor, revoluciones, revoluciones motor, velocidad motor, vueltas, vueltas motor, giro motor',
    'giri, giri motore, regime motore, numero giri, velocita motore, velocita rotazione',
    'toerental, motortoerental, toeren, motortoeren, varvtal, motorvarvtal, varv, motorvarv',
    'omdrejningstal, motoromdrejningstal, omdrejninger, motoromdrejninger',
    'turtall, motorturtall, omdreininger, motoromdreininger',
    // Words of speed in general: only where the unit is one of rotation.
    'speed, geschwindigkeit, vitesse, velocidad, velocita, snelheid, hastighet, hastighed, n, ω, omega',
  ],
  torque: [
    'torque, tq, trq, moment, motor torque, drehmoment, motordrehmoment, raddrehmoment, motormoment, radmoment, md',
    'couple, couple moteur, par, par motor, par rueda, coppia, coppia motrice, coppia motore, coppia ruota',
    'koppel, motorkoppel, wielkoppel, draaimoment, vridmoment, motorvridmoment, hjulvridmoment',
    'drejningsmoment, motordrejningsmoment, dreiemoment, motordreiemoment, hjulmoment, m, t, newtonmeter',
  ],
  power: [
    'power, pwr, hp, bhp, whp, horsepower, leistung, motorleistung, radleistung, puissance, puissance moteur',
    'puissance roue, potencia, potencia motor, potencia rueda, potenza, potenza motore, potenza ruota, cavalli',
    'vermogen, motorvermogen, wielvermogen, effekt, motoreffekt, hjuleffekt, ydelse, motorydelse, ytelse, motorytelse',
    'effect, kw, ps, p, chevaux, caballos, hastkrafter, hestekrefter, hestekraefter, pk, cv, ch, hk',
  ],
  lambda: [
    'lambda, λ, afr, air fuel, air fuel ratio, airfuel, airfuel ratio, wideband, wideband lambda, wideband afr, wbo2, o2',
    'lambdawert, luftzahl, luftverhaltnis, luft kraftstoff verhaltnis, rapport air carburant, sonde lambda',
    'relacion aire combustible, sonda lambda, rapporto aria carburante, lucht brandstof verhouding, lambdavarde',
    'luft bransle forhallande, lambdaverdi, lambdavaerdi, luft braendstof forhold, luft drivstoff forhold',
  ],
  exhaustTemperature: [
    'exhaust temp, exhaust gas temp, egt, abgastemp, abgas temp, temp echappement, temp gaz echappement',
    'temp escape, temp gases escape, temp scarico, temp gas scarico, uitlaatgastemp, uitlaattemp, avgastemp',
    'udstodningstemp, udstodningsgastemp, avgasstemp, eksostemp',
  ],
  inletPressure: [
    'pre throttle pressure, pressure before throttle, throttle inlet pressure, pre compressor pressure, compressor inlet pressure',
    'pressure before compressor, airbox pressure, air box pressure, intake duct pressure, post filter pressure',
    'druck vor drosselklappe, druck vor verdichter, verdichtereintrittsdruck, luftfilterdruck, pression avant papillon',
    'pression avant compresseur, pression boite air, presion antes mariposa, presion antes compresor',
    'pressione prima farfalla, pressione ingresso compressore, druk voor gasklep, druk voor compressor',
    'tryck fore spjall, tryck fore kompressor, tryk for spjaeld, tryk for kompressor, trykk foran spjeld',
  ],
  chargePressure: [
    'pre intercooler pressure, pressure before intercooler, intercooler inlet pressure, charge air cooler inlet pressure',
    'compressor outlet pressure, compressor discharge pressure, pressure after compressor, druck vor ladeluftkuhler',
    'verdichteraustrittsdruck, druck nach verdichter, pression avant echangeur, pression sortie compresseur',
    'presion antes intercooler, presion salida compresor, pressione prima intercooler, pressione uscita compressore',
    'druk voor intercooler, druk na compressor, tryck fore intercooler, tryk for intercooler, trykk foran intercooler',
  ],
  chargeTemperature: [
    'pre intercooler temp, temp before intercooler, intercooler inlet temp, charge air cooler inlet temp',
    'compressor outlet temp, compressor discharge temp, temp after compressor, temp vor ladeluftkuhler',
    'verdichteraustrittstemp, temp nach verdichter, temp avant echangeur, temp sortie compresseur',
    'temp antes intercooler, temp salida compresor, temp prima intercooler, temp uscita compressore',
    'temp voor intercooler, temp na compressor, temp fore intercooler, temp for intercooler, temp foran intercooler',
  ],
  exhaustPressure: [
    'exhaust pressure, exhaust back pressure, exhaust backpressure, back pressure, backpressure, ebp, emap',
    'exhaust manifold pressure, turbine inlet pressure, pre turbine pressure, abgasgegendruck, abgasdruck',
    'druck vor turbine, contre pression echappement, pression echappement, pression avant turbine',
    'contrapresion escape, presion escape, contropressione scarico, pressione scarico, uitlaattegendruck',
    'tegendruk uitlaat, uitlaatdruk, avgasmottryck, avgastryck, udstodningsmodtryk, avgassmottrykk, eksosmottrykk',
  ],
  superchargerSpeed: [
    'supercharger speed, supercharger rpm, blower speed, blower rpm, supercharger drive speed, supercharger head speed',
    'laderdrehzahl, kompressordrehzahl, vitesse compresseur, regime compresseur, velocidad compresor',
    'velocita compressore, giri compressore, compressortoerental, kompressorvarvtal, kompressoromdrejninger',
    'kompressorturtall',
  ],
  coolantTemperature: [
    'coolant, coolant temp, engine coolant temp, water temp, engine temp, ect, clt, kuhlmitteltemp, kuhlwassertemp',
    'wassertemp, motortemp, temp eau, temp liquide refroidissement, temp moteur, temp refrigerante, temp agua, temp motor',
    'temp acqua, temp liquido raffreddamento, temp motore, koelvloeistoftemp, koelwatertemp, watertemp',
    'kylvattentemp, kylvatsketemp, kylvatsketemp, vattentemp, kolevandstemp, kolevaesketemp, vandtemp',
    'kjolevannstemp, kjolevaesketemp, vanntemp',
  ],
  oilTemperature: [
    'oil, oil temp, engine oil temp, oltemp, oeltemp, motoroltemp, temp huile, temp aceite, temp olio',
    'olietemp, motorolietemp, oljetemp, motoroljetemp',
  ],
  intakeAirTemperature: [
    'intake manifold temp, inlet manifold temp, post intercooler temp, charge air cooler outlet temp',
    'intake temp, inlet temp, charge temp, manifold temp, intake air temp, inlet air temp, charge air temp',
    'manifold air temp, iat, act, mat, ansauglufttemp, ansaugtemp, ladelufttemp, saugrohrtemp',
    'temp admission, temp air admission, temp air suralimentation, temp admision, temp aire admision',
    'temp aspirazione, temp aria aspirata, temp aria aspirazione, inlaatluchttemp, inlaattemp, laadluchttemp',
    'insugstemp, insugsluftens temp, insugslufttemp, laddluftstemp, laddlufttemp, indsugningstemp',
    'indsugningslufttemp, innsugstemp, innsugslufttemp, inntakstemp',
  ],
  airTemperature: [
    'ambient temp, ambient air temp, air temp, cell temp, room temp, atmospheric temp, outside temp',
    'umgebungstemp, lufttemp, aussentemp, raumtemp, hallentemp, zellentemp, temp ambiante, temp air, temp exterieure',
    'temp ambiente, temp aire, temp exterior, temp aria, temp esterna, omgevingstemp, luchttemp, buitentemp',
    'omgivningstemp, rumstemp, omgivelsestemp, rumtemp, romtemp',
  ],
  barometer: [
    'baro, barometer, barometric, barometric pressure, ambient pressure, atmospheric pressure, air pressure',
    'luftdruck, umgebungsdruck, barometerstand, atmospharendruck, pression atmospherique, pression ambiante',
    'pression barometrique, barometre, presion atmosferica, presion ambiente, presion barometrica, barometro',
    'pressione atmosferica, pressione ambiente, pressione barometrica, luchtdruk, omgevingsdruk, barometerdruk',
    'lufttryck, atmosfarstryck, omgivningstryck, lufttryk, atmosfaeretryk, barometertryk, lufttrykk, barometertrykk',
  ],
  humidity: [
    'humidity, relative humidity, air humidity, humidity share, rh, feuchte, relative feuchte, luftfeuchte, luftfeuchtigkeit',
    'relative luftfeuchte, relative luftfeuchtigkeit, feuchtigkeit, humidite, humidite relative, humidite air',
    'humedad, humedad relativa, umidita, umidita relativa, luchtvochtigheid, relatieve luchtvochtigheid',
    'vochtigheid, relatieve vochtigheid, luftfuktighet, relativ luftfuktighet, fuktighet, relativ fuktighet',
    'luftfugtighed, relativ luftfugtighed, fugtighed, relativ fugtighed',
  ],
  manifoldPressure: [
    'manifold, boost, intake, inlet, charge, map, manifold pressure, boost pressure, intake pressure, inlet pressure',
    'intake manifold pressure, intake manifold absolute pressure, inlet manifold pressure, charge air pressure, turbo pressure',
    'charge pressure, map pressure, manifold absolute pressure, manifold press, boost press, intake press',
    'ladedruck, saugrohrdruck, pression admission, pression suralimentation, pression turbo, pression collecteur',
    'presion admision, presion turbo, presion soplado, presion colector, pressione aspirazione, pressione turbo',
    'pressione collettore, pressione sovralimentazione, laaddruk, turbodruk, inlaatdruk, laddtryck, insugstryck',
    'insugningstryck, ladetryk, indsugningstryk, ladetrykk, innsugstrykk',
  ],
  massAirFlow: [
    'air flow rate, mass air flow rate, air mass flow rate, mass flow air, intake air flow',
    'air flow, airflow, mass air flow, mass airflow, air mass flow, maf, air mass, luftmasse, luftmassenstrom',
    'luftmassendurchsatz, luftdurchsatz, debit air, debit massique air, caudal aire, flujo aire, masa aire',
    'caudal masico aire, portata aria, flusso aria, massa aria, luchtmassa, luchtmassastroom, luchtstroom',
    'luftmassa, luftflode, luftmassflode, luftflow, luftmaengde, luftmengde, luftstrom',
  ],
  fuelFlow: [
    'fuel flow rate, fuel mass flow rate, engine fuel rate',
    'fuel flow, fuelflow, fuel rate, fuel consumption, fuel mass flow, kraftstoffverbrauch, kraftstoffdurchsatz',
    'kraftstoffmassenstrom, verbrauch, debit carburant, consommation, consommation carburant, caudal combustible',
    'consumo, consumo combustible, portata carburante, consumo carburante, brandstofverbruik, brandstofstroom',
    'verbruik, bransleflode, bransleforbrukning, braendstofflow, braendstofforbrug, forbrug, drivstofforbruk',
    'drivstoffstrom, forbruk',
  ],
  knockRetard: [
    'knock, knock retard, knock correction, klopfregelung, klopfrucknahme, klopfruckstellung, zundwinkelrucknahme',
    'retard cliquetis, correction cliquetis, retrait cliquetis, retardo picado, correccion picado, retraso detonacion',
    'ritardo detonazione, correzione detonazione, klopregeling, klopterugname, klopcorrectie, knackreglering',
    'knackretard, bankeregulering, bankeretard',
  ],
  ignitionAdvance: [
    'ignition timing advance, spark timing advance, timing advance angle',
    'ignition, spark, timing, ignition advance, spark advance, timing advance, ignition angle, spark angle',
    'ignition timing, spark timing, timing angle, advance, zundwinkel, zundzeitpunkt, vorzundung, zundung',
    'avance, avance allumage, allumage, avance encendido, encendido, anticipo, anticipo accensione, accensione',
    'ontsteking, ontstekingstijdstip, voorontsteking, tandning, tandvinkel, tandlage, tandtidpunkt',
    'taending, taendingsvinkel, taendingstidspunkt, tenning, tenningsvinkel, tenningstidspunkt',
  ],
  throttle: [
    'throttle valve, throttle valve position, absolute throttle position, relative throttle position, throttle body',
    'throttle, tps, pedal, accelerator, app, throttle position, throttle pos, throttle angle, throttle opening',
    'throttle plate, throttle pedal, pedal position, pedal pos, accelerator position, accelerator pedal',
    'accelerator pedal position, tps position, drosselklappe, drosselklappenstellung, drosselklappenwinkel',
    'gaspedal, gaspedalstellung, fahrpedal, pedalwert, pedalstellung, papillon, position papillon, ouverture papillon',
    'pedale, position pedale, accelerateur, position accelerateur, acelerador, mariposa, posicion mariposa',
    'posicion acelerador, posicion pedal, apertura mariposa, farfalla, posizione farfalla, apertura farfalla',
    'acceleratore, posizione acceleratore, posizione pedale, gasklep, gasklepstand, gaspedaal, gaspedaalstand',
    'spjall, spjallvinkel, trottel, gaspadrag, gasspjaeld, spjaeldvinkel, speeder, gass, gasspjeld, spjeldvinkel, gasspedal',
  ],
  gear: [
    'gear, gear position, gang, ganganzeige, eingelegter gang, rapport, rapport engage, vitesse engagee',
    'marcha, marcha engranada, marcia, marcia inserita, versnelling, vaxel, gir',
  ],
};
/** Names of one letter say something only together with their unit; “t” alone is time all the same. */
const SYMBOLS = new Set([
  'n',
  'ω',
  'omega',
  'm',
  't',
  'p',
  'v',
  'md',
  'f',
  'tempo',
  'ch',
  'verbrauch',
  'consumo',
]);

/** Small words that tell nothing, in all of these languages. */
const FILLERS = new Set(
  (
    'de du des d l la le les del dell della dei di el los las il lo van het der die das den an am av af of the ' +
    'at a al alla aux en et i'
  ).split(' '),
);
/** Where, how and in which state something was measured: left out when the whole phrase is not known. */
const QUALIFIERS = new Set(
  (
    'engine wheel wheels roller brake hub shaft measured observed uncorrected corrected corr raw smoothed filtered actual ' +
    'motor rad gemessen korrigiert korr ist istwert geglattet moteur roue roues mesure mesuree corrige corrigee brut brute ' +
    'rueda medido medida corregido corregida ruota ruote motore misurato misurata corretto corretta wiel gemeten gecorrigeerd ' +
    'hjul uppmatt korrigerad malt korrigeret korrigert bank cyl cylinder sensor channel kanal ch canal canale kanaal'
  ).split(' '),
);
/** What is named beside these is a wish, a bound or a loss, not the reading itself. */
const NOT_A_READING = new Set(
  (
    'target requested request demand demanded desired setpoint set point commanded command limit limiter max maximum min minimum ' +
    'peak loss losses drag friction error deviation difference diff delta factor gradient ratio average mean ' +
    'soll sollwert wunsch ziel grenze verlust verlustleistung verlustmoment schleppleistung schleppmoment reibung reibmoment ' +
    'solldrehmoment wunschmoment sollmoment sollwert fehler abweichung faktor mittelwert ' +
    'consigne cible demande demandee perte pertes ecart moyenne objetivo deseado perdida perdidas limite error ' +
    'obiettivo richiesto richiesta perdita perdite gewenst doel verlies verliezen wrijving borvarde mal tap forlust tab onske'
  ).split(' '),
);
/** What turns beside the engine: a speed of theirs in rpm is not the engine's. */
const TURNS_TOO = new Set(
  (
    'roller drum wheel wheels turbo turbine compressor supercharger fan pump cam camshaft shaft output gearbox driveshaft propshaft ' +
    'brake retarder alternator rolle rollen rad lader geblase lufter nockenwelle pumpe abtrieb getriebe rouleau rouleaux roue ' +
    'ventilateur arbre rodillo rueda ventilador rullo ruota ventola rol wiel waaier rull rulle hjul flakt ventilator kompressor'
  ).split(' '),
);

/** Without case and accents, words parted: “EngineSpeed_RPM” is “engine speed rpm”. */
export function foldedName(text: string): string {
  return text
    .replace(/([a-z]{2})(?=[A-Z][a-z])/g, '$1 ')
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/ß/g, 'ss')
    .replace(/ø/g, 'o')
    .replace(/\ba\s*\/\s*f\b/g, 'afr')
    .replace(/æ/g, 'ae')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
}
const temps = (word: string): string => word.replace(/temp(?:erature|eratura|eratur|eratuur)?$/, 'temp');
/** “Kühl…”, “Kuehl…” and “Kuhl…” are one word. */
const plainVowels = (word: string): string => word.replace(/([aou])e/g, '$1');
const wordsOf = (folded: string): string[] =>
  folded
    .split(' ')
    .filter((word) => word !== '' && !FILLERS.has(word))
    .map(temps);
const keyOf = (words: readonly string[]): string => words.map(plainVowels).sort().join(' ');

const BY_PHRASE = new Map<string, Quantity[]>();
for (const [quantity, lines] of Object.entries(WORDS) as [Quantity, readonly string[]][])
  for (const phrase of lines.flatMap((line) => line.split(', '))) {
    const key = keyOf(phrase.length <= 2 ? [phrase] : wordsOf(foldedName(phrase)));
    const known = BY_PHRASE.get(key) ?? [];
    if (!known.includes(quantity)) BY_PHRASE.set(key, [...known, quantity]);
  }

const isNumber = (word: string): boolean => /^\d{1,2}$/.test(word);

/** What a name may mean, the most usual first; `sure` where it says so without its unit. */
export interface NameMeaning {
  readonly quantities: readonly Quantity[];
  readonly sure: boolean;
  /** A pedal where a throttle is meant: used when nothing better is there. */
  readonly standsIn: boolean;
}
/** The pedal says what the driver asks for; the throttle what the engine got. */
const PEDAL = /pedal|accel|acelerador|pedaal|padrag|speeder|\bapp\b/;

/** What a column name means, or undefined when no language here knows it. */
export function meaningOf(name: string): NameMeaning | undefined {
  const folded = foldedName(name);
  if (folded === '') return undefined;
  const whole = wordsOf(folded);
  // A name that is one small word is that word: “A”, “l”, “t”.
  const tried = whole.length > 0 ? whole : [folded];
  const exact = BY_PHRASE.get(keyOf(tried));
  if (exact)
    return {
      quantities: exact,
      sure: !tried.every((w) => SYMBOLS.has(w)) || folded === 't',
      standsIn: PEDAL.test(folded),
    };
  if (tried.some((word) => NOT_A_READING.has(word))) return undefined;
  const bare = tried.filter((word) => !isNumber(word));
  for (const words of [bare, bare.filter((word) => !QUALIFIERS.has(word))]) {
    if (words.length === 0 || words.length === tried.length) continue;
    const found = BY_PHRASE.get(keyOf(words));
    if (found)
      return {
        quantities: found,
        sure: !words.every((w) => SYMBOLS.has(w)),
        standsIn: PEDAL.test(folded),
      };
  }
  return undefined;
}

/** Whether an unknown name can be that of the reading its unit stands for. */
export function mayBeReading(name: string, dimension: 'rotation' | 'other'): boolean {
  const words = wordsOf(foldedName(name));
  return !words.some((word) => NOT_A_READING.has(word) || (dimension === 'rotation' && TURNS_TOO.has(word)));
}
