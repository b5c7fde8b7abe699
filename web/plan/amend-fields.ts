/** What of a locked plan can be amended in its dialog, and the fields that ask for it. */
import { METRIC_NAMES, METRICS } from '../../core/plan/metrics.ts';
import { STANDARD_NAMES, STANDARDS } from '../../core/base/standards.ts';
import type { AmendDraft } from '../../contract/plan/test.ts';
import type { TestDetail } from '../../contract/overview.ts';
import type { FieldSpec } from '../base/record-fields.tsx';
import type { Field_ } from './amend-words.ts';

/** The dialog's values: what is changed, the reason, and every value that could be. */
export interface AmendForm {
  field: Field_;
  reason: string;
  changes: Required<Pick<AmendDraft['changes'], Field_>>;
}
export const formOf = ({ plan, arms, question }: TestDetail): AmendForm => ({
  field: 'coolDownMinutes',
  reason: '',
  changes: {
    coolDownMinutes: plan.coolDownMinutes,
    gear: plan.gear,
    fuel: plan.fuel,
    question,
    metrics: [...plan.metrics],
    band: { ...plan.band },
    standard: plan.standard,
    addedRun: { arm: arms[0].key, newMount: false },
  },
});
/** Only what is named is changed. */
export const draftOf = ({ field, reason, changes }: AmendForm): AmendDraft => ({
  reason,
  changes: { [field]: changes[field] },
});

/** Metrics are several of a few; they are asked for by the dialog itself. */
export function fieldsFor(
  field: Exclude<Field_, 'metrics'>,
  { plan, arms }: TestDetail,
): FieldSpec<string>[] {
  const rpm = (name: 'fromRpm' | 'toRpm' | 'stepRpm', label: string): FieldSpec<string> => ({
    name: `changes.band.${name}`,
    label,
    kind: 'number',
    span: 4,
  });
  switch (field) {
    case 'coolDownMinutes':
      return [{ name: 'changes.coolDownMinutes', label: 'Cool-down, min', kind: 'number', span: 12 }];
    case 'gear':
      return [{ name: 'changes.gear', label: 'Gear', kind: 'text', span: 12 }];
    case 'fuel':
      return [{ name: 'changes.fuel', label: 'Fuel', kind: 'text', span: 12 }];
    case 'question':
      return [{ name: 'changes.question', label: 'Question', kind: 'area', span: 12 }];
    case 'standard':
      return [
        {
          name: 'changes.standard',
          label: 'Standard',
          kind: 'select',
          span: 12,
          options: STANDARDS.map((s) => ({ value: s, label: STANDARD_NAMES[s] })),
        },
      ];
    case 'band':
      return [rpm('fromRpm', 'From, rpm'), rpm('toRpm', 'To, rpm'), rpm('stepRpm', 'Every, rpm')];
    case 'addedRun':
      return [
        {
          name: 'changes.addedRun.arm',
          label: 'Arm of the added run',
          kind: 'select',
          span: 6,
          options: arms.map((a) => ({ value: a.key, label: a.label })),
          ...(plan.remount ? { hint: 'strapped down anew, as the plan says of every run' } : {}),
        },
        ...(plan.remount
          ? []
          : [
              {
                name: 'changes.addedRun.newMount',
                label: 'strapped down anew',
                kind: 'check',
                span: 6,
              } as const,
            ]),
      ];
  }
}
export const METRIC_CHOICES = METRICS.map((m) => ({ value: m, label: METRIC_NAMES[m] }));
