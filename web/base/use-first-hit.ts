import { useState } from 'react';

/** Which hit Enter takes: the one that was gone to as long as it is there, else the first. */
export function useFirstHit<T>(
  hits: readonly T[],
  nameOf: (hit: T) => string,
): [string, (value: string) => void] {
  const [at, setAt] = useState('');
  const names = hits.map(nameOf);
  return [names.includes(at) ? at : (names[0] ?? ''), setAt];
}
