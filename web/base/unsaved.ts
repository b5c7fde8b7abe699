import { useEffect, useRef } from 'react';

/** Forms in which something is typed that is not saved; asked when somebody is about to leave the page. */
const forms = new Set<() => boolean>();
export const anythingUnsaved = (): boolean => [...forms].some((isUnsaved) => isUnsaved());

/** Says, as long as the form is there, whether it holds something unsaved. */
export function useUnsaved(isUnsaved: () => boolean): void {
  const newest = useRef(isUnsaved);
  newest.current = isUnsaved;
  useEffect(() => {
    const ask = (): boolean => newest.current();
    forms.add(ask);
    return () => {
      forms.delete(ask);
    };
  }, []);
}
