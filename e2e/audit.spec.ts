/**
 * Walks the pages as everyone who may open them. In short, as part of `npm test`: each page once, by the first of its
 * readers, sizes and themes taking turns so that all are met. In full (`npm run audit`): page × reader × size × theme.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { axe, KINDS, measured, type Shortfall } from './audit/checks.ts';
import {
  emailOf,
  places,
  READERS,
  SIZES,
  sizesFor,
  THEMES,
  type Place,
  type Reader,
} from './audit/places.ts';
import { read } from './helpers.ts';

const full = process.env.EVIDENTIA_AUDIT === 'full';
const only = process.env.EVIDENTIA_AUDIT_PAGES?.split(';');
const readers = READERS.filter((r) => process.env.EVIDENTIA_AUDIT_READERS?.split(';').includes(r) ?? true);
const password = process.env.EVIDENTIA_DEMO_PASSWORD ?? 'sample password';

interface View {
  readonly place: Place;
  readonly reader: Reader;
  readonly size: keyof typeof SIZES;
  readonly theme: (typeof THEMES)[number];
}
const seen: (View & { found: Shortfall[] })[] = [];

async function signIn(page: Page, reader: Reader): Promise<void> {
  await page.context().clearCookies();
  if (reader === 'public') return;
  const answer = await page.request.post('/api/session', { data: { email: emailOf(reader), password } });
  expect(answer.ok(), `signed in as ${reader}`).toBe(true);
}
async function look(page: Page, view: View): Promise<void> {
  await page.setViewportSize(SIZES[view.size]);
  await page.evaluate((theme) => (document.documentElement.dataset.theme = theme), view.theme);
  // Two frames: what is drawn to measure is drawn.
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await page.waitForTimeout(full ? 120 : 60);
  const found = [...(await measured(page)), ...(await axe(page))];
  seen.push({ ...view, found });
}
/** The views of a place for one reader: all of them, or one whose size and theme depend on its turn. */
function viewsOf(place: Place, reader: Reader, turn: number): View[] {
  const all = sizesFor(place).flatMap((size) => THEMES.map((theme) => ({ place, reader, size, theme })));
  return full ? all : [all[turn % all.length]];
}
const lineOf = (view: (typeof seen)[number]): string[] =>
  view.found.map(
    (f) => `${view.place.name} | ${view.reader} | ${view.size} | ${view.theme} | ${f.kind}: ${f.what}`,
  );

async function walk(page: Page, reader: Reader): Promise<void> {
  await signIn(page, 'test manager');
  const all = await places(page.request);
  const mine = all.filter(
    (p) =>
      p.readers.includes(reader) && (full || p.readers[0] === reader) && (!only || only.includes(p.name)),
  );
  await signIn(page, reader);
  for (const place of mine) {
    await page.goto(place.path);
    await read(page);
    for (const view of viewsOf(place, reader, all.indexOf(place))) await look(page, view);
  }
}

if (full)
  test('audit', async ({ page }) => {
    test.setTimeout(7_200_000);
    for (const reader of readers) await walk(page, reader);
    tellTable();
    expect(seen.filter((v) => v.found.length > 0)).toHaveLength(0);
  });
else
  for (const reader of readers)
    test(`audit: the pages of ${reader}`, async ({ page }) => {
      test.setTimeout(900_000);
      const before = seen.length;
      await walk(page, reader);
      expect(seen.slice(before).flatMap(lineOf)).toEqual([]);
    });

/** The table of a full walk, and beside it every shortfall by its view. */
function tellTable(): void {
  const count = (of: typeof seen, kind: Shortfall['kind']): number =>
    of.filter((v) => v.found.some((f) => f.kind === kind)).length;
  const rows = READERS.map((reader) => seen.filter((v) => v.reader === reader));
  const table = [
    `| views by | views | ${KINDS.join(' | ')} |`,
    `|---|---|${KINDS.map(() => '---|').join('')}`,
    ...[...rows, seen].map(
      (of, i) => `| ${READERS[i] ?? 'all'} | ${of.length} | ${KINDS.map((k) => count(of, k)).join(' | ')} |`,
    ),
  ].join('\n');
  mkdirSync('test-results', { recursive: true });
  writeFileSync('test-results/audit.txt', `${table}\n\n${seen.flatMap(lineOf).join('\n')}\n`);
  process.stdout.write(`\nViews with a shortfall, by kind\n${table}\nEach of them: test-results/audit.txt\n`);
}
