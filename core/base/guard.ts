/**
 * How wary the interval of a single number is of arms that scatter differently: `strict` takes each arm's own
 * scatter with its own degrees of freedom, `usual` takes it a tenth larger with those of both.
 */
export const GUARDS = ['strict', 'usual'] as const;
export type Guard = (typeof GUARDS)[number];
