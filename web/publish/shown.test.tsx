import { describe, expect, it } from 'vitest';
import { CLAIM_STATES } from '../../contract/publish/claim.ts';
import { EVIDENCE_STATES } from '../../core/register/worth-testing.ts';
import { madeClaim } from '../__tests__/made.ts';
import { attributes, html, text } from '../__tests__/rendered.tsx';
import { ClaimCard, ClaimMark } from './claim-card.tsx';
import { Cell, RowName, STATES, StateChoice } from './coverage-cell.tsx';

describe('a claim on its card', () => {
  it('says what was tested, what it gives, on what, and since when', () => {
    const shown = text(<ClaimCard claim={madeClaim()} />);
    expect(shown).toContain('Tubular manifold, revision C');
    expect(shown).toContain('Up to +3.5 kW at the wheel, SAE J1349, at 5800 rpm.');
    expect(shown).toContain(
      'On the vehicle tested: SV-014 Tern, grey · evidence grade single · published 3 Nov 2026',
    );
  });
  it('tells every proven loss with it', () => {
    const disclosures = ['Proven loss: −3.8 % near 2800 rpm.', 'Proven loss: −1.2 % near 6000 rpm.'];
    const shown = text(<ClaimCard claim={madeClaim({ disclosures })} />);
    for (const loss of disclosures) expect(shown).toContain(`▼ ${loss}`);
  });
  it('is never shown as current while it is in question, and says why it is not any more', () => {
    expect(text(<ClaimCard claim={madeClaim({ state: 'in question' })} />)).toContain('◐ in question');
    const staleReason = 'Since publication a newer revision came out.';
    expect(text(<ClaimCard claim={madeClaim({ state: 'stale', staleReason })} />)).toContain(
      `Stale: ${staleReason}`,
    );
    expect(text(<ClaimCard claim={madeClaim({ state: 'withdrawn', staleReason })} />)).toContain(
      `Withdrawn: ${staleReason}`,
    );
  });
  it('advice is called advice', () => {
    expect(text(<ClaimCard claim={madeClaim({ tells: 'advice' })} />)).toContain('advice');
    expect(text(<ClaimCard claim={madeClaim()} />)).not.toContain('advice');
  });
  it('in the reader’s unit is rounded towards less, and a mean keeps its range', () => {
    // 10 hp is 7.457 kW, 8.2 and 12.4 hp are 6.115 and 9.247 kW (1 hp = 745.700 W, NIST SP 811).
    const hp = { value: 10, unit: 'hp' as const, interval: { gain: 10.3, lower: 8.2, upper: 12.4 } };
    expect(text(<ClaimCard claim={madeClaim(hp)} />)).toContain('+7.4 kW, turned into your unit');
    expect(text(<ClaimCard claim={madeClaim({ ...hp, says: 'mean with range' })} />)).toContain(
      '+7.4 kW (+6.1 to +9.3 kW), turned into your unit from the claim’s hp',
    );
    expect(text(<ClaimCard claim={madeClaim()} />)).not.toContain('turned into');
  });
  it.each([...CLAIM_STATES])('the state “%s” is a word with a mark', (state) => {
    expect(text(<ClaimMark state={state} />)).toMatch(new RegExp(`^[●◐▼○] ${state}$`));
  });
});

const row = {
  id: 'f1',
  name: 'Oriel Tern 1.8 estate',
  family: 'T18',
  outputVariant: '103 kW',
  unitsPerYear: 4200,
  group: 2,
  cells: [],
};
const cell = (change: object, props: Partial<Parameters<typeof Cell>[0]> = {}) => (
  <Cell
    cell={{ partId: 'p1', state: 'untested', ...change }}
    row={row}
    part="Tubular manifold"
    dim={false}
    mayPlan={false}
    {...props}
  />
);

describe('a cell of the coverage grid', () => {
  const label = (element: Parameters<typeof html>[0]): string =>
    attributes(html(element), 'aria-label').at(0)!;
  it.each([...EVIDENCE_STATES])('“%s” has a mark and words of its own', (state) => {
    expect(STATES[state].mark).not.toBe('');
    expect(label(cell({ state }))).toBe(`Tubular manifold on Oriel Tern 1.8 estate: ${state}`);
    const others = EVIDENCE_STATES.filter((s) => s !== state).map((s) => STATES[s].mark + STATES[s].short);
    expect(others).not.toContain(STATES[state].mark + STATES[state].short);
  });
  it('leads to its test; to a plan where there is none and the person may plan; else nowhere', () => {
    expect(html(cell({ state: 'measured', testId: 't9' }))).toContain('href="/tests/t9"');
    const open = cell({}, { mayPlan: true });
    expect(html(open)).toContain('href="/tests/new?fitment=f1&amp;part=p1"');
    expect(label(open)).toContain('Plan a test');
    expect(html(cell({}))).not.toContain('href');
  });
  it('says when several tests stand behind it, and when a sibling has been measured', () => {
    expect(label(cell({ state: 'measured', testId: 't', tests: 3 }))).toContain(', 3 tests');
    expect(label(cell({ state: 'measured', testId: 't', tests: 1 }))).not.toContain('tests');
    expect(label(cell({ familyServed: true }))).toContain('a sibling has been measured');
    expect(label(cell({ state: 'planned', familyServed: true }))).not.toContain('sibling');
  });
  it('draws the ribbon where something was measured, with the mark of its state beside it', () => {
    const glyph = { rpm: [2500, 6500], gain: [3, 4], lower: [1, 2], upper: [5, 6] };
    const markup = html(cell({ state: 'published', testId: 't', glyph }));
    expect(markup).toContain('Gain ribbon: gain shown');
    expect(text(cell({ state: 'published', testId: 't', glyph }))).toContain(STATES.published.mark);
  });
  it('is faint while another state is looked for', () => {
    expect(html(cell({}, { dim: true }))).toContain('opacity-25');
    expect(html(cell({}))).not.toContain('opacity-25');
  });
});

describe('rows and states of the grid', () => {
  it('a row names what is sold, or what one test of its family serves', () => {
    expect(text(<RowName row={row} families={false} first />)).toContain('4\u202f200 sold a year');
    const family = text(<RowName row={row} families first />);
    expect(family).toContain('T18 B');
    expect(family).toContain('output 103 kW');
  });
  it('states are chosen by name, with the number of their cells', () => {
    const markup = html(
      <StateChoice state="measured" counts={{ measured: 1200 }} onState={() => undefined} />,
    );
    expect(attributes(markup, 'aria-pressed').filter((v) => v === 'true')).toHaveLength(1);
    expect(text(<StateChoice state="" counts={{ measured: 1200 }} onState={() => undefined} />)).toContain(
      'measured 1\u202f200',
    );
  });
});
