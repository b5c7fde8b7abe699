/** Stand-ins for the devices of a dyno, each a process of its own on loopback. */
import { spawn } from 'node:child_process';
import { portIsFree, root } from './lib.mjs';

const WANTED = { dyno: 4791, station: 4792, logger: 4793 };
const PATIENCE_MS = 15_000;

/** Starts one; resolves with its port once it listens. */
function play(kind, args) {
  const child = spawn(process.execPath, ['dist/server/stand-ins.js', kind, ...args], {
    cwd: root,
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    // A group of its own: Ctrl-C reaches the script first, which stops everything in order.
    detached: true,
  });
  const port = new Promise((resolve, reject) => {
    const late = setTimeout(
      () => reject(new Error(`the stand-in for the ${kind} never listened`)),
      PATIENCE_MS,
    );
    child.stdout.once('data', (said) => {
      clearTimeout(late);
      resolve(JSON.parse(String(said)).port);
    });
    child.once('close', () => reject(new Error(`the stand-in for the ${kind} ended`)));
  });
  return { child, port };
}

/**
 * @param speed how many times faster than life their time runs
 * @param taken the port that somebody else is about to take
 * @returns their ports by kind, and how to stop them
 */
export async function playStandIns({ speed = 1, anyPort = false, taken } = {}) {
  const children = [];
  const wanted = async (kind) => {
    const port = WANTED[kind];
    return !anyPort && port !== taken && (await portIsFree(port)) ? port : 0;
  };
  const one = async (kind, ...more) => {
    const { child, port } = play(kind, [
      '--port',
      String(await wanted(kind)),
      '--speed',
      String(speed),
      ...more,
    ]);
    children.push(child);
    return port;
  };
  const dyno = await one('dyno');
  const ports = { dyno, station: await one('station'), logger: await one('logger', '--dyno', String(dyno)) };
  return { ports, stop: () => children.forEach((child) => child.kill('SIGTERM')) };
}
