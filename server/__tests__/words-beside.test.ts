/** What people write beside a claim in their own words, held against what was measured. */
import { describe, expect, it } from 'vitest';
import type { ClaimDetail } from '../../contract/publish/claim.ts';
import { houseWith } from './house.ts';
import { analysisOf, draft, detailOf, madeSession, measuredTest } from './made-session.ts';

const { app, manager, operator, reviewer } = houseWith('manager', 'operator', 'reviewer');

const claimOf = async (id: string): Promise<ClaimDetail> =>
  (await reviewer<ClaimDetail>('GET', `/claims/${id}`)).body;

describe('figures in words', () => {
  it('that agree with the pulls are not told; others are, with where they stand', async () => {
    const session = madeSession(41);
    const first = await measuredTest(app, { manager, operator }, session, {
      plan: { question: 'Does the part give power?' },
    });
    const { analysis } = await analysisOf(manager, first);
    const [contrast] = analysis!.result.contrasts;
    if (!('power' in contrast)) throw new Error('no comparison');
    const at = contrast.power.curve[Math.floor(contrast.power.curve.length / 2)];
    const words = `Does it give ${at.gain.toFixed(1)} kW more at ${at.rpm} rpm, or ${(at.upper + 20).toFixed(0)} kW more at ${at.rpm} rpm?`;
    const second = await measuredTest(app, { manager, operator }, madeSession(42), {
      plan: { question: words },
    });
    const pull = (await detailOf(operator, second)).pulls.find((p) => p.label === 'p4')!;
    const note = 'Read 131 hp and 131 N·m at 4000 rpm on the screen.';
    await operator('POST', `/tests/${second}/pulls/${pull.id}/exclusion`, { reason: 'wheel slip', note });
    await operator('DELETE', `/tests/${second}/pulls/${pull.id}/exclusion`, { note: 'No slip in the file.' });
    const { body } = await draft(manager, second);
    const { figures } = await claimOf(body.id);
    const told = figures.map((f) => `${f.place}: ${f.message}`);
    expect(told).toContainEqual(expect.stringMatching(/^the question of the test: gain \+\d+ kW .*supports/));
    expect(told.filter((line) => line.startsWith('the question'))).toHaveLength(1);
    expect(told).toContainEqual(expect.stringMatching(/^pull p4, excluded: .*do not belong together/));
    expect((await claimOf((await draft(manager, first)).body.id)).figures).toEqual([]);
  });
});
