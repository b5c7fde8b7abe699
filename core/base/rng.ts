import mt19937 from '@stdlib/random-base-mt19937';
import ziggurat from '@stdlib/random-base-improved-ziggurat';

/** A source of chance that the caller seeds; the same seed gives the same numbers on every machine. */
export interface Rng {
  /** Uniform on [0, 1). */
  uniform(): number;
  /** Standard normal. */
  normal(): number;
}

/** Mersenne twister with Doornik's ziggurat for normals (both @stdlib). Seeds are positive whole numbers. */
export function seededRng(seed: number): Rng {
  // The factory returns a twister with `normalized`; its shipped types leave that out.
  const twister = mt19937.factory({ seed: Math.max(1, Math.floor(seed) % 4294967295) }) as unknown as {
    normalized: () => number;
  };
  const normal = ziggurat.factory({ prng: twister.normalized });
  return { uniform: () => twister.normalized(), normal: () => normal() };
}
