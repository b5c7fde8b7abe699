import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { FindingAnswer } from '../capture/test-definition.ts';
import { ANSWERED_BY_PEOPLE, OVERRIDDEN_BY_REVIEWERS, withAnswers } from './answered.ts';
import type { Finding } from './finding.ts';
import { gradeButForOverrides, gradeOf, isOverridden } from './verdict.ts';

const WORDS = 'The arms lie 36.1 % apart, as far as N·m and lb·ft.';
const finding = (change: Partial<Finding> = {}): Finding => ({
  gate: 'plausible',
  state: 'fail',
  code: 'ARMS_A_UNIT_APART',
  message: WORDS,
  ...change,
});
const answer = (change: Partial<FindingAnswer> = {}): FindingAnswer => ({
  code: 'ARMS_A_UNIT_APART',
  message: WORDS,
  text: 'Both heads were read.',
  by: 'Ines',
  ...change,
});

describe('an answer', () => {
  it('stands with the finding it is to, which then bars nothing by itself', () => {
    expect(withAnswers([finding()], [answer()])).toEqual([
      finding({ state: 'caution', answer: { by: 'Ines', text: 'Both heads were read.', overrides: true } }),
    ]);
    const lean = finding({ gate: 'safe mixture', code: 'LEAN_MIXTURE' });
    expect(withAnswers([lean], [answer({ code: 'LEAN_MIXTURE' })])[0].answer).toEqual({
      by: 'Ines',
      text: 'Both heads were read.',
    });
  });
  it('is to the very words: another number, another code or another arm is not answered', () => {
    for (const other of [
      answer({ message: WORDS.replace('36.1', '36.2') }),
      answer({ code: 'SCATTER_ABOVE_HISTORY' }),
      answer({ arm: 'large' }),
    ])
      expect(withAnswers([finding({ arm: 'small' })], [other])[0].state).toBe('fail');
  });
  it('to one of two arms that read alike leaves the other failing', () => {
    const both = [finding({ arm: 'small' }), finding({ arm: 'large' })];
    expect(withAnswers(both, [answer({ arm: 'large' })]).map((f) => f.state)).toEqual(['fail', 'caution']);
    // One from before arms were kept is to whichever says so.
    expect(withAnswers(both, [answer()]).map((f) => f.state)).toEqual(['caution', 'caution']);
  });
  it('given last is the one that stands', () => {
    const [{ answer: stands }] = withAnswers([finding()], [answer(), answer({ text: 'Read once more.' })]);
    expect(stands?.text).toBe('Read once more.');
  });
  it('changes nothing that people do not settle, whatever is answered', () => {
    const codes = fc.string().filter((c) => !ANSWERED_BY_PEOPLE.has(c) && !OVERRIDDEN_BY_REVIEWERS.has(c));
    fc.assert(
      fc.property(codes, fc.string(), (code, message) => {
        const one = finding({ code, message });
        expect(withAnswers([one], [answer({ code, message })])).toEqual([one]);
      }),
    );
  });
});

describe('an override', () => {
  it('costs the grade of its arm, and of no other', () => {
    const findings = withAnswers([finding({ arm: 'small' })], [answer({ arm: 'small' })]);
    expect(gradeOf(findings)).toBe('indicative');
    expect([isOverridden(findings, 'small'), isOverridden(findings, 'large')]).toEqual([true, false]);
    expect(gradeButForOverrides(findings, 'small')).toBe('single');
  });
  it('hides no other fail behind it', () => {
    const findings = withAnswers([finding(), finding({ gate: 'factor', code: 'FACTORS_APART' })], [answer()]);
    expect(gradeButForOverrides(findings, 'part')).toBe('indicative');
  });
});
