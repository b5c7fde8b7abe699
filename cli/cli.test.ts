import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestResult } from '../core/judge/analyse-test.ts';

const root = fileURLToPath(new URL('..', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'evidentia-cli-'));
const run = (...args: string[]) => {
  const r = spawnSync(process.execPath, [join(root, 'bin/evidentia.mjs'), ...args], {
    encoding: 'utf8',
    cwd: folder,
  });
  return { status: r.status, out: r.stdout, err: r.stderr };
};
beforeAll(() => {
  expect(
    run('simulate', join(root, 'demo/scenarios/oriel-tern-manifold.json'), '--out', folder),
  ).toMatchObject({ status: 0 });
});
afterAll(() => rmSync(folder, { recursive: true }));

describe('the built command, as docs/formats.md has it', () => {
  it('analyses a simulated test to evidentia-result/1', () => {
    const { status, out } = run('analyse', 'test.json', '--json');
    expect(status).toBe(0);
    const result = JSON.parse(out) as TestResult;
    expect(result).toMatchObject({
      format: 'evidentia-result/1',
      contrasts: [
        {
          arm: 'part',
          against: 'stock',
          design: 'A-B-A',
          pulls: { arm: 3, against: 6 },
          relative: { unit: '%' },
          power: { unit: 'kW' },
          torque: { unit: 'N·m' },
          shortcuts: {},
          budget: [{ source: 'repeatability', share: 1 }],
        },
      ],
    });
    expect(result.pulls).toHaveLength(9);
    expect(out).not.toContain('NaN');
  });
  it('leaves 1 for a finding and 2 for what cannot be used, with the words on stderr', () => {
    const test = JSON.parse(readFileSync(join(folder, 'test.json'), 'utf8')) as {
      pulls: { counted: boolean; arm: string }[];
    };
    writeFileSync(
      join(folder, 'few.json'),
      JSON.stringify({
        ...test,
        pulls: test.pulls.filter(
          (p, i, all) => p.counted && all.findIndex((q) => q.counted && q.arm === p.arm) === i,
        ),
      }),
    );
    expect(run('analyse', 'few.json')).toMatchObject({
      status: 1,
      out: expect.stringContaining('NOT_ENOUGH_PULLS') as string,
    });
    expect(run('analyse', 'nothing.json')).toMatchObject({
      status: 2,
      err: expect.stringMatching(/FILE_MISSING: nothing\.json/) as string,
    });
    writeFileSync(
      join(folder, 'broken.json'),
      JSON.stringify({ format: 'evidentia-test/1', standard: 'sae-j1349' }),
    );
    expect(run('analyse', 'broken.json')).toMatchObject({
      status: 2,
      err: expect.stringMatching(/TEST_FILE_INVALID: broken\.json, engine/) as string,
    });
  });
  it('inspects a pull file', () => {
    const { status, out } = run('inspect', 'pulls/p1.csv', '--json');
    expect(status).toBe(0);
    expect(JSON.parse(out)).toMatchObject({
      encoding: 'utf-8',
      delimiter: ',',
      headerLine: 3,
      torqueFrom: 'torque',
      metadata: { Pull: 'p1, position 4' },
    });
  });
  it('refuses a file that is none, with status 2', () => {
    writeFileSync(join(folder, 'note.txt'), 'hello');
    expect(run('inspect', 'note.txt')).toMatchObject({
      status: 2,
      err: expect.stringContaining('NO_TABLE: note.txt') as string,
    });
  });
  it('runs its own reference cases', () =>
    expect(run('reference')).toMatchObject({
      status: 0,
      out: expect.stringMatching(/165 agree, 0 differ, 0 not computed/) as string,
    }));
});
