import type { RefObject } from 'react';
import { toast } from 'sonner';
import { chartPng, chartSvg, fontRule, type ChartWords } from './chart-file.ts';
import { saveFile } from './save-file.ts';

/** Saves the drawing that lies in an element, as SVG or PNG, with its conditions printed under it. */
export function ChartButtons({
  of,
  words,
  name,
}: {
  of: RefObject<HTMLElement | null>;
  words: ChartWords;
  /** Of the file, without its ending. */
  name: string;
}) {
  const save = async (kind: 'svg' | 'png'): Promise<void> => {
    const drawing = of.current?.querySelector('svg');
    if (!drawing) return;
    try {
      const svg = chartSvg(drawing, words, await fontRule());
      if (kind === 'svg') saveFile(`${name}.svg`, svg, 'image/svg+xml');
      else saveFile(`${name}.png`, await chartPng(svg));
    } catch {
      toast.error(
        'The drawing could not be saved in this browser. SVG works where PNG does not, or print the page.',
      );
    }
  };
  return (
    <>
      {(['svg', 'png'] as const).map((kind) => (
        <button
          key={kind}
          type="button"
          aria-label={`Save “${words.title}” as ${kind.toUpperCase()}`}
          title={`Save as ${kind.toUpperCase()}, with its conditions printed under it`}
          onClick={() => void save(kind)}
          className="min-h-6 rounded px-1.5 text-[12px] text-soft underline decoration-rule hover:text-ink"
        >
          {kind.toUpperCase()}
        </button>
      ))}
    </>
  );
}
