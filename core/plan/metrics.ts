/** Metrics a plan may name for its claim. Every one named pays for the number of them. */
export const METRICS = ['upTo', 'bandAverage', 'peakToPeak'] as const;
export type Metric = (typeof METRICS)[number];
export const METRIC_NAMES: Record<Metric, string> = {
  upTo: 'largest gain, “up to”',
  bandAverage: 'average over the rpm range',
  peakToPeak: 'peak to peak',
};
