import { afterAll, describe, expect, it } from 'vitest';
import { html, text } from '../__tests__/rendered.tsx';
import type { Role } from '../../contract/base/roles.ts';
import type { Finding } from '../../core/judge/finding.ts';
import { api } from '../base/api.ts';
import { store } from '../base/store.ts';
import { AnswerFinding } from './answer-finding.tsx';

const finding = (change: Partial<Finding> = {}): Finding => ({
  gate: 'plausible',
  state: 'fail',
  code: 'ARMS_A_UNIT_APART',
  message: 'The arms lie 36 % apart.',
  ...change,
});
const shown = (one: Finding) => <AnswerFinding testId="t" analysisId="a" finding={one} />;
const signedInAs = (role: Role) => {
  const person = { id: 'p', name: 'Ines Calloway', email: '', role, clearance: true };
  return store.dispatch(api.util.upsertQueryData('session', undefined, { person, demo: true }));
};
afterAll(() => {
  store.dispatch(api.util.resetApiState());
});

describe('what fails and may be let stand', () => {
  it('is let stand by a reviewer; others read who can, and what it costs', async () => {
    await signedInAs('reviewer');
    expect(html(shown(finding()))).toMatch(/<button[^>]*>Let it stand<\/button>/);
    for (const role of ['test manager', 'operator', 'catalogue editor'] as const) {
      await signedInAs(role);
      expect(html(shown(finding()))).not.toContain('<button');
      expect(text(shown(finding()))).toBe('A reviewer can let it stand; that costs a grade.');
    }
  });
  it('a mixture is answered for by the test manager too', async () => {
    const lean = finding({ gate: 'safe mixture', code: 'LEAN_MIXTURE' });
    await signedInAs('test manager');
    expect(html(shown(lean))).toContain('Answer for it');
    await signedInAs('operator');
    expect(text(shown(lean))).toBe('The test manager or a reviewer can answer for it.');
  });
  it('everything else that fails, and what passes, has no answer', async () => {
    await signedInAs('reviewer');
    expect(text(shown(finding({ gate: 'factor', code: 'FACTORS_APART' })))).toBe('');
    expect(text(shown(finding({ state: 'caution' })))).toBe('');
  });
  it('says afterwards who let it stand, and why', () => {
    const answer = { by: 'Ines Calloway', text: 'Both heads were read.' };
    expect(text(shown(finding({ state: 'caution', answer: { ...answer, overrides: true } })))).toBe(
      'Let stand by Ines Calloway: Both heads were read.',
    );
    expect(text(shown(finding({ state: 'caution', answer })))).toBe(
      'Answered by Ines Calloway: Both heads were read.',
    );
  });
});
