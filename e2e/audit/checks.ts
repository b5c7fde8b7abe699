/** What is wanted of every page at every size and in either light, as what falls short of it. */
import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

export const KINDS = ['axe', 'sideways', 'clipped', 'contrast', 'focus', 'title'] as const;
export type Kind = (typeof KINDS)[number];
export interface Shortfall {
  readonly kind: Kind;
  readonly what: string;
}
/** WCAG 2.2, A and AA, size of targets (2.5.8) included. */
const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22a', 'wcag22aa'];

export async function axe(page: Page): Promise<Shortfall[]> {
  const { violations } = await new AxeBuilder({ page }).withTags(TAGS).analyze();
  return violations.flatMap((v) =>
    v.nodes.slice(0, 4).map((n) => ({ kind: 'axe' as const, what: `${v.id}: ${n.target.join(' ')}` })),
  );
}

/** Everything that is seen by measuring the page; runs in the browser. */
export const measured = (page: Page): Promise<Shortfall[]> => page.evaluate(measure);

function measure(): Shortfall[] {
  const found: Shortfall[] = [];
  const tell = (kind: Kind, what: string): void => {
    if (!found.some((f) => f.kind === kind && f.what === what)) found.push({ kind, what });
  };
  const nameOf = (el: Element): string => {
    const text = (el.textContent ?? '').trim().replace(/\s+/g, ' ').slice(0, 50);
    return `<${el.tagName.toLowerCase()}> “${text || el.getAttribute('aria-label') || el.id}”`;
  };

  // Sideways: nothing but a table or a drawing with its own scroll bar is wider than the window.
  const root = document.documentElement;
  if (root.scrollWidth > root.clientWidth + 1) {
    const wide = [...document.body.querySelectorAll('*')].filter((el) => {
      const box = el.getBoundingClientRect();
      return box.width > 0 && box.right + window.scrollX > root.clientWidth + 1;
    });
    const last = wide.find((el) => ![...el.children].some((c) => wide.includes(c)));
    tell('sideways', `page ${root.scrollWidth} in ${root.clientWidth}: ${last ? nameOf(last) : '?'}`);
  }

  // Clipped: text lies within what shows it.
  const hides = (style: CSSStyleDeclaration): boolean =>
    ['hidden', 'clip'].includes(style.overflowX) || ['hidden', 'clip'].includes(style.overflowY);
  const scrolls = (style: CSSStyleDeclaration): boolean =>
    /auto|scroll/.test(style.overflowX + style.overflowY);
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const parent = node.parentElement;
    if (!parent || !node.textContent?.trim() || parent.closest('.sr-only, [aria-hidden=true] title, option'))
      continue;
    if (getComputedStyle(parent).visibility === 'hidden') continue;
    const range = document.createRange();
    range.selectNodeContents(node);
    const box = range.getBoundingClientRect();
    if (box.width === 0 || box.height === 0) continue;
    for (let at: Element | null = parent; at && at !== document.body; at = at.parentElement) {
      const style = getComputedStyle(at);
      if (style.position === 'absolute' && style.clipPath !== 'none') break;
      const edge = at.getBoundingClientRect();
      if (scrolls(style)) break;
      const svg = at instanceof SVGSVGElement;
      if (!hides(style) && !svg) continue;
      // The whole of it is told otherwise.
      if (at.hasAttribute('title')) break;
      const over = Math.max(box.right - edge.right, edge.left - box.left);
      const above = Math.max(box.bottom - edge.bottom, edge.top - box.top);
      if (over > 1.5 || above > 4)
        tell('clipped', `${nameOf(parent)} by ${Math.round(Math.max(over, above))} px`);
      if (hides(style)) break;
    }
  }

  // Contrast of what axe does not look at: borders of inputs (3) and words inside them (4.5).
  const canvas = document.createElement('canvas').getContext('2d', { willReadFrequently: true })!;
  const rgba = (css: string): [number, number, number, number] => {
    canvas.clearRect(0, 0, 1, 1);
    canvas.fillStyle = css;
    canvas.fillRect(0, 0, 1, 1);
    const [r = 0, g = 0, b = 0, a = 0] = canvas.getImageData(0, 0, 1, 1).data;
    return [r, g, b, a / 255];
  };
  const behind = (el: Element | null): [number, number, number] => {
    for (let at = el; at; at = at.parentElement) {
      const [r, g, b, a] = rgba(getComputedStyle(at).backgroundColor);
      if (a > 0.99) return [r, g, b];
    }
    return [255, 255, 255];
  };
  const light = (rgb: readonly number[]): number => {
    const [r = 0, g = 0, b = 0] = rgb.map((c) =>
      c / 255 <= 0.04045 ? c / 255 / 12.92 : ((c / 255 + 0.055) / 1.055) ** 2.4,
    );
    return 0.2126 * r + 0.7152 * g + 0.0722 * b;
  };
  const ratio = (css: string, on: [number, number, number]): number => {
    const [r, g, b, a] = rgba(css);
    const mixed = [r, g, b].map((c, i) => c * a + on[i] * (1 - a));
    const [x, y] = [light(mixed), light(on)].sort((p, q) => q - p) as [number, number];
    return (x + 0.05) / (y + 0.05);
  };
  for (const el of document.querySelectorAll<HTMLElement>(
    'input:not([type=checkbox]):not([type=radio]):not([type=hidden]):not([type=file]), select, textarea, [role=combobox]',
  )) {
    if (el.getBoundingClientRect().width === 0 || el.matches(':disabled')) continue;
    const style = getComputedStyle(el);
    const bare = parseFloat(style.borderBottomWidth) === 0 || style.borderBottomStyle === 'none';
    const border = ratio(style.borderBottomColor, behind(el.parentElement));
    if (!bare && border < 3) tell('contrast', `border ${border.toFixed(1)} of ${el.tagName.toLowerCase()}`);
    if (!el.getAttribute('placeholder')) continue;
    const words = ratio(getComputedStyle(el, '::placeholder').color, behind(el));
    if (words < 4.5) tell('contrast', `placeholder ${words.toFixed(1)} “${el.getAttribute('placeholder')}”`);
  }

  // Focus: whatever the keyboard reaches shows that it has been reached.
  const had = document.activeElement as HTMLElement | null;
  const reach =
    'a[href], button:not([disabled]), input:not([disabled]), select:not([disabled]), textarea:not([disabled]), summary, [tabindex="0"]';
  for (const el of [...document.querySelectorAll<HTMLElement>(reach)].slice(0, 150)) {
    if (el.getBoundingClientRect().width === 0 || getComputedStyle(el).visibility === 'hidden') continue;
    el.focus({ preventScroll: true, focusVisible: true });
    if (document.activeElement !== el) continue;
    const style = getComputedStyle(el);
    const ring = style.outlineStyle !== 'none' && parseFloat(style.outlineWidth) >= 1.5;
    if (!ring && style.boxShadow === 'none' && !el.matches('[cmdk-input]'))
      tell('focus', `no ring: ${nameOf(el)}`);
  }
  had?.focus({ preventScroll: true });
  if (document.activeElement !== had) (document.activeElement as HTMLElement | null)?.blur();

  // Title: the page's own, and one heading that says the same.
  const headings = document.querySelectorAll('h1');
  if (headings.length !== 1) tell('title', `${headings.length} headings of the first order`);
  if (!/ · Evidentia$/.test(document.title)) tell('title', `the window is called “${document.title}”`);
  return found;
}
