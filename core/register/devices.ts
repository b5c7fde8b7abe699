/** Devices of a dyno that the application can speak with; one of each kind. */
export const DEVICE_KINDS = ['dyno', 'station', 'logger'] as const;
export type DeviceKind = (typeof DEVICE_KINDS)[number];
export const DEVICE_NAMES: Record<DeviceKind, string> = {
  dyno: 'dyno',
  station: 'weather station',
  logger: 'engine logger',
};
