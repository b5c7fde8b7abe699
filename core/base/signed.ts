/** A difference as people write it: its sign before it, none where it rounds to nothing. */
export function signed(value: number, digits: number): string {
  const size = Math.abs(value).toFixed(digits);
  return Number(size) === 0 ? size : `${value < 0 ? '−' : '+'}${size}`;
}
