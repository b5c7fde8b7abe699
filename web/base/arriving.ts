import { useEffect, useRef } from 'react';
import { useLocation } from 'react-router';

const HOUSE = 'Evidentia';

const MOST_DESCRIBED = 200;
/** What a page is about, and the one address it has, for whoever lists or links it. */
function describe(work: HTMLElement, heading: string | undefined): void {
  const first = [...work.querySelectorAll('main p')]
    .map((p) => p.textContent?.trim() ?? '')
    .find((t) => t.length > 20);
  const about = [heading, first].filter(Boolean).join(': ').slice(0, MOST_DESCRIBED);
  const meta = document.querySelector('meta[name=description]');
  if (meta && about) meta.setAttribute('content', about);
  let link = document.querySelector<HTMLLinkElement>('link[rel=canonical]');
  if (!link) {
    link = document.createElement('link');
    link.rel = 'canonical';
    document.head.append(link);
  }
  link.href = window.location.origin + window.location.pathname;
}

/**
 * What follows from going to another page: its heading is the title of the window, and the focus goes to the work, so
 * that the keyboard and a screen reader begin there. A change within a page, such as a filter, moves nothing.
 */
export function useArriving(): void {
  const { pathname } = useLocation();
  const came = useRef(pathname);
  useEffect(() => {
    const work = document.getElementById('work');
    if (!work) return undefined;
    const name = (): void => {
      const heading = work.querySelector('h1')?.textContent?.trim();
      document.title = heading ? `${heading} · ${HOUSE}` : HOUSE;
      describe(work, heading);
    };
    name();
    const watching = new MutationObserver(name);
    watching.observe(work, { childList: true, subtree: true, characterData: true });
    // Where a page has put the focus into a field of its own, it stays there.
    if (came.current !== pathname && !work.contains(document.activeElement))
      work.focus({ preventScroll: true });
    came.current = pathname;
    return () => watching.disconnect();
  }, [pathname]);
}
