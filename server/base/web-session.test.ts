import { createHmac } from 'node:crypto';
import { Agent, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import type pg from 'pg';
import pino from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { webSession } from './web-session.ts';

/** A database that is read and then gone: the session is found, and cannot be prolonged. */
const store = {
  query: (text: string) =>
    /^\s*select/i.test(text)
      ? Promise.resolve({ rows: [{ sess: { cookie: {}, personId: 'somebody' } }] })
      : Promise.reject(new Error('the database is gone')),
} as unknown as pg.Pool;
const server = express()
  .use(webSession(store, pino({ level: 'silent' }), { secret: 'test', secure: false }))
  .get('/', (req, res) => {
    res.send(`for ${req.session.personId}`);
  });
let listening: ReturnType<typeof server.listen>;
beforeAll(async () => {
  listening = server.listen(0, '127.0.0.1');
  await new Promise((resolve) => listening.once('listening', resolve));
});
afterAll(() => {
  listening.closeAllConnections();
  listening.close();
});
const signature = createHmac('sha256', 'test').update('known').digest('base64').replace(/=+$/, '');
const cookie = `evidentia=${encodeURIComponent(`s:known.${signature}`)}`;

describe('a session that cannot be prolonged', () => {
  it('costs neither the answer nor the connection it came on', async () => {
    const agent = new Agent({ keepAlive: true, maxSockets: 1 });
    const sockets = new Set<unknown>();
    const ask = (): Promise<string> =>
      new Promise((resolve, reject) => {
        request(
          { agent, port: (listening.address() as AddressInfo).port, host: '127.0.0.1', headers: { cookie } },
          (answer) => {
            sockets.add(answer.socket);
            let text = '';
            answer.on('data', (bytes: Buffer) => (text += bytes.toString()));
            answer.on('end', () => resolve(text)).on('error', reject);
          },
        )
          .on('error', reject)
          .end();
      });
    for (let i = 0; i < 5; i++) expect(await ask()).toBe('for somebody');
    expect(sockets.size).toBe(1);
    agent.destroy();
  });
});
