/** What goes with a comparison out of the application: the conditions in words, and the curve as a table. */
import Papa from 'papaparse';
import type { TestDetail } from '../../contract/overview.ts';
import { confidencePct } from '../../core/base/rounding.ts';
import { correctionWords, type BoostedSchool, type Standard } from '../../core/base/standards.ts';
import type { Contrast } from '../../core/compare/result.ts';
import { day, number } from '../base/format.ts';

/** What of an analysis is printed with a drawing of it. */
export interface Printed {
  readonly number: number;
  readonly at: string;
  readonly softwareVersion: string;
  readonly policyVersion: string;
  readonly result: {
    readonly standard: Standard;
    readonly school?: BoostedSchool;
    readonly smoothingRpm: number;
    readonly confidence: number;
    readonly verdict: string;
    readonly grade: string;
  };
}

/** Enough to find the test again and to know what the drawing is of, and that it is no claim. */
export function conditionsOf(detail: TestDetail, contrast: Contrast, analysis: Printed): string[] {
  const { summary, plan } = detail;
  const { result } = analysis;
  const label = (key: string): string => detail.arms.find((a) => a.key === key)?.label ?? key;
  const when = detail.booking ? `, ${day(detail.booking.start)}` : '';
  return [
    `Test ${summary.number}: ${summary.title}. ${summary.fitment}, vehicle ${summary.vehicle}, ${summary.dyno}${when}.`,
    `${label(contrast.arm)} (${contrast.pulls.arm} pulls) over ${label(contrast.against)} ` +
      `(${contrast.pulls.against} pulls), ${contrast.design}, gear ${plan.gear}, ${plan.fuel}. At the wheels, ` +
      `${correctionWords(result.standard, result.school)}, smoothed over ${number(result.smoothingRpm, 0)} rpm.`,
    `Band: ${confidencePct(result.confidence)} % simultaneous, ${contrast.rule}, ` +
      `critical value ${number(contrast.criticalValue, 2)}, ${number(contrast.df, 1)} degrees of freedom.`,
    `Verdict: ${result.verdict}, grade ${result.grade}. Analysis ${analysis.number} of ${day(analysis.at)}, ` +
      `software ${analysis.softwareVersion}, policy ${analysis.policyVersion}. ` +
      'A drawing of a comparison, not a claim: claims are published with their evidence.',
  ];
}

/** Every point of the curve in SI units. */
const curveRows = ({ relative, power, torque }: Contrast) =>
  relative.curve.map((p, j) => ({
    rpm: p.rpm,
    'gain, %': p.gain,
    'lower, %': p.lower,
    'upper, %': p.upper,
    'baseline, kW': power.curve[j].against,
    'arm, kW': power.curve[j].arm,
    'gain, kW': power.curve[j].gain,
    'lower, kW': power.curve[j].lower,
    'upper, kW': power.curve[j].upper,
    'baseline, N·m': torque.curve[j].against,
    'arm, N·m': torque.curve[j].arm,
    'gain, N·m': torque.curve[j].gain,
    'lower, N·m': torque.curve[j].lower,
    'upper, N·m': torque.curve[j].upper,
  }));

/** As a file: numbers as they are; the conditions stand above them, marked by #. */
export const curveFile = (contrast: Contrast, conditions: readonly string[]): string =>
  [
    ...conditions.map((line) => `# ${line.replace(/\s+/g, ' ')}`),
    Papa.unparse(curveRows(contrast), { newline: '\r\n' }),
  ].join('\r\n');

/** For a clipboard: tabs between, as a spreadsheet takes it. */
export const curveText = (contrast: Contrast): string =>
  Papa.unparse(curveRows(contrast), { delimiter: '\t', newline: '\n' });
