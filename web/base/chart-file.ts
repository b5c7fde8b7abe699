/** A drawing of a page as a file of its own: colours and letters as they are seen, its conditions printed in it. */

/** What makes a drawing look as it does; everything else of a style is of the page around it. */
const LOOKS = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-opacity',
  'stroke-dasharray',
  'stroke-linecap',
  'stroke-linejoin',
  'opacity',
  'paint-order',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
] as const;
const LINE_PX = 17;
const EDGE_PX = 14;
/** Letters of a line of conditions that fit a pixel of width at its size. */
const LETTERS_PER_PX = 1 / 5.7;
const NAMESPACE = 'http://www.w3.org/2000/svg';

export interface ChartWords {
  readonly title: string;
  /** Printed under the drawing, broken to its width. */
  readonly conditions: readonly string[];
}

/** Breaks a text into lines of at most so many letters, at spaces. */
export function linesOf(text: string, letters: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(' ')) {
    const last = lines.at(-1);
    if (last !== undefined && `${last} ${word}`.length <= letters)
      lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}

/** @param font an `@font-face` rule that carries its letters, so that the file looks alike anywhere */
export function chartSvg(drawing: SVGSVGElement, words: ChartWords, font = ''): string {
  const { width, height } = drawing.getBoundingClientRect();
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  dress(drawing, copy);
  copy.querySelectorAll('[data-only-on-screen]').forEach((part) => part.remove());
  const page = getComputedStyle(document.body);
  const [ink, soft] = ['--ink', '--soft'].map((name) => page.getPropertyValue(name).trim());
  const lines = words.conditions.flatMap((text) =>
    linesOf(text, Math.floor((width - 2 * EDGE_PX) * LETTERS_PER_PX)),
  );
  const top = EDGE_PX + 1.6 * LINE_PX;
  const total = top + height + lines.length * LINE_PX + EDGE_PX;
  const file = document.createElementNS(NAMESPACE, 'svg');
  file.setAttribute('xmlns', NAMESPACE);
  file.setAttribute('width', String(width));
  file.setAttribute('height', String(total));
  file.setAttribute('viewBox', `0 0 ${width} ${total}`);
  file.setAttribute('font-family', page.fontFamily);
  if (font) file.append(element('style', {}, font));
  file.append(
    element('title', {}, words.title),
    element('rect', { width, height: total, fill: page.getPropertyValue('--paper').trim() }),
    element(
      'text',
      { x: EDGE_PX, y: EDGE_PX + 12, 'font-size': 15, 'font-weight': 640, fill: ink },
      words.title,
    ),
  );
  copy.setAttribute('y', String(top));
  file.append(copy);
  lines.forEach((line, i) =>
    file.append(
      element(
        'text',
        { x: EDGE_PX, y: top + height + (i + 0.8) * LINE_PX, 'font-size': 12, fill: soft },
        line,
      ),
    ),
  );
  return new XMLSerializer().serializeToString(file);
}

function element(name: string, attributes: Readonly<Record<string, string | number>>, text = ''): Element {
  const made = document.createElementNS(NAMESPACE, name);
  for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, String(value));
  made.textContent = text;
  return made;
}

/** Writes onto every element of the copy how its original is seen. */
function dress(original: Element, copy: Element): void {
  const seen = getComputedStyle(original);
  for (const look of LOOKS) copy.setAttribute(look, seen.getPropertyValue(look));
  ['class', 'style', 'role', 'tabindex'].forEach((name) => copy.removeAttribute(name));
  [...original.children].forEach((child, i) => dress(child, copy.children[i]));
}

/** The page's letters as a rule that carries them; empty where they cannot be had. */
export async function fontRule(): Promise<string> {
  const family = getComputedStyle(document.body).fontFamily.split(',')[0].replace(/["']/g, '');
  const face = [...document.styleSheets]
    .flatMap((sheet) => [...sheet.cssRules].map((rule) => ({ rule, base: sheet.href ?? location.href })))
    .findLast(
      ({ rule }) =>
        rule instanceof CSSFontFaceRule && rule.style.getPropertyValue('font-family').includes(family),
    );
  const address = face && /url\(["']?([^"')]+)["']?\)/.exec(face.rule.cssText)?.[1];
  if (!address) return '';
  try {
    const bytes = await (await fetch(new URL(address, face.base))).arrayBuffer();
    const text = [...new Uint8Array(bytes)].map((b) => String.fromCharCode(b)).join('');
    return `@font-face{font-family:'${family}';font-weight:400 700;src:url(data:font/woff2;base64,${btoa(text)})}`;
  } catch {
    return '';
  }
}

/** Dots per pixel of the page: sharp on paper and on fine screens. */
const FINE = 2;

/** The drawing as an image. Throws where the browser cannot draw it. */
export async function chartPng(svg: string): Promise<Blob> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = FINE * image.width;
  canvas.height = FINE * image.height;
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
  if (!blob) throw new Error('The browser made no image of the drawing.');
  return blob;
}
