import { describe, expect, it } from 'vitest';
import { PLAN_FORMAT, type PlanDocument } from '../../core/plan/plan-document.ts';
import { hashOf } from './plan-document.ts';
import { versionFile } from './version-file.ts';

const REFERENCE = '⟦part:11111111-1111-4111-8111-111111111111⟧';
const document = {
  format: PLAN_FORMAT,
  version: 2,
  reason: `The ${REFERENCE} came late.`,
  fields: { question: `Is ${REFERENCE} worth “it”?`, gear: '4th' },
} as unknown as PlanDocument;
const row = (kept: PlanDocument | null) =>
  versionFile({
    testId: 't',
    version: 2,
    at: new Date('2026-11-10T09:00:00Z'),
    personId: 'p',
    reason: document.reason,
    changes: [],
    hash: hashOf(document),
    document: kept,
  });
/** As an answer is resolved for a reader: references in it become names. */
const resolved = (text: string): string => text.replaceAll(REFERENCE, 'Project Nightjar');

describe('a version of a plan as a file', () => {
  it('keeps its hash for a reader who is given other names', () => {
    const file = JSON.parse(resolved(row(document))) as { sha256: string; plan: PlanDocument };
    expect(file.plan).toEqual(document);
    expect(hashOf(file.plan)).toBe(file.sha256);
  });
  it('says what each reference is called for that reader', () =>
    expect(JSON.parse(resolved(row(document)))).toMatchObject({
      version: 2,
      at: '2026-11-10T09:00:00.000Z',
      names: { [REFERENCE]: 'Project Nightjar' },
      reason: 'The Project Nightjar came late.',
    }));
  it('is JSON where no document was kept, with no names', () =>
    expect(JSON.parse(row(null))).toMatchObject({ names: {}, plan: null }));
  it('another document has another hash, the same with its keys in another order has the same', () => {
    const turned = Object.fromEntries(Object.entries(document).reverse()) as unknown as PlanDocument;
    expect(hashOf(turned)).toBe(hashOf(document));
    expect(hashOf({ ...document, version: 3 })).not.toBe(hashOf(document));
  });
});
