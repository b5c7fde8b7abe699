import { describe, expect, it } from 'vitest';
import { AmendRequest } from '../../contract/plan/test.ts';
import { madeDetail } from '../__tests__/made.ts';
import { draftOf, fieldsFor, formOf, METRIC_CHOICES, type AmendForm } from './amend-fields.ts';
import { DECISIVE, FIELD_NAMES, type Field_ } from './amend-words.ts';

const detail = madeDetail();
const REASON = 'The kit holds heat longer than was thought.';
const filled = (field: Field_, change: Partial<AmendForm['changes']>): AmendForm => {
  const form = formOf(detail);
  return { field, reason: REASON, changes: { ...form.changes, ...change } };
};
const FIELDS = Object.keys(formOf(detail).changes) as Field_[];

describe('the form of an amendment', () => {
  it('begins as the plan stands', () => {
    expect(formOf(detail).changes).toMatchObject({
      coolDownMinutes: 4,
      gear: '4th',
      band: { fromRpm: 2500, toRpm: 6500 },
      addedRun: { arm: 'stock', newMount: false },
    });
  });
  it('does not hold the plan itself: what is typed changes nothing until it is sent', () => {
    const form = formOf(detail);
    (form.changes.band as { fromRpm: number }).fromRpm = 1;
    (form.changes.metrics as string[]).push('bandAverage');
    expect(detail.plan.band.fromRpm).toBe(2500);
    expect(detail.plan.metrics).toEqual(['upTo']);
  });
  it('sends what is named and nothing else, whatever stands in the other fields', () => {
    const draft = draftOf(
      filled('gear', { gear: '5th', coolDownMinutes: 99, band: { fromRpm: -1, toRpm: 0, stepRpm: 0 } }),
    );
    expect(draft).toEqual({ reason: REASON, changes: { gear: '5th' } });
    expect(AmendRequest.safeParse(draft).success).toBe(true);
  });
  it.each(FIELDS)('“%s” as it stands is what the contract takes', (field) => {
    expect(AmendRequest.safeParse(draftOf(filled(field, {}))).error?.issues ?? []).toEqual([]);
    expect(FIELD_NAMES[field]).toBeTruthy();
  });
  it.each(FIELDS.filter((f) => f !== 'metrics'))('“%s” is asked for in fields of its own', (field) => {
    const specs = fieldsFor(field, detail);
    expect(specs.length).toBeGreaterThan(0);
    for (const spec of specs) expect(spec.name.startsWith(`changes.${field}`)).toBe(true);
  });
  it('refuses without a reason, and says in which field', () => {
    const checked = AmendRequest.safeParse({ ...draftOf(filled('gear', { gear: '5th' })), reason: 'heat' });
    expect(checked.error!.issues.map((i) => [i.path.join('.'), i.message])).toEqual([
      ['reason', 'Give the reason in a sentence.'],
    ]);
  });
  it('says of the fields that decide what is claimed that they do', () => {
    expect(DECISIVE).toEqual(expect.arrayContaining(['question', 'metrics', 'band', 'standard']));
    expect(DECISIVE).not.toContain('coolDownMinutes');
    expect(METRIC_CHOICES.map((m) => m.value)).toEqual(['upTo', 'bandAverage', 'peakToPeak']);
  });
  it('asks about strapping down only where the plan leaves it open', () => {
    const open = fieldsFor('addedRun', detail).map((f) => f.name);
    const remounted = fieldsFor('addedRun', madeDetail({ plan: { remount: true } }));
    expect(open).toContain('changes.addedRun.newMount');
    expect(remounted.map((f) => f.name)).toEqual(['changes.addedRun.arm']);
    expect(remounted[0].hint).toContain('strapped down anew');
  });
});
