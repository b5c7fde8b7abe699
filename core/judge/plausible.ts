/**
 * Is each pull what it is held to be? Copies, files that say otherwise of themselves, and pressures that the site
 * cannot have. Each is a finding; it fails where it would change a claim.
 */
import type { Standard } from '../base/standards.ts';
import type { AirReading } from '../capture/air-reading.ts';
import type { PullFile } from '../capture/pull-file.ts';
import { ISA, stationPressurePa } from '../correct/air.ts';
import type { Finding } from './gates.ts';

/** A counted pull with what its file and its record say. */
export interface HeldPull {
  readonly id: string;
  readonly arm: string;
  readonly mount: number | string;
  readonly file: PullFile;
  readonly air: AirReading | undefined;
  readonly applied: { readonly standard: Standard; readonly factor?: number | undefined } | undefined;
}
export interface NamedArm {
  readonly id: string;
  readonly label?: string | undefined;
}

const gate = 'plausible' as const;

// ── Copies ──────────────────────────────────────────────────────────────────

/** Consecutive samples alike to the last digit that no two recordings have by chance, and their share of the shorter one. */
const COPY = { run: 20, share: 0.3 };
/** Two recordings whose ratio is this constant are one, scaled; common practice, far below any pull-to-pull scatter. */
const CONSTANT_RATIO = { least: 5e-6, most: 4e-4 };

/** Longest run of samples that stand in both files one after the other, rpm and torque alike. */
function longestSharedRun(a: PullFile, b: PullFile): number {
  const key = (file: PullFile, i: number): string => `${file.rpm[i]}|${file.torqueNm[i]}`;
  const at = new Map<string, number>();
  for (let i = 0; i < a.rpm.length; i++) at.set(key(a, i), i);
  let longest = 0;
  let run = 0;
  let last = -2;
  for (let j = 0; j < b.rpm.length; j++) {
    const i = at.get(key(b, j));
    run = i === undefined ? 0 : i === last + 1 ? run + 1 : 1;
    last = i ?? -2;
    if (run > longest) longest = run;
  }
  return longest;
}

/** Smallest step between torque readings, N·m: how finely the file is written. */
function resolution(values: Float64Array): number {
  const sorted = Float64Array.from(values.subarray(0, 400)).sort();
  let least = Infinity;
  for (let i = 1; i < sorted.length; i++) {
    const step = sorted[i] - sorted[i - 1];
    if (step > 1e-9 && step < least) least = step;
  }
  return Number.isFinite(least) ? least : 0;
}

/** Whether one file is the other times a number: sample by sample at the same engine speeds, a constant ratio. */
function isScaled(a: PullFile, b: PullFile): boolean {
  if (a.rpm.length !== b.rpm.length) return false;
  let n = 0;
  let sum = 0;
  let squares = 0;
  let level = 0;
  for (let i = 0; i < a.rpm.length; i++) {
    if (a.rpm[i] !== b.rpm[i] || !(a.torqueNm[i] > 0) || !(b.torqueNm[i] > 0)) continue;
    const ratio = b.torqueNm[i] / a.torqueNm[i];
    n += 1;
    sum += ratio;
    squares += ratio * ratio;
    level += a.torqueNm[i];
  }
  if (n < 0.9 * a.rpm.length || n < COPY.run) return false;
  const mean = sum / n;
  const sd = Math.sqrt(Math.max(0, squares / n - mean * mean)) / mean;
  const written = (0.6 * resolution(a.torqueNm)) / (level / n);
  return sd < Math.min(CONSTANT_RATIO.most, Math.max(CONSTANT_RATIO.least, written));
}

/** Pulls that are one recording: the same samples, also under other air, trimmed, with a digit changed, or scaled. */
export function copies(pulls: readonly HeldPull[]): Finding[] {
  const findings: Finding[] = [];
  for (const [k, a] of pulls.entries()) {
    for (const b of pulls.slice(k + 1)) {
      const shared = longestSharedRun(a.file, b.file);
      const same = shared >= COPY.run && shared >= COPY.share * Math.min(a.file.samples, b.file.samples);
      if (!same && !isScaled(a.file, b.file)) continue;
      findings.push({
        gate,
        state: 'fail',
        code: same ? 'COPIED_SAMPLES' : 'SCALED_COPY',
        message: same
          ? `${a.id} and ${b.id} share ${shared} samples in a row to the last digit: they are one recording.`
          : `${b.id} is ${a.id} times a constant, sample by sample: they are one recording.`,
        why: 'A pull that stands twice makes the scatter look smaller than it is.',
        mend: `Attach the right file to ${b.id}, or exclude it with its cause.`,
      });
    }
  }
  return findings;
}

// ── What a file says of itself ──────────────────────────────────────────────

const SAYS_CORRECTED = /\b(corrected|corr|korrigiert|sae ?j?1349|sae ?j?607|din ?70020|iso ?1585|ece|jis)\b/i;
const SAYS_NOT = /\b(un-?corrected|not corrected|unkorrigiert|observed|raw|none|off|no)\b/i;
const CORRECTION_KEY = /correction|corrected|korrektur|standard/i;
const ARM_KEY = /^(arm|configuration|config|setup|set-up|variant|fitted|part|stage|run type)$/i;

/** Texts in a file that speak of correction: the header of the column used, and preamble lines about it. */
function correctionTexts(file: PullFile): string[] {
  const used = file.columns
    .filter((c) => c.quantity === file.torqueFrom || (c.quantity === 'power' && file.torqueFrom === 'power'))
    .map((c) => c.header);
  const preamble = Object.entries(file.metadata)
    .filter(([key]) => CORRECTION_KEY.test(key))
    .map(([key, value]) => `${key}: ${value}`);
  return [...used, ...preamble];
}

