/**
 * Stops the project's own PostgreSQL when nobody is left who uses it, also when they were killed and could not.
 * Started beside it by lib.mjs; ends with it. Arguments: its home, and the command that stops it, as JSON.
 */
import { spawnSync } from 'node:child_process';
import { owners } from './owners.mjs';

const [home, status, stop] = [process.argv[2], ...process.argv.slice(3, 5).map((text) => JSON.parse(text))];
const EVERY_MS = 2000;
const timer = setInterval(() => {
  const runs = spawnSync(status[0], status[1], { stdio: 'ignore' }).status === 0;
  if (runs && owners(home).length > 0) return;
  clearInterval(timer);
  if (runs) spawnSync(stop[0], stop[1], { stdio: 'ignore' });
}, EVERY_MS);
