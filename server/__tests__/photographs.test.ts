/** Photographs: kept as they came, given out without where and when; no picture is refused, none is doubled. */
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Photos } from '../../contract/capture/photograph.ts';
import { houseWith } from './house.ts';

const { app, manager, operator, reviewer } = houseWith('manager', 'operator', 'reviewer');
let testId: string;
beforeAll(async () => {
  testId = (await manager<{ id: string }>('POST', '/tests', app.plan())).body.id;
});

/** A picture that says where it was taken and by what, lying on its side. */
const picture = (red: number): Promise<Buffer> =>
  sharp({ create: { width: 640, height: 400, channels: 3, background: { r: red, g: 60, b: 40 } } })
    .withExif({
      IFD0: { Make: 'Invented', Orientation: '6' },
      IFD3: {
        GPSLatitude: '51/1 30/1 0/1',
        GPSLatitudeRef: 'N',
        GPSLongitude: '7/1 0/1 0/1',
        GPSLongitudeRef: 'E',
      },
    })
    .jpeg()
    .toBuffer();
const path = (rest = '') => `/tests/${testId}/photographs${rest}`;
const add = (bytes: Uint8Array, query = 'name=clamp.jpg&caption=The%20clamp', ask = operator) =>
  ask<{ error?: { code: string } }>('POST', path(`?${query}`), bytes);
const list = async (): Promise<Photos['photographs']> =>
  (await manager<Photos>('GET', path())).body.photographs;

describe('a photograph', () => {
  it('is kept byte for byte, and given out without place, time and camera', async () => {
    const bytes = await picture(200);
    expect((await add(bytes, 'name=clamp.jpg&caption=The%20clamp&arm=stock')).status).toBe(204);
    // Sent again after an answer that was lost: it is there once.
    expect((await add(bytes)).status).toBe(204);
    const [photo, ...others] = await list();
    expect(others).toEqual([]);
    expect(photo).toMatchObject({ caption: 'The clamp', arm: 'stock', saysWhere: true, size: bytes.length });
    const raw = await manager('GET', path(`/${photo.id}/file`));
    expect(Buffer.from(raw.bytes).equals(bytes)).toBe(true);
    for (const size of ['thumb', 'view']) {
      const copy = Buffer.from((await reviewer('GET', path(`/${photo.id}/${size}`))).bytes);
      const meta = await sharp(copy).metadata();
      expect(meta.exif).toBeUndefined();
      expect(copy.includes('Invented')).toBe(false);
      expect(Math.max(meta.width, meta.height)).toBe(size === 'thumb' ? 320 : 640);
      // Upright, as the camera said it was held.
      expect(meta.height > meta.width).toBe(photo.height > photo.width);
    }
  });
  it('that is none is refused, and nothing is kept of it', async () => {
    const whole = await picture(10);
    for (const bytes of [
      new TextEncoder().encode('rpm,torque\n1000,100\n'),
      whole.subarray(0, 300),
      new TextEncoder().encode('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"></svg>'),
    ])
      expect((await add(bytes)).body.error?.code).toBe('NO_PHOTOGRAPH');
    expect((await add(await picture(11), 'name=a.jpg&arm=turbo')).body.error?.code).toBe('UNKNOWN_ARM');
    expect((await add(await picture(12), 'name=a.jpg', reviewer)).status).toBe(403);
    expect(await list()).toHaveLength(1);
  });
  it('of a part under embargo is shown to nobody without clearance', async () => {
    await add(await picture(90), 'name=b.jpg');
    await app.pool.query(
      `update parts set embargo_until = current_date + 30, code_name = 'Project Heron' where id =
         (select r.part_id from part_revisions r join test_arms a on a.part_revision_id = r.id where a.test_id = $1 limit 1)`,
      [testId],
    );
    const [cleared] = (
      await app.pool.query<{ clearance: boolean }>(
        `select clearance from people where role = 'reviewer' limit 1`,
      )
    ).rows;
    await app.pool.query(`update people set clearance = false where role = 'reviewer'`);
    const blind = await app.signIn('reviewer');
    expect((await blind('GET', path())).status).toBe(403);
    const [{ id }] = await list();
    expect((await blind('GET', path(`/${id}/view`))).status).toBe(403);
    expect(cleared).toBeDefined();
  });
  it('cannot be changed or taken away behind its record', async () => {
    await expect(app.pool.query(`update photographs set caption = 'nothing to see'`)).rejects.toThrow();
    await expect(app.pool.query('delete from photographs')).rejects.toThrow();
  });
});
