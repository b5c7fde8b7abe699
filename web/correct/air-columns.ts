export const AIR_COLUMNS = ['temperature', 'pressure', 'humidity'] as const;
export type AirColumn = (typeof AIR_COLUMNS)[number];
