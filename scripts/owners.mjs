/**
 * Who uses a database of the project's own: one file a process in a folder beside the data. Whoever stops last stops
 * the database; a process that was killed is known by its number being gone.
 */
import { mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

function isAlive(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // Another user's process is alive, too.
    return error.code === 'EPERM';
  }
}

export function register(home, pid = process.pid) {
  mkdirSync(join(home, 'owners'), { recursive: true });
  writeFileSync(join(home, 'owners', String(pid)), '');
}
export function release(home, pid = process.pid) {
  rmSync(join(home, 'owners', String(pid)), { force: true });
}
/** Numbers of the processes that use it and are alive; those that are gone are forgotten. */
export function owners(home) {
  let names;
  try {
    names = readdirSync(join(home, 'owners'));
  } catch {
    return [];
  }
  return names.map(Number).filter((pid) => {
    const alive = Number.isInteger(pid) && pid > 0 && isAlive(pid);
    if (!alive) rmSync(join(home, 'owners', String(pid)), { force: true });
    return alive;
  });
}
