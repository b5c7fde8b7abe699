import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { owners, register, release } from '../../scripts/owners.mjs';

const home = mkdtempSync(join(tmpdir(), 'owners-'));
const children: ChildProcess[] = [];
afterAll(() => {
  for (const child of children) child.kill('SIGKILL');
  rmSync(home, { recursive: true });
});
const another = (): ChildProcess => {
  const child = spawn(process.execPath, ['-e', 'setInterval(() => {}, 1e6)']);
  children.push(child);
  return child;
};

describe('who uses the project’s own database', () => {
  it('is nobody at first', () => expect(owners(home)).toEqual([]));
  it('is everybody who came, until they leave or are killed', async () => {
    const [stays, dies] = [another(), another()];
    for (const pid of [process.pid, stays.pid!, dies.pid!]) register(home, pid);
    expect(owners(home).sort()).toEqual([process.pid, stays.pid!, dies.pid!].sort());
    release(home);
    const gone = new Promise((resolve) => dies.once('exit', resolve));
    dies.kill('SIGKILL');
    await gone;
    expect(owners(home)).toEqual([stays.pid!]);
    // Leaving twice does nothing.
    release(home);
    expect(owners(home)).toEqual([stays.pid!]);
  });
});
