import { useEffect, useState } from 'react';

/** A value once it has stood still: what a person types is not sent with every letter. */
export function useSettled<V>(value: V, ms = 220): V {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return settled;
}
