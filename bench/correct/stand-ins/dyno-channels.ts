import type { DeviceChannel } from '../../../contract/capture/device-protocol.ts';

export const DYNO_CHANNELS: DeviceChannel[] = [
  { name: 'Time', unit: 's' },
  { name: 'Engine speed', unit: 'rpm' },
  { name: 'Roller speed', unit: 'km/h' },
  { name: 'Torque', unit: 'N·m' },
  { name: 'Power', unit: 'kW' },
];
/** Rows of a pull that a bad cable takes away. */
export const isDropped = (n: number): boolean => n > 150 && n < 190;
