/** Attempts to publish what is not true through files: nothing of it can be drafted, and the reason is said. */
import { describe, expect, it } from 'vitest';
import { houseWith } from './house.ts';
import {
  analysisOf,
  attach,
  detailOf,
  draft,
  madeSession,
  measuredTest,
  type MadeSession,
} from './made-session.ts';

const { app, manager, operator } = houseWith('manager', 'operator');

const OF_PART = ['p4', 'p5', 'p6'];
/** A session with a part that gives a little, and the files of some pulls changed before they are attached. */
function changed(
  seed: number,
  change: (text: string) => string,
  labels: readonly string[] = OF_PART,
): MadeSession {
  const session = madeSession(seed, 2);
  return {
    ...session,
    bytesOf: (label) => {
      const text = session.textOf(label);
      return new TextEncoder().encode(labels.includes(label) ? change(text) : text);
    },
  };
}
const attempt = async (session: MadeSession) => {
  const id = await measuredTest(app, { manager, operator }, session);
  const { analysis } = await analysisOf(manager, id);
  const failing = analysis!.result.findings.filter((f) => f.state === 'fail');
  return {
    id,
    codes: new Set(failing.map((f) => f.code)),
    answer: await draft(manager, id, { metric: 'upTo' }),
  };
};
const notClaimable = { status: 409, body: { error: { code: 'NOT_CLAIMABLE' } } };
const torqueCell = (text: string, line: number, by: number): string =>
  text
    .split('\n')
    .map((row, i) => {
      if (i !== line) return row;
      const cells = row.split(',');
      const column = text
        .split('\n')
        .find((r) => r.includes('Torque'))!
        .split(',')
        .findIndex((c) => c.startsWith('Torque'));
      cells[column] = (Number(cells[column]) * by).toFixed(2);
      return cells.join(',');
    })
    .join('\n');

describe('an untruth through files', () => {
  it('another unit in the header of every file of the part', async () => {
    const { codes, answer } = await attempt(
      changed(71, (text) => text.replace('Torque (N·m)', 'Torque (lb-ft)')),
    );
    expect(codes).toContain('READ_FROM_DIFFERENT');
    expect(answer).toMatchObject(notClaimable);
  });
  it('the same by saying so afterwards, on the page of the pulls', async () => {
    const id = await measuredTest(app, { manager, operator }, madeSession(72, 7));
    const drafted = await draft(manager, id);
    expect(drafted.status, JSON.stringify(drafted.body)).toBe(201);
    for (const pull of (await detailOf(manager, id)).pulls.filter((p) => OF_PART.includes(p.label)))
      await operator('PUT', `/tests/${id}/pulls/${pull.id}/columns`, {
        torque: { column: 'Torque (N·m)', unit: 'lb·ft' },
      });
    const { analysis } = await analysisOf(manager, id);
    expect(analysis!.result.findings.filter((f) => f.state === 'fail').map((f) => f.code)).toContain(
      'READ_FROM_DIFFERENT',
    );
    expect(await draft(manager, id, { unit: 'hp' })).toMatchObject(notClaimable);
    // Done to every pull the arms are alike: the number would be too large, and every file says so.
    for (const pull of (await detailOf(manager, id)).pulls.filter(
      (p) => p.counted && !OF_PART.includes(p.label),
    ))
      await operator('PUT', `/tests/${id}/pulls/${pull.id}/columns`, {
        torque: { column: 'Torque (N·m)', unit: 'lb·ft' },
      });
    const told = (await analysisOf(manager, id)).analysis!.result.findings.filter(
      (f) => f.code === 'UNIT_NOT_AS_STATED',
    );
    expect(told).toHaveLength(9);
    expect(told[0].message).toContain('the header says N·m, it is read in lb·ft');
  });
  it('what the engine was asked for, said to be what it gave, in every file', async () => {
    const wished = (text: string): string =>
      text
        .split('\n')
        .map((row) => {
          if (row.includes('Torque (N·m)')) return `${row},Target torque (N·m)`;
          const cells = row.split(',');
          return cells.length < 5 ? row : `${row},${(Number(cells[3]) + 20).toFixed(2)}`;
        })
        .join('\n');
    const all = Array.from({ length: 9 }, (_, i) => `p${i + 1}`);
    const id = await measuredTest(app, { manager, operator }, changed(77, wished, all));
    for (const pull of (await detailOf(manager, id)).pulls.filter((p) => p.counted))
      expect(
        (
          await operator('PUT', `/tests/${id}/pulls/${pull.id}/columns`, {
            torque: { column: 'Target torque (N·m)' },
          })
        ).status,
      ).toBe(200);
    const told = (await analysisOf(manager, id)).analysis!.result.findings.filter(
      (f) => f.code === 'COLUMN_NOT_AS_NAMED',
    );
    expect(told).toHaveLength(9);
    expect(told[0]).toMatchObject({ state: 'caution' });
    expect(told[0].message).toContain('by its name it is not the reading itself');
  });
  it('one torque ten times too large in every file of the part', async () => {
    const { codes, answer } = await attempt(changed(73, (text) => torqueCell(text, 300, 10)));
    expect(codes).toContain('OUTLIER');
    expect(answer).toMatchObject(notClaimable);
  });
  it('a power beside it that is not the torque: every file in another unit than it says', async () => {
    const withPower = (text: string): string =>
      text
        .split('\n')
        .map((row) => {
          if (row.includes('Torque (N·m)')) return `${row.replace('N·m', 'lb-ft')},Power (kW)`;
          const cells = row.split(',');
          return cells.length < 5
            ? row
            : `${row},${((Number(cells[1]) * Number(cells[3])) / 9549.3).toFixed(3)}`;
        })
        .join('\n');
    const all = Array.from({ length: 9 }, (_, i) => `p${i + 1}`);
    const { codes, answer } = await attempt(changed(74, withPower, all));
    expect(codes).toContain('POWER_TORQUE_MISMATCH');
    expect(answer).toMatchObject(notClaimable);
  });
  it('a sound session goes through: the gates do not fail by themselves', async () => {
    const { codes, answer } = await attempt(madeSession(75, 7));
    expect([...codes]).toEqual([]);
    expect(answer.status, JSON.stringify(answer.body)).toBe(201);
    expect(answer.status).toBe(201);
  });
  it('bytes that stand for another pull are not taken a second time', async () => {
    const session = madeSession(76, 7);
    const id = await measuredTest(app, { manager, operator }, session, { without: ['p6'] });
    const last = (await detailOf(manager, id)).pulls.find((p) => p.label === 'p6')!;
    expect(await attach(operator, id, last.id, session.bytesOf('p4'))).toMatchObject({
      status: 409,
      body: { error: { code: 'SAME_FILE_TWICE' } },
    });
  });
});
