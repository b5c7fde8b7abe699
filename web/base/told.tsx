import { useRetold } from './retold.ts';

/** A text in the units of whoever reads it. */
export function Told({ children }: { children: string }) {
  return <>{useRetold()(children)}</>;
}
