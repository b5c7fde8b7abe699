/** What the maker of a part is sent, and what of the rest of the house it never holds. */
import { randomUUID } from 'node:crypto';
import { strFromU8, unzipSync } from 'fflate';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import type { PartDetail } from '../../contract/register/register.ts';
import { houseWith } from './house.ts';
import { attach, detailOf, madeSession } from './made-session.ts';

const { app, manager, operator, reviewer, partner } = houseWith('manager', 'operator', 'reviewer', 'partner');

async function part(name: string, category: string, embargoUntil: string | null = null) {
  const { body } = await manager<{ id: string }>('POST', '/parts', {
    part: {
      sku: `S-${randomUUID().slice(0, 6)}`,
      maker: `${name} Works`,
      name,
      category,
      embargoUntil,
      codeName: embargoUntil ? `Project ${category}` : null,
    },
    revision: { revision: 'A', installHours: 2 },
    fitmentIds: [app.ids.fitment],
  });
  const { revisions } = (await manager<PartDetail>('GET', `/parts/${body.id}`)).body;
  return { id: body.id, revisionId: revisions[0].id, category };
}
type Made = Awaited<ReturnType<typeof part>>;
const fitted = ({ category, revisionId }: Made) => ({
  kind: 'part fitted',
  category,
  partRevisionId: revisionId,
  settings: {},
});

async function measured(seed: number, parts: readonly Made[], label = 'part'): Promise<string> {
  const arms = [
    { key: 'stock', label: 'stock', role: 'baseline', from: null, changes: [] },
    { key: 'part', label, role: 'part', from: null, changes: parts.map(fitted) },
  ];
  const { id } = (await manager<{ id: string }>('POST', '/tests', app.plan({ arms }))).body;
  await manager('POST', `/tests/${id}/lock`);
  const session = madeSession(seed);
  for (const pull of (await detailOf(manager, id)).pulls.filter((p) => p.counted)) {
    await attach(operator, id, pull.id, session.bytesOf(pull.label), `${pull.label}.csv`);
    await operator('PUT', `/tests/${id}/pulls/${pull.id}/air`, session.airOf(pull.label));
  }
  await manager('GET', `/tests/${id}/analysis`);
  return id;
}
const packOf = async ({ id }: Made) => {
  const answer = await manager('GET', `/parts/${id}/feedback.zip`);
  expect(answer.status).toBe(200);
  const files = unzipSync(new Uint8Array(answer.bytes));
  return { files, page: strFromU8(files['feedback.html']) };
};

describe('the feedback pack for the maker of a part', () => {
  it('holds its result with limits, what was found, pictures without where, and pulls byte for byte', async () => {
    const own = await part('Wide <throat>', 'throttle body');
    const id = await measured(610, [own], 'the Wide <throat> fitted');
    const photo = await sharp({ create: { width: 64, height: 40, channels: 3, background: '#345' } })
      .withExif({ IFD3: { GPSLatitude: '51/1 30/1 0/1', GPSLatitudeRef: 'N' } })
      .jpeg()
      .toBuffer();
    await operator('POST', `/tests/${id}/photographs?name=a.jpg&caption=The%20clamp&arm=part`, photo);
    const { files, page } = await packOf(own);
    expect(page).toContain('Wide &lt;throat&gt; fitted');
    expect(page).not.toContain('<throat>');
    expect(page).toMatch(
      /Power at the wheel on average from [\d\s]+ to [\d\s]+ rpm \+\d\.\d % \(\+\d\.\d to \+\d\.\d %, 95 % limits\)/,
    );
    expect(page).toContain('not claims');
    expect(page).toContain('The clamp');
    const [picture] = Object.keys(files).filter((path) => path.endsWith('.jpg'));
    expect((await sharp(files[picture]).metadata()).exif).toBeUndefined();
    const pulls = Object.keys(files).filter((path) => path.endsWith('.csv'));
    expect(pulls).toHaveLength(9);
    const sent = pulls.map((path) => Buffer.from(files[path]));
    const session = madeSession(610);
    expect(sent.some((bytes) => bytes.equals(Buffer.from(session.bytesOf('p5'))))).toBe(true);
    // Nobody's name and no number plate leave with it.
    expect(page).not.toMatch(/manager|operator@|\bcar\b/);
    const { rows } = await app.pool.query<{ detail: { sha256: string } }>(
      "select detail from audit_entries where action = 'made feedback pack'",
    );
    expect(rows.at(-1)!.detail.sha256).toMatch(/^[0-9a-f]{64}$/);
  });

  it('names no other part under embargo, and keeps the files of a session with one', async () => {
    const own = await part('Long runner', 'manifold', '2027-03-01');
    const other = await part('Veiled plenum', 'inlet', '2027-03-01');
    await measured(611, [own, other]);
    const { files, page } = await packOf(own);
    // The maker reads its own part by name, whatever the world may know.
    expect(page).toContain('Long runner');
    expect(page).toContain('Project inlet');
    expect(page).not.toMatch(/Veiled plenum|Veiled plenum Works/);
    expect(page).toContain('another part in it may not be named yet');
    expect(Object.keys(files)).toEqual(['feedback.html']);
    // Nothing of a test that is not about the part.
    const alone = await part('Unmeasured', 'filter');
    const empty = await packOf(alone);
    expect(empty.page).toContain('It was not measured yet.');
    expect(Object.keys(empty.files)).toEqual(['feedback.html']);
  });

  it('is made by the test manager and nobody else', async () => {
    const own = await part('Short runner', 'manifold');
    for (const ask of [operator, reviewer, partner])
      expect((await ask('GET', `/parts/${own.id}/feedback.zip`)).status).toBe(403);
    expect((await manager('GET', `/parts/${randomUUID()}/feedback.zip`)).status).toBe(404);
  });
});