function saysOfCorrection({ id, file, applied }: HeldPull): Finding[] {
  const standard = applied?.standard ?? 'none';
  for (const text of correctionTexts(file)) {
    const value = text.includes(': ') ? text.slice(text.indexOf(': ') + 2) : text;
    const not = SAYS_NOT.test(value);
    const says = !not && SAYS_CORRECTED.test(value);
    if (says && standard === 'none' && applied?.factor === undefined)
      return [
        {
          gate,
          state: 'fail',
          code: 'SAYS_CORRECTED',
          message: `${id}: the file says “${text}”, but the dyno is held to apply no correction: it would be corrected twice.`,
          why: 'A figure corrected twice is wrong in both arms, and by different amounts.',
          mend: 'Export what was observed, or say in the register what this dyno applies.',
        },
      ];
    if (not && /un-?corrected|not corrected|unkorrigiert/i.test(value) && standard !== 'none')
      return [
        {
          gate,
          state: 'fail',
          code: 'SAYS_UNCORRECTED',
          message: `${id}: the file says “${text}”, but the dyno is held to apply a correction, which would be taken off what never had it.`,
          mend: 'Say in the register what this dyno applies.',
        },
      ];
  }
  return [];
}

const words = (text: string): string =>
  ` ${text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()} `;

/** A preamble line that names another arm of the test and not its own. */
function saysOfArm({ id, arm, file }: HeldPull, arms: readonly NamedArm[]): Finding[] {
  const namesOf = (a: NamedArm): string[] => [a.id, ...(a.label ? [a.label] : [])].map(words);
  const own = arms.filter((a) => a.id === arm).flatMap(namesOf);
  for (const [key, value] of Object.entries(file.metadata)) {
    if (!ARM_KEY.test(key.trim())) continue;
    const text = words(value);
    if (own.some((name) => text.includes(name))) continue;
    const other = arms.find((a) => a.id !== arm && namesOf(a).some((name) => text.includes(name)));
    if (other)
      return [
        {
          gate,
          state: 'fail',
          code: 'NAMES_OTHER_ARM',
          message: `${id}: the file says “${key}: ${value}”, but it stands for arm “${arms.find((a) => a.id === arm)?.label ?? arm}”.`,
          why: 'A pull of one arm counted for the other makes a gain of nothing, or hides one.',
          mend: 'Attach the file to the pull it was recorded for.',
        },
      ];
  }
  return [];
}

const DAY_MS = 86_400_000;
/** Pulls of one mounting that were recorded on different days, by what the files say. */
function days(pulls: readonly HeldPull[]): Finding[] {
  const dated = pulls.filter((p) => p.file.recorded);
  const findings: Finding[] = [];
  for (const mount of new Set(dated.map((p) => p.mount))) {
    const on = dated.filter((p) => p.mount === mount);
    const sorted = [...on].sort((a, b) => (a.file.recorded!.day < b.file.recorded!.day ? -1 : 1));
    const [first, last] = [sorted[0], sorted.at(-1)!];
    const apart = (Date.parse(last.file.recorded!.day) - Date.parse(first.file.recorded!.day)) / DAY_MS;
    if (apart < 1) continue;
    findings.push({
      gate,
      state: apart > 1 ? 'fail' : 'caution',
      code: 'RECORDED_ON_OTHER_DAY',
      message: `${first.id} says it was recorded on ${first.file.recorded!.day}, ${last.id} on ${last.file.recorded!.day}, and both are of one mounting.`,
      why: 'A pull of another day was made on another mounting, in another air.',
      mend: 'Attach the file of this session, or exclude the pull with its cause.',
    });
  }
  return findings;
}

// ── Air ─────────────────────────────────────────────────────────────────────

/** Weather moves the pressure of a place by less than this around its standard value (common practice: about ±40 hPa). */
const WEATHER_HPA = 45;

/** Pressure of the standard atmosphere at the site, hPa. */
const standardHpa = (heightM: number): number => stationPressurePa(ISA.pressurePa, heightM) / 100;

/** A station pressure that the registered height of the site cannot have: sea-level pressure entered as it came from a forecast. */
function pressures(pulls: readonly HeldPull[]): Finding[] {
  const odd = pulls.filter(({ air }) => {
    if (!air || air.pressureKind === 'sea level' || air.siteHeightM === undefined) return false;
    return Math.abs(air.pressureHpa - standardHpa(air.siteHeightM)) > WEATHER_HPA;
  });
  if (odd.length === 0) return [];
  const { air } = odd[0];
  return [
    {
      gate,
      state: 'fail',
      code: 'PRESSURE_NOT_OF_SITE',
      message: `${odd.map((p) => p.id).join(', ')}: ${air!.pressureHpa} hPa as station pressure; at ${air!.siteHeightM} m it is about ${Math.round(standardHpa(air!.siteHeightM!))} hPa.`,
      why: 'Sea-level pressure taken as station pressure makes the factor wrong by several per cent.',
      mend: 'Enter what the barometer on site reads, or say that it is sea-level pressure; check the height of the site.',
    },
  ];
}

/** Everything that is not as it is held to be; a single pass where nothing was found. */
export function plausibleFindings(pulls: readonly HeldPull[], arms: readonly NamedArm[]): Finding[] {
  const found = [
    ...copies(pulls),
    ...pulls.flatMap((pull) => [...saysOfCorrection(pull), ...saysOfArm(pull, arms)]),
    ...days(pulls),
    ...pressures(pulls),
  ];
  return found.length > 0
    ? found
    : [
        {
          gate,
          state: 'pass',
          code: 'PULLS_AS_HELD',
          message: 'No pull is a copy of another, and the files say nothing against what they stand for.',
        },
      ];
}
