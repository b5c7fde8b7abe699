/** Files that are sent in parts: what is here is told, nothing is mixed up, and a whole one is as good as a body. */
import { createHash, randomBytes } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { MAX_PHOTO_BYTES } from '../../contract/capture/photograph.ts';
import { MAX_PART_BYTES } from '../../contract/capture/upload.ts';
import type { Ask } from './app.ts';
import { houseWith } from './house.ts';
import { detailOf, madeSession, measuredTest } from './made-session.ts';

const { app, manager, operator, reviewer } = houseWith('manager', 'operator', 'reviewer');

interface Answer {
  received: number;
  error?: { code: string; details: { received: number } };
}
const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const put = (ask: Ask, sha256: string, start: number, bytes: Uint8Array) =>
  ask<Answer>('PUT', `/uploads/${sha256}?start=${start}`, bytes);
const received = async (ask: Ask, sha256: string): Promise<number> =>
  (await ask<Answer>('GET', `/uploads/${sha256}`)).body.received;
const waiting = async (): Promise<number> =>
  (await app.pool.query<{ n: number }>('select count(*)::int as n from upload_parts')).rows[0].n;

const made = madeSession(301);
const file = made.bytesOf('p9');
const third = Math.ceil(file.length / 3);
const parts = [0, 1, 2].map((k) => ({ start: k * third, bytes: file.subarray(k * third, (k + 1) * third) }));

describe('a file that is sent in parts', () => {
  it('goes on where it stopped, and is attached as if it had come whole', async () => {
    const id = await measuredTest(app, { manager, operator }, made, { without: ['p9'] });
    const p9 = (await detailOf(manager, id)).pulls.find((p) => p.label === 'p9')!;
    const sha256 = hashOf(file);
    expect(await received(operator, sha256)).toBe(0);
    expect((await put(operator, sha256, 0, parts[0].bytes)).body.received).toBe(third);
    // Its answer was lost: sent again it is there once. One that is not the next says where to go on.
    expect((await put(operator, sha256, 0, parts[0].bytes)).body.received).toBe(third);
    const gap = await put(operator, sha256, parts[2].start, parts[2].bytes);
    expect([gap.status, gap.body.error?.code, gap.body.error?.details.received]).toEqual([
      409,
      'PART_OUT_OF_ORDER',
      third,
    ]);
    // Somebody else’s parts are not one’s own.
    expect(await received(manager, sha256)).toBe(0);
    await put(manager, sha256, 0, randomBytes(third));
    await put(operator, sha256, parts[1].start, parts[1].bytes);
    expect(await received(operator, sha256)).toBe(2 * third);
    await put(operator, sha256, parts[2].start, parts[2].bytes);
    const path = `/tests/${id}/pulls/${p9.id}/file?name=p9.csv&sha256=${sha256}&uploaded=${sha256}`;
    expect((await operator('POST', path)).status).toBe(201);
    const raw = await operator('GET', `/tests/${id}/pulls/${p9.id}/file`);
    expect(Buffer.from(raw.bytes)).toEqual(Buffer.from(file));
    expect(await received(operator, sha256)).toBe(0);
    expect(await received(manager, sha256)).toBe(third);
  });

  it('is refused where it is not what was announced, and nothing of it is kept', async () => {
    const id = await measuredTest(app, { manager, operator }, madeSession(302), { without: ['p9'] });
    const p9 = (await detailOf(manager, id)).pulls.find((p) => p.label === 'p9')!;
    const announced = hashOf(madeSession(302).bytesOf('p9'));
    await put(operator, announced, 0, file);
    const before = await waiting();
    const answer = await operator<Answer>(
      'POST',
      `/tests/${id}/pulls/${p9.id}/file?name=p9.csv&uploaded=${announced}`,
    );
    expect([answer.status, answer.body.error?.code]).toEqual([409, 'OTHER_BYTES']);
    expect(await waiting()).toBe(before - 1);
    expect((await detailOf(manager, id)).pulls.find((p) => p.label === 'p9')!.file).toBeNull();
  });

  it('has parts of a limited size, of people who may send files, and by a hash', async () => {
    const sha256 = hashOf(randomBytes(8));
    expect((await put(operator, sha256, 0, new Uint8Array(MAX_PART_BYTES + 1))).status).toBe(413);
    expect((await put(reviewer, sha256, 0, file)).status).toBe(403);
    expect((await put(operator, 'no-hash', 0, file)).status).toBeGreaterThanOrEqual(400);
    expect((await put(operator, sha256, 0, new Uint8Array(0))).status).toBeLessThan(500);
    expect(await received(operator, sha256)).toBe(0);
  });

  it('as a photograph may be no larger than one that is sent whole', async () => {
    const id = await measuredTest(app, { manager, operator }, madeSession(303));
    const bytes = randomBytes(MAX_PHOTO_BYTES + 1);
    const sha256 = hashOf(bytes);
    for (let start = 0; start < bytes.length; start += MAX_PART_BYTES)
      await put(operator, sha256, start, bytes.subarray(start, start + MAX_PART_BYTES));
    expect(await received(operator, sha256)).toBe(bytes.length);
    const answer = await operator<Answer>(
      'POST',
      `/tests/${id}/photographs?name=large.jpg&caption=&uploaded=${sha256}`,
    );
    expect([answer.status, answer.body.error?.code]).toEqual([413, 'PHOTOGRAPH_TOO_LARGE']);
    expect(await received(operator, sha256)).toBe(0);
  });

  it('is let go after a day', async () => {
    const sha256 = hashOf(randomBytes(8));
    await put(operator, sha256, 0, file);
    await app.pool.query(`update upload_parts set received_at = received_at - interval '25 hours'`);
    await put(operator, hashOf(randomBytes(9)), 0, file);
    expect(await received(operator, sha256)).toBe(0);
  });
});
