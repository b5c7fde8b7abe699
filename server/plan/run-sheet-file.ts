import Papa from 'papaparse';
import type { pulls } from './tables.ts';
import type { ArmRow } from './arms.ts';

/** The run sheet as CSV: a row a pull with what is to be written beside it on paper or in a spreadsheet. */
export function runSheetFile(
  sheet: readonly (typeof pulls.$inferSelect)[],
  arms: readonly ArmRow[],
  controls: readonly { quantity: string; target: number | null; tolerance: number; unit: string }[],
): string {
  const armName = new Map(arms.map((arm) => [arm.key, arm.label]));
  const fields = [
    'Position',
    'Pull',
    'Run',
    'Mounting',
    'Arm',
    'Counted',
    ...controls.map(
      (c) =>
        `${c.quantity} (${c.target === null ? 'equal in both arms' : c.target} ± ${c.tolerance} ${c.unit})`,
    ),
    'Air temperature °C',
    'Pressure hPa',
    'Humidity %',
    'File',
    'Note',
  ];
  const data = sheet.map((p) => [
    p.position,
    p.label,
    p.run,
    p.mount,
    armName.get(p.arm) ?? p.arm,
    p.counted ? 'yes' : 'no, warm-up',
    ...controls.map(() => ''),
    '',
    '',
    '',
    '',
    '',
  ]);
  return `\ufeff${Papa.unparse({ fields, data }, { newline: '\r\n', escapeFormulae: true })}\r\n`;
}
