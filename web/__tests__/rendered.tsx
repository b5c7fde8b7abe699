/** Components as the text and marks a reader gets, without a browser: for those that only show what they are given. */
import type { ReactElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { Provider } from 'react-redux';
import { MemoryRouter } from 'react-router';

// The store sets the theme on the page when it is made, and messages bring their style: here is no page.
const element = { dataset: {}, appendChild: () => undefined };
(globalThis as { document?: unknown }).document ??= {
  documentElement: element,
  getElementsByTagName: () => [element],
  createElement: () => ({ ...element }),
  createTextNode: () => element,
};
const { store } = await import('../base/store.ts');
const { preferred } = await import('../base/preferences.ts');

export const html = (element: ReactElement): string =>
  renderToStaticMarkup(
    <Provider store={store}>
      <MemoryRouter>{element}</MemoryRouter>
    </Provider>,
  );
/** What is read, marks apart; blanks as one. */
export const textOf = (markup: string): string =>
  markup
    .replace(/<[^>]+>/g, ' ')
    .replaceAll('&#x27;', '’')
    .replaceAll('&amp;', '&')
    .replaceAll('&gt;', '>')
    .replaceAll('&lt;', '<')
    .replaceAll('&quot;', '"')
    .replace(/[ \n]+/g, ' ')
    .trim();
export const text = (element: ReactElement): string => textOf(html(element));
/** Values of an attribute, in their order. */
export const attributes = (markup: string, name: string): string[] =>
  [...markup.matchAll(new RegExp(`\\s${name}="([^"]*)"`, 'g'))].map((m) => m[1]);
/** Shows something in the units a person chose, and puts them back. */
export function inUnits<T>(units: Parameters<typeof preferred>[0], show: () => T): T {
  const before = store.getState().preferences;
  // Kept on a machine where there is one; the test has none.
  (globalThis as { localStorage?: unknown }).localStorage ??= { setItem: () => undefined };
  store.dispatch(preferred(units));
  try {
    return show();
  } finally {
    store.dispatch(preferred(before));
  }
}
