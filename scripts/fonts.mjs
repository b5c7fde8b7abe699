/**
 * Cuts the fonts to what the application's own words need; what else somebody types comes from the whole files, which a
 * browser fetches only when it meets such a letter.
 */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './lib.mjs';

/** Letters of English, and the marks the application writes with. */
const RANGES = [
  [0x20, 0x7e],
  [0xa0, 0xa0],
  [0xb0, 0xb3],
  [0xb7, 0xb7],
  [0xd7, 0xd7],
  [0x2009, 0x2009],
  [0x2013, 0x2014],
  [0x2018, 0x2019],
  [0x201c, 0x201d],
  [0x2022, 0x2022],
  [0x2026, 0x2026],
  [0x202f, 0x202f],
  [0x2190, 0x2193],
  [0x2212, 0x2212],
];
const FONTS = [
  { family: 'Public Sans Variable', from: 'public-sans', weights: [400, 700] },
  // Headings only, which are all of one weight.
  { family: 'Source Serif 4 Variable', from: 'source-serif-4', weights: [600, 700], pinned: 600 },
];
const text = RANGES.flatMap(([a, b]) =>
  Array.from({ length: b - a + 1 }, (_, i) => String.fromCodePoint(a + i)),
).join('');
const hex = (n) => n.toString(16).toUpperCase().padStart(4, '0');
const range = RANGES.map(([a, b]) => (a === b ? `U+${hex(a)}` : `U+${hex(a)}-${hex(b)}`)).join(',');

/** Writes web/generated/fonts.css and the cut files beside it. */
export async function cutFonts() {
  const { default: subsetFont } = await import('subset-font');
  const out = join(root, 'web/generated');
  mkdirSync(out, { recursive: true });
  const faces = [];
  for (const { family, from, weights, pinned } of FONTS) {
    const whole = readFileSync(
      join(root, `node_modules/@fontsource-variable/${from}/files/${from}-latin-wght-normal.woff2`),
    );
    const cut = await subsetFont(whole, text, {
      targetFormat: 'woff2',
      variationAxes: { wght: pinned ?? { min: weights[0], max: weights[1], default: weights[0] } },
    });
    writeFileSync(join(out, `${from}.woff2`), cut);
    // Last of its family, so that it wins where ranges overlap.
    faces.push(
      `@font-face{font-family:'${family}';font-style:normal;font-display:swap;font-weight:${weights.join(' ')};` +
        `src:url(./${from}.woff2) format('woff2');unicode-range:${range}}`,
    );
  }
  writeFileSync(join(out, 'fonts.css'), `${faces.join('\n')}\n`);
}
