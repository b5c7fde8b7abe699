/**
 * Was the baseline what it is held to be: by the vehicle’s ledger as it stood on the day of the pulls, by what was renewed
 * beside the part, and by the other baselines of the fitment. What was on the car outranks what the plan says.
 */
import { median } from '../../base/robust.ts';
import type { Deviation, Difference, ServiceItem, StockAnswer } from '../../register/ledger.ts';
import type { PartCategory } from '../../register/parts.ts';
import { found, type Found } from '../finding.ts';

const gate = 'true baseline' as const;
/** Per cent by which a baseline may lie off the fitment’s others: pass up to the first, caution up to the second. */
const NEAR = 5;
const FAR = 8;
/** What a part renews by being fitted. */
const RENEWS: Readonly<Partial<Record<PartCategory, readonly ServiceItem[]>>> = { intake: ['air filter'] };

export interface BaselineFacts {
  /** The baseline as the plan names it, and as the ledger has it on the day: “stock”, or what is not. */
  readonly planned: string;
  readonly onDay: string;
  readonly stock: Pick<StockAnswer, 'worn' | 'notRecorded'>;
  /** Each part arm: what it differs by, as planned and by the ledger of the day. */
  readonly arms: readonly {
    readonly key: string;
    readonly label: string;
    readonly planned: readonly Difference[];
    readonly onDay: readonly Difference[];
    readonly categories: readonly PartCategory[];
    /** Written down at the dyno as renewed beside the part. */ readonly renewed: readonly string[];
  }[];
  /** Baselines of other tests on the fitment: this one over theirs, per cent. */
  readonly others: readonly { readonly pct: number; readonly sameDyno: boolean }[];
}

/** @param arm the part arm that is asked about */
export function trueBaselineGate(facts: BaselineFacts, arm: string): Found[] {
  const own = facts.arms.find((a) => a.key === arm);
  const findings = [
    ...(facts.onDay !== facts.planned
      ? [found(gate, 'fail', 'BASELINE_OTHER_THAN_PLANNED', facts.planned, facts.onDay)]
      : []),
    ...(own ? changedSince(own) : []),
    ...wornFindings(facts.stock.worn, own),
    ...offOthers(facts.others),
  ];
  if (findings.length > 0) return findings;
  const { notRecorded } = facts.stock;
  return notRecorded.length > 0
    ? [found(gate, 'caution', 'BASELINE_NOT_RECORDED', texts(notRecorded))]
    : [found(gate, 'pass', 'BASELINE_AS_PLANNED', facts.planned, facts.others.length)];
}

type Arm = BaselineFacts['arms'][number];
const inWords = (differences: readonly Difference[]): string =>
  differences.map(({ subject, from, to }) => `${subject}: ${from} to ${to}`).join('; ');
const texts = (deviations: readonly Deviation[]): string => deviations.map((d) => d.text).join('; ');

function changedSince({ label, planned, onDay }: Arm): Found[] {
  const [was, is] = [inWords(planned), inWords(onDay)];
  return was === is ? [] : [found(gate, 'fail', 'ARM_OTHER_THAN_PLANNED', label, was, is)];
}

/** A worn item on the baseline that the part renews is credited to the part. */
function wornFindings(worn: readonly Deviation[], arm: Arm | undefined): Found[] {
  const isRenewed = ({ subject }: Deviation): boolean =>
    arm !== undefined &&
    (arm.categories.some((c) => RENEWS[c]?.some((item) => item === subject)) ||
      arm.renewed.some((text) => text.toLowerCase().includes(subject.toLowerCase())));
  const credited = worn.filter(isRenewed);
  if (credited.length > 0) return [found(gate, 'fail', 'WORN_AND_RENEWED', texts(credited))];
  return worn.length > 0 ? [found(gate, 'caution', 'BASELINE_WORN', texts(worn))] : [];
}

/**
 * Dynos differ among themselves: others on this one decide, those on another only make one look. Nor does a single other
 * one decide, nor several that disagree: which of them is wrong is not known.
 */
function offOthers(others: BaselineFacts['others']): Found[] {
  const here = others.filter((o) => o.sameDyno);
  const held = here.length > 0 ? here : others;
  if (held.length === 0) return [];
  const off = median(held.map((o) => o.pct));
  if (Math.abs(off) <= NEAR) return [];
  const agree = here.length > 1 && here.every((o) => Math.abs(o.pct - off) <= NEAR);
  const state = Math.abs(off) > FAR && agree ? 'fail' : 'caution';
  return [found(gate, state, 'BASELINE_OFF_OTHERS', off, held.length, here.length > 0)];
}
