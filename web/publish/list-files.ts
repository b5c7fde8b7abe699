/** Lists as files for a spreadsheet: SI units, numbers as they are, one row a record. */
import Papa from 'papaparse';
import type { TestSummary } from '../../contract/overview.ts';
import type { Claim } from '../../contract/publish/claim.ts';

/** A cell that a spreadsheet could take for a formula is a text. */
const safe = (value: string | number | null): string | number | null =>
  typeof value === 'string' && /^[=+\-@\t\r]/.test(value) ? `'${value}` : value;
const csv = (rows: readonly Record<string, string | number | null>[]): string =>
  Papa.unparse(
    rows.map((row) => Object.fromEntries(Object.entries(row).map(([name, value]) => [name, safe(value)]))),
    { newline: '\r\n' },
  );

export const testsFile = (tests: readonly TestSummary[]): string =>
  csv(
    tests.map((t) => ({
      No: t.number,
      Test: t.title,
      Fitment: t.fitment,
      Vehicle: t.vehicle,
      Dyno: t.dyno,
      Protocol: t.protocol,
      Locked: t.lockedAt,
      Amendments: t.amendments,
      'Pulls captured': t.pullsCaptured,
      'Pulls planned': t.pullsCounted,
      'Gain up to, kW at the wheels': t.upToKw,
      'at rpm': t.upToRpm,
      'Average over the rpm range, %': t.bandAveragePct?.gain ?? null,
      'Average from, %': t.bandAveragePct?.lower ?? null,
      'Average to, %': t.bandAveragePct?.upper ?? null,
      Verdict: t.verdict,
      Grade: t.grade,
      Claim: t.claimState,
    })),
  );
export const claimsFile = (claims: readonly Claim[]): string =>
  csv(
    claims.map((c) => ({
      Code: c.code,
      State: c.state,
      Claim: c.wording,
      'What was tested': c.subject,
      Fitment: c.fitment,
      Value: c.value,
      Unit: c.unit,
      'The value is': c.tells === 'gain' ? c.says : null,
      From: c.interval?.lower ?? null,
      To: c.interval?.upper ?? null,
      'at rpm': c.rpm,
      Grade: c.grade,
      Conditions: c.conditions.join('; '),
      'Told with it': c.disclosures.join('; '),
      'Drafted by': c.author.name,
      Drafted: c.draftedAt,
      'Reviewed by': c.reviewer?.name ?? null,
      Published: c.publishedAt,
    })),
  );
