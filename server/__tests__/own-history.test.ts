/** The scatter of a dyno, told by its own finished tests. */
import { describe, expect, it } from 'vitest';
import type { OwnHistoryShown } from '../../contract/register/own-history.ts';
import { houseWith } from './house.ts';
import { madeSession, measuredTest } from './made-session.ts';

const { app, manager, operator, partner } = houseWith('manager', 'operator', 'partner');

describe('the scatter of a dyno', () => {
  it('is told by its own finished tests, for the house', async () => {
    const ask = () => manager<OwnHistoryShown>('GET', `/dynos/${app.ids.dyno}/history`);
    expect((await ask()).body).toEqual({ history: null, tests: [], days: null });
    for (let k = 0; k < 3; k++) await measuredTest(app, { manager, operator }, madeSession(460 + k));
    expect((await ask()).body.history).toBeNull();
    // Four, and the fourth at part throttle: nothing is learnt from a session that was driven otherwise.
    const part = madeSession(470);
    const lifted = (label: string): Uint8Array =>
      new TextEncoder().encode(part.textOf(label).replace(/,100\.0,/g, ',88.0,'));
    const bytesOf = (label: string) =>
      ['p4', 'p5', 'p6'].includes(label) ? lifted(label) : part.bytesOf(label);
    await measuredTest(app, { manager, operator }, { ...part, bytesOf });
    expect((await ask()).body.tests).toHaveLength(3);
    await measuredTest(app, { manager, operator }, madeSession(471));
    const { history, tests } = (await ask()).body;
    expect(tests).toHaveLength(4);
    expect(history).toMatchObject({ sessions: 4, dfTotal: 24 });
    // Pull level 0.4 %, smooth wander 0.2 and 0.2 %.
    expect(Math.sqrt(history!.bandAverage.variance)).toBeGreaterThan(0.25);
    expect(Math.sqrt(history!.bandAverage.variance)).toBeLessThan(0.7);
    expect((await partner('GET', `/dynos/${app.ids.dyno}/history`)).status).toBe(403);
  });
});
